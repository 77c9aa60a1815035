import { exactRate } from '../units/index.ts';
import type { DataRate, Nanoseconds } from '../units/index.ts';
import { generationTraits } from './generation.ts';
import type { Generation } from './generation.ts';
import type { TimesPs, TimingCycles, TimingName } from './module.ts';

/** Transfers a command clock covers: 8 on LPDDR5 and 5X (JESD209-5), 2 on all others. */
export function transfersPerClock(generation: Generation): number {
  return generationTraits(generation).transfersPerClock;
}

/** Cycles of the command clock as ns: CL × 2000 / r, on LPDDR5 CL × 8000 / r. */
export function cyclesNs(generation: Generation, cycles: number, rate: DataRate): Nanoseconds {
  return ((cycles * transfersPerClock(generation) * 1000) / exactRate(rate)) as Nanoseconds;
}

/**
 * Clock period in whole ps as the standards round it.
 *
 * DDR2–DDR4 list tCK to the nearest ps (1071 for 1866, 938 for 2133, 682 for 2933); DDR5 truncates
 * (JESD79-5, "Rounding definitions and algorithms").
 */
export function tableTckPs(generation: Generation, rate: DataRate): number {
  const exact = (transfersPerClock(generation) * 1_000_000) / exactRate(rate);
  // 937.5 ps at 2133⅓ comes out a hair below in floating point and must still go up to 938.
  const isCut = generationTraits(generation).clockPeriod === 'truncated';
  return isCut ? Math.trunc(exact + 1e-6) : Math.round(exact + 1e-6);
}

/** A label's time in ps: its cycles × the exact clock period, truncated to whole ps. */
export function labelTimePs(generation: Generation, cycles: number, rate: DataRate): number {
  // A hair is added so that 22 × 625 ps, exact on paper, is not cut to 13749 by floating point.
  return Math.trunc(cyclesNs(generation, cycles, rate) * 1000 + 1e-6);
}

/**
 * Clocks needed to cover a time at a rate, by the generation's own rounding rule.
 *
 * - DDR2, DDR3, LPDDR: plain round-up.
 * - DDR4: trunc((t × 1000 / tCK + 974) / 1000): up to 2.6 % short still counts
 *   (JEDEC Std 21-C annex L, rounding algorithm).
 * - DDR5: trunc((t × 997 / tCK + 1000) / 1000): 0.3 % correction (JESD400-5, rounding algorithm).
 *
 * @param timePs - whole ps, positive
 */
export function cyclesForTime(generation: Generation, timePs: number, rate: DataRate): number {
  const tck = tableTckPs(generation, rate);
  switch (generationTraits(generation).rounding) {
    case 'up':
      return Math.ceil(timePs / tck);
    case '2.5 % short':
      return Math.trunc(((timePs * 1000) / tck + 974) / 1000);
    case '0.3 % longer':
      return Math.trunc(((timePs * 997) / tck + 1000) / 1000);
  }
}

/**
 * Clocks as the time an SPD lists: rounded up again at the same rate it must give the same clocks,
 * which 13 × 1071.4 ps at DDR3-1866 does not, the standard's period there being 1071 ps.
 */
export function listedTimePs(generation: Generation, cycles: number, rate: DataRate): number {
  const time = labelTimePs(generation, cycles, rate);
  return cyclesForTime(generation, time, rate) > cycles
    ? cycles * tableTckPs(generation, rate)
    : time;
}

/** A set of timings with the rate they hold at; SPD times outrank them. */
export interface TimingSource {
  readonly rate: DataRate;
  readonly timings: TimingCycles;
  readonly timesPs?: TimesPs | undefined;
}

/**
 * Clocks one module needs for one timing at a rate; `undefined` when the module does not state it.
 * At its own rate a module keeps its label's cycles.
 */
export function cyclesAt(
  source: TimingSource,
  name: TimingName,
  generation: Generation,
  rate: DataRate,
): number | undefined {
  const stated = source.timings[name];
  if (stated !== undefined && exactRate(source.rate) === exactRate(rate)) return stated;
  const time =
    source.timesPs?.[name] ??
    (stated === undefined ? undefined : labelTimePs(generation, stated, source.rate));
  return time === undefined ? undefined : cyclesForTime(generation, time, rate);
}
