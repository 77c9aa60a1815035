import { seededRandom } from '../units/index.ts';
import { ASSUMED_LEVEL, RUNS, figuresOf } from './sittings.ts';
import type { LevelSpread, RunSet, SideFigures } from './sittings.ts';
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
  /** What would settle the verdict; absent when it is settled. */
  readonly toSettle?: ToSettle | undefined;
  /** Runs that fit none of the others, at most one a side. They are kept, and widen the interval. */
  readonly strays: readonly Stray[];
  /** Sides whose runs drift within a sitting, a share of the mean a run. */
  readonly trends: readonly { readonly side: Side; readonly perRun: number }[];
  /** Sittings on each side, and what they are taken to differ by. */
  readonly sittings: { readonly before: number; readonly after: number };
  readonly level: LevelSpread;
  /** The smallest change these runs would show four times in five, as a factor above 1. */
  readonly detectable?: number | undefined;
  /** Chance that noise alone makes a difference this large; for judging several at once. */
  readonly chance?: number | undefined;
}

type Side = 'before' | 'after';

/** A run unlike the others of its side. */
export interface Stray {
  readonly side: Side;
  readonly value: number;
  /** Mean of the others. */
  readonly others: number;
  /** How far off it lies, in standard deviations of the others. */
  readonly distance: number;
}

/** Runs or sittings still needed, or that no sensible number would do. */
export type ToSettle =
  | { readonly type: 'runs' | 'sittings'; readonly before: number; readonly after: number }
  | { readonly type: 'too small to settle'; readonly limit: number };

/** Sittings beyond which no bench goes on for one figure. */
const MOST_SITTINGS = 6;

/** One run in a hundred honest sets is called a stray; fewer runs than this cannot tell one. */
const STRAY = { chance: 0.01, leastRuns: 5 } as const;
/** Two-sided chance beyond the point that four of five tries stay above. */
const POWER_CHANCE = 0.4;
const RESAMPLES = 2000;
/** A sitting that said of itself that it was noisy or slowing is taken to wander this much further. */
const DOUBT = 2;
/** What an assumed or a shop's spread counts for beside sittings of the job itself, at most. */
const PRIOR_DEGREES = { single: 2, shop: 4 } as const;

/**
 * Judges a change from runs before and after.
 *
 * A sitting has a level of its own. Where a side has several, they are what is compared: Student's t
 * over sitting means, their spread pooled over both sides. With one sitting a side the spread between
 * sittings cannot be seen and is added – the shop's own, or 1 % assumed. Within a sitting the interval
 * is a seeded bootstrap of the log ratio of means, stretched by t/z for the Welch degrees of freedom
 * and by √(n/(n−1)), since a handful of runs resampled comes out too narrow. What rounding hides is
 * part of every interval. docs/measuring.md has the coverage measured over many worlds.
 *
 * @param before - runs before, positive, warm-up already dropped; plain runs are one sitting
 * @param after - runs after, same unit
 * @param seed - any integer; the same seed gives the same interval
 * @param level - how far levels wander from sitting to sitting
 */
export function judgeGain(
  before: readonly number[] | RunSet,
  after: readonly number[] | RunSet,
  better: Better,
  seed: number,
  level: LevelSpread = ASSUMED_LEVEL,
): Gain {
  const sets = { before: asSet(before), after: asSet(after) };
  const [a, b] = [figuresOf(sets.before), figuresOf(sets.after)];
  const sign = better === 'higher' ? 1 : -1;
  const centre = sign * Math.log(b.mean / a.mean);
  const common = {
    factor: Math.exp(centre),
    strays: (['before', 'after'] as const).flatMap((side) => strayOf(sets[side], side)),
    trends: [
      ...(a.trend === undefined ? [] : [{ side: 'before', perRun: a.trend } as const]),
      ...(b.trend === undefined ? [] : [{ side: 'after', perRun: b.trend } as const]),
    ],
    sittings: { before: a.sittings, after: b.sittings },
    level,
  };
  if (a.runs < RUNS.least || b.runs < RUNS.least)
    return { ...common, verdict: 'too few runs', toSettle: missingRuns(a.runs, b.runs) };

  const spread = comparedBy(a, b, level);
  const reach =
    spread.by === 'sittings'
      ? { low: spread.half, high: spread.half }
      : singleReach(sets, sign, centre, spread, seed);
  const interval = { low: Math.exp(centre - reach.low), high: Math.exp(centre + reach.high) };
  const { error, degrees } = spread;
  const detectable = Math.exp(Math.sqrt(error) * (t95(degrees) + tPoint(POWER_CHANCE, degrees)));
  const chance =
    error === 0 ? Number(centre === 0) : tailChance(centre / Math.sqrt(error), degrees);
  const judged = { ...common, interval, detectable, chance };
  const verdict = interval.low > 1 ? 'gain' : interval.high < 1 ? 'loss' : 'inside noise';
  if (verdict !== 'inside noise') return { ...judged, verdict };
  return { ...judged, verdict, toSettle: whatSettles(a, b, spread, Math.abs(centre)) };
}

const asSet = (runs: readonly number[] | RunSet): RunSet =>
  'sittings' in runs ? runs : { sittings: [runs] };

/** What the difference of the two log means may be off by. */
interface Spread {
  readonly by: 'sittings' | 'runs';
  /** Variance of the difference, all parts together. */
  readonly error: number;
  readonly degrees: number;
  /** Half of the 95 % interval, for sittings; the part beside the runs' own scatter, for runs. */
  readonly half: number;
  /** Variance of one sitting's level. */
  readonly between: number;
  readonly rounding: number;
}

