import { seededRandom } from '../units/index.ts';
import { Z_95, mean, t95, variance, welchDegrees } from './statistics.ts';

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
}

/** Runs still needed, or that no sensible number would do. */
export type RunsNeeded =
  | { readonly type: 'runs'; readonly before: number; readonly after: number }
  | { readonly type: 'too small to settle'; readonly limit: number };

/** Runs on each side below which nothing can be said, and what the bench should take. */
export const RUNS = { least: 2, advised: 3, most: 200, settleLimit: 30 } as const;

const RESAMPLES = 2000;

/**
 * Judges a change from runs before and after.
 *
 * The interval is a seeded bootstrap of the log ratio of means. Resampling a handful of runs is
 * known to come out too narrow (three runs a side cover about 75 % instead of 95 %), so the
 * deviations are stretched by t/z for the Welch degrees of freedom and by √(n/(n−1)).
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
  const verdict = interval.low > 1 ? 'gain' : interval.high < 1 ? 'loss' : 'inside noise';
  if (verdict !== 'inside noise') return { verdict, factor, interval };
  return { verdict, factor, interval, runsNeeded: runsToSettle(before, after, centre) };
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
  const drawMean = (values: readonly number[]) => {
    let sum = 0;
    for (let i = 0; i < values.length; i++)
      sum += values[Math.floor(random() * values.length)] ?? 0;
    return sum / values.length;
  };
  return Array.from(
    { length: RESAMPLES },
    () => sign * Math.log(drawMean(after) / drawMean(before)),
  );
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
