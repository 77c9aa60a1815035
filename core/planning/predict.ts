import type { Running } from '../operating-point/index.ts';
import type { Ratios } from '../timing-simulation/index.ts';

/** A share of the running time, known as a range. */
interface Share {
  readonly low: number;
  readonly high: number;
}

/** A kind of work, and how much of its time waits for memory. */
export interface ActivityClass {
  readonly id: string;
  readonly name: string;
  /** β: bound by bandwidth. */
  readonly bandwidth: Share;
  /** λ: bound by latency. */
  readonly latency: Share;
}

/**
 * Stated assumptions, wide on purpose; to be refitted from jobs the shop has proven. β and λ are
 * shares of running time before the change.
 */
export const ACTIVITY_CLASSES: readonly ActivityClass[] = [
  {
    id: 'office',
    name: 'Office and browsing',
    bandwidth: { low: 0, high: 0.02 },
    latency: { low: 0, high: 0.03 },
  },
  {
    id: 'integrated',
    name: 'Built-in graphics',
    bandwidth: { low: 0.4, high: 0.75 },
    latency: { low: 0, high: 0.08 },
  },
  {
    id: 'games',
    name: 'Games held up by the processor, average',
    bandwidth: { low: 0.05, high: 0.15 },
    latency: { low: 0.08, high: 0.22 },
  },
  {
    id: 'games-low',
    name: 'The same games, 1 % lows',
    bandwidth: { low: 0.08, high: 0.22 },
    latency: { low: 0.12, high: 0.3 },
  },
  {
    id: 'graphics',
    name: 'Games held up by the graphics card',
    bandwidth: { low: 0, high: 0.02 },
    latency: { low: 0, high: 0.02 },
  },
  {
    id: 'compression',
    name: 'Packing and unpacking files',
    bandwidth: { low: 0.1, high: 0.3 },
    latency: { low: 0.15, high: 0.4 },
  },
  {
    id: 'rendering',
    name: 'Rendering on the processor',
    bandwidth: { low: 0, high: 0.03 },
    latency: { low: 0, high: 0.03 },
  },
];

/** What a change of memory does to one kind of work, in percent of its speed. */
export interface Gain {
  readonly activity: ActivityClass;
  readonly low: number;
  readonly high: number;
}

/** What gains were computed from. */
export interface Prediction {
  /** B: new bandwidth / old. */
  readonly bandwidthRatio: number;
  /** L: new latency / old; a halved controller clock adds a tenth. */
  readonly latencyRatio: number;
  readonly gains: readonly Gain[];
}

/**
 * How each kind of work moves memory, of the ways that are simulated; those left out read on and on
 * where they wait for bandwidth at all.
 */
const MOVES: Readonly<Record<string, keyof Ratios['bandwidth']>> = {
  integrated: 'graphics',
  office: 'desktop',
};

const HALVED = 1.1;

/** First-word time, ns; a halved controller clock adds a tenth. */
export const latencyOf = (point: Running): number =>
  point.timings.firstWord * (point.clocks === 'halved' ? HALVED : 1);

/** Speed new / old by shares of time: 1 / ((1−β−λ) + β/B + λ·L). */
export function speedRatio(beta: number, lambda: number, b: number, l: number): number {
  return 1 / (1 - beta - lambda + beta / b + lambda * l);
}

/**
 * What the change promises per kind of work, as ranges over the shares. Capacity is not in it: a
 * machine that paged before gains far more than this says.
 *
 * @param before - what ran, with its bandwidth at the need, GB/s
 * @param after - what would run
 * @param classes - kinds of work with their shares; refitted ones where the shop has enough jobs
 */
export function predict(
  before: { readonly point: Running; readonly bandwidth: number },
  after: { readonly point: Running; readonly bandwidth: number },
  classes: readonly ActivityClass[] = ACTIVITY_CLASSES,
): Prediction {
  const bandwidthRatio = after.bandwidth / before.bandwidth;
  const latencyRatio = latencyOf(after.point) / latencyOf(before.point);
  const latency = { low: latencyRatio, high: latencyRatio };
  const gains = classes.map((activity) => gainOf(activity, bandwidthRatio, latency));
  return { bandwidthRatio, latencyRatio, gains };
}

/**
 * The same from a simulation of both: bandwidth as that kind of work moves it, and the time of a whole
 * reply from rest to loaded, of which the memory is a part only.
 */
export function predictSimulated(
  before: Running,
  after: Running,
  { bandwidth, reply }: Ratios,
  classes: readonly ActivityClass[] = ACTIVITY_CLASSES,
): Prediction {
  // The simulation knows no controller clock.
  const halving =
    (after.clocks === 'halved' ? HALVED : 1) / (before.clocks === 'halved' ? HALVED : 1);
  const latency = {
    low: Math.min(reply.idle, reply.loaded) * halving,
    high: Math.max(reply.idle, reply.loaded) * halving,
  };
  const gains = classes.map((activity) =>
    gainOf(activity, bandwidth[MOVES[activity.id] ?? 'stream'], latency),
  );
  return { bandwidthRatio: bandwidth.stream, latencyRatio: reply.idle * halving, gains };
}

/** The range over the shares, and over the latency where that is a range too. */
function gainOf(activity: ActivityClass, b: number, latency: Share): Gain {
  const { bandwidth: beta, latency: lambda } = activity;
  const corners = [beta.low, beta.high].flatMap((ofBandwidth) =>
    [lambda.low, lambda.high].flatMap((ofLatency) =>
      [latency.low, latency.high].map((l) => speedRatio(ofBandwidth, ofLatency, b, l)),
    ),
  );
  const percent = (ratio: number) => (ratio - 1) * 100;
  return {
    activity,
    low: percent(Math.min(...corners)),
    high: percent(Math.max(...corners)),
  };
}
