import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { DRAWER_STATES } from '../planning/index.ts';
import { taxWithin } from '../quoting/index.ts';
import {
  LABEL_SHEETS,
  countDifferences,
  earnedOn,
  labelPlaces,
  priceFromCost,
  valueOf,
} from './index.ts';

describe('a price made of a cost', () => {
  const rule = { marginPercent: 25, taxPercent: 20, roundPricesTo: 50 };
  test.each([
    [2000, rule, 3000],
    [2001, rule, 3050],
    [0, rule, 0],
    [1999, { marginPercent: 0, taxPercent: 0, roundPricesTo: 1 }, 1999],
    // 19.99 and a quarter are 24.9875, and never become 25.00 by rounding twice.
    [1999, { marginPercent: 25, taxPercent: 0, roundPricesTo: 1 }, 2499],
    [333, { marginPercent: 33.33, taxPercent: 25.5, roundPricesTo: 1 }, 558],
  ])('%i by %o is %i', (cost, given, price) => {
    expect(priceFromCost(cost, given)).toBe(price);
  });

  test('is none where prices are set by hand', () => {
    expect(priceFromCost(2000, { ...rule, marginPercent: null })).toBeNull();
  });

  const anyRule = fc.record({
    marginPercent: fc.integer({ min: 0, max: 40_000 }).map((n) => n / 100),
    taxPercent: fc.integer({ min: 0, max: 6000 }).map((n) => n / 100),
    roundPricesTo: fc.constantFrom(1, 5, 10, 50, 100, 1000),
  });
  test('is the least whole step that carries the margin and the tax', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 10_000_000 }), anyRule, (cost, given) => {
        const price = priceFromCost(cost, given) ?? NaN;
        const { marginPercent, taxPercent, roundPricesTo: step } = given;
        // In whole numbers, as the floating ones would not tell.
        const needed =
          BigInt(cost) *
          BigInt(Math.round(10_000 + marginPercent * 100)) *
          BigInt(Math.round(10_000 + taxPercent * 100));
        const made = (n: number) => BigInt(n) * 100_000_000n;
        expect(price % step).toBe(0);
        expect(made(price) >= needed).toBe(true);
        expect(price === 0 || made(price - step) < needed).toBe(true);
      }),
    );
  });

  test('earns what is left once tax and part are paid', () => {
    expect(earnedOn(3000, 2000, 20)).toBe(3000 - taxWithin(3000, 20) - 2000);
    expect(earnedOn(1000, 2000, 20)).toBeLessThan(0);
  });
});

describe('the value of a drawer', () => {
  const piece = { state: 'tested' as const, price: 1500, cost: 900, isReserved: false };
  test('counts what is unsound for nothing, and an unknown cost as unknown', () => {
    const value = valueOf([
      piece,
      { ...piece, state: 'suspect', cost: 700 },
      { ...piece, state: 'faulty' },
      { ...piece, state: 'untested', price: 0, cost: null, isReserved: true },
    ]);
    expect(value).toEqual({
      ...{ pieces: 4, cost: 900 + 700 + 900, withoutCost: 1, price: 1500, withoutPrice: 1 },
      ...{ unsound: 2, reserved: 1 },
    });
  });

  const anyPiece = fc.record({
    state: fc.constantFrom(...DRAWER_STATES),
    price: fc.nat(90_000),
    cost: fc.option(fc.nat(90_000)),
    isReserved: fc.boolean(),
  });
  test('of two drawers together is the sum of both', () => {
    fc.assert(
      fc.property(fc.array(anyPiece), fc.array(anyPiece), (one, other) => {
        const [a, b, both] = [valueOf(one), valueOf(other), valueOf([...one, ...other])];
        for (const key of Object.keys(both) as (keyof typeof both)[])
          expect(both[key]).toBe(a[key] + b[key]);
      }),
    );
  });
});

