import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { desktop, labelled } from '../../test/support/builders.ts';
import { runToEnd } from '../planning/index.ts';
import type { PlanQuery } from '../planning/index.ts';
import { DEFAULT_TERMS, quoteState, sumQuote, taxWithin, wholeLines } from './index.ts';

const eight = labelled('8GB 1Rx8 PC4-2666V-UA2-11 OR-8');

describe('a quote', () => {
  const query: PlanQuery = {
    machine: desktop(),
    fitted: { a2: labelled('4GB 1Rx8 PC4-2133P-UA1-11 QL-4') },
    need: 14,
    school: 'balanced',
    capacityFirst: false,
    memoryTestPassed: false,
    settings: ['standard'],
    offers: [{ id: 'pair', module: eight, units: 2, price: 4400, stock: 1, verified: false }],
    drawer: [],
    credit: { a2: 160 },
    labour: 2800,
  };
  const [plan] = runToEnd(query).plans;
  if (!plan) throw new Error('expected a plan');
  const part = { id: 'pair', text: 'two modules', price: 4400, leadDays: 3 };

  test('its lines add up to its total, and the tax is contained in it', () => {
    const sum = sumQuote(plan, [part], query.credit, DEFAULT_TERMS, words);
    expect(sum.lines.map(({ kind, quantity, each }) => [kind, quantity * each])).toEqual([
      ['part', 4400],
      ['labour', 2800],
      ['credit', -160],
    ]);
    expect(sum.total).toBe(7040);
    expect(sum.tax).toBe(1173); // 7040 × 20 / 120
    expect(sum.leadDays).toBe(3);
    const unknown = { ...part, leadDays: undefined };
    expect(sumQuote(plan, [unknown], query.credit, DEFAULT_TERMS, words).leadDays).toBeUndefined();
  });

  test('pulled modules are credited each by its own size, in whole units that add up', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.constantFrom(4, 8, 16), fc.nat(99_999)), {
          minLength: 1,
          maxLength: 4,
        }),
        fc.nat(90_000),
        (pulled, labour) => {
          const slots = ['a1', 'a2', 'b1', 'b2'].slice(0, pulled.length);
          const credit = Object.fromEntries(slots.map((id, at) => [id, pulled[at]?.[1] ?? 0]));
          const paid = pulled.reduce((sum, [, each]) => sum + each, 0);
          const emptied = {
            ...plan,
            ...{ purchases: [], drawer: [], pulled: slots },
            cost: { parts: 0, labour, credit: paid, net: labour - paid },
          };
          const words = { labour: 'fitting', pulled: (slot: string) => slot };
          const { lines, total } = sumQuote(emptied, [], credit, DEFAULT_TERMS, words);
          expect(lines.reduce((sum, { each, quantity }) => sum + each * quantity, 0)).toBe(total);
          for (const { kind, text, each } of lines)
            if (kind === 'credit') expect(each).toBe(-(credit[text] ?? 0));
          expect(lines.filter(({ kind }) => kind === 'credit')).toHaveLength(
            pulled.filter(([, each]) => each > 0).length,
          );
        },
      ),
    );
  });

  const words = { labour: 'fitting', pulled: (slot: string) => `pulled from ${slot}` };
  const bare = { ...plan, purchases: [], drawer: [], pulled: [] };
  const free = { parts: 0, labour: 0, credit: 0, net: 0 };

  test('a piece from the drawer is a line of its own, and free labour is none', () => {
    const pieces = [part, { id: 'piece', text: 'a module of ours', price: 900, leadDays: 0 }];
    const sum = sumQuote(
      { ...bare, drawer: ['piece'], cost: { ...free, parts: 900, net: 900 } },
      ...([pieces, {}, DEFAULT_TERMS, words] as const),
    );
    expect(sum.lines).toEqual([
      { kind: 'drawer', text: 'a module of ours', quantity: 1, each: 900 },
    ]);
    expect(sum.leadDays).toBe(0);
    expect(sumQuote({ ...bare, cost: free }, [], {}, DEFAULT_TERMS, words).lines).toEqual([]);
  });

  test('the longest lead time counts, and one that is not known leaves the sum unknown', () => {
    const bought = { ...bare, cost: free };
    const packs = ['a', 'b'].map((offerId) => ({ offerId, packs: 1 }));
    const lead = (...days: (number | undefined)[]) =>
      sumQuote(
        { ...bought, purchases: packs },
        days.map((leadDays, at) => ({ id: 'ab'[at] ?? '', text: '', price: 0, leadDays })),
        ...([{}, DEFAULT_TERMS, words] as const),
      ).leadDays;
    expect(lead(3, 9)).toBe(9);
    expect(lead(9, 3)).toBe(9);
    expect(lead(undefined, 9)).toBeUndefined();
    expect(lead(9, undefined)).toBeUndefined();
  });

  test('a plan whose part has no price is the caller’s mistake, and named', () => {
    expect(() => sumQuote(plan, [], {}, DEFAULT_TERMS, words)).toThrow(
      'expected a price for every part of a plan, received none for pair',
    );
  });

  test('only single lines that held a part of a cent are moved; whole ones stay as they are', () => {
    const line = (quantity: number, each: number) =>
      ({ kind: 'credit', text: '', quantity, each }) as const;
    const each = (lines: readonly ReturnType<typeof line>[], total: number) =>
      wholeLines(lines, total).map((one) => one.each);
    expect(each([line(1, 500), line(2, 10.5), line(1, 7.25), line(1, 7.25)], 536)).toEqual([
      ...[500, 11, 7, 7],
    ]);
    expect(each([line(1, 500), line(1, 0.4), line(1, 0.4), line(1, 0.4)], 501)).toEqual([
      ...[500, 1, 0, 0],
    ]);
    expect(each([line(1, 500), line(3, 20)], 999)).toEqual([500, 20]); // stored whole: not touched
  });

  test('a shop that has set nothing promises nothing and has no address', () => {
    expect(DEFAULT_TERMS).toMatchObject({ address: '', warranty: '', creditPerGb: 0 });
  });

  test('thirds of a cent in an earlier quote are made whole without changing its total', () => {
    const third = { kind: 'credit', text: '', quantity: 1, each: -640 / 3 } as const;
    const lines = wholeLines(
      [{ kind: 'part', text: '', quantity: 2, each: 4400 }, third, third, third],
      8160,
    );
    expect(lines.map(({ each }) => each)).toEqual([4400, -214, -213, -213]);
  });

  test('taking the tax off and putting it on again gives the price', () => {
    fc.assert(
      fc.property(fc.nat(10_000_000), fc.integer({ min: 0, max: 60 }), (total, percent) => {
        const net = total - taxWithin(total, percent);
        expect(Math.abs(net * (1 + percent / 100) - total)).toBeLessThanOrEqual(1);
      }),
    );
  });

  test.each([
    ['accepted', { validUntil: '2026-01-01', answer: 'accepted', isLatest: false }],
    ['replaced', { validUntil: '2026-12-31', answer: undefined, isLatest: false }],
    ['expired', { validUntil: '2026-11-24', answer: undefined, isLatest: true }],
    ['open', { validUntil: '2026-11-25', answer: undefined, isLatest: true }],
  ] as const)('is %s', (state, quote) => {
    expect(quoteState(quote, '2026-11-25')).toBe(state);
  });
});
