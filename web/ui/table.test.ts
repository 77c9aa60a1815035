import fc from 'fast-check';
import { expect, test } from 'vitest';
import { readTable, writeTable } from './table.ts';

const bytesOf = (text: string) => new TextEncoder().encode(text).buffer;
const START = ['=', '+', '-', '@', '\t', '\r', "'", '"', ',', ' ', 'a', '1', '＝', 'ü'];
/** Cells that begin awkwardly; a row that is empty throughout is no row. */
const anyCell = fc
  .tuple(fc.string({ unit: fc.constantFrom(...START), maxLength: 6 }), fc.string({ maxLength: 4 }))
  .map(([head, tail]) => head + tail);
const anyRows = fc.array(
  fc.tuple(fc.constant('row'), anyCell, anyCell).map((row) => [...row]),
  { minLength: 1, maxLength: 6 },
);

test('whatever is written comes back the same', async () => {
  await fc.assert(
    fc.asyncProperty(anyRows, async (rows) => {
      // Line ends inside a cell come back as this house writes them.
      const expected = rows.map((row) => row.map((cell) => cell.replaceAll(/\r\n?/g, '\n')));
      expect(await readTable(bytesOf(await writeTable(rows)))).toEqual(expected);
    }),
  );
});

test('no cell of a written table begins a formula, quoted or not', async () => {
  await fc.assert(
    fc.asyncProperty(anyRows, async (rows) => {
      const { default: papa } = await import('papaparse');
      const written = await writeTable(rows);
      // Left to guess, the reader would take tabs inside cells for what parts them.
      const cells = papa.parse<string[]>(written, { delimiter: ',' }).data.flat();
      for (const cell of cells) expect(cell).not.toMatch(/^[=+\-@\t\r]/);
    }),
  );
});

test.each([
  ['=HYPERLINK("x")', '\'=HYPERLINK("x")'],
  ['+49 30', "'+49 30"],
  ['-3', "'-3"],
  ['@sum', "'@sum"],
  ["'=1", "''=1"],
  ["'plain", "'plain"],
  ['a=1', 'a=1'],
])('%s is written as %s', async (cell, written) => {
  const { default: papa } = await import('papaparse');
  expect(papa.parse<string[]>(await writeTable([[cell]])).data).toEqual([[written]]);
});

test('numbers stay numbers, and what is not known stays empty', async () => {
  expect(await writeTable([[12, 3.5, '']])).toBe('12,3.5,');
});

test('tabs inside a cell of a single row do not part it', async () => {
  const rows = [['row', '', ' \t\t\t']];
  expect(await readTable(bytesOf(await writeTable(rows)))).toEqual(rows);
});

test.each([
  [';', 'part;price\nx;1,50\n"a, b, c";2'],
  ['\t', 'part\tprice\nx\t1,50\n"a, b, c"\t2'],
])('cells parted by “%s” are read, whatever stands inside quotes', async (_, text) => {
  expect(await readTable(bytesOf(text))).toEqual([
    ['part', 'price'],
    ['x', '1,50'],
    ['a, b, c', '2'],
  ]);
});

test.each([';', '\t', '|'])('a “%s” inside a cell does not begin another one', async (sign) => {
  const rows = [
    ['part', `x${sign}=1`],
    ['part', 'y'],
  ];
  expect(await readTable(bytesOf(await writeTable(rows)))).toEqual(rows);
});
