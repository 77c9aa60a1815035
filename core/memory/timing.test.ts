import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { dataRate, exactRate } from '../units/index.ts';
import {
  GENERATIONS,
  commonCl,
  cyclesAt,
  cyclesForTime,
  cyclesNs,
  generationTraits,
  isModuleCapacity,
  labelTimePs,
  snapDown,
  stepDown,
  tableTckPs,
} from './index.ts';

test.each([
  ['DDR2', 800, 2500],
  ['DDR3', 1066, 1875],
  ['DDR3', 1333, 1500],
  ['DDR3', 1866, 1071],
  ['DDR4', 1600, 1250],
  ['DDR4', 2133, 938],
  ['DDR4', 2400, 833],
  ['DDR4', 2666, 750],
  ['DDR4', 2933, 682],
  ['DDR4', 3200, 625],
  ['DDR5', 4800, 416],
  ['DDR5', 5200, 384],
  ['DDR5', 5600, 357],
  ['DDR5', 6400, 312],
  ['LPDDR5', 6400, 1250],
] as const)('%s at %i has a clock of %i ps', (generation, rate, picoseconds) => {
  expect(tableTckPs(generation, dataRate(rate))).toBe(picoseconds);
});

describe('cycles for a time', () => {
  test.each([
    // 13.75 ns, the usual tAA of DDR4: exactly 22 clocks at 3200, and 11 at 1600.
    ['DDR4', 13_750, 3200, 22],
    ['DDR4', 13_750, 2666, 19],
    ['DDR4', 13_750, 2400, 17],
    ['DDR4', 13_750, 1600, 11],
    // A little short of the next clock still counts as that many, by the 974 of the rule.
    ['DDR4', 14_060, 2133, 15],
    ['DDR3', 13_125, 1600, 11],
    ['DDR3', 13_125, 1333, 9],
    ['DDR3', 13_126, 1333, 9],
    ['DDR3', 13_501, 1333, 10],
    ['DDR5', 16_000, 4800, 39],
    ['DDR5', 16_666, 4800, 40],
    ['DDR5', 16_000, 5600, 45],
    ['DDR2', 15_000, 800, 6],
  ] as const)('%s, %i ps at %i takes %i', (generation, time, rate, cycles) => {
    expect(cyclesForTime(generation, time, dataRate(rate))).toBe(cycles);
  });

  test('more time never takes fewer clocks, and the clocks cover the time but for the allowance', () => {
    fc.assert(
      fc.property(
        fc.constantFrom('DDR2' as const, 'DDR3' as const, 'DDR4' as const, 'DDR5' as const),
        fc.integer({ min: 5000, max: 25_000 }),
        fc.integer({ min: 0, max: 500 }),
        (generation, time, more) => {
          for (const rate of generationTraits(generation).standardRates) {
            const cycles = cyclesForTime(generation, time, rate);
            expect(cyclesForTime(generation, time + more, rate)).toBeGreaterThanOrEqual(cycles);
            const tck = tableTckPs(generation, rate);
            // DDR4 lets 2.6 % of a clock go, DDR5 0.3 % of the time, the others nothing.
            const allowance =
              generation === 'DDR4' ? 0.026 * tck : generation === 'DDR5' ? 0.003 * time : 0;
            expect(cycles * tck + allowance).toBeGreaterThanOrEqual(time);
          }
        },
      ),
    );
  });

  test('at its own rate a module keeps its label, whatever its SPD times would round to', () => {
    const source = { rate: dataRate(2400), timings: { cl: 17, trcd: 18 }, timesPs: { cl: 12_500 } };
    expect(cyclesAt(source, 'cl', 'DDR4', dataRate(2400))).toBe(17);
    expect(cyclesAt(source, 'trcd', 'DDR4', dataRate(2400))).toBe(18);
    expect(cyclesAt(source, 'tras', 'DDR4', dataRate(2400))).toBeUndefined();
    // 12.5 ns are 13.3 clocks at 2133; the label's 14.17 ns would be 16.
    expect(cyclesAt(source, 'cl', 'DDR4', dataRate(2133))).toBe(14);
  });

  test('a label’s time is cut to whole picoseconds, and survives the way back', () => {
    expect(labelTimePs('DDR4', 22, dataRate(3200))).toBe(13_750);
    expect(labelTimePs('DDR4', 19, dataRate(2666))).toBe(14_250);
    expect(labelTimePs('DDR5', 46, dataRate(5600))).toBe(16_428);
    for (const rate of generationTraits('DDR4').standardRates)
      for (let cl = 9; cl < 30; cl++)
        expect(cyclesForTime('DDR4', labelTimePs('DDR4', cl, rate), rate)).toBe(cl);
  });

  test('the same CL is four times the time on LPDDR5, whose command clock is slower', () => {
    expect(cyclesNs('LPDDR5', 17, dataRate(6400))).toBeCloseTo(21.25, 9);
    expect(cyclesNs('LPDDR4', 17, dataRate(6400))).toBeCloseTo(5.3125, 9);
  });
});

describe('rates and sizes of a generation', () => {
  test.each(GENERATIONS)(
    '%s lists its rates upwards, and steps down through all of them',
    (generation) => {
      const { standardRates } = generationTraits(generation);
      const steps = [];
      for (let rate = standardRates.at(-1); rate !== undefined; rate = stepDown(generation, rate))
        steps.push(rate);
      expect(steps.reverse()).toEqual([...standardRates]);
      for (const rate of standardRates) {
        expect(snapDown(generation, rate)).toBe(rate);
        expect(snapDown(generation, dataRate(rate + 30))).toBe(rate);
      }
      expect(snapDown(generation, dataRate((standardRates[0] ?? 400) - 30))).toBeUndefined();
    },
  );

  test.each([
    ['DDR4', 2666, 19],
    ['DDR5', 5600, 46],
    ['DDR3', 1600, 11],
    // Not listed: 16⅔ ns, rounded up to the even CL that DDR5 bins use.
    ['DDR5', 7200, 60],
    ['DDR5', 8000, 68],
  ] as const)('the common CL of %s-%i is %i', (generation, rate, cl) => {
    expect(commonCl(generation, dataRate(rate))).toBe(cl);
  });

  test('modules come in powers of two, from DDR5 on in threes as well', () => {
    const sizes = (generation: 'DDR4' | 'DDR5') =>
      Array.from({ length: 128 }, (_, at) => at + 1).filter((size) =>
        isModuleCapacity(generation, size),
      );
    expect(sizes('DDR4')).toEqual([1, 2, 4, 8, 16, 32, 64, 128]);
    expect(sizes('DDR5')).toEqual([1, 2, 4, 8, 12, 16, 24, 32, 48, 64, 96, 128]);
    expect(isModuleCapacity('DDR2', 0.5)).toBe(true);
    expect([0, -8, 0.1, 1024, NaN, Infinity].some((size) => isModuleCapacity('DDR5', size))).toBe(
      false,
    );
  });

  test('every name within 1 MT/s of a third stands for it', () => {
    for (let thirds = 6; thirds < 140; thirds++) {
      const exact = (thirds * 200) / 3;
      for (const name of [Math.floor(exact), Math.ceil(exact), Math.round(exact)])
        expect(exactRate(dataRate(name))).toBeCloseTo(exact, 9);
    }
  });
});