describe('a count by scanning', () => {
  const lies = (id: string, place = 'shelf') => ({ id, place, gone: null });
  test('says what is missing, what lies elsewhere, what came back and what is strange', () => {
    const pieces = [lies('a'), lies('b'), lies('c', 'till'), { ...lies('d'), gone: 'sold' }];
    expect(countDifferences(pieces, 'shelf', ['a', 'c', 'd', 'x', 'a'])).toEqual({
      ...{ expected: 2, found: 1, missing: ['b'], twice: 1, strange: ['x'] },
      elsewhere: [{ id: 'c', place: 'till' }],
      back: [{ id: 'd', gone: 'sold' }],
    });
  });

  test('of everything finds nothing elsewhere', () => {
    const { elsewhere, missing } = countDifferences([lies('a'), lies('b', 'till')], undefined, [
      'b',
    ]);
    expect([elsewhere, missing]).toEqual([[], ['a']]);
  });

  const anyHouse = fc
    .uniqueArray(fc.string({ minLength: 1, maxLength: 3 }), { maxLength: 30 })
    .chain((ids) =>
      fc.tuple(
        fc.constant(ids),
        fc.array(fc.record({ place: fc.constantFrom('', 'a', 'b'), isGone: fc.boolean() }), {
          minLength: ids.length,
          maxLength: ids.length,
        }),
        fc.array(fc.oneof(fc.constantFrom(...(ids.length ? ids : ['?'])), fc.string()), {
          maxLength: 60,
        }),
        fc.constantFrom(undefined, '', 'a', 'b'),
      ),
    );
  test('puts every code into one heap, whatever lies where', () => {
    fc.assert(
      fc.property(anyHouse, ([ids, more, scanned, place]) => {
        const pieces = ids.map((id, at) => ({
          ...{ id, place: more[at]?.place ?? '' },
          gone: more[at]?.isGone ? 'sold' : null,
        }));
        const result = countDifferences(pieces, place, scanned);
        const heaps = [
          ...result.strange,
          ...result.elsewhere.map(({ id }) => id),
          ...result.back.map(({ id }) => id),
        ];
        expect(new Set(heaps).size).toBe(heaps.length);
        expect(heaps.length + result.found + result.twice).toBe(scanned.length);
        expect(result.found + result.missing.length).toBe(result.expected);
        // The order of scanning, and scanning all of it twice, change nothing else.
        const again = countDifferences(pieces, place, [...scanned, ...scanned].reverse());
        const sorted = (list: readonly string[]) => [...list].sort();
        expect(sorted(again.missing)).toEqual(sorted(result.missing));
        expect(sorted(again.strange)).toEqual(sorted(result.strange));
      }),
    );
  });
});

describe('labels on sheets', () => {
  test.each(LABEL_SHEETS.map((sheet) => [sheet.name, sheet] as const))(
    '%s: all on the page, none over another, a begun sheet gone on with',
    (_name, sheet) => {
      const perPage = sheet.columns * sheet.rows;
      const places = labelPlaces(sheet, perPage * 2 + 1, 1);
      expect(places.at(-1)?.page).toBe(perPage === 1 ? 2 : 2);
      for (const { x, y } of places) {
        expect(x + sheet.label.width).toBeLessThanOrEqual(sheet.page.width + 1e-9);
        expect(y + sheet.label.height).toBeLessThanOrEqual(sheet.page.height + 1e-9);
      }
      const keys = places.map(({ page, x, y }) => `${page} ${x.toFixed(3)} ${y.toFixed(3)}`);
      expect(new Set(keys).size).toBe(keys.length);
      const apart = (a: number, b: number, size: number) =>
        Math.abs(a - b) < 1e-9 || Math.abs(a - b) >= size - 1e-9;
      for (const one of places)
        for (const other of places)
          if (one.page === other.page) {
            expect(apart(one.x, other.x, sheet.label.width)).toBe(true);
            expect(apart(one.y, other.y, sheet.label.height)).toBe(true);
          }
      // One label was used before: the second place comes first.
      const [first] = labelPlaces(sheet, 1, 1);
      expect(first).toEqual(labelPlaces(sheet, 2)[perPage === 1 ? 0 : 1]);
    },
  );
});
