import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { describe, expect, test } from 'vitest';
import { plainFont } from './plainFont.ts';

const require = createRequire(import.meta.url);
const packed = (weight: number) =>
  readFileSync(
    require.resolve(
      `@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-${weight}-normal.woff`,
    ),
  );

/** The sum of a table's words (OpenType, “Calculating checksums”). */
function sumOf(table: Buffer): number {
  let sum = 0;
  for (let at = 0; at < table.length; at += 4) sum = (sum + table.readUInt32BE(at)) >>> 0;
  return sum;
}

describe.each([400, 700])('weight %i', (weight) => {
  const font = plainFont(packed(weight));

  test('every table is where its entry says, and adds up to the sum it had before it was packed', () => {
    const count = font.readUInt16BE(4);
    expect(count).toBeGreaterThan(9);
    for (let at = 0; at < count; at++) {
      const entry = 12 + 16 * at;
      const tag = font.toString('latin1', entry, entry + 4);
      const [sum, offset, length] = [4, 8, 12].map((by) => font.readUInt32BE(entry + by)) as [
        ...[number, number, number],
      ];
      const table = Buffer.from(font.subarray(offset, (offset + length + 3) & ~3));
      // The sum of the whole file is kept in the middle of this one, and left out of its own.
      if (tag === 'head') table.writeUInt32BE(0, 8);
      expect(sumOf(table), tag).toBe(sum);
    }
  });

  test('is as long as the packed one says', () => {
    expect(font.length).toBe(packed(weight).readUInt32BE(16));
  });

  test('a search through its entries by halves begins where it must', () => {
    const [count = 0, searched = 0, halvings = 0, rest] = [4, 6, 8, 10].map((at) =>
      font.readUInt16BE(at),
    );
    expect(searched).toBeLessThanOrEqual(16 * count);
    expect(2 * searched).toBeGreaterThan(16 * count);
    expect([16 * 2 ** halvings, 16 * count - searched]).toEqual([searched, rest]);
  });
});

test('what is no packed font is refused', () => {
  expect(() => plainFont(Buffer.from('OTTO and more'))).toThrow('expected a WOFF font');
});
