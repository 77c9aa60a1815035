import { act, screen, waitFor, within } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { Route, Routes } from 'react-router';
import { describe, expect, test, vi } from 'vitest';
import { DEFAULT_TERMS } from '#core/quoting';
import { labelled } from '../../test/support/builders.ts';
import { show } from '../../test/support/screen.tsx';
import * as codeReader from '../ui/CodeReader.tsx';
import * as labelPhoto from '../visuals/LabelPhoto.tsx';
import { DrawerPage } from './DrawerPage.tsx';

/** What a photo or the camera shows, told by the test. */
const seen = { code: (_text: string): void => undefined };
vi.spyOn(codeReader, 'CodeReader').mockImplementation(({ onText }) => {
  seen.code = onText;
  return <p>the camera</p>;
});
vi.spyOn(labelPhoto, 'LabelPhoto').mockImplementation(({ onLabel }) => (
  <button type="button" onClick={() => onLabel(LABEL, new Blob(), ['OR-8', '0921AB77F300'])}>
    a photo
  </button>
));

const LABEL = '8GB 1Rx8 PC4-2400T-UA1-11 OR-8';
const piece = {
  ...{ id: 'piece-1', version: 3, label: LABEL, module: labelled(LABEL), state: 'untested' },
  ...{ price: 900, cost: null, origin: 'pulled in job 0007', place: '', isNew: false },
  ...{
    serial: '',
    supplier: '',
    pulledIn: null,
    reservedFor: null,
    createdAt: '2026-05-01T10:00:00Z',
  },
};
const shop = { terms: DEFAULT_TERMS, version: 1 };
const value = {
  ...{ pieces: 1, cost: 0, withoutCost: 1, price: 900, withoutPrice: 0, unsound: 0, reserved: 0 },
  places: [{ place: '', pieces: 1 }],
};
const listed = (...pieces: object[]) => ({ pieces, next: null, total: pieces.length });
const field = (label: string | RegExp) => screen.getByLabelText<HTMLInputElement>(label);
const page = (more: object = {}, at = '/drawer') =>
  show(
    <Routes>
      <Route path="/drawer/:pieceId?" element={<DrawerPage />} />
    </Routes>,
    {
      ...{ listStock: listed(piece), readStockValue: value, readShop: shop, listModules: [] },
      ...{ addToDrawer: piece, changeInDrawer: piece, ...more },
    },
    at,
  );
const open = async () => {
  await userEvent.click(await screen.findByRole('button', { name: /^Change 8GB/ }));
};