function comparedBy(a: SideFigures, b: SideFigures, level: LevelSpread): Spread {
  const rounding = a.rounding + b.rounding;
  const own = a.sittings - 1 + (b.sittings - 1);
  if (own === 0) {
    const between = level.sd ** 2;
    const levels = between * (doubtOf(a) + doubtOf(b));
    const sides = [a, b].map((side) => ({ error: side.within / side.runs, n: side.runs }));
    const error = sides.reduce((sum, side) => sum + side.error, 0) + levels + rounding;
    const parts =
      sides.reduce((sum, side) => sum + side.error ** 2 / Math.max(1, side.n - 1), 0) +
      levels ** 2 / level.degrees;
    const half = Math.hypot(t95(level.degrees) * Math.sqrt(levels), Z_95 * Math.sqrt(rounding));
    const degrees = parts === 0 ? Infinity : error ** 2 / parts;
    return { by: 'runs', error, degrees, half, between, rounding };
  }
  // Means of sittings scatter by their level and by what is within them; a known spread helps a little.
  const weight =
    level.from === 'shop'
      ? Math.min(PRIOR_DEGREES.shop, level.degrees)
      : own === 1
        ? PRIOR_DEGREES.single
        : 0;
  const within = (a.within * a.sittings) / a.runs / 2 + (b.within * b.sittings) / b.runs / 2;
  const degrees = own + weight;
  const between =
    (a.between + b.between + weight * (level.sd ** 2 + within)) / Math.max(1, degrees);
  const error = between * (1 / a.sittings + 1 / b.sittings) + rounding;
  return {
    by: 'sittings',
    error,
    degrees,
    half: t95(degrees) * Math.sqrt(error),
    between,
    rounding,
  };
}

const doubtOf = ({ isDoubtful }: SideFigures): number => (isDoubtful ? DOUBT ** 2 : 1);

/** How far the interval of one sitting a side reaches either way: its runs, its levels, its rounding. */
function singleReach(
  sets: { readonly before: RunSet; readonly after: RunSet },
  sign: number,
  centre: number,
  { half }: Spread,
  seed: number,
): { low: number; high: number } {
  const [before, after] = [sets.before.sittings.flat(), sets.after.sittings.flat()];
  const deviations = resample(before, after, sign, seed).map((value) => value - centre);
  deviations.sort((x, y) => x - y);
  const stretch = smallSampleStretch(before, after);
  const at = (share: number) => deviations[Math.floor(share * (RESAMPLES - 1))] ?? 0;
  return {
    low: Math.hypot(Math.min(0, at(0.025)) * stretch, half),
    high: Math.hypot(Math.max(0, at(0.975)) * stretch, half),
  };
}

/**
 * The run of a side that fits none of the others: the farthest from the mean of the others, where
 * Student's t for its distance says so at 1 % for the whole set (the externally studentised residual).
 * It stays: leaving runs out makes intervals too narrow wherever machines do have two speeds.
 */
function strayOf({ sittings }: RunSet, side: Side): Stray[] {
  const runs = sittings.flat();
  if (runs.length < STRAY.leastRuns || sittings.length > 1) return [];
  const centre = mean(runs);
  const distances = runs.map((run) => Math.abs(run - centre));
  const worst = distances.indexOf(Math.max(...distances));
  const value = runs[worst] ?? centre;
  const rest = runs.filter((_, index) => index !== worst);
  const others = mean(rest);
  const spread = Math.sqrt(variance(rest));
  const t = Math.abs(value - others) / (spread * Math.sqrt(1 + 1 / rest.length));
  // Runs all alike but one: any difference would be infinitely far; clocks round.
  if (spread === 0 || !(t > tPoint(STRAY.chance / runs.length, rest.length - 1))) return [];
  return [{ side, value, others, distance: Math.abs(value - others) / spread }];
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

function missingRuns(before: number, after: number): ToSettle {
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

/** What would bring an effect of this size clear of this noise: runs, where they can, else sittings. */
function whatSettles(
  a: SideFigures,
  b: SideFigures,
  { by, half, between, rounding }: Spread,
  effect: number,
): ToSettle {
  const scatter = a.within + b.within;
  if (by === 'runs')
    for (let n = Math.min(a.runs, b.runs) + 1; n <= RUNS.settleLimit; n++) {
      const runs = t95(2 * n - 2) * Math.sqrt((scatter / n) * (n / (n - 1)));
      if (Math.hypot(runs, half) < effect) return missing('runs', n, a.runs, b.runs);
    }
  const perSitting = Math.max(1, Math.min(a.runs / a.sittings, b.runs / b.sittings));
  // Levels of one sitting a side are assumed without their runs' scatter; of several, with it.
  const level = by === 'runs' ? 2 * between + scatter / perSitting : 2 * between;
  for (let n = Math.max(2, Math.min(a.sittings, b.sittings)); n <= MOST_SITTINGS; n++) {
    const reach = t95(2 * n - 2) * Math.sqrt(level / n + rounding);
    if (n > Math.min(a.sittings, b.sittings) && reach < effect)
      return missing('sittings', n, a.sittings, b.sittings);
  }
  return { type: 'too small to settle', limit: RUNS.settleLimit };
}

const missing = (
  type: 'runs' | 'sittings',
  n: number,
  before: number,
  after: number,
): ToSettle => ({
  type,
  before: Math.max(0, n - before),
  after: Math.max(0, n - after),
});
