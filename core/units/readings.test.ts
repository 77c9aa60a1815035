import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
  RATE_RANGE,
  clockPeriodNs,
  compareRates,
  dataRate,
  exactRate,
  exhausted,
  gib,
  lowestRate,
  peakBandwidth,
  readRate,
  sumGib,
} from './index.ts';

const DDR4 = [1600, 1866, 2133, 2400, 2666, 2933, 3200].map(dataRate);
const anyRate = fc.constantFrom(...DDR4);

describe('a rate read off a screen', () => {
  test('at its rated rate, clock and data rate are both told, whatever the screen’s small error', () => {
    fc.assert(
      fc.property(
        anyRate,
        fc.boolean(),
        fc.double({ min: -0.015, max: 0.015, noNaN: true }),
        (rated, clock, error) => {
          const shown = (exactRate(rated) / (clock ? 2 : 1)) * (1 + error);
          expect(readRate(shown, rated, DDR4)).toEqual({
            rate: rated,
            readAs: clock ? 'clock' : 'data rate',
            ambiguous: false,
          });
        },
      ),
    );
  });

  test('a lower step is recognised as the clock of that step', () => {
    for (const rated of DDR4)
      for (const step of DDR4.filter((one) => compareRates(one, rated) < 0))
        expect(readRate(Math.round(exactRate(step) / 2), rated, DDR4)).toMatchObject({
          rate: step,
          readAs: 'clock',
        });
  });

  test('one that fits both ways is taken as the clock and marked', () => {
    const kit = dataRate(3600);
    expect(readRate(1600, kit, DDR4)).toEqual({ rate: 3200, readAs: 'clock', ambiguous: true });
    expect(readRate(1800, kit, DDR4)).toEqual({ rate: 3600, readAs: 'clock', ambiguous: false });
    expect(readRate(3600, kit, DDR4)).toEqual({
      rate: 3600,
      readAs: 'data rate',
      ambiguous: false,
    });
  });

  test('never more than what it means to be: a reading is taken at face value or doubled', () => {
    fc.assert(
      fc.property(fc.integer({ min: 400, max: 6000 }), anyRate, (reading, rated) => {
        const { rate, readAs } = readRate(reading, rated, DDR4);
        const face = readAs === 'clock' ? reading * 2 : reading;
        expect(Math.abs(exactRate(rate) - face) / face).toBeLessThan(0.021);
      }),
    );
  });
});

describe('units', () => {
  test('rates order by what they stand for', () => {
    expect(compareRates(dataRate(666), dataRate(667))).toBe(0);
    expect(lowestRate([2933, 2666, 3200].map(dataRate))).toBe(2666);
    expect(lowestRate([])).toBeUndefined();
  });

  test('a clock period and a bus follow from the rate', () => {
    fc.assert(
      fc.property(anyRate, fc.constantFrom(16, 32, 64, 128), (rate, bits) => {
        expect(clockPeriodNs(rate) * exactRate(rate)).toBeCloseTo(2000, 6);
        expect(peakBandwidth(rate, bits * 2)).toBeCloseTo(2 * peakBandwidth(rate, bits), 9);
      }),
    );
  });

  test.each([99, 20_001, NaN, Infinity, -1])('%f is no rate', (name) => {
    expect(() => dataRate(name)).toThrow(/expected a data rate/);
  });

  test.each([-1, NaN, Infinity])('%f is no capacity', (value) => {
    expect(() => gib(value)).toThrow(/expected a capacity/);
  });

  test('edges hold', () => {
    expect([dataRate(RATE_RANGE.min), dataRate(RATE_RANGE.max), gib(0)]).toEqual([100, 20_000, 0]);
    expect(sumGib([])).toBe(0);
    expect(() => exhausted('x' as never)).toThrow(/expected every case handled, received "x"/);
  });
});
