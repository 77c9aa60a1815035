import { dataRate } from '../units/index.ts';
import type { DataRate } from '../units/index.ts';

/** CL-tRCD-tRP of a speed bin, clocks. */
export type BinTimings = readonly [cl: number, trcd: number, trp: number];

/**
 * How times become clocks.
 *
 * - `up`: plain round-up.
 * - `2.5 % short`: trunc((t × 1000 / tCK + 974) / 1000) (JEDEC Std 21-C annex L, rounding algorithm).
 * - `0.3 % longer`: trunc((t × 997 / tCK + 1000) / 1000) (JESD400-5, rounding algorithm).
 */
export type Rounding = 'up' | '2.5 % short' | '0.3 % longer';

/**
 * What the part of a JEDEC label behind `PCn-` says.
 *
 * - `bandwidth`: MB/s, a type letter and timings: CL alone, or three digits.
 * - `rate`: MT/s with the letters of a speed bin; the type letter leads the raw-card field, of which
 *   `suffix` is the rest.
 */
export type LabelStyle =
  | { readonly figure: 'bandwidth'; readonly timings: 'CL' | 'three digits' }
  | { readonly figure: 'rate'; readonly suffix: string };

/** All that a generation fixes for every module of it: a further one is a further entry here. */
export interface GenerationTraits {
  /** Always soldered or compression mounted, beside the processor; runs at whatever it was built for. */
  readonly lowPower: boolean;
  /** Rates a controller can be set to, ascending, by name. */
  readonly standardRates: readonly DataRate[];
  /** Rates beyond the standard ones are multiples of this, MT/s. */
  readonly rateStep: number;
  /** The rail the generation was specified at, mV. */
  readonly nominalMv: number;
  /** The variant for a lower rail, which also runs at the nominal one. */
  readonly lowVoltage?: { readonly name: string; readonly mv: number };
  /** Pins by form factor, where modules exist. */
  readonly pins: { readonly DIMM?: number; readonly SODIMM?: number };
  /** Contacts before the notch over contacts on a side, seen from the front. */
  readonly notchAt: { readonly DIMM?: number; readonly SODIMM?: number };
  /** Module sizes beside the powers of two, GiB. */
  readonly oddSizes: readonly number[];
  /** Transfers of one read or write. */
  readonly burst: readonly number[];
  /** Transfers a command clock covers. */
  readonly transfersPerClock: number;
  /** How the standard's tables round the clock period to whole ps. */
  readonly clockPeriod: 'nearest' | 'truncated';
  readonly rounding: Rounding;
  /** Standard CAS latencies are even. */
  readonly evenCl: boolean;
  /** x16 chips have half the bank groups of narrower ones. */
  readonly halvedBankGroups: boolean;
  /** CAS latency in clocks of the common speed bin at a rate; used only when nothing states it. */
  readonly binCl: Readonly<Record<number, number>>;
  /** Bins by rate and letters (`4800B`), or by letters alone where they mean the same at every rate. */
  readonly bins: Readonly<Record<string, BinTimings>>;
  readonly label?: LabelStyle;
  /** Where a retail kit starts with its profile off, MT/s. */
  readonly retailBase?: DataRate;
  /** Minutes the first start after a change may take: usual, and when to worry. */
  readonly training: {
    readonly usual: number;
    readonly worry: number;
    readonly restarts: number;
    /** It is the generation that makes it long. */
    readonly isLong: boolean;
  };
  /** DSP0134, 7.18.2: memory device types. */
  readonly smbiosTypes: readonly number[];
  /** CIM_PhysicalMemory, MemoryType. */
  readonly cimType?: number;
}

const rates = (...names: number[]): DataRate[] => names.map(dataRate);
const steps = (from: number, to: number, by: number): DataRate[] =>
  Array.from({ length: (to - from) / by + 1 }, (_, i) => dataRate(from + i * by));
const equal = (letters: Readonly<Record<string, number>>): Record<string, BinTimings> =>
  Object.fromEntries(Object.entries(letters).map(([name, cl]) => [name, [cl, cl, cl]]));

const THIRD = 200 / 3;
const SHORT = { usual: 0.5, worry: 2, restarts: 1, isLong: false };
const MIDDLE = { usual: 1, worry: 4, restarts: 2, isLong: false };
const LONG = { usual: 4, worry: 10, restarts: 3, isLong: true };

/** What most generations have in common. */
const PLAIN = {
  lowPower: false,
  rateStep: THIRD,
  notchAt: {},
  oddSizes: [],
  transfersPerClock: 2,
  clockPeriod: 'nearest',
  rounding: 'up',
  evenCl: false,
  halvedBankGroups: false,
  binCl: {},
  bins: {},
} as const satisfies Partial<GenerationTraits>;

const LOW_POWER = {
  ...PLAIN,
  lowPower: true,
  pins: {},
  oddSizes: [12, 24, 48, 96],
} as const satisfies Partial<GenerationTraits>;

