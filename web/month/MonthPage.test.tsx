import { screen, waitFor, within } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import type { MonthAnswer } from '#contract/month';
import { DEFAULT_TERMS } from '#core/quoting';
import { show } from '../../test/support/screen.tsx';
import { inLines } from './inLines.ts';
import { MonthPage } from './MonthPage.tsx';

const job = (number: number) => ({ id: `j${String(number)}`, number, customerName: 'Net loft' });
const spread = { jobs: 2, median: 30, low: 20, high: 40 };
const bare: MonthAnswer = {
  ...{ month: '2026-05', from: '2026-05-01T00:00:00Z', to: '2026-06-01T00:00:00Z', isOver: true },
  ...{ opened: [], closed: [], turnRound: { whole: { jobs: [] }, stretches: [] }, waiting: [] },
  quotes: { issued: 0, stands: [], reasons: [] },
  promises: { kept: [], missed: [], withoutDay: 0 },
  returns: {
    ...{ inMonth: [], soldInYear: 0 },
    inYear: { part: [], maker: [], supplier: [], machine: [], fault: [] },
  },
  money: {
    ...{ parts: 0, labour: 0, credit: 0, earnedOnParts: 0, costUnknown: [], jobs: [] },
    withoutQuote: [],
  },
  drawer: {
    ...{ pieces: 3, cost: 500, withoutCost: 1, price: 900, withoutPrice: 0 },
    ...{ unsound: 0, reserved: 0 },
  },
};
const full: MonthAnswer = {
  ...bare,
  closed: [job(7), job(9)],
  turnRound: {
    whole: { spread, jobs: [{ ...job(9), hours: 40 }] },
    stretches: [{ stretch: 'fit', spread, jobs: [{ ...job(7), hours: 20 }] }],
  },
  returns: {
    ...bare.returns,
    soldInYear: 40,
    inYear: {
      ...bare.returns.inYear,
      part: [{ name: 'KB-16', back: 1, sold: 2, jobs: [job(7)] }],
      supplier: [{ name: 'Barge', back: 1, sold: 1, jobs: [job(9)] }],
    },
  },
};
const page = (readMonth: unknown, at = '/month?m=2026-05') =>
  show(<MonthPage />, { readMonth, readShop: { terms: DEFAULT_TERMS, version: 1 } }, at);

describe('the month', () => {
  test('opens the jobs behind a figure, and shuts them again', async () => {
    page(full);
    const short = within(await screen.findByRole('region', { name: 'The month in short' }));
    const figure = short.getByRole('button', { name: /^Handed over: 2 jobs/ });
    expect(short.queryByRole('link', { name: '0007' })).toBeNull();
    await userEvent.click(figure);
    expect(short.getByRole('link', { name: '0007' }).getAttribute('href')).toBe('/jobs/j7');
    await userEvent.click(figure);
    expect(short.queryByRole('link', { name: '0007' })).toBeNull();
  });

  test('tells returns by what one asks for', async () => {
    page(full);
    expect(await screen.findByText('KB-16')).toBeDefined();
    await userEvent.selectOptions(screen.getByLabelText('told by'), 'supplier');
    expect(screen.queryByText('KB-16')).toBeNull();
    await userEvent.click(screen.getByRole('button', { name: /^Barge: 1, show the jobs/ }));
    expect(screen.getByRole('link', { name: '0009' })).toBeDefined();
  });

  test('says that it is empty, and shows the drawer all the same', async () => {
    page(bare);
    expect(await screen.findByText(/Nothing was taken in, quoted or handed over/)).toBeDefined();
    expect(screen.getByRole('link', { name: '3 modules' })).toBeDefined();
  });

  test('goes a month back over the turn of the year', async () => {
    const { server } = page({ ...bare, month: '2026-01' }, '/month?m=2026-01');
    await userEvent.click(await screen.findByRole('button', { name: 'Month before' }));
    await waitFor(() => expect(server.asked.at(-1)?.path).toBe('/month/2025-12'));
    expect(screen.getByRole('heading', { name: 'December 2025' })).toBeDefined();
  });
});

test('names beside bars keep all their words, in lines a phone has room for', () => {
  expect(inLines('Taken in, until it was looked into')).toEqual([
    'Taken in, until it',
    'was looked into',
  ]);
  const word = fc.stringMatching(/^[a-z,]{1,14}$/);
  fc.assert(
    fc.property(fc.array(word, { minLength: 1, maxLength: 12 }), (words) => {
      const lines = inLines(words.join(' '));
      expect(lines.join(' ')).toBe(words.join(' '));
      expect(Math.max(...lines.map(({ length }) => length))).toBeLessThanOrEqual(20);
    }),
  );
});
