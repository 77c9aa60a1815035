import { seededRandom } from '../units/index.ts';
import { Z_95, mean, t95, tPoint, tailChance, variance, welchDegrees } from './statistics.ts';

/** Whether more or less of a figure is better. */
export type Better = 'higher' | 'lower';

/** Change from before to after as a factor; above 1 is better whichever way the figure counts. */
export interface Gain {
  readonly verdict: 'gain' | 'loss' | 'inside noise' | 'too few runs';
  /** Ratio of means, turned so that above 1 is better. */
  readonly factor: number;
  /** 95 % interval of the factor; absent with too few runs. */
  readonly interval?: { readonly low: number; readonly high: number } | undefined;
  /** Further runs on each side that would settle the verdict; absent when it is settled. */
  readonly runsNeeded?: RunsNeeded | undefined;
  /** Runs left out because they fit none of the others, at most one a side. */
  readonly setAside: readonly SetAside[];
  /** The smallest change these runs would show four times in five, as a factor above 1. */
  readonly detectable?: number | undefined;
  /** Chance that noise alone makes a difference this large; for judging several at once. */
  readonly chance?: number | undefined;
}

/** A run left out, and why. */
export interface SetAside {
  readonly side: 'before' | 'after';
  readonly value: number;
  /** Mean of the others. */
  readonly others: number;
  /** How far off it lies, in standard deviations of the others. */
  readonly distance: number;
}

/** Runs still needed, or that no sensible number would do. */
export type RunsNeeded =
  | { readonly type: 'runs'; readonly before: number; readonly after: number }
  | { readonly type: 'too small to settle'; readonly limit: number };

/** Runs on each side below which nothing can be said, and what the bench should take. */
export const RUNS = { least: 2, advised: 3, most: 200, settleLimit: 30 } as const;

/** One run in a hundred honest sets is taken for a stray; fewer runs than this cannot tell one. */
const STRAY = { chance: 0.01, leastRuns: 5 } as const;
/** Two-sided chance beyond the point that four of five tries stay above. */
const POWER_CHANCE = 0.4;
const RESAMPLES = 2000;

/**
 * Judges a change from runs before and after.
 *
 * The interval is a seeded bootstrap of the log ratio of means. Resampling a handful of runs is
 * known to come out too narrow (three runs a side cover about 80 % instead of 95 %, corrected for
 * bias and acceleration or not), so the deviations are stretched by t/z for the Welch degrees of
 * freedom and by √(n/(n−1)); docs/measuring.md has the coverage measured for 3, 5 and 10 runs.
 *
 * @param before - runs before, positive, warm-up already dropped
 * @param after - runs after, same unit
 * @param seed - any integer; the same seed gives the same interval
 */
export function judgeGain(
  before: readonly number[],
  after: readonly number[],
  better: Better,
  seed: number,
): Gain {
  const sides = { before: dropStray(before, 'before'), after: dropStray(after, 'after') };
  const setAside = [sides.before.stray, sides.after.stray].filter((one) => one !== undefined);
  return { ...judge(sides.before.runs, sides.after.runs, better, seed), setAside };
}

function judge(
  before: readonly number[],
  after: readonly number[],
  better: Better,
  seed: number,
): Omit<Gain, 'setAside'> {
  const sign = better === 'higher' ? 1 : -1;
  const centre = sign * Math.log(mean(after) / mean(before));
  const factor = Math.exp(centre);
  if (before.length < RUNS.least || after.length < RUNS.least)
    return {
      verdict: 'too few runs',
      factor,
      runsNeeded: missingRuns(before.length, after.length),
    };

  const deviations = resample(before, after, sign, seed).map((value) => value - centre);
  deviations.sort((a, b) => a - b);
  const stretch = smallSampleStretch(before, after);
  const at = (share: number) => deviations[Math.floor(share * (RESAMPLES - 1))] ?? 0;
  const interval = {
    low: Math.exp(centre + at(0.025) * stretch),
    high: Math.exp(centre + at(0.975) * stretch),
  };
  const [a, b] = [side(before), side(after)];
  const error = Math.sqrt(a.error + b.error);
  const degrees = welchDegrees(a, b);
  const detectable = Math.exp(error * (t95(degrees) + tPoint(POWER_CHANCE, degrees)));
  const chance = error === 0 ? Number(centre === 0) : tailChance(centre / error, degrees);
  const judged = { factor, interval, detectable, chance };
  const verdict = interval.low > 1 ? 'gain' : interval.high < 1 ? 'loss' : 'inside noise';
  if (verdict !== 'inside noise') return { verdict, ...judged };
  return { verdict, ...judged, runsNeeded: runsToSettle(before, after, centre) };
}

