import { TIMING_NAMES, cyclesAt, cyclesNs, generationTraits, stepDown } from '../memory/index.ts';
import type { Generation, TimingSource } from '../memory/index.ts';
import { exactRate } from '../units/index.ts';
import type { DataRate } from '../units/index.ts';
import type { Fitted, RunningTimings } from './types.ts';

/** Rate and timings once every module has a CL in common. */
export interface TimingFinding {
  readonly rate: DataRate;
  readonly timings: RunningTimings;
  /** The rate had to step down because no CL was shared above it. */
  readonly steppedDown: boolean;
  /** The CL that times alone ask for, where every list shared by the modules starts higher. */
  readonly raisedFrom: number | undefined;
}

/**
 * Timings at a rate: for each parameter the longest any module needs, so that a slow module
 * drags all. CL then goes up to the next one every module supports; where none is shared the
 * rate steps down one standard rate and the search goes on.
 *
 * @returns `undefined` when no standard rate has a common CL
 */
export function settleTimings(
  fitted: readonly Fitted[],
  generation: Generation,
  start: DataRate,
  profiled: boolean,
): TimingFinding | undefined {
  const sources = fitted.map(({ module }): TimingSource => (profiled && module.profile) || module);
  for (
    let rate: DataRate | undefined = start;
    rate !== undefined;
    rate = stepDown(generation, rate)
  ) {
    const { cl, needed } = commonClAt(fitted, sources, generation, rate, profiled);
    if (cl === undefined) continue;
    const cycles = { cl, ...otherCycles(sources, generation, rate) };
    const timings = { cycles, firstWord: cyclesNs(generation, cl, rate) };
    const steppedDown = exactRate(rate) !== exactRate(start);
    return { rate, timings, steppedDown, raisedFrom: cl > needed ? needed : undefined };
  }
  return undefined;
}

function commonClAt(
  fitted: readonly Fitted[],
  sources: readonly TimingSource[],
  generation: Generation,
  rate: DataRate,
  profiled: boolean,
): { readonly cl: number | undefined; readonly needed: number } {
  let needed = 0;
  let stated = true; // every module runs at the very rate its label names
  for (const source of sources) {
    needed = Math.max(needed, cyclesAt(source, 'cl', generation, rate) ?? 0);
    stated &&= exactRate(source.rate) === exactRate(rate);
  }
  // A profile is its maker's own setting: the list of standard CLs does not govern it.
  if (profiled) return { cl: needed, needed };
  const masks: (readonly number[])[] = [];
  for (const { module } of fitted) if (module.supportedCls) masks.push(module.supportedCls);
  // Where a generation's standard CLs are even, a label's own figure still stands as printed.
  const even = generationTraits(generation).evenCl && !stated ? needed + (needed % 2) : needed;
  if (masks.length === 0) return { cl: even, needed: even };
  const [first = [], ...rest] = masks;
  const shared = first.filter((cl) => cl >= needed && rest.every((mask) => mask.includes(cl)));
  return { cl: shared.length > 0 ? Math.min(...shared) : undefined, needed: even };
}

function otherCycles(sources: readonly TimingSource[], generation: Generation, rate: DataRate) {
  const cycles: { trcd?: number; trp?: number; tras?: number } = {};
  for (const name of TIMING_NAMES) {
    if (name === 'cl') continue;
    let most: number | undefined = 0;
    for (const source of sources) {
      const needed = cyclesAt(source, name, generation, rate);
      most = needed === undefined || most === undefined ? undefined : Math.max(most, needed);
    }
    if (most) cycles[name] = most;
  }
  return cycles;
}