const LPDDR4 = {
  ...LOW_POWER,
  standardRates: rates(1600, 2133, 2400, 2666, 3200, 3733, 4267),
  nominalMv: 1100,
  burst: [16, 32],
  training: MIDDLE,
} as const satisfies Partial<GenerationTraits>;

/** The command clock is an eighth of the data rate (JESD209-5). */
const LPDDR5 = {
  ...LOW_POWER,
  standardRates: rates(3200, 4267, 5500, 6000, 6400, 7500, 8533, 9600),
  nominalMv: 1050,
  burst: [16, 32],
  transfersPerClock: 8,
  training: LONG,
} as const satisfies Partial<GenerationTraits>;

/**
 * JESD79-2 to -5 (DDR2–DDR5), JESD209-3 to -5 (LPDDR): rails, rates, bursts and common bins; notches
 * from the module standards. Training times are judgements of practice: older firmware trains in
 * seconds; where training is long, every rank is trained at every start after a change.
 */
export const GENERATION_TABLE = {
  DDR2: {
    ...PLAIN,
    standardRates: rates(400, 533, 667, 800, 1066),
    nominalMv: 1800,
    pins: { DIMM: 240, SODIMM: 200 },
    notchAt: { DIMM: 0.53 },
    burst: [4, 8],
    binCl: { 400: 3, 533: 4, 667: 5, 800: 6, 1066: 7 },
    label: { figure: 'bandwidth', timings: 'three digits' },
    retailBase: dataRate(800),
    training: SHORT,
    smbiosTypes: [0x13, 0x14],
    cimType: 21,
  },
  DDR3: {
    ...PLAIN,
    standardRates: rates(800, 1066, 1333, 1600, 1866, 2133),
    nominalMv: 1500,
    lowVoltage: { name: 'DDR3L', mv: 1350 },
    pins: { DIMM: 240, SODIMM: 204 },
    notchAt: { DIMM: 0.4, SODIMM: 0.35 },
    burst: [8],
    binCl: { 800: 6, 1066: 7, 1333: 9, 1600: 11, 1866: 13, 2133: 14 },
    label: { figure: 'bandwidth', timings: 'CL' },
    retailBase: dataRate(1333),
    training: SHORT,
    smbiosTypes: [0x18],
    cimType: 24,
  },
  DDR4: {
    ...PLAIN,
    standardRates: rates(1600, 1866, 2133, 2400, 2666, 2933, 3200),
    nominalMv: 1200,
    pins: { DIMM: 288, SODIMM: 260 },
    notchAt: { DIMM: 0.535, SODIMM: 0.555 },
    burst: [8],
    rounding: '2.5 % short',
    halvedBankGroups: true,
    binCl: { 1600: 11, 1866: 13, 2133: 15, 2400: 17, 2666: 19, 2933: 21, 3200: 22 },
    // JESD79-4, bin tables: CL, tRCD and tRP are equal.
    bins: equal({
      ...{ J: 10, K: 11, L: 12, M: 13, N: 14, P: 15, R: 16 },
      ...{ T: 17, U: 18, V: 19, W: 20, Y: 21, AA: 22, AC: 24 },
    }),
    label: { figure: 'rate', suffix: 'E1-11' },
    retailBase: dataRate(2133),
    training: MIDDLE,
    smbiosTypes: [0x1a],
    cimType: 26,
  },
  DDR5: {
    ...PLAIN,
    standardRates: steps(3200, 8800, 400),
    rateStep: 200,
    nominalMv: 1100,
    pins: { DIMM: 288, SODIMM: 262 },
    notchAt: { DIMM: 0.49 },
    oddSizes: [12, 24, 48, 96],
    burst: [16],
    clockPeriod: 'truncated',
    rounding: '0.3 % longer',
    evenCl: true,
    halvedBankGroups: true,
    binCl: { 4000: 36, 4400: 36, 4800: 40, 5200: 42, 5600: 46, 6000: 48, 6400: 52 },
    // JESD79-5, bin tables.
    bins: {
      '4800B': [40, 39, 39],
      '5200B': [42, 42, 42],
      '5600B': [46, 45, 45],
      '6400B': [52, 52, 52],
    },
    label: { figure: 'rate', suffix: 'A0-1010' },
    retailBase: dataRate(4800),
    training: LONG,
    smbiosTypes: [0x22],
  },
  LPDDR3: {
    ...LOW_POWER,
    standardRates: rates(1333, 1600, 1866, 2133),
    nominalMv: 1200,
    burst: [8],
    training: SHORT,
    smbiosTypes: [0x1d],
  },
  LPDDR4: { ...LPDDR4, smbiosTypes: [0x1e] },
  // 4X and 5X have no device types of their own.
  LPDDR4X: { ...LPDDR4, smbiosTypes: [] },
  LPDDR5: { ...LPDDR5, smbiosTypes: [0x23] },
  LPDDR5X: { ...LPDDR5, smbiosTypes: [] },
} as const satisfies Readonly<Record<string, GenerationTraits>>;
