import { screen, waitFor, within } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { describe, expect, test } from 'vitest';
import { DEFAULT_TERMS } from '#core/quoting';
import { labelled } from '../../test/support/builders.ts';
import { keysOf, press } from '../../test/support/scanner.ts';
import { show } from '../../test/support/screen.tsx';
import { CountPage } from './CountPage.tsx';
import { OrdersPage } from './OrdersPage.tsx';
import { SuppliersPage } from './SuppliersPage.tsx';

const LABEL = '8GB 1Rx8 PC4-2400T-UA1-11 OR-8';
const shop = { terms: DEFAULT_TERMS, version: 1 };
const quay = {
  ...{ id: 's1', version: 2, name: 'Quay', contact: 'until six', serviceUrl: 'http://quay' },
  ...{ hasKey: true, columns: null, offers: 2, pricedAt: new Date(Date.now() - 3 * 3_600_000) },
};
const offer = (id: string, article: string, cost: number) => ({
  ...{ id, version: 1, label: LABEL, module: labelled(LABEL), supplier: 'Quay', article, cost },
  ...{ units: 1, price: 3000, stock: 2, leadDays: 1, verifiedOn: [] },
  pricedAt: '2026-05-01T10:00:00Z',
});
const line = (at: number) => ({
  ...{ quoteId: 'q1', at, jobId: 'j1', jobNumber: 7, customerName: 'Net loft', supplier: 'Quay' },
  ...{ article: `A-${at}`, text: `8 GB, kind ${at}`, packs: 1, each: 3000, cost: 2000 },
  ...{ leadDays: 1, acceptedAt: '2026-05-01T10:00:00Z' },
});

describe('suppliers', () => {
  const page = (more: object = {}) =>
    show(<SuppliersPage />, {
      ...{ listSuppliers: [quay], readShop: shop },
      listModules: [offer('m1', 'A-1', 2000), offer('m2', 'A-2', 3000)],
      ...more,
    });
  const upload = async (text: string) => {
    await userEvent.click(await screen.findByRole('button', { name: 'Price list' }));
    await userEvent.upload(
      screen.getByLabelText('Choose a CSV file'),
      new File([text], 'may.csv', { type: 'text/csv' }),
    );
  };

  test('a list is read by its headings, its broken rows named, and the others taken over', async () => {
    const { server } = page({ takePriceList: { changed: 1, added: 0, repriced: 1 } });
    await upload('Item no.,Net price,Qty\nA-1,21.00,4\nA-2,call us,1\nC-9,3.00,9\n');
    expect(await screen.findByText(/1 price read, 1 row left out/)).toBeDefined();
    expect(screen.getByText(/Row 3: “call us” is no amount/)).toBeDefined();
    await userEvent.click(screen.getByRole('button', { name: 'Take it over' }));
    await waitFor(() =>
      expect(server.sent('takePriceList')).toEqual([
        {
          columns: { article: 'Item no.', cost: 'Net price', stock: 'Qty' },
          ...{ changes: [{ id: 'm1', article: 'A-1', cost: 2100, stock: 4 }], additions: [] },
        },
      ]),
    );
    expect(await screen.findByText(/1 changed, 0 added, 1 with another price/)).toBeDefined();
  });

  test('columns are as they were last time; one that is gone is asked for', async () => {
    const columns = { article: 'Code', cost: 'Ours' };
    page({ listSuppliers: [{ ...quay, columns }] });
    await upload('Net,Ours,Code\n99.00,21.00,A-1\n');
    expect((await screen.findByLabelText<HTMLSelectElement>('Cost without tax')).value).toBe(
      'Ours',
    );
    await userEvent.upload(
      screen.getByLabelText('Choose a CSV file'),
      new File(['Colour,Code\nred,A-1\n'], 'odd.csv', { type: 'text/csv' }),
    );
    expect(await screen.findByText('✕ Choose its column.')).toBeDefined();
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Take it over' }).disabled).toBe(
      true,
    );
    await userEvent.selectOptions(screen.getByLabelText('Cost without tax'), 'Colour');
    expect(await screen.findByText(/“red” is no amount/)).toBeDefined();
  });

  test('a service that does not answer says so and can be asked again', async () => {
    const down = {
      ...{ type: 'about:blank#state', title: 'Cannot be done yet', status: 409 },
      ...{ detail: 'Quay’s service answers 503.', mend: 'Try again later.' },
    };
    const answers: Record<string, unknown> = { askSupplier: down };
    answers.listSuppliers = [quay];
    show(<SuppliersPage />, { ...answers, readShop: shop });
    expect(await screen.findByText('Prices 3 hours old')).toBeDefined();
    await userEvent.click(screen.getByRole('button', { name: 'Ask now' }));
    expect(await screen.findByText('Quay’s service answers 503.')).toBeDefined();
    expect(screen.getByRole('button', { name: 'Try again' })).toBeDefined();
  });
});

