import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { anyModule } from '../../test/support/arbitraries.ts';
import { readLabel, writeLabel } from '../memory/index.ts';
import { CATALOGUE_ROW_LIMIT, catalogueFromRows, catalogueToRows, readAmount } from './index.ts';

const readRows = (rows: Parameters<typeof catalogueFromRows>[0]) => catalogueFromRows(rows, 'EUR');

describe('a catalogue as a table', () => {
  const anyEntry = fc.record({
    module: anyModule.map((module) => readLabel(writeLabel(module)).module ?? module),
    supplier: fc.constantFrom('', 'Mainland parts hall', 'Barge, bit & "surplus"'),
    article: fc.constantFrom('', 'M-1'),
    units: fc.integer({ min: 1, max: 16 }),
    price: fc.option(fc.nat(999_999)),
    stock: fc.option(fc.nat(500)),
    leadDays: fc.option(fc.nat(90)),
    cost: fc.option(fc.nat(999_999)),
  });

  test('comes back as it went out', () => {
    fc.assert(
      fc.property(fc.array(anyEntry, { maxLength: 8 }), (list) => {
        const entries = list.map((one) => ({ ...one, label: writeLabel(one.module).trim() }));
        const read = readRows(catalogueToRows(entries, 'EUR'));
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
    const { entries, faults } = readRows([['Label', 'Price'], ...rows]);
    expect(entries).toHaveLength(10_000 - 10 - 5);
    expect(faults.filter(({ type }) => type === 'label').map(({ row }) => row)[0]).toBe(9);
    expect(faults.filter(({ type }) => type === 'number')).toHaveLength(5);
    expect(entries[0]?.price).toBe(2190);
  });

  test('a part number with two meanings is noticed; a missing label column too', () => {
    const read = readRows([
      ['label'],
      ['8GB 1Rx8 PC4-2666V-UA2-11 ORL-8U26'],
      ['16GB 2Rx8 PC4-2666V-UB1-11 ORL-8U26'],
    ]);
    expect(read.contradictions).toEqual([{ part: 'ORL-8U26', rows: [2, 3] }]);
    expect(readRows([['name']]).faults).toEqual([
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
    expect(readAmount(text, 'EUR')).toBe(amount);
  });

  const label = '8GB 1Rx8 PC4-2666V-UA2-11 OR-8';
  const one = (columns: Readonly<Record<string, string>>) =>
    readRows([
      ['label', ...Object.keys(columns)],
      [label, ...Object.values(columns)],
    ]);

  test.each([
    ['modules in pack', 'units', '1', 1],
    ['modules in pack', 'units', '16', 16],
    ['stock', 'stock', '0', 0],
    ['stock', 'stock', '100000', 100_000],
    ['lead days', 'leadDays', '365', 365],
  ] as const)('takes the %s as %s = “%s”', (column, key, text, value) => {
    const { entries, faults } = one({ [column]: ` ${text} ` });
    expect(faults).toEqual([]);
    expect(entries[0]?.[key]).toBe(value);
  });

  test.each([
    ['modules in pack', '0', 'a whole number from 1 to 16'],
    ['modules in pack', '17', 'a whole number from 1 to 16'],
    ['modules in pack', 'about 2', 'a whole number from 1 to 16'],
    ['stock', '3 or so', 'a whole number from 0 to 100000'],
    ['stock', '100001', 'a whole number from 0 to 100000'],
    ['stock', '-1', 'a whole number from 0 to 100000'],
    ['stock', '00000001', 'a whole number from 0 to 100000'],
    ['lead days', '366', 'a whole number from 0 to 365'],
    ['price', '12,999', 'an amount such as 21.90'],
  ])(
    'a bad %s “%s” is named with what was wanted, and the row is left out',
    (column, text, wanted) => {
      expect(one({ [column]: text })).toEqual({
        entries: [],
        faults: [{ type: 'number', row: 2, column, text, wanted }],
        contradictions: [],
      });
    },
  );

  test('long cells are cut where a fault repeats them and where the column ends', () => {
    const long = 'x'.repeat(200);
    const texts = (rows: string[][]) =>
      readRows(rows).faults.map((fault) => 'text' in fault && fault.text);
    expect(texts([['label'], [long]])).toEqual(['x'.repeat(60)]);
    expect(
      texts([
        ['label', 'stock', 'price'],
        [label, long, long],
      ]),
    ).toEqual([...['x'.repeat(20), 'x'.repeat(20)]]);
    const { entries } = one({ supplier: long, article: long });
    expect(entries[0]?.supplier).toBe('x'.repeat(80));
    expect(entries[0]?.article).toBe('x'.repeat(80));
  });

  test('an id names the entry it changes; without one the entry is new', () => {
    expect(one({ id: ' 7c ' }).entries[0]?.id).toBe('7c');
    expect(one({ id: ' ' }).entries[0]).not.toHaveProperty('id');
    expect(one({}).entries[0]).toEqual({
      ...{ label, module: readLabel(label).module, supplier: '', article: '' },
      ...{ units: 1, price: null, stock: null, leadDays: null },
    });
  });

  test('headers in any order, case and spacing; empty rows are passed over, short ones read', () => {
    const { entries, faults } = readRows([
      [' Price ', 'SUPPLIER', 'Label'],
      ['', ' ', ''],
      ['3', 'Hall', label],
      ['', '', `  ${label}  `],
      [],
    ]);
    expect(faults).toEqual([]);
    expect(entries.map(({ price, supplier }) => [price, supplier])).toEqual([
      [300, 'Hall'],
      [null, ''],
    ]);
    expect(entries[1]?.label).toBe(label);
  });

  test('nothing at all misses its label column', () => {
    expect(readRows([])).toEqual({
      entries: [],
      faults: [{ type: 'column-missing', row: 1, column: 'label' }],
      contradictions: [],
    });
  });

  test('takes as many rows as its limit, and says where it stopped', () => {
    const rows = (count: number) => [['label'], ...Array.from({ length: count }, () => [label])];
    expect(readRows(rows(CATALOGUE_ROW_LIMIT)).faults).toEqual([]);
    const over = readRows(rows(CATALOGUE_ROW_LIMIT + 3));
    expect(over.entries).toHaveLength(CATALOGUE_ROW_LIMIT);
    expect(over.faults).toEqual([
      { type: 'too-many', row: CATALOGUE_ROW_LIMIT + 2, limit: CATALOGUE_ROW_LIMIT },
    ]);
  });

  test('one part number bought from two suppliers is no contradiction', () => {
    const part = '8GB 1Rx8 PC4-2666V-UA2-11 ORL-8U26';
    expect(
      readRows([
        ['label', 'supplier'],
        [part, 'Hall'],
        [part, 'Barge'],
      ]).contradictions,
    ).toEqual([]);
  });

  test('is written under its own columns, what is not known left empty', () => {
    const [entry] = one({}).entries;
    if (!entry) throw new Error('expected an entry');
    expect(
      catalogueToRows([entry, { ...entry, id: 'k', price: 5, stock: 0, leadDays: 2 }], 'EUR'),
    ).toEqual([
      [
        'id',
        'label',
        'supplier',
        'article',
        'modules in pack',
        'price',
        'stock',
        'lead days',
        'cost',
      ],
      ['', label, '', '', '1', '', '', '', ''],
      ['k', label, '', '', '1', '0.05', '0', '2', ''],
    ]);
  });

  test.each([
    [' 21,9 ', 2190],
    ['  ', null],
    ['999999.99', 99_999_999],
    ['1000000', undefined],
    ['3.', undefined],
  ])('reads the amount “%s” too', (text, amount) => {
    expect(readAmount(text, 'EUR')).toBe(amount);
  });
});
