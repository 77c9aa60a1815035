import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
  amountText,
  catalogueFromRows,
  catalogueToRows,
  isCurrency,
  minorDigits,
  readAmount,
  sharesOf,
} from './index.ts';

/** Currencies without minor units, with two decimals and with three. */
const anyCurrency = fc.constantFrom('JPY', 'KRW', 'EUR', 'CHF', 'KWD', 'BHD');

test('an amount shared out is whole in every share, as even as it goes, and adds up', () => {
  fc.assert(
    fc.property(fc.nat(99_999_999), fc.integer({ min: 1, max: 16 }), (amount, pieces) => {
      const shares = sharesOf(amount, pieces);
      expect(shares).toHaveLength(pieces);
      expect(shares.every(Number.isInteger)).toBe(true);
      expect(shares.reduce((sum, share) => sum + share, 0)).toBe(amount);
      expect(Math.max(...shares) - Math.min(...shares)).toBeLessThanOrEqual(1);
    }),
  );
});

describe('amounts in a currency', () => {
  test('are read back as they are written, to the last minor unit, with a point or a comma', () => {
    fc.assert(
      fc.property(anyCurrency, fc.nat(99_999_999), (currency, amount) => {
        const text = amountText(amount, currency);
        expect(readAmount(text, currency)).toBe(amount);
        expect(readAmount(text.replace('.', ','), currency)).toBe(amount);
      }),
    );
  });

  test('are never read with more decimals than the currency has', () => {
    fc.assert(
      fc.property(
        anyCurrency,
        fc.nat(99_999),
        fc.stringMatching(/^\d{1,5}$/),
        (currency, whole, decimals) => {
          const read = readAmount(`${whole}.${decimals}`, currency);
          if (decimals.length > minorDigits(currency)) expect(read).toBeUndefined();
          else
            expect(read).toBe(
              Math.round(Number(`${whole}.${decimals}`) * 10 ** minorDigits(currency)),
            );
        },
      ),
    );
  });

  test.each([
    ['50.00', 'JPY', undefined],
    ['50', 'JPY', 50],
    ['50', 'EUR', 5000],
    ['0.5', 'KWD', 500],
    ['0.0005', 'KWD', undefined],
    // What the system does not know is written with two decimals, as most are.
    ['1.50', 'QQQ', 150],
  ])('“%s” in %s is %s minor units', (text, currency, amount) => {
    expect(readAmount(text, currency)).toBe(amount);
  });

  test('stand in tables as they are typed, and a price with decimals too many is named', () => {
    const label = '8GB 1Rx8 PC4-2666V-UA2-11 OR-8';
    const read = catalogueFromRows(
      [
        ['label', 'price'],
        [label, '4500'],
      ],
      'JPY',
    );
    expect(read.entries[0]?.price).toBe(4500);
    expect(catalogueToRows(read.entries, 'JPY')[1]).toContain('4500');
    const wrong = catalogueFromRows(
      [
        ['label', 'price'],
        [label, '45.00'],
      ],
      'JPY',
    );
    expect(wrong.faults).toMatchObject([{ type: 'number', column: 'price', text: '45.00' }]);
  });

  test.each([
    ['EUR', true],
    ['JPY', true],
    ['QQQ', false],
    ['eur', false],
    ['', false],
  ])('whether “%s” is a currency in use: %s', (code, is) => {
    expect(isCurrency(code)).toBe(is);
  });
});
