import { describe, expect, test } from 'vitest';
import { readCim, readSmbios } from '../../test/support/tables.ts';
import { dataRate, exactRate } from '../units/index.ts';
import {
  GENERATIONS,
  commonCl,
  cyclesForTime,
  generationNamed,
  generationTraits,
  isLowPower,
  isModuleCapacity,
  labelTimePs,
  railsOf,
  readLabel,
  snapDown,
  stepDown,
  tableTckPs,
  writeLabel,
} from './index.ts';
import type { MemoryModule } from './index.ts';
import { gib } from '../units/index.ts';

// What a generation fixes stands in one table; all that goes by it is asked here for every entry, so
// that a further one is held without a further test.

describe.each(GENERATIONS)('%s', (generation) => {
  const traits = generationTraits(generation);

  test('has rates in order, and steps down and snaps to nothing else', () => {
    const exact = traits.standardRates.map(exactRate);
    expect(exact).toEqual([...exact].sort((a, b) => a - b));
    expect(new Set(exact).size).toBe(exact.length);
    const [lowest] = traits.standardRates;
    if (!lowest) throw new Error('expected a rate');
    expect(stepDown(generation, lowest)).toBeUndefined();
    for (const [at, rate] of traits.standardRates.entries()) {
      expect(snapDown(generation, rate)).toBe(rate);
      if (at > 0) expect(stepDown(generation, rate)).toBe(traits.standardRates[at - 1]);
    }
    expect(snapDown(generation, dataRate(Math.max(100, lowest - 50)))).toBeUndefined();
  });

  test('rounds a label’s own cycles back to themselves, and never to less than the time asks', () => {
    for (const rate of traits.standardRates) {
      const cl = commonCl(generation, rate);
      const time = labelTimePs(generation, cl, rate);
      const cycles = cyclesForTime(generation, time, rate);
      expect(cycles).toBeGreaterThanOrEqual(cl);
      expect(cycles).toBeLessThanOrEqual(cl + 1);
      // What a rounding rule lets off is a fortieth of a clock, no more.
      for (const more of [cl * 0.5, cl * 1.5, cl + 0.3]) {
        const asked = Math.round(more * tableTckPs(generation, rate));
        const got = cyclesForTime(generation, asked, rate) * tableTckPs(generation, rate);
        expect(got).toBeGreaterThan(asked * 0.972);
      }
      if (traits.evenCl) expect(cl % 2).toBe(0);
    }
  });

  test('is known by its name, and feeds its own rails', () => {
    expect(generationNamed(generation.toLowerCase())).toBe(generation);
    expect(railsOf(generation, false)).toEqual([traits.nominalMv]);
    const low = railsOf(generation, true);
    expect(low.at(-1)).toBe(traits.nominalMv);
    expect(low.length).toBe(traits.lowVoltage ? 2 : 1);
    expect(isLowPower(generation)).toBe(generation.startsWith('LPDDR'));
  });

  test('has modules of its sizes and of no others', () => {
    for (const size of [1, 2, 4, 8, 16, ...traits.oddSizes])
      expect(isModuleCapacity(generation, size)).toBe(true);
    for (const size of [3, 7, 20, 1000]) expect(isModuleCapacity(generation, size)).toBe(false);
    for (const size of [12, 24])
      expect(isModuleCapacity(generation, size)).toBe(traits.oddSizes.includes(size));
  });

  test('says how long it trains, worry after what is usual', () => {
    expect(traits.training.worry).toBeGreaterThan(traits.training.usual);
    expect(traits.training.restarts).toBeGreaterThan(0);
    expect(traits.burst.every((one) => Number.isInteger(Math.log2(one)))).toBe(true);
  });

  test('goes through a label and back, where it has modules', () => {
    if (!traits.retailBase) return;
    const module: MemoryModule = {
      ...{ generation, formFactor: 'DIMM', buffering: 'unbuffered', ecc: false },
      ...{ capacity: gib(4), ranks: 2, chipWidth: 8, rate: traits.retailBase },
      timings: { cl: commonCl(generation, traits.retailBase) },
      voltagesMv: railsOf(generation, false),
    };
    const read = readLabel(writeLabel(module)).module;
    expect(read).toMatchObject({
      ...{ generation, capacity: 4, ranks: 2, chipWidth: 8, rate: traits.retailBase },
      timings: { cl: module.timings.cl },
    });
  });

  test('is told by every inventory number it has, and by no other’s', () => {
    for (const code of traits.smbiosTypes) expect(readSmbios(code)).toBe(generation);
    if (traits.cimType !== undefined) expect(readCim(traits.cimType)).toBe(generation);
  });
});

test.each([
  // JESD79-4 and -5, and Std 21-C: clock periods as the tables have them.
  ['DDR4', 2133, 938],
  ['DDR4', 2400, 833],
  ['DDR4', 2933, 682],
  ['DDR5', 4800, 416],
  ['DDR5', 5600, 357],
  ['DDR3', 1866, 1071],
  ['LPDDR5', 6400, 1250],
] as const)('the clock period of %s-%i is %i ps', (generation, rate, ps) => {
  expect(tableTckPs(generation, dataRate(rate))).toBe(ps);
});

test('a name that is none is nobody’s', () => {
  expect(generationNamed('DDR9')).toBeUndefined();
  expect(generationNamed('')).toBeUndefined();
});