/**
 * Sets at most one run aside: the farthest from the mean of the others, where Student's t for its
 * distance says so at 1 % for the whole set (the externally studentised residual).
 */
function dropStray(
  runs: readonly number[],
  at: SetAside['side'],
): { runs: readonly number[]; stray?: SetAside } {
  if (runs.length < STRAY.leastRuns) return { runs };
  const centre = mean(runs);
  const distances = runs.map((run) => Math.abs(run - centre));
  const worst = distances.indexOf(Math.max(...distances));
  const value = runs[worst] ?? centre;
  const rest = runs.filter((_, index) => index !== worst);
  const others = mean(rest);
  const spread = Math.sqrt(variance(rest));
  const t = Math.abs(value - others) / (spread * Math.sqrt(1 + 1 / rest.length));
  // Runs all alike but one: any difference would be infinitely far; clocks round, so it is kept.
  if (spread === 0 || !(t > tPoint(STRAY.chance / runs.length, rest.length - 1))) return { runs };
  const distance = Math.abs(value - others) / spread;
  return { runs: rest, stray: { side: at, value, others, distance } };
}

/**
 * Which of several comparisons stand when all are judged together (Holm): with 5 % for each, one
 * of twenty idle comparisons would look like a change.
 *
 * @param chances - {@link Gain.chance} of each; undefined never stands
 */
export function standTogether(chances: readonly (number | undefined)[]): boolean[] {
  const order = chances
    .map((chance, at) => ({ chance: chance ?? 1, at }))
    .sort((a, b) => a.chance - b.chance);
  const stands = chances.map(() => false);
  for (const [rank, { chance, at }] of order.entries()) {
    if (chance > 0.05 / (order.length - rank)) break;
    stands[at] = true;
  }
  return stands;
}

function missingRuns(before: number, after: number): RunsNeeded {
  const missing = (n: number) => Math.max(0, RUNS.advised - n);
  return { type: 'runs', before: missing(before), after: missing(after) };
}

function resample(
  before: readonly number[],
  after: readonly number[],
  sign: number,
  seed: number,
): number[] {
  const random = seededRandom(seed);
  const drawMean = (values: Float64Array) => {
    let sum = 0;
    for (let i = 0; i < values.length; i++)
      sum += values[Math.floor(random() * values.length)] as number;
    return sum / values.length;
  };
  const [a, b] = [Float64Array.from(after), Float64Array.from(before)];
  const draws: number[] = [];
  for (let at = 0; at < RESAMPLES; at++) draws.push(sign * Math.log(drawMean(a) / drawMean(b)));
  return draws;
}

const side = (runs: readonly number[]) => ({
  // Squared relative standard error: the delta method for a log mean.
  error: variance(runs) / runs.length / mean(runs) ** 2,
  n: runs.length,
});

function smallSampleStretch(before: readonly number[], after: readonly number[]): number {
  const [a, b] = [side(before), side(after)];
  const n = Math.min(a.n, b.n);
  return (t95(welchDegrees(a, b)) / Z_95) * Math.sqrt(n / (n - 1));
}

/** Runs a side at which an effect of this size would stand clear of this noise. */
function runsToSettle(
  before: readonly number[],
  after: readonly number[],
  effect: number,
): RunsNeeded {
  const spread = variance(before) / mean(before) ** 2 + variance(after) / mean(after) ** 2;
  for (let n = Math.min(before.length, after.length) + 1; n <= RUNS.settleLimit; n++) {
    const half = t95(2 * n - 2) * Math.sqrt((spread / n) * (n / (n - 1)));
    if (half < Math.abs(effect))
      return {
        type: 'runs',
        before: Math.max(0, n - before.length),
        after: Math.max(0, n - after.length),
      };
  }
  return { type: 'too small to settle', limit: RUNS.settleLimit };
}
