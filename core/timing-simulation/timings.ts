import { MODELS } from './models.ts';
import type { Secondary } from './models.ts';
import type { MemorySystem } from './types.ts';

/** What is known of the modules on a channel, as far as their times go. */
export type PartTimes = Pick<
  MemorySystem,
  'generation' | 'rate' | 'cl' | 'rcd' | 'rp' | 'ras' | 'chipWidth' | 'density'
>;

/** Where a figure comes from: read or stated, or the generation's usual one. */
export type TimeSource = 'stated' | 'usual';

/** Everything that has to pass between two commands, in clock cycles. */
export interface Cycles extends Secondary {
  /** The clock, ps. */
  readonly clock: number;
  /** CAS latency of reads. */
  readonly cl: number;
  readonly rcd: number;
  readonly rp: number;
  readonly rc: number;
  readonly wr: number;
  readonly rfc: number;
  readonly refi: number;
  /** Cycles of the data bus a request takes, and of the command bus ACT, RD and WR take. */
  readonly burst: number;
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

/** The clock of a data rate, ps: two transfers a cycle. */
export function clockOf(rate: number): number {
  return 2e6 / rate;
}

/** Beyond these a channel reads and writes without a pause, whatever the standard: no figure is one. */
const PLAUSIBLE = { least: 1, most: 400 } as const;

/** Whether primary times can be meant: whole positive cycles, and a row open long enough to be read. */
export function isPlausible({
  cl,
  rcd,
  rp,
  ras,
}: Pick<PartTimes, 'cl' | 'rcd' | 'rp' | 'ras'>): boolean {
  const all = [cl, rcd, rp, ...(ras === undefined ? [] : [ras])];
  return (
    all.every((one) => Number.isInteger(one) && one >= PLAUSIBLE.least && one <= PLAUSIBLE.most) &&
    (ras === undefined || ras >= rcd)
  );
}

/**
 * All times of a channel in cycles: the primary ones as stated, the rest by the standard of the
 * generation (JESD79-3, -4, -5), which every part keeps.
 */
export function resolveTimes(part: PartTimes): ResolvedTimes {
  const { rate, cl, rcd, rp, density } = part;
  const model = MODELS[part.generation];
  const clock = clockOf(rate);
  const n = (ns: number, floor = 1) => Math.max(floor, model.cycles(ns * 1000, clock));
  const wide = part.chipWidth >= 16 ? 1 : 0;
  const secondary = model.secondary(n, { rate, cl, wide });
  const ras = part.ras ?? secondary.ras;
  const [, rfc = 0] = model.rfc.find(([gbit]) => gbit >= density) ?? model.rfc.at(-1) ?? [];
  const { burst, commandSlots, rankGap } = model;
  return {
    ras: part.ras === undefined ? 'usual' : 'stated',
    cycles: {
      ...{ ...secondary, clock, cl, rcd, rp, ras, rc: ras + rp },
      ...{ rfc: n(rfc), refi: n(model.refi), wr: n(model.wr) },
      ...{ burst, commandSlots, rankGap, readWriteGap: 2 },
    },
  };
}
