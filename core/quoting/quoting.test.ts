import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { anyModule } from '../../test/support/arbitraries.ts';
import { desktop, labelled } from '../../test/support/builders.ts';
import { readLabel, writeLabel } from '../memory/index.ts';
import { runToEnd } from '../planning/index.ts';
import type { PlanQuery } from '../planning/index.ts';
import {
  DEFAULT_TERMS,
  catalogueFromRows,
  catalogueToRows,
  quoteState,
  readAmount,
  sumQuote,
  taxWithin,
  wholeLines,
} from './index.ts';

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
    const words = { labour: 'fitting', pulled: (slot: string) => `pulled from ${slot}` };
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

describe('a catalogue as a table', () => {
  const anyEntry = fc.record({
    module: anyModule.map((module) => readLabel(writeLabel(module)).module ?? module),
    supplier: fc.constantFrom('', 'Mainland parts hall', 'Barge, bit & "surplus"'),
    article: fc.constantFrom('', 'M-1'),
    units: fc.integer({ min: 1, max: 16 }),
    price: fc.option(fc.nat(999_999)),
    stock: fc.option(fc.nat(500)),
    leadDays: fc.option(fc.nat(90)),
  });

  test('comes back as it went out', () => {
    fc.assert(
      fc.property(fc.array(anyEntry, { maxLength: 8 }), (list) => {
        const entries = list.map((one) => ({ ...one, label: writeLabel(one.module).trim() }));
        const read = catalogueFromRows(catalogueToRows(entries));
        expect(read.faults).toEqual([]);
        expect(read.entries).toEqual(
          entries.map((one) => ({ ...one, module: readLabel(one.label).module })),
        );
      }),
    );
  });

  test('names every bad row of ten thousand and reads the others', () => {
    const rows = Array.from({ length: 10_000 }, (_, at) => [
      at % 1000 === 7 ? 'a biscuit' : '8GB 1Rx8 PC4-2666V-UA2-11 OR-8',
      at % 2000 === 8 ? '12,999' : '21,90',
    ]);
    const { entries, faults } = catalogueFromRows([['Label', 'Price'], ...rows]);
    expect(entries).toHaveLength(10_000 - 10 - 5);
    expect(faults.filter(({ type }) => type === 'label').map(({ row }) => row)[0]).toBe(9);
    expect(faults.filter(({ type }) => type === 'number')).toHaveLength(5);
    expect(entries[0]?.price).toBe(2190);
  });

  test('a part number with two meanings is noticed; a missing label column too', () => {
    const read = catalogueFromRows([
      ['label'],
      ['8GB 1Rx8 PC4-2666V-UA2-11 ORL-8U26'],
      ['16GB 2Rx8 PC4-2666V-UB1-11 ORL-8U26'],
    ]);
    expect(read.contradictions).toEqual([{ part: 'ORL-8U26', rows: [2, 3] }]);
    expect(catalogueFromRows([['name']]).faults).toEqual([
      { type: 'column-missing', row: 1, column: 'label' },
    ]);
  });

  test.each([
    ['21.9', 2190],
    ['0', 0],
    ['', null],
    ['-3', undefined],
    ['1.234,50', undefined],
    ['12.345', undefined],
  ])('reads the amount “%s”', (text, amount) => {
    expect(readAmount(text)).toBe(amount);
  });
});
