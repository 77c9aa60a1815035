import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { ageText, explainJump, explainListFault } from '../explaining/index.ts';
import { minorDigits } from '../quoting/index.ts';
import {
  guessColumns,
  lackingColumns,
  readListAmount,
  readListCount,
  readPriceList,
} from './index.ts';

const COLUMNS = { article: 'Item', cost: 'Net', stock: 'Qty', label: 'Text' };
const HEADS = ['Item', 'Net', 'Qty', 'Text'];
const known = (article: string, cost: number | null = 2000) => ({
  id: `id-${article}`,
  article,
  cost,
});

describe('an amount as lists write it', () => {
  test.each([
    ['21.90', 'EUR', 2190],
    ['21,9', 'EUR', 2190],
    ['1.234,50', 'EUR', 123_450],
    ['1,234.50', 'EUR', 123_450],
    ["1'234.50", 'CHF', 123_450],
    ['1.234', 'EUR', 123_400],
    ['1.234', 'KWD', 1234],
    ['1 234 567', 'JPY', 1_234_567],
    ['€ 21.90', 'EUR', 2190],
    ['21.90 EUR', 'EUR', 2190],
    ['1.234.567,00', 'EUR', undefined],
    ['12.34.56', 'EUR', undefined],
    ['21.905', 'JPY', 21_905],
    ['21.9055', 'EUR', undefined],
    ['ask', 'EUR', undefined],
    ['-5.00', 'EUR', undefined],
    ['', 'EUR', undefined],
  ])('%s in %s is %s', (text, currency, amount) => {
    expect(readListAmount(text, currency)).toBe(amount);
  });

  test('is read back from every way of writing it', () => {
    const anyWay = fc.constantFrom(['.', ','], [',', '.'], [' ', ','], ["'", '.'], ['', ',']);
    fc.assert(
      fc.property(
        fc.nat(99_999_999),
        fc.constantFrom('EUR', 'JPY', 'KWD'),
        anyWay,
        (amount, currency, [apart, point]) => {
          const digits = minorDigits(currency);
          const text = String(amount).padStart(digits + 1, '0');
          const whole = text
            .slice(0, text.length - digits)
            .replaceAll(/\B(?=(\d{3})+$)/g, apart ?? '');
          const written = digits === 0 ? whole : `${whole}${point}${text.slice(-digits)}`;
          expect([written, readListAmount(written, currency)]).toEqual([written, amount]);
        },
      ),
    );
  });
});

test.each([
  ['12', 12],
  ['>10', 10],
  ['10+', 10],
  ['3 days', 3],
  ['sold out', 0],
  ['on request', null],
  ['', null],
  ['soon', undefined],
  ['-4', undefined],
])('a count of “%s” is %s', (text, value) => {
  expect(readListCount(text)).toBe(value);
});

describe('headings', () => {
  test.each([
    [
      ['Article no.', 'Description', 'Net price', 'Stock', 'Lead time'],
      ['article', 'cost', 'label', 'stock', 'leadDays'],
    ],
    [
      ['SKU', 'Cost', 'Qty'],
      ['article', 'cost', 'stock'],
    ],
    [
      ['Part number', 'Part name', 'Dealer', 'Pack of'],
      ['article', 'cost', 'label', 'units'],
    ],
    [['Weight', 'Colour'], []],
  ])('%o are taken for %o', (heads, fields) => {
    const columns = guessColumns(heads);
    expect(Object.keys(columns).sort()).toEqual([...fields].sort());
    // No column twice.
    expect(new Set(Object.values(columns)).size).toBe(fields.length);
  });

  test('that are remembered and gone from the file are asked for again', () => {
    expect(lackingColumns(COLUMNS, HEADS)).toEqual([]);
    expect(lackingColumns(COLUMNS, ['Item', 'Price'])).toEqual(['cost']);
    expect(lackingColumns({}, HEADS)).toEqual(['article', 'cost']);
  });
});

