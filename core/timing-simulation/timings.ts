import type { ModelledGeneration } from './types.ts';

/** What is known of the modules on a channel, as far as the simulation needs it. */
export interface PartTimes {
  readonly generation: ModelledGeneration;
  /** Data rate, MT/s. */
  readonly rate: number;
  /** Cycles at the rate. */
  readonly cl: number;
  readonly rcd: number;
  readonly rp: number;
  /** Cycles; the generation's usual time where it is not known. */
  readonly ras?: number | undefined;
  /** Bits of one chip. */
  readonly chipWidth: number;
  /** Gbit of one chip. */
  readonly density: number;
}

/** Where a figure comes from: read or stated, or the generation's usual one. */
export type TimeSource = 'stated' | 'usual';

/** Everything that has to pass between two commands, in clock cycles. */
export interface Cycles {
  /** The clock, ps. */
  readonly clock: number;
  /** CAS latency of reads and of writes. */
  readonly cl: number;
  readonly cwl: number;
  readonly rcd: number;
  readonly rp: number;
  readonly ras: number;
  readonly rc: number;
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
  readonly wr: number;
  readonly rfc: number;
  readonly refi: number;
  /** Cycles of the data bus a request takes. */
  readonly burst: number;
  /** Of the command bus that ACT, RD and WR take. */
  readonly commandSlots: number;
  /** Idle cycles of the data bus between ranks, and from reading to writing: choices, no standard. */
  readonly rankGap: number;
  readonly readWriteGap: number;
}

