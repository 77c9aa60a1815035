import { simulateProbe } from '../proving/index.ts';
import type { ProbeResult, SimulatedFault } from '../proving/index.ts';
import { simulate, systemOf } from '../timing-simulation/index.ts';
import { statusOf } from './running.ts';
import type { World } from './world.ts';

/** Enough to tell one channel from two by far; ratios of longer runs differ by a hundredth or two. */
const REQUESTS = 6000;

/**
 * What the measuring page brings from a machine that is up: bandwidth as its memory system gives it,
 * command by command, where there is a model, and as it can be reckoned otherwise. Takes some tens of
 * milliseconds.
 *
 * @param visit - another number is another visit to the same machine
 * @param fault - `still rising`: the processor is too slow to show what the memory gives
 * @returns undefined where the machine is not up
 */
export function measuredOn(
  world: World,
  visit = 1,
  fault: Exclude<SimulatedFault, 'one channel'> = 'none',
): ProbeResult | undefined {
  const status = statusOf(world);
  if (status.type !== 'up') return undefined;
  const { machine } = world.exercise;
  const { point, seen } = status;
  // A measuring page's memory may lie anywhere: it is taken to lie where the widest region is.
  const found = systemOf(machine, seen, point);
  const drawn =
    found.type === 'system'
      ? simulate(found.system, { workload: 'stream', seed: visit, requests: REQUESTS }).bandwidth
      : undefined;
  return simulateProbe(machine, point, fault, visit, drawn);
}

/** The middle of what a result read, GB/s. */
export const bandwidthOf = ({ read }: ProbeResult): number =>
  [...read].sort((a, b) => a - b)[Math.floor(read.length / 2)] ?? 0;
