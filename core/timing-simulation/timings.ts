import { COMMAND_TIMES } from '../memory/index.ts';
import type { CommandTime, CommandTimesPs } from '../memory/index.ts';
import { MODELS } from './models.ts';
import type { Secondary } from './models.ts';
import type { MemorySystem } from './types.ts';

/** What is known of the modules on a channel, as far as their times go. */
export type PartTimes = Pick<
  MemorySystem,
  'generation' | 'rate' | 'cl' | 'rcd' | 'rp' | 'ras' | 'stated' | 'chipWidth' | 'density'
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

/** Cycles, and where each that nothing obliges a label to state comes from. */
export interface ResolvedTimes {
  readonly cycles: Cycles;
  readonly sources: Readonly<Record<CommandTime | 'ras', TimeSource>>;
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

/** No part has times between commands beyond these, ps; refresh beyond the second. */
const LONGEST = { command: 100_000, refresh: 1_500_000 } as const;

/** Of several modules the longest of each time that all of them state; what no part has is left out. */
export function statedTimes(parts: readonly (CommandTimesPs | undefined)[]): CommandTimesPs {
  return Object.fromEntries(
    COMMAND_TIMES.flatMap((name) => {
      const all = parts.map((part) => part?.[name] ?? 0);
      const most = name === 'rfc' ? LONGEST.refresh : LONGEST.command;
      const meant = all.length > 0 && all.every((ps) => ps > 0 && ps <= most);
      return meant ? [[name, Math.max(...all)]] : [];
    }),
  );
}

/**
 * All times of a channel in cycles: the primary ones and those the modules state as they are, the rest
 * by the standard of the generation (JESD79-3, -4, -5), which every part keeps. What a standard asks
 * for in cycles at least holds for stated times too.
 */
export function resolveTimes(part: PartTimes): ResolvedTimes {
  const { rate, cl, rcd, rp, density } = part;
  const stated = statedTimes([part.stated]);
  const model = MODELS[part.generation];
  const clock = clockOf(rate);
  const n = (name: CommandTime | 'ras', usualNs: number, floor = 1) => {
    const ps = (name === 'ras' ? undefined : stated[name]) ?? usualNs * 1000;
    return Math.max(floor, model.cycles(ps, clock));
  };
  const wide = part.chipWidth >= 16 ? 1 : 0;
  const secondary = model.secondary(n, { rate, cl, wide });
  const ras = part.ras ?? secondary.ras;
  const [, rfc = 0] = model.rfc.find(([gbit]) => gbit >= density) ?? model.rfc.at(-1) ?? [];
  const { burst, commandSlots, rankGap } = model;
  const source = (isStated: boolean): TimeSource => (isStated ? 'stated' : 'usual');
  const named = COMMAND_TIMES.map((name) => [name, source(name in stated)] as const);
  return {
    sources: {
      ...(Object.fromEntries(named) as Record<CommandTime, TimeSource>),
      ras: source(part.ras !== undefined),
    },
    cycles: {
      ...{ ...secondary, clock, cl, rcd, rp, ras, rc: ras + rp },
      ...{ rfc: n('rfc', rfc), refi: Math.max(1, model.cycles(model.refi * 1000, clock)) },
      ...{ wr: n('wr', model.wr), burst, commandSlots, rankGap, readWriteGap: 2 },
    },
  };
}
