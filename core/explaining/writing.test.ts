import fc from 'fast-check';
import { afterEach, describe, expect, test } from 'vitest';
import { readAmount } from '../quoting/index.ts';
import {
  DATE_STYLES,
  DEFAULT_WRITING,
  NUMBER_STYLES,
  decimals,
  wholeNumber,
  writeAs,
  writing,
} from '../units/index.ts';
import type { DateStyle, NumberStyle } from '../units/index.ts';
import { amountField, amountHint, money } from './money.ts';
import { clockText, longDay, momentText, monthText, nearDay, shortDay } from './dates.ts';
import { figure, gb, volts } from './words.ts';

afterEach(() => writeAs(DEFAULT_WRITING));
const numbers = (style: NumberStyle) => writeAs({ ...DEFAULT_WRITING, numbers: style });
const dates = (style: DateStyle) => writeAs({ ...DEFAULT_WRITING, dates: style });
const anyNumbers = fc.constantFrom(...NUMBER_STYLES);
const anyCurrency = fc.constantFrom('JPY', 'EUR', 'CHF', 'KWD');

describe('numbers as the shop writes them', () => {
  test.each([
    ['point', '€1,234,567.50', '0.25', '12,800'],
    ['comma', '€1.234.567,50', '0,25', '12.800'],
    ['comma and spaces', '€1\u00A0234\u00A0567,50', '0,25', '12\u00A0800'],
    ['point and marks', '€1’234’567.50', '0.25', '12’800'],
  ] as const)('%s', (style, amount, quarter, many) => {
    numbers(style);
    expect(money(123_456_750, 'EUR')).toBe(amount);
    expect(decimals(0.25)).toBe(quarter);
    expect(figure(0.2504)).toBe(quarter);
    expect(wholeNumber(12_800)).toBe(many);
    expect([wholeNumber(0), wholeNumber(999), wholeNumber(-1000).length]).toEqual(['0', '999', 6]);
  });

  test('figures of the trade keep their thousands together, as labels and screens have them', () => {
    numbers('comma');
    expect([figure(12_800, 5), gb(0.5), gb(7.75), volts([1350])]).toEqual([
      ...['12800', '512 MB', '7,75 GB', '1,35 V'],
    ]);
  });

  test('what a field is filled with is read back to the last minor unit, however it is written', () => {
    fc.assert(
      fc.property(anyNumbers, anyCurrency, fc.nat(99_999_999), (style, currency, amount) => {
        numbers(style);
        expect(readAmount(amountField(amount, currency), currency)).toBe(amount);
      }),
    );
    numbers('comma');
    expect(amountHint('EUR')).toBe('An amount such as 21,90.');
  });

  test('money says the same digits in the same order in every style', () => {
    const digits = (text: string) => text.replaceAll(/\D/g, '');
    fc.assert(
      fc.property(anyNumbers, anyCurrency, fc.integer({ min: -1e9, max: 1e9 }), (to, code, sum) => {
        numbers('point');
        const plain = digits(money(sum, code));
        numbers(to);
        expect(digits(money(sum, code))).toBe(plain);
      }),
    );
  });
});

describe('days as the shop writes them', () => {
  const moment = new Date(2026, 10, 5, 14, 5).toISOString();
  test.each([
    ['day first', '5 November 2026', '5 Nov 2026', '5 Nov', '5 Nov 2026, 14:05', '14:05'],
    ['month first', 'November 5, 2026', 'Nov 5, 2026', 'Nov 5', 'Nov 5, 2026, 2:05 PM', '02:05 PM'],
    ['year first', '2026-11-05', '2026-11-05', '5 Nov', '2026-11-05 14:05', '14:05'],
  ] as const)('%s', (style, long, short, near, full, clock) => {
    dates(style);
    const day = '2026-11-05';
    expect([longDay(day), shortDay(day), nearDay(day)]).toEqual([long, short, near]);
    expect([momentText(moment), clockText(moment)]).toEqual([full, clock]);
    expect(monthText(day)).toBe('November 2026');
  });

  test('a style taken up later counts from then on, and back', () => {
    for (const style of [...DATE_STYLES, ...DATE_STYLES]) {
      dates(style);
      expect(writing().dates).toBe(style);
      expect(shortDay('2026-11-05').startsWith('2026')).toBe(style === 'year first');
    }
  });
});