/** Cycles, and of the primary ones where they come from. */
export interface ResolvedTimes {
  readonly cycles: Cycles;
  readonly ras: TimeSource;
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

/** JESD79-4, from 1600 to 3200 MT/s. */
const DDR4: readonly Bin[] = [
  bin(1600, [5, 6], [6, 7.5], [25, 35], 6.25, 9, 35),
  bin(1866, [4.2, 5.3], [5.3, 6.4], [23, 30], 5.355, 10, 34),
  bin(2133, [3.7, 5.3], [5.3, 6.4], [21, 30], 5.355, 11, 33),
  bin(2400, [3.3, 5.3], [4.9, 6.4], [21, 30], 5, 12, 32),
  bin(2666, [3, 5.3], [4.9, 6.4], [21, 30], 5, 14, 32),
  bin(2933, [2.7, 5.3], [4.9, 6.4], [21, 30], 5, 16, 32),
  bin(3200, [2.5, 5.3], [4.9, 6.4], [21, 30], 5, 16, 32),
];

/** JESD79-3; it has no bank groups, so short and long are one. */
const DDR3: readonly Bin[] = [
  bin(800, [10, 10], [10, 10], [40, 50], 0, 5, 37.5),
  bin(1066, [7.5, 10], [7.5, 10], [37.5, 50], 0, 6, 37.5),
  bin(1333, [6, 7.5], [6, 7.5], [30, 45], 0, 7, 36),
  bin(1600, [6, 7.5], [6, 7.5], [30, 40], 0, 8, 35),
  bin(1866, [5, 6], [5, 6], [27, 35], 0, 9, 34),
  bin(2133, [5, 6], [5, 6], [25, 35], 0, 10, 33),
];

function bin(
  rate: number,
  rrdShort: Bin['rrdShort'],
  rrdLong: Bin['rrdLong'],
  faw: Bin['faw'],
  ccdLong: number,
  cwl: number,
  ras: number,
): Bin {
  return { rate, rrdShort, rrdLong, faw, ccdLong, cwl, ras };
}

/** Refresh takes longer the more a chip holds: the time of the first row not smaller, ns. */
const RFC: Readonly<Record<ModelledGeneration, readonly (readonly [number, number])[]>> = {
  DDR3: [
    [1, 110],
    [2, 160],
    [4, 260],
    [8, 350],
  ],
  DDR4: [
    [4, 260],
    [8, 350],
    [16, 550],
  ],
  DDR5: [
    [8, 195],
    [16, 295],
    [32, 410],
  ],
};
const REFI_NS = { DDR3: 7800, DDR4: 7800, DDR5: 3900 } as const;
/** tRAS of every DDR5 bin, ns. */
const DDR5_RAS = 32;
const WR_NS = { DDR3: 15, DDR4: 15, DDR5: 30 } as const;

/** The clock of a data rate, ps: two transfers a cycle. */
export function clockOf(rate: number): number {
  return 2e6 / rate;
}

/**
 * Cycles that a time takes. Standards let a time fall a little short of whole cycles: JESD79-4 by
 * 0.974 of one (DDR3 alike), JESD79-5 by 0.3 %.
 *
 * @param ns - the time
 * @param clock - ps
 */
export function cyclesOf(generation: ModelledGeneration, ns: number, clock: number): number {
  const ps = ns * 1000;
  return generation === 'DDR5'
    ? Math.floor((0.997 * ps) / clock + 1)
    : Math.floor(ps / clock + 0.974);
}

/**
 * All times of a channel in cycles: the primary ones as stated, the rest by the standard of the
 * generation (JESD79-3, -4, -5), which every part keeps.
 */
export function resolveTimes(part: PartTimes): ResolvedTimes {
  const { generation, rate, cl, rcd, rp } = part;
  const clock = clockOf(rate);
  const n = (ns: number, floor = 1) => Math.max(floor, cyclesOf(generation, ns, clock));
  const wide = part.chipWidth >= 16 ? 1 : 0;
  const usual = generation === 'DDR5' ? undefined : binOf(generation, rate);
  const ras = part.ras ?? n(usual?.ras ?? DDR5_RAS);
  const [, rfc = 0] =
    RFC[generation].find(([gbit]) => gbit >= part.density) ?? RFC[generation].at(-1) ?? [];
  const common = {
    ...{ clock, cl, rcd, rp, ras, rc: ras + rp, rfc: n(rfc), refi: n(REFI_NS[generation]) },
    ...{ wr: n(WR_NS[generation]), readWriteGap: 2 },
  };
  const source: TimeSource = part.ras === undefined ? 'usual' : 'stated';
  if (!usual)
    return {
      ras: source,
      cycles: {
        ...{ ...common, cwl: cl - 2, burst: 8, commandSlots: 2, rankGap: 4 },
        ...{ ccdShort: 8, ccdLong: n(5, 8), ccdLongWrite: n(10, 16) },
        ...{ rrdShort: 8, rrdLong: n(5, 8), faw: wide ? 40 : 32 },
        ...{ wtrShort: n(2.5, 4), wtrLong: n(10, 16), rtp: n(7.5, 12) },
      },
    };
  const ccdLong = usual.ccdLong === 0 ? 4 : n(usual.ccdLong, 5);
  const hasGroups = generation === 'DDR4';
  return {
    ras: source,
    cycles: {
      ...{ ...common, cwl: usual.cwl, burst: 4, commandSlots: 1, rankGap: 2 },
      ...{ ccdShort: 4, ccdLong, ccdLongWrite: ccdLong },
      ...{ rrdShort: n(usual.rrdShort[wide], 4), rrdLong: n(usual.rrdLong[wide], 4) },
      faw: n(usual.faw[wide], wide && hasGroups ? 28 : 20),
      ...(hasGroups
        ? { wtrShort: n(2.5, 2), wtrLong: n(7.5, 4) }
        : { wtrShort: n(7.5, 4), wtrLong: n(7.5, 4) }),
      rtp: n(7.5, 4),
    },
  };
}

/** The bin a rate belongs to: the first not slower, or the fastest for what lies beyond. */
function binOf(generation: 'DDR3' | 'DDR4', rate: number): Bin {
  const bins = generation === 'DDR4' ? DDR4 : DDR3;
  const found = bins.find((one) => one.rate >= rate) ?? bins.at(-1);
  if (!found) throw new Error('expected a speed bin');
  return found;
}
