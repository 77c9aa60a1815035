import { dataRate, exactRate } from '../units/index.ts';
import type { DataRate } from '../units/index.ts';

/** Socketed generations, then those that are always soldered (or, for LPDDR5X, compression mounted). */
export const GENERATIONS = [
  'DDR2',
  'DDR3',
  'DDR4',
  'DDR5',
  'LPDDR3',
  'LPDDR4',
  'LPDDR4X',
  'LPDDR5',
  'LPDDR5X',
] as const;

/** Memory generation. DDR3L is DDR3 that also runs at 1.35 V; see the module's voltages. */
export type Generation = (typeof GENERATIONS)[number];

/** What a generation fixes for every module of it. */
export interface GenerationTraits {
  /** Rates a controller can be set to, ascending, by name. */
  readonly standardRates: readonly DataRate[];
  /** The rail the generation was specified at, mV. */
  readonly nominalMv: number;
  /** Pins by form factor, where modules exist. */
  readonly pins: { readonly DIMM?: number; readonly SODIMM?: number };
  /** CAS latency in clocks of the common speed bin at a rate; used only when nothing states it. */
  readonly binCl: Readonly<Record<number, number>>;
}

const rates = (...names: number[]): DataRate[] => names.map(dataRate);
const steps = (from: number, to: number, by: number): DataRate[] =>
  Array.from({ length: (to - from) / by + 1 }, (_, i) => dataRate(from + i * by));

const LPDDR4_RATES = rates(1600, 2133, 2400, 2666, 3200, 3733, 4267);
const LPDDR5_RATES = rates(3200, 4267, 5500, 6000, 6400, 7500, 8533, 9600);

/**
 * JESD79-2 to -5 (DDR2–DDR5), JESD209-3 to -5 (LPDDR): rails, rates and common bins.
 * Bins: DDR4 1866M … 3200AA and DDR5 …B have CL as listed.
 */
const TRAITS: Readonly<Record<Generation, GenerationTraits>> = {
  DDR2: {
    standardRates: rates(400, 533, 667, 800, 1066),
    nominalMv: 1800,
    pins: { DIMM: 240, SODIMM: 200 },
    binCl: { 400: 3, 533: 4, 667: 5, 800: 6, 1066: 7 },
  },
  DDR3: {
    standardRates: rates(800, 1066, 1333, 1600, 1866, 2133),
    nominalMv: 1500,
    pins: { DIMM: 240, SODIMM: 204 },
    binCl: { 800: 6, 1066: 7, 1333: 9, 1600: 11, 1866: 13, 2133: 14 },
  },
  DDR4: {
    standardRates: rates(1600, 1866, 2133, 2400, 2666, 2933, 3200),
    nominalMv: 1200,
    pins: { DIMM: 288, SODIMM: 260 },
    binCl: { 1600: 11, 1866: 13, 2133: 15, 2400: 17, 2666: 19, 2933: 21, 3200: 22 },
  },
  DDR5: {
    standardRates: steps(3200, 8800, 400),
    nominalMv: 1100,
    pins: { DIMM: 288, SODIMM: 262 },
    binCl: { 4000: 36, 4400: 36, 4800: 40, 5200: 42, 5600: 46, 6000: 48, 6400: 52 },
  },
  LPDDR3: { standardRates: rates(1333, 1600, 1866, 2133), nominalMv: 1200, pins: {}, binCl: {} },
  LPDDR4: { standardRates: LPDDR4_RATES, nominalMv: 1100, pins: {}, binCl: {} },
  LPDDR4X: { standardRates: LPDDR4_RATES, nominalMv: 1100, pins: {}, binCl: {} },
  LPDDR5: { standardRates: LPDDR5_RATES, nominalMv: 1050, pins: {}, binCl: {} },
  LPDDR5X: { standardRates: LPDDR5_RATES, nominalMv: 1050, pins: {}, binCl: {} },
};

/** Rates, rail and pins of a generation. */
export function generationTraits(generation: Generation): GenerationTraits {
  return TRAITS[generation];
}

/** Whether parts of this generation are the low-power kind, soldered beside the processor. */
export function isLowPower(generation: Generation): boolean {
  return generation.startsWith('LPDDR');
}

/** Whether a capacity exists as a module: powers of two, and from DDR5 on 12, 24, 48 and 96 GB. */
export function isModuleCapacity(generation: Generation, gibibytes: number): boolean {
  if (gibibytes < 0.25 || gibibytes > 512) return false;
  if (Number.isInteger(Math.log2(gibibytes))) return true;
  const allowsThrees = generation === 'DDR5' || isLowPower(generation);
  return allowsThrees && [12, 24, 48, 96].includes(gibibytes);
}

/**
 * Whether chips can add up to a capacity at all: 2ⁿ or 3 × 2ⁿ GiB. Wider than
 * {@link isModuleCapacity}: an SPD may describe unlike ranks (8 + 4) that no shop label names.
 */
export function isBuildableCapacity(gibibytes: number): boolean {
  if (!(gibibytes >= 0.125 && gibibytes <= 512)) return false;
  return Number.isInteger(Math.log2(gibibytes)) || Number.isInteger(Math.log2(gibibytes / 3));
}

/** The highest standard rate not above `limit` (by exact value), or `undefined` below them all. */
export function snapDown(generation: Generation, limit: DataRate): DataRate | undefined {
  const exact = exactRate(limit);
  return TRAITS[generation].standardRates.findLast((rate) => exactRate(rate) <= exact);
}

/** The standard rate nearest to a figure in MT/s, as bandwidth names need it (10600 / 8 → 1333). */
export function snapNearest(generation: Generation, figure: number): DataRate {
  return TRAITS[generation].standardRates.reduce((best, rate) =>
    Math.abs(exactRate(rate) - figure) < Math.abs(exactRate(best) - figure) ? rate : best,
  );
}

/** The standard rate next below `rate`, or `undefined` for the lowest. */
export function stepDown(generation: Generation, rate: DataRate): DataRate | undefined {
  const exact = exactRate(rate);
  return TRAITS[generation].standardRates.findLast((step) => exactRate(step) < exact);
}
