import type { CommandTime } from '../memory/index.ts';
import type { ModelledGeneration } from './types.ts';

/**
 * How many cycles a time takes, never fewer than a floor: the time the modules state under a name,
 * else the usual one.
 */
export type CyclesOf = (name: CommandTime | 'ras', usualNs: number, floor?: number) => number;

/** What a channel is made of, and what its standard demands; one entry a generation. */
export interface GenerationModel {
  /** Independent halves a channel is split into. */
  readonly subchannels: number;
  /** Cycles of the data bus a line of 64 bytes takes, and of the command bus ACT, RD and WR take. */
  readonly burst: number;
  readonly commandSlots: number;
  /** Idle cycles of the data bus between ranks: a choice, no standard. */
  readonly rankGap: number;
  /** Lines of 64 bytes in a row. */
  readonly columns: number;
  /** Bank-group bits an address map puts below the columns. */
  readonly lowGroupBits: number;
  /** Bank groups, and banks of each, by whether chips are 16 bits wide and by their Gbit. */
  readonly groups: (isWide: boolean) => number;
  readonly perGroup: (density: number) => number;
  /** The least whole cycles that count as a time, ps and the clock in ps. */
  readonly cycles: (ps: number, clock: number) => number;
  readonly refi: number;
  readonly wr: number;
  /** Refresh by Gbit of a chip, ns: the first row not smaller. */
  readonly rfc: readonly (readonly [number, number])[];
  /** The rest, at a rate. `n` counts cycles of a time; `wide` is 1 for 16-bit chips, else 0. */
  readonly secondary: (n: CyclesOf, part: { rate: number; cl: number; wide: 0 | 1 }) => Secondary;
}

/** Cycles that follow from rate and chip. */
export interface Secondary {
  /** CAS latency of writes. */
  readonly cwl: number;
  readonly ras: number;
  /** Between rows opened in other bank groups, and in the same one. */
  readonly rrdShort: number;
  readonly rrdLong: number;
  /** In which four rows may be opened. */
  readonly faw: number;
  readonly ccdShort: number;
  readonly ccdLong: number;
  /** Write to write in the same bank group. */
  readonly ccdLongWrite: number;
  readonly wtrShort: number;
  readonly wtrLong: number;
  readonly rtp: number;
}

/** Times of a speed bin, ns; of 8-bit chips and of 16-bit chips, whose rows are twice as long. */
interface Bin {
  readonly rate: number;
  readonly rrdShort: readonly [number, number];
  readonly rrdLong: readonly [number, number];
  readonly faw: readonly [number, number];
  readonly ccdLong: number;
  readonly cwl: number;
  readonly ras: number;
}

const bin = (
  rate: number,
  rrdShort: Bin['rrdShort'],
  rrdLong: Bin['rrdLong'],
  faw: Bin['faw'],
  ccdLong: number,
  cwl: number,
  ras: number,
): Bin => ({ rate, rrdShort, rrdLong, faw, ccdLong, cwl, ras });

const DDR4_BINS: readonly Bin[] = [
  bin(1600, [5, 6], [6, 7.5], [25, 35], 6.25, 9, 35),
  bin(1866, [4.2, 5.3], [5.3, 6.4], [23, 30], 5.355, 10, 34),
  bin(2133, [3.7, 5.3], [5.3, 6.4], [21, 30], 5.355, 11, 33),
  bin(2400, [3.3, 5.3], [4.9, 6.4], [21, 30], 5, 12, 32),
  bin(2666, [3, 5.3], [4.9, 6.4], [21, 30], 5, 14, 32),
  bin(2933, [2.7, 5.3], [4.9, 6.4], [21, 30], 5, 16, 32),
  bin(3200, [2.5, 5.3], [4.9, 6.4], [21, 30], 5, 16, 32),
];
/** Without bank groups short and long are one. */
const DDR3_BINS: readonly Bin[] = [
  bin(800, [10, 10], [10, 10], [40, 50], 0, 5, 37.5),
  bin(1066, [7.5, 10], [7.5, 10], [37.5, 50], 0, 6, 37.5),
  bin(1333, [6, 7.5], [6, 7.5], [30, 45], 0, 7, 36),
  bin(1600, [6, 7.5], [6, 7.5], [30, 40], 0, 8, 35),
  bin(1866, [5, 6], [5, 6], [27, 35], 0, 9, 34),
  bin(2133, [5, 6], [5, 6], [25, 35], 0, 10, 33),
];

