import { exactRate } from '../units/index.ts';
import type { DataRate } from '../units/index.ts';
import { GENERATION_TABLE } from './generations.ts';
import type { GenerationTraits } from './generations.ts';

/** Memory generation. DDR3L is DDR3 that also runs at 1.35 V; see the module's voltages. */
export type Generation = keyof typeof GENERATION_TABLE;

/** Socketed generations, then those that are always soldered (or, for LPDDR5X, compression mounted). */
export const GENERATIONS = Object.keys(GENERATION_TABLE) as [Generation, ...Generation[]];

/** Rates, rails, sizes, rounding: all a generation fixes. */
export function generationTraits(generation: Generation): GenerationTraits {
  return GENERATION_TABLE[generation];
}

/** The generation of a name such as `ddr4`; `undefined` for one that is not read here. */
export function generationNamed(name: string): Generation | undefined {
  const upper = name.toUpperCase();
  return GENERATIONS.find((generation) => generation === upper);
}

/** Rails a module of a generation is made for, mV, lowest first: of the low-voltage variant both. */
export function railsOf(generation: Generation, isLowVoltage: boolean): number[] {
  const { nominalMv, lowVoltage } = generationTraits(generation);
  return isLowVoltage && lowVoltage ? [lowVoltage.mv, nominalMv] : [nominalMv];
}

/** Whether parts of this generation are the low-power kind, soldered beside the processor. */
export function isLowPower(generation: Generation): boolean {
  return generationTraits(generation).lowPower;
}

/**
 * Whether a capacity exists as a module: powers of two from 256 MB to 512 GB, and the odd sizes of
 * the generation (of any, where it is not known).
 */
export function isModuleCapacity(generation: Generation | undefined, gibibytes: number): boolean {
  if (gibibytes < 0.25 || gibibytes > 512) return false;
  if (Number.isInteger(Math.log2(gibibytes))) return true;
  const known = generation === undefined ? GENERATIONS : [generation];
  return known.some((one) => generationTraits(one).oddSizes.includes(gibibytes));
}

/** Odd parts of sizes that ranks of 2ⁿ and 3 × 2ⁿ GiB, at most four times unlike, add up to. */
const BUILDABLE = [1, 3, 5, 7, 9, 11, 15];

/**
 * Whether chips can add up to a capacity at all. Wider than {@link isModuleCapacity}: an SPD may
 * describe unlike ranks (8 + 4, 8 + 2) that no shop label names.
 */
export function isBuildableCapacity(gibibytes: number): boolean {
  if (!(gibibytes >= 0.125 && gibibytes <= 512)) return false;
  return BUILDABLE.some((odd) => Number.isInteger(Math.log2(gibibytes / odd)));
}

/** The highest standard rate not above `limit` (by exact value), or `undefined` below them all. */
export function snapDown(generation: Generation, limit: DataRate): DataRate | undefined {
  const exact = exactRate(limit);
  return generationTraits(generation).standardRates.findLast((rate) => exactRate(rate) <= exact);
}

/** The standard rate nearest to a figure in MT/s, as bandwidth names need it (10600 / 8 → 1333). */
export function snapNearest(generation: Generation, figure: number): DataRate {
  return generationTraits(generation).standardRates.reduce((best, rate) =>
    Math.abs(exactRate(rate) - figure) < Math.abs(exactRate(best) - figure) ? rate : best,
  );
}

/** The standard rate next below `rate`, or `undefined` for the lowest. */
export function stepDown(generation: Generation, rate: DataRate): DataRate | undefined {
  const exact = exactRate(rate);
  return generationTraits(generation).standardRates.findLast((step) => exactRate(step) < exact);
}
