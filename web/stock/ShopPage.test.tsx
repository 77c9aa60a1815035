import { screen, waitFor } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { describe, expect, test } from 'vitest';
import { DEFAULT_TERMS } from '#core/quoting';
import { show } from '../../test/support/screen.tsx';
import { ShopPage } from './ShopPage.tsx';

const address = 'The old net loft\nQuay 3\n40021 Harbour';
const shop = { terms: { ...DEFAULT_TERMS, address }, version: 4 };
const page = (more: object = {}) =>
  show(<ShopPage />, { readShop: shop, changeShop: { ...shop, version: 5 }, ...more });
const field = (label: string | RegExp) => screen.getByLabelText<HTMLTextAreaElement>(label);
const save = () => userEvent.click(screen.getByRole('button', { name: 'Save' }));

describe('the shop', () => {
  test('says of a currency without minor units that amounts are written without decimals', async () => {
    const { server } = page();
    await screen.findByLabelText('Address');
    await userEvent.clear(field('Currency'));
    await userEvent.type(field('Currency'), 'JPY');
    await save();
    expect(screen.getAllByText(/JPY is written without decimals/).length).toBeGreaterThan(1);
    expect(server.sent('changeShop')).toEqual([]);
    await userEvent.clear(field('Currency'));
    await userEvent.type(field('Currency'), 'QQQ');
    await save();
    expect(screen.getByText(/three letters, such as EUR/)).toBeDefined();
  });

  test('prints on the paper it says', async () => {
    const { server } = page();
    await userEvent.selectOptions(
      await screen.findByLabelText('Paper of quotes and reports'),
      'Letter',
    );
    await save();
    await waitFor(() => expect(server.sent('changeShop')).toHaveLength(1));
    expect(server.sent('changeShop')[0]).toMatchObject({ terms: { paper: 'Letter' } });
  });

  test('writes days and numbers as it says', async () => {
    const { server } = page();
    await userEvent.selectOptions(await screen.findByLabelText('Days are written'), 'year first');
    await userEvent.selectOptions(field('Numbers are written'), 'comma and spaces');
    await save();
    await waitFor(() => expect(server.sent('changeShop')).toHaveLength(1));
    expect(server.sent('changeShop')[0]).toMatchObject({
      terms: { dates: 'year first', numbers: 'comma and spaces' },
    });
  });

  test('keeps its own list of activities; a wrong figure is said at its row and nothing is lost', async () => {
    const { server } = page();
    await userEvent.click(await screen.findByText('Usual activities'));
    await userEvent.click(screen.getByRole('button', { name: 'Add one' }));
    const [last] = screen.getAllByLabelText(/^Name of activity/).slice(-1);
    await userEvent.type(last ?? document.body, 'Tide tables');
    const least = screen.getByLabelText('Tide tables: least, GB');
    await userEvent.clear(least);
    await userEvent.type(least, '3,5');
    const keep = () => userEvent.click(screen.getByRole('button', { name: 'Save the activities' }));
    await keep();
    await screen.findByText(/The range runs backwards/);
    expect(server.sent('changeShop')).toEqual([]);
    await userEvent.type(screen.getByLabelText('Tide tables: most, GB'), '0');
    await userEvent.click(screen.getByRole('button', { name: 'Remove Games' }));
    await keep();
    await waitFor(() => expect(server.sent('changeShop')).toHaveLength(1));
    const [sent] = server.sent('changeShop') as { terms: typeof DEFAULT_TERMS; version: number }[];
    expect(sent?.version).toBe(4);
    expect(sent?.terms).toMatchObject({ address, currency: DEFAULT_TERMS.currency });
    expect(sent?.terms.activities).toEqual([
      ...DEFAULT_TERMS.activities.filter(({ name }) => name !== 'Games'),
      { name: 'Tide tables', low: 3.5, high: 20 },
    ]);
    await userEvent.clear(screen.getByLabelText('Name of activity 1'));
    await keep();
    await screen.findByText(/Enter the activity/);
    await userEvent.click(screen.getByRole('button', { name: /list of a new shop/ }));
    await keep();
    await waitFor(() => expect(server.sent('changeShop')).toHaveLength(2));
  });

  test('shows its address line by line, and keeps the lines when it is saved', async () => {
    const { server } = page();
    expect((await screen.findByLabelText<HTMLTextAreaElement>('Address')).value).toBe(address);
    await userEvent.type(field('Address'), '{Enter}by the crane');
    await save();
    await waitFor(() => expect(server.sent('changeShop')).toHaveLength(1));
    expect(server.sent('changeShop')[0]).toMatchObject({
      version: 4,
      terms: { address: `${address}\nby the crane`, labour: DEFAULT_TERMS.labour },
    });
  });

  test('says at each field what is wrong, sends nothing and loses nothing', async () => {
    const { server } = page();
    await screen.findByLabelText('Address');
    for (const [label, text] of [
      ['Name', ' '],
      ['Currency', 'money'],
      ['Tax included in prices, %', '90'],
      ['Quotes hold for, days', '0'],
      ['desktop', 'a lot'],
    ] as const) {
      await userEvent.clear(field(label));
      await userEvent.type(field(label), text);
    }
    await save();
    for (const said of [
      /Enter the name of the shop/,
      /three letters, such as EUR/,
      /A tax is 60 % or less/,
      /A quote holds for a day or more/,
      /An amount such as 21.90/,
    ])
      expect(screen.getByText(said)).toBeDefined();
    expect(server.sent('changeShop')).toEqual([]);
    expect(field('Currency').value).toBe('money');
  });
});
