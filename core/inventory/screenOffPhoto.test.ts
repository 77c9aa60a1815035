import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { readScreen } from './readScreen.ts';
import { screenOffPhoto } from './screenOffPhoto.ts';

const read = (...lines: string[]) =>
  readScreen(screenOffPhoto(lines)).devices.map(({ locator, state, capacity, configuredShown }) => [
    locator,
    state === 'empty' ? 'empty' : capacity,
    configuredShown,
  ]);

describe('a firmware screen off a photo', () => {
  test('slots are found among headings, sums and the rest of the screen', () => {
    expect(
      read(
        'Main  Advanced  Boot  Exit',
        'Total Memory     : 24576 MB',
        'Memory Frequency : 1200 MHz',
        'DIMM_A1          : 8192 MB  1200 MHz',
        'DIMM_A2          : Not Installed',
        'DIMM_B1          : 16384 MB 1200 MHz',
        'Usable Memory 1  : 23.9 GB',
        'Fan 1            : 1200 RPM',
      ),
    ).toEqual([
      ['DIMM_A1', 8, 1200],
      ['DIMM_A2', 'empty', undefined],
      ['DIMM_B1', 16, 1200],
    ]);
  });

  test('a size no module has is left to whoever looks, never mended into one', () => {
    expect(read('DIMM_A1: 819 MB 1200 MHz', 'DIMM_A2: 7 GB', 'Slot 1: 24 GB 4800 MT/s')).toEqual([
      ['Slot 1', 24, 4800],
    ]);
  });

  test('no receipt, letter or label is a screen', () => {
    expect(
      screenOffPhoto(['TOTAL 16.00', '2 GB free', '8GB 1Rx8 PC4-2400T-UA1-11', 'Dear sirs, none']),
    ).toBe('');
  });

  const LOOKS: Readonly<Record<string, string>> = { '0': 'O', '1': 'l', '5': 'S', '8': 'B' };
  const slots = fc.uniqueArray(
    fc.tuple(fc.constantFrom('A', 'B', 'C', 'D'), fc.integer({ min: 1, max: 4 })),
    { minLength: 1, maxLength: 8, selector: ([channel, number]) => `${channel}${number}` },
  );
  const fill = fc.record({
    size: fc.constantFrom(undefined, 2, 4, 8, 16, 32, 64),
    rate: fc.constantFrom(800, 1066, 1200, 1333, 1600, 2400, 3200, 4800),
    inMb: fc.boolean(),
    mark: fc.constantFrom(':', ' ', ' = ', ' | '),
    /** Which of the digits came out as the letter they look like. */
    worn: fc.array(fc.boolean(), { minLength: 12, maxLength: 12 }),
  });

  test('digits taken for letters are put right wherever a unit follows', () => {
    fc.assert(
      fc.property(slots, fc.array(fill, { minLength: 8, maxLength: 8 }), (names, fills) => {
        const wear = (text: string, worn: readonly boolean[]) =>
          [...text].map((sign, at) => (worn[at] && LOOKS[sign]) || sign).join('');
        const rows = names.flatMap(([channel, number], at) => {
          const one = fills[at];
          return one ? [{ name: `DIMM_${channel}${number}`, ...one }] : [];
        });
        const lines = rows.map(({ name, size, rate, inMb, mark, worn }) => {
          if (size === undefined) return `${name}${mark} Empty`;
          const figure = wear(String(inMb ? size * 1024 : size), worn);
          const unit = inMb ? 'MB' : 'GB';
          return `${name}${mark} ${figure} ${unit}  ${wear(String(rate), worn.slice(5))} MHz`;
        });
        expect(read(...lines)).toEqual(
          rows.map(({ name, size, rate }) =>
            size === undefined ? [name, 'empty', undefined] : [name, size, rate],
          ),
        );
      }),
    );
  });

  test('any lines are taken; what comes out is understood whole', () => {
    fc.assert(
      fc.property(fc.array(fc.string({ unit: 'binary', maxLength: 300 })), (lines) => {
        const text = screenOffPhoto(lines);
        expect(readScreen(text).findings).toEqual([]);
      }),
    );
  });
});