describe('the drawer', () => {
  test('a scanned tag of a module that left says so; where nothing answers, only that', async () => {
    const { unmount } = page({ readPiece: { status: 503 } }, '/drawer/piece-1');
    await screen.findByText('Could not fetch the module scanned');
    expect(screen.queryByText(/not in the drawer any more/)).toBeNull();
    unmount();
    const gone = { type: 'about:blank', title: 'Not found', status: 404, detail: 'd', mend: 'm' };
    page({ readPiece: gone }, '/drawer/piece-1');
    await screen.findByText(/not in the drawer any more/);
  });

  test('takes a module in by its label alone, and keeps the place for the next', async () => {
    const { server } = page({ listStock: listed(), readStockValue: { ...value, pieces: 0 } });
    await screen.findByText('The drawer is empty.');
    await userEvent.type(field('Put a module in by its label'), LABEL);
    await userEvent.type(field('Place'), 'Tray');
    await userEvent.type(field(/^Price/), '9,00');
    await userEvent.click(screen.getByRole('button', { name: 'Put it in' }));
    await waitFor(() => expect(server.sent('addToDrawer')).toHaveLength(1));
    expect(server.sent('addToDrawer')[0]).toMatchObject({
      ...{ label: LABEL, price: 900, cost: null, place: 'Tray', state: 'untested' },
      module: { capacity: 8, ranks: 1 },
    });
    await waitFor(() => expect(field('Put a module in by its label').value).toBe(''));
    await userEvent.type(field('Put a module in by its label'), LABEL);
    expect(field('Place').value).toBe('Tray');
  });

  test('a label that does not suffice and an amount that is none are said; nothing is sent', async () => {
    const { server } = page();
    await screen.findByText('pulled in job 0007');
    await userEvent.type(field('Put a module in by its label'), 'a biscuit');
    await userEvent.type(field(/^Price/), '12.345');
    await userEvent.click(screen.getByRole('button', { name: 'Put it in' }));
    expect(await screen.findByText(/The label is incomplete/)).toBeDefined();
    expect(screen.getByText(/An amount such as 21.90/)).toBeDefined();
    expect(server.sent('addToDrawer')).toEqual([]);
    expect(field('Put a module in by its label').value).toBe('a biscuit');
  });

  test('a photo gives the label and the serial number off its codes', async () => {
    const { server } = page();
    await userEvent.click(await screen.findByRole('button', { name: 'a photo' }));
    expect(field('Serial number').value).toBe('0921AB77F300');
    await userEvent.click(screen.getByRole('button', { name: 'Put it in' }));
    await waitFor(() => expect(server.sent('addToDrawer')).toHaveLength(1));
    expect(server.sent('addToDrawer')[0]).toMatchObject({ label: LABEL, serial: '0921AB77F300' });
    await waitFor(() => expect(screen.queryByLabelText('Serial number')).toBeNull());
  });

  test('the camera fills in the serial number of a module; a tag is none and is said', async () => {
    const { server } = page();
    await open();
    await userEvent.click(screen.getByRole('button', { name: 'scan it' }));
    await screen.findByText('the camera');
    act(() => seen.code('http://127.0.0.1:4700/drawer/abcdefgh1234'));
    await screen.findByText(/is no serial number/);
    act(() => seen.code(' 0921AB77F300 '));
    expect(field('Serial number').value).toBe('0921AB77F300');
    expect(screen.queryByText('the camera')).toBeNull();
    await userEvent.click(screen.getByRole('button', { name: 'Save' }));
    await waitFor(() => expect(server.sent('changeInDrawer')).toHaveLength(1));
    expect(server.sent('changeInDrawer')[0]).toMatchObject({ serial: '0921AB77F300', version: 3 });
  });

  test('says what it is worth, and what of that is not known', async () => {
    page();
    expect((await screen.findAllByText('€9.00')).length).toBeGreaterThan(0);
    expect(screen.getByText(/1 without a known cost/)).toBeDefined();
  });

  test('a scanned tag shows its module; one that has gone is said to be gone', async () => {
    const { unmount } = page({ readPiece: piece }, '/drawer/piece-1');
    const sheet = await screen.findByRole('region', { name: 'Scanned module' });
    expect(within(sheet).getByText(LABEL)).toBeDefined();
    unmount();
    const gone = {
      ...{ type: 'about:blank#not-found', title: 'Not here', status: 404 },
      ...{ detail: 'It left.', mend: 'Look.' },
    };
    page({ readPiece: gone }, '/drawer/piece-9');
    expect(await screen.findByText(/not in the drawer any more/)).toBeDefined();
  });

  test('a change carries the version it was shown at, and all that was noted before', async () => {
    const { server } = page();
    await open();
    const notes = screen.getAllByLabelText<HTMLSelectElement>('State').at(-1);
    if (!notes) throw new Error('expected the state of the module');
    await userEvent.selectOptions(notes, 'tested');
    await userEvent.click(screen.getByRole('button', { name: 'Save' }));
    await waitFor(() => expect(server.sent('changeInDrawer')).toHaveLength(1));
    expect(server.sent('changeInDrawer')[0]).toMatchObject({
      ...{ state: 'tested', version: 3, price: 900, cost: null, origin: 'pulled in job 0007' },
    });
  });

  test('what is held for a job leads there, and is let go from there', async () => {
    const held = { ...piece, reservedFor: { jobId: 'job-12', number: 12 } };
    const { server } = page({ listStock: listed(held), holdPiece: piece });
    const link = await screen.findByRole<HTMLAnchorElement>('link', { name: 'job 0012' });
    expect(link.getAttribute('href')).toBe('/jobs/job-12');
    await open();
    await userEvent.click(screen.getByRole('button', { name: 'Let it go from job 0012' }));
    await waitFor(() =>
      expect(server.sent('holdPiece')).toEqual([{ jobNumber: null, version: 3 }]),
    );
  });

  test('what left comes back by undo; a refusal says why', async () => {
    const gone = {
      ...{ ...piece, version: 4 },
      gone: { how: 'written off', at: '2026-05-02T10:00:00Z', note: 'bent', job: null },
    };
    const { server } = page({ letGo: gone, takeBack: piece });
    await open();
    await userEvent.selectOptions(field('It leaves stock'), 'written off');
    await userEvent.type(field('Note'), 'bent');
    await userEvent.click(screen.getByRole('button', { name: 'Take it out' }));
    await userEvent.click(await screen.findByRole('button', { name: 'Undo' }));
    await waitFor(() => expect(server.sent('takeBack')).toEqual([{ version: 4 }]));
    expect(server.sent('letGo')).toEqual([{ how: 'written off', note: 'bent', version: 3 }]);
  });

  test('filters are asked of the server, and stand in the address', async () => {
    const { server } = page({}, '/drawer?place=&state=free');
    await screen.findByText('pulled in job 0007');
    await userEvent.type(field('Search the drawer'), 'OR');
    await waitFor(() => {
      const last = server.asked.filter(({ route }) => route === 'listStock').at(-1);
      expect(last?.query.get('search')).toBe('OR');
      expect(last?.query.get('state')).toBe('free');
    });
  });
});
