import { cyclesNs } from '../memory/index.ts';
import type { Running } from '../operating-point/index.ts';
import { ratiosOf, USUAL_CHOICES } from '../timing-simulation/index.ts';
import type { Profiles } from '../timing-simulation/index.ts';
import { KINDS_OF_WORK } from './kinds.ts';
import type { KindOfWork, Share } from './kinds.ts';

/** What a change of memory does to one kind of work, in percent of its speed. */
export interface Gain {
  readonly kind: KindOfWork;
  readonly low: number;
  readonly high: number;
}

/** What gains were computed from. */
export interface Prediction {
  /** B: new bandwidth / old. */
  readonly bandwidthRatio: number;
  /** L: new time of a whole reply / old, at rest; a halved controller clock adds a tenth. */
  readonly latencyRatio: number;
  readonly gains: readonly Gain[];
}

const HALVED = 1.1;
/** Of a line of 64 bytes on a channel of 64 bits. */
const TRANSFERS = 8;

/** First-word time, ns; a halved controller clock adds a tenth. */
export const latencyOf = (point: Running): number => point.timings.firstWord * halvingOf(point);

const halvingOf = ({ clocks }: Running): number => (clocks === 'halved' ? HALVED : 1);

/**
 * Time of a whole reply at rest, ns: controller and fabric, the row, the column and the transfer. The
 * CAS time is a part of it only.
 */
export function replyOf(point: Running): number {
  const { generation, rate, timings } = point;
  const { cl, trcd } = timings.cycles;
  const row = cyclesNs(generation, cl + (trcd ?? cl), rate);
  return (USUAL_CHOICES.overhead + row + (TRANSFERS * 1000) / rate) * halvingOf(point);
}

/** Speed new / old by shares of time: 1 / ((1−β−λ) + β/B + λ·L). */
export function speedRatio(beta: number, lambda: number, b: number, l: number): number {
  return 1 / (1 - beta - lambda + beta / b + lambda * l);
}

/**
 * What the change promises per kind of work at once, as ranges over the shares: bandwidth by rate and
 * channels, the reply by its times. Capacity is not in it: a machine that paged before gains far more
 * than this says.
 *
 * @param before - what ran, with its bandwidth at the need, GB/s
 * @param after - what would run
 * @param kinds - kinds of work with their shares; refitted ones where the shop has enough jobs
 * @param drawCap - what the processor or fabric can draw at most, GB/s
 */
export function predict(
  before: { readonly point: Running; readonly bandwidth: number },
  after: { readonly point: Running; readonly bandwidth: number },
  kinds: readonly KindOfWork[] = KINDS_OF_WORK,
  drawCap = Infinity,
): Prediction {
  const bandwidthRatio = Math.min(drawCap, after.bandwidth) / Math.min(drawCap, before.bandwidth);
  const latencyRatio = replyOf(after.point) / replyOf(before.point);
  const latency = { low: latencyRatio, high: latencyRatio };
  const gains = kinds.map((kind) => gainOf(kind, spreadOf(bandwidthRatio), latency));
  return { bandwidthRatio, latencyRatio, gains };
}

/**
 * The same from a simulation of both: bandwidth as that kind of work moves it, and the time of a whole
 * reply from rest to loaded, of which the memory is a part only.
 *
 * @param drawCap - what the processor or fabric can draw at most, GB/s
 */
export function predictSimulated(
  before: Running,
  after: Running,
  profiles: Profiles,
  kinds: readonly KindOfWork[] = KINDS_OF_WORK,
  drawCap?: number,
): Prediction {
  const { bandwidth, reply } = ratiosOf(profiles, drawCap);
  // The simulation knows no controller clock.
  const halving = halvingOf(after) / halvingOf(before);
  const latency = {
    low: Math.min(reply.idle, reply.loaded) * halving,
    high: Math.max(reply.idle, reply.loaded) * halving,
  };
  const gains = kinds.map((kind) => gainOf(kind, spreadOf(bandwidth[kind.moves]), latency));
  return { bandwidthRatio: bandwidth.stream, latencyRatio: reply.idle * halving, gains };
}

/** How far other controllers lie from the usual one: a share of the effect, and never more than this, in logarithms. */
const SPREAD_SHARE = 0.3;
const SPREAD_MOST = 0.1;

/** A bandwidth ratio as other choices of a controller would give it; nothing changed stays nothing. */
export function spreadOf(ratio: number): Share {
  const effect = Math.log(ratio);
  const spread = Math.min(SPREAD_MOST, Math.abs(effect) * SPREAD_SHARE);
  return { low: Math.exp(effect - spread), high: Math.exp(effect + spread) };
}

/** The range over the shares, and over the ratios where those are ranges too. */
function gainOf(kind: KindOfWork, bandwidth: Share, latency: Share): Gain {
  const ends = ({ low, high }: Share) => [low, high];
  const corners = ends(kind.bandwidth).flatMap((beta) =>
    ends(kind.latency).flatMap((lambda) =>
      ends(bandwidth).flatMap((b) => ends(latency).map((l) => speedRatio(beta, lambda, b, l))),
    ),
  );
  const percent = (ratio: number) => (ratio - 1) * 100;
  return { kind, low: percent(Math.min(...corners)), high: percent(Math.max(...corners)) };
}
