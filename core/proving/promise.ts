import { cyclesNs } from '../memory/index.ts';
import type { Running } from '../operating-point/index.ts';
import type { MadePromise } from '../promising/index.ts';
import { EFFICIENCY_CARRY_SD } from './channels.ts';
import type { Better } from './gain.ts';
import type { Metric } from './measurement.ts';
import { Z_95 } from './statistics.ts';

/** What the plan promises for a metric, in its unit. */
export interface Promised {
  readonly low: number;
  readonly high: number;
  /** From a simulation of both sides, or from rate, channels and times alone. */
  readonly basis: 'simulated' | 'reckoned';
}

/** What a figure is held against beside the two operating points. */
export interface PromiseTerms {
  /** What was promised for this very change, where anything was. */
  readonly made?: MadePromise | undefined;
  /** The kind of work a test stands for. */
  readonly kind?: string | null | undefined;
  readonly sense?: Better | undefined;
}

/** What a doubling of channels brings at least, as a share of double, before wander. */
const DOUBLED = 0.86;

/** How far latency wanders for other reasons when modules change; a cautious assumption. */
const LATENCY_CARRY_SD = 0.02;

/** How well differences of simulated replies hold, ns; the study's own judgement. */
const REPLY_APART = 3;

/**
 * The band a figure should land in after the change, from the figure before and the two
 * operating points, or from what was simulated when the promise was made. Figures other than
 * bandwidth and latency have a promise only where their kind of work had one.
 *
 * - Bandwidth scales as simulated, or with the peak of the widest region; the band is the 95 % range
 *   of how far efficiency wanders between two sets of modules. Truly paired machines reach 0.8 to 1.0
 *   of double: twice the channels fill less well, so each doubling lowers the low end.
 * - Latency moves as simulated, or by at least the change of the first word and at most that of a
 *   whole row change (tRP + tRCD + CL, or three first words where those are not stated); a halved
 *   controller clock adds up to a tenth. Ranks, refresh and page layout shift it a little more.
 */
export function promisedBand(
  metric: Metric,
  meanBefore: number,
  before: Running,
  after: Running,
  { made, kind, sense }: PromiseTerms = {},
): Promised | undefined {
  const simulated = made?.simulated ?? undefined;
  const basis = simulated ? 'simulated' : 'reckoned';
  if (metric === 'bandwidth') {
    const ratio = simulated?.ratios.bandwidth.stream ?? after.peak / before.peak;
    return { ...bandwidthBand(meanBefore * ratio, before, after), basis };
  }
  if (metric === 'latency')
    return { ...latencyBand(meanBefore, before, after, simulated?.reply), basis };
  const gain = made?.gains.find((one) => one.kind === kind);
  if (!gain || sense === undefined) return undefined;
  const factors = [gain.low, gain.high].map((percent) => 1 + percent / 100);
  const ends = factors.map((one) => (sense === 'higher' ? meanBefore * one : meanBefore / one));
  return { low: Math.min(...ends), high: Math.max(...ends), basis };
}

function bandwidthBand(expected: number, before: Running, after: Running) {
  const spread = Math.exp(Z_95 * EFFICIENCY_CARRY_SD);
  const doublings = Math.log2(widthOf(after) / widthOf(before));
  const short = DOUBLED ** Math.abs(doublings);
  // Wider falls short of all of it, narrower keeps more than its share.
  const [least, most] = doublings < 0 ? [1, 1 / short] : [short, 1];
  return {
    low: (expected * least) / spread,
    high: Math.min(expected * most * spread, after.peak),
  };
}

function latencyBand(
  meanBefore: number,
  before: Running,
  after: Running,
  simulated: number | undefined,
) {
  const least = after.timings.firstWord - before.timings.firstWord;
  const most = rowChange(after) - rowChange(before);
  const shifts =
    simulated === undefined ? [least, most, 0] : [simulated - REPLY_APART, simulated + REPLY_APART];
  const ends = shifts.map((shift) => meanBefore + shift);
  const halving = Number(after.clocks === 'halved') - Number(before.clocks === 'halved');
  const tenth = meanBefore * 0.1 * halving;
  const slack = meanBefore * Z_95 * LATENCY_CARRY_SD;
  return {
    low: Math.max(after.timings.firstWord, Math.min(...ends) + Math.min(0, tenth) - slack),
    high: Math.max(...ends) + Math.max(0, tenth) + slack,
  };
}

/** Channels side by side in the widest region, under the worse reading. */
const widthOf = ({ layouts }: Running): number => layouts[0].regions[0]?.channels.length ?? 1;

function rowChange({ generation, rate, timings: { cycles, firstWord } }: Running): number {
  const { cl, trcd, trp } = cycles;
  return trcd === undefined || trp === undefined
    ? 3 * firstWord
    : cyclesNs(generation, cl + trcd + trp, rate);
}

/** What no set of runs can beat: the bus's peak, or the first-word time. */
export function physicalLimit(metric: Metric, after: Running): number | undefined {
  if (metric === 'bandwidth') return after.peak;
  return metric === 'latency' ? after.timings.firstWord : undefined;
}
