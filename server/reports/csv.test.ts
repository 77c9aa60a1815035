import fc from 'fast-check';
import Papa from 'papaparse';
import { expect, test } from 'vitest';
import { readCell } from '#core/explaining';
import { csvLine } from './csv.ts';

const START = ['=', '+', '-', '@', '\t', "'", '"', ',', ' ', 'a', '1', '＝', '－', '＠', ';', '\n'];
const anyCell = fc.oneof(
  fc.string({ unit: fc.constantFrom(...START), maxLength: 6 }),
  fc.string({ maxLength: 6 }),
  fc.integer(),
);

test('a line holds its cells, none of which runs as a formula, and reads back the same', () => {
  fc.assert(
    fc.property(fc.array(anyCell, { minLength: 1, maxLength: 6 }), (cells) => {
      const line = csvLine(cells);
      expect(line.endsWith('\r\n')).toBe(true);
      const [row = [], ...more] = Papa.parse<string[]>(line.slice(0, -2), {
        ...{ delimiter: ',', newline: '\r\n' },
      }).data;
      // A line of one empty cell is an empty line.
      if (line === '\r\n') return;
      expect(more).toEqual([]);
      expect(row.map(readCell)).toEqual(cells.map(String));
      for (const cell of row) expect(cell).not.toMatch(/^[=+\-@\t\r\n＝＋－＠]/);
    }),
  );
});
