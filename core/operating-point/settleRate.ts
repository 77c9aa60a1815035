import type { Machine, Setting } from '../machine/index.ts';
import { climb } from './rungs.ts';
import type { RateFinding } from './rungs.ts';
import { settleTimings } from './timings.ts';
import type { TimingFinding } from './timings.ts';
import type { Blocker, ChannelLoad, Fitted } from './types.ts';

/** Rungs and timings of parts that share a rate and a CL, or what keeps them from it. */
export type SettledRate =
  | { readonly type: 'settled'; readonly climbed: RateFinding; readonly timed: TimingFinding }
  | { readonly type: 'failed'; readonly blocker: Blocker };

/**
 * The rate some parts run at together, and their timings there.
 *
 * @returns `undefined` for no parts or parts of several generations: they have no rate in common
 */
export function settleRate(
  machine: Machine,
  fitted: readonly Fitted[],
  loads: readonly ChannelLoad[],
  setting: Setting,
): SettledRate | undefined {
  const generation = fitted[0]?.module.generation;
  if (!generation || fitted.some(({ module }) => module.generation !== generation))
    return undefined;
  const climbed = climb(machine, fitted, loads, setting, generation);
  if (climbed.rate === undefined)
    return {
      type: 'failed',
      blocker: { type: 'no-standard-rate', limit: climbed.lowest, generation },
    };
  const timed = settleTimings(fitted, generation, climbed.rate, climbed.profiled);
  return timed
    ? { type: 'settled', climbed, timed }
    : { type: 'failed', blocker: { type: 'no-common-cl', generation } };
}