/** The bin a rate belongs to: the first not slower, or the fastest for what lies beyond. */
function binOf(bins: readonly Bin[], rate: number): Bin {
  const found = bins.find((one) => one.rate >= rate) ?? bins.at(-1);
  if (!found) throw new Error('expected a speed bin');
  return found;
}

/** JESD79-3 and -4 let a time fall short of whole cycles by 0.026 of one. */
const roundedByCycle = (ps: number, clock: number) => Math.floor(ps / clock + 0.974);
/** JESD79-5 by 0.3 % of the time. */
const roundedByTime = (ps: number, clock: number) => Math.floor((0.997 * ps) / clock + 1);

/** The generations there is a model of, each by its standard. */
export const MODELS: Readonly<Record<ModelledGeneration, GenerationModel>> = {
  // JESD79-3
  DDR3: {
    ...{ subchannels: 1, burst: 4, commandSlots: 1, rankGap: 2, columns: 128, lowGroupBits: 0 },
    ...{ groups: () => 1, perGroup: () => 8, cycles: roundedByCycle, refi: 7800, wr: 15 },
    rfc: [
      [1, 110],
      [2, 160],
      [4, 260],
      [8, 350],
    ],
    secondary: (n, { rate, wide }) => {
      const own = binOf(DDR3_BINS, rate);
      const rrd = n('rrdShort', own.rrdShort[wide], 4);
      const wtr = n('wtrShort', 7.5, 4);
      return {
        ...{ cwl: own.cwl, ras: n('ras', own.ras), rrdShort: rrd, rrdLong: rrd },
        ...{ faw: n('faw', own.faw[wide], 20), ccdShort: 4, ccdLong: 4, ccdLongWrite: 4 },
        ...{ wtrShort: wtr, wtrLong: wtr, rtp: n('rtp', 7.5, 4) },
      };
    },
  },
  // JESD79-4
  DDR4: {
    ...{ subchannels: 1, burst: 4, commandSlots: 1, rankGap: 2, columns: 128, lowGroupBits: 1 },
    ...{ groups: (isWide) => (isWide ? 2 : 4), perGroup: () => 4 },
    ...{ cycles: roundedByCycle, refi: 7800, wr: 15 },
    rfc: [
      [4, 260],
      [8, 350],
      [16, 550],
    ],
    secondary: (n, { rate, wide }) => {
      const own = binOf(DDR4_BINS, rate);
      const ccdLong = n('ccdLong', own.ccdLong, 5);
      return {
        ...{ cwl: own.cwl, ras: n('ras', own.ras), ccdShort: 4, ccdLong, ccdLongWrite: ccdLong },
        rrdShort: n('rrdShort', own.rrdShort[wide], 4),
        rrdLong: n('rrdLong', own.rrdLong[wide], 4),
        faw: n('faw', own.faw[wide], wide ? 28 : 20),
        wtrShort: n('wtrShort', 2.5, 2),
        wtrLong: n('wtrLong', 7.5, 4),
        rtp: n('rtp', 7.5, 4),
      };
    },
  },
  // JESD79-5: each channel is two of half the width; the smallest chips have half the banks.
  DDR5: {
    ...{ subchannels: 2, burst: 8, commandSlots: 2, rankGap: 4, columns: 64, lowGroupBits: 2 },
    groups: (isWide) => (isWide ? 4 : 8),
    perGroup: (density) => (density <= 8 ? 2 : 4),
    ...{ cycles: roundedByTime, refi: 3900, wr: 30 },
    rfc: [
      [8, 195],
      [16, 295],
      [32, 410],
    ],
    secondary: (n, { cl, wide }) => ({
      ...{ cwl: cl - 2, ras: n('ras', 32), ccdShort: 8, rrdShort: 8 },
      // Four rows in 32 or 40 cycles, whatever they last: a time counts only where one is stated.
      ...{ rrdLong: n('rrdLong', 5, 8), faw: n('faw', 0, wide ? 40 : 32) },
      ...{ ccdLong: n('ccdLong', 5, 8), ccdLongWrite: 2 * n('ccdLong', 5, 8) },
      ...{ wtrShort: n('wtrShort', 2.5, 4), wtrLong: n('wtrLong', 10, 16) },
      rtp: n('rtp', 7.5, 12),
    }),
  },
};
