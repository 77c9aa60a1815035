import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { serialAmong } from '../index.ts';

describe('the serial number among the codes of a module', () => {
  test.each([
    ['the one code that is no part of ours', ['TV-8U24', '0921AB77F300'], '0921AB77F300'],
    ['a part of ours in small letters too', ['tv-8u24', '0921AB77F300'], '0921AB77F300'],
    ['the longer of two', ['QL16S26', '0921AB77F300'], '0921AB77F300'],
    ['the same code read twice', ['0921AB77F300', '0921AB77F300 '], '0921AB77F300'],
    ['no part alone', ['TV-8U24'], undefined],
    ['no tag of a bench', ['http://127.0.0.1:4700/drawer/abcdefgh1234'], undefined],
    ['no size', ['16GB'], undefined],
    ['no words', ['WARRANTY'], undefined],
    ['nothing where two are as long', ['0921AB77F300', '0921AB77F301'], undefined],
    ['nothing of nothing', [], undefined],
  ])('is %s', (_name, codes, serial) => {
    expect(serialAmong(codes, ['TV-8U24'])).toBe(serial);
  });

  test('is a code as it was read, whatever the order, or none', () => {
    fc.assert(
      fc.property(fc.array(fc.string({ maxLength: 50 }), { maxLength: 6 }), (codes) => {
        const serial = serialAmong(codes, []);
        expect(serialAmong([...codes].reverse(), [])).toBe(serial);
        if (serial !== undefined) expect(codes.map((code) => code.trim())).toContain(serial);
      }),
    );
  });
});