describe('a price list', () => {
  test('of 2,000 rows with three broken ones gives 1,997 and names the three', () => {
    const rows = Array.from({ length: 2000 }, (_, at) => [`A-${at}`, '20.00', '4', '']);
    rows[10] = ['', '20.00', '4', ''];
    rows[500] = ['A-500', 'call us', '4', ''];
    rows[1999] = ['A-1999', '20.00', 'plenty', ''];
    const list = readPriceList(
      [HEADS, ...rows],
      COLUMNS,
      rows.map(([article = '']) => known(article)),
      'EUR',
    );
    expect(list.changes).toHaveLength(1997);
    expect(list.faults.map(({ type, row }) => [type, row])).toEqual([
      ['no-article', 12],
      ['no-amount', 502],
      ['no-count', 2001],
    ]);
    for (const fault of list.faults) {
      const { title, mend } = explainListFault(fault);
      expect(title).toContain(`Row ${fault.row}`);
      expect(mend).not.toBe('');
    }
  });

  test('adds memory it does not know, and leaves other goods alone', () => {
    const list = readPriceList(
      [
        HEADS,
        ['M-1', '18.00', '3', '8GB 1Rx8 PC4-2666V-UA2-11 PV-8U26'],
        ['C-7', '4.00', '90', 'Mains lead, 2 m'],
        ['C-8', 'free', 'lots', 'Sticker'],
      ],
      COLUMNS,
      [],
      'EUR',
    );
    expect(list.additions).toMatchObject([
      { article: 'M-1', cost: 1800, stock: 3, module: { capacity: 8 } },
    ]);
    expect([list.otherGoods, list.faults]).toEqual([2, []]);
  });

  test('reads the first of two rows of one article, whatever the case, and names the second', () => {
    const rows = [
      ['a-1', '20.00', '1', ''],
      ['A-1', '30.00', '1', ''],
    ];
    const list = readPriceList([HEADS, ...rows], COLUMNS, [known('A-1')], 'EUR');
    expect(list.changes).toMatchObject([{ cost: 2000 }]);
    expect(list.faults).toEqual([{ type: 'twice', row: 3, article: 'A-1', first: 2 }]);
  });

  test('asks about a cost that moved by more than two fifths, and about no other', () => {
    const jumpsTo = (cost: string) =>
      readPriceList([HEADS, ['A', cost, '', '']], COLUMNS, [known('A', 2000)], 'EUR').jumps;
    expect(jumpsTo('28.00')).toEqual([]);
    expect(jumpsTo('12.00')).toEqual([]);
    const [up] = jumpsTo('200.00');
    expect(up && explainJump(up, 'EUR').why).toMatch(/^\+900 %/);
    const [down] = jumpsTo('2.00');
    expect(down && explainJump(down, 'EUR').why).toMatch(/^−90 %/);
    expect(
      readPriceList([HEADS, ['A', '2.00', '', '']], COLUMNS, [known('A', null)], 'EUR').jumps,
    ).toEqual([]);
  });

  test('without a column for stock says nothing of stock', () => {
    const list = readPriceList(
      [
        ['Item', 'Net'],
        ['A', '1.00'],
      ],
      COLUMNS,
      [known('A')],
      'EUR',
    );
    expect(list.changes[0]).not.toHaveProperty('stock');
  });

  test('never throws, and never counts a row twice', () => {
    const anyCell = fc.oneof(
      fc.string(),
      fc.constantFrom('A', 'B', '1.00', '12', '8GB PC4-2400T-UA1-11'),
    );
    fc.assert(
      fc.property(fc.array(fc.array(anyCell, { maxLength: 5 }), { maxLength: 20 }), (rows) => {
        const list = readPriceList([HEADS, ...rows], COLUMNS, [known('A')], 'EUR');
        const named = [...list.changes, ...list.additions, ...list.faults].map(({ row }) => row);
        expect(new Set(named).size).toBe(named.length);
        expect(named.length + list.otherGoods).toBeLessThanOrEqual(rows.length);
      }),
    );
  });
});

test.each([
  [5_000, 'just now'],
  [61_000, '1 minute old'],
  [3 * 3_600_000, '3 hours old'],
  [5 * 86_400_000, '5 days old'],
])('%i ms is %s', (ms, words) => {
  const now = Date.UTC(2026, 4, 1);
  expect(ageText(new Date(now - ms).toISOString(), now)).toBe(words);
});

test('a moment to come is named, not aged', () => {
  expect(ageText('2026-05-02T10:00:00Z', Date.UTC(2026, 4, 1))).toMatch(/^of /);
});