describe('orders', () => {
  const placed = {
    ...{
      id: 'o1',
      number: 3,
      supplier: 'Quay',
      placedAt: '2026-05-01T10:00:00Z',
      by: 'Isolde Quill',
    },
    ...{ reference: '', isSent: true, expectedOn: '2026-05-03' },
    lines: [
      {
        ...{ id: 'l1', job: { jobId: 'j1', number: 7, customerName: 'Net loft' }, article: 'A-0' },
        ...{
          text: '8 GB, kind 0',
          units: 1,
          packs: 3,
          received: 1,
          cost: 2000,
          isCancelled: false,
        },
      },
    ],
  };
  const page = (more: object = {}) =>
    show(<OrdersPage />, {
      ...{ listOrders: [line(0), line(1)], listSuppliers: [quay], listPlacedOrders: [placed] },
      ...{ readShop: shop, readStockValue: { pieces: 0, places: [] }, ...more },
    });

  test('what is left out is not ordered; pressed again, it is still the same order', async () => {
    const fail = {
      ...{ type: 'about:blank#state', title: 'Cannot be done yet', status: 409 },
      ...{ detail: 'Down.', mend: 'Again.' },
    };
    const { server } = page({ placeOrder: fail });
    await userEvent.click(await screen.findByRole('checkbox', { name: /kind 1/ }));
    const press = () => userEvent.click(screen.getByRole('button', { name: 'Order 1 line there' }));
    await press();
    await screen.findByText('Down.');
    await press();
    await waitFor(() => expect(server.sent('placeOrder')).toHaveLength(2));
    const [first, again] = server.sent('placeOrder') as { id: string }[];
    expect(first).toMatchObject({
      supplier: 'Quay',
      send: true,
      lines: [{ quoteId: 'q1', at: 0 }],
    });
    expect(again?.id).toBe(first?.id);
  });

  test('what the supplier did not take is named', async () => {
    const refused = [{ article: 'A-1', why: 'sold out' }];
    page({ placeOrder: { order: placed, refused } });
    await userEvent.click(await screen.findByRole('button', { name: 'Order 2 lines there' }));
    expect(await screen.findByText('A-1: sold out')).toBeDefined();
  });

  test('what came is what is still to come, or less; more is refused before it is sent', async () => {
    const { server } = page({ receiveOrder: { order: placed, pieces: ['p1'] } });
    const order = within(await screen.findByRole('region', { name: 'Order 3' }));
    const came = order.getByLabelText<HTMLInputElement>('Packs of 8 GB, kind 0 that came');
    expect(came.value).toBe('2');
    await userEvent.clear(came);
    await userEvent.type(came, '3');
    expect(order.getByText('✕ 0 to 2')).toBeDefined();
    expect(order.getByRole<HTMLButtonElement>('button', { name: /^Take/ }).disabled).toBe(true);
    await userEvent.clear(came);
    await userEvent.type(came, '1');
    await userEvent.click(order.getByRole('button', { name: 'Take 1 line in' }));
    await waitFor(() =>
      expect(server.sent('receiveOrder')).toEqual([
        { place: '', lines: [{ lineId: 'l1', packs: 1 }] },
      ]),
    );
    expect(await order.findByText('1 module in stock')).toBeDefined();
  });
});

describe('a count', () => {
  const nothing = {
    expected: 1,
    found: 0,
    missing: [],
    elsewhere: [],
    back: [],
    strange: [],
    twice: 0,
  };
  const answers = {
    readStockValue: { pieces: 1, places: [{ place: 'Tray', pieces: 1 }] },
    ...{ listCounts: [], compareCount: nothing },
  };

  test('takes codes from anywhere on the page, once each, and keeps them over a reload', async () => {
    const first = show(<CountPage />, answers);
    for (const code of [
      ...['http://bench/drawer/piece-1', 'http://bench/drawer/piece-1'],
      'XQ-1100',
    ])
      press(keysOf(code));
    expect(await screen.findByText('2 labels')).toBeDefined();
    first.unmount();
    const { server } = show(<CountPage />, answers);
    expect(await screen.findByText('2 labels')).toBeDefined();
    await waitFor(() =>
      expect(server.sent('compareCount').at(-1)).toEqual({
        ...{ place: null, scanned: ['piece-1', 'XQ-1100'] },
      }),
    );
  });

  test('writes off what is ticked, and only that', async () => {
    const missing = ['a', 'b'].map((id) => ({ id, label: `lost ${id}`, place: 'Tray' }));
    const record = {
      ...{ id: 'c', at: '2026-05-01T10:00:00Z', by: 'O', place: null, expected: 3, found: 1 },
      ...{ missing: 2, moved: 0, back: 0 },
    };
    const { server } = show(<CountPage />, {
      ...answers,
      ...{ compareCount: { ...nothing, missing }, takeCount: record },
    });
    await userEvent.type(screen.getByLabelText('Code of a label'), 'piece-1{Enter}');
    await userEvent.click(await screen.findByRole('checkbox', { name: /lost b/ }));
    await userEvent.click(screen.getByRole('button', { name: 'Take the count over' }));
    await waitFor(() =>
      expect(server.sent('takeCount')).toEqual([
        { place: null, scanned: ['piece-1'], writeOff: ['b'] },
      ]),
    );
    expect(await screen.findByText(/Count taken over: 1 of 3 found/)).toBeDefined();
  });
});
