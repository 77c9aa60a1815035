import { ACTIVITY_CLASSES, speedRatio } from '../planning/index.ts';
import type { ActivityClass } from '../planning/index.ts';
import type { LedgerEntry } from './entry.ts';

/** Jobs of one kind of work below which its shares stay as assumed. */
export const LEAST_JOBS = 6;
/** A range of a share is read as its middle ± this many standard deviations. */
const RANGE_SD = 2;

/** One job's word on a kind of work: what was proven, and how the memory changed. */
export interface Observed {
  readonly factor: number;
  /** Standard deviation of ln factor. */
  readonly sd: number;
  readonly bandwidthRatio: number;
  readonly latencyRatio: number;
}

/** A kind of work before and after the shop's own jobs had their say. */
export interface RefittedClass {
  readonly assumed: ActivityClass;
  /** The same as `assumed` where there are too few jobs. */
  readonly refitted: ActivityClass;
  readonly jobs: number;
  readonly isRefitted: boolean;
  /** Each job predicted without itself; absent where there are too few. */
  readonly heldOut?: { readonly assumed: BandScore; readonly refitted: BandScore } | undefined;
}

/** How prediction bands did on jobs they had not seen. */
export interface BandScore {
  /** Share of jobs that landed inside, their own interval allowed for. */
  readonly inside: number;
  /** Mean width of the bands, in percent of speed. */
  readonly width: number;
}

/**
 * Refits the shares of every kind of work from jobs the shop has proven.
 *
 * 1/gain − 1 = β(1/B − 1) + λ(L − 1) is linear in the shares, so this is a regression with the
 * assumed ranges as a normal prior and each job weighed by its own interval; how far jobs scatter
 * beyond their intervals widens the result. Only real jobs whose need fitted before count: where
 * memory was short, capacity made the gain.
 */
export function refitShares(entries: readonly LedgerEntry[]): RefittedClass[] {
  return ACTIVITY_CLASSES.map((assumed) => {
    const jobs = observedFor(entries, assumed.id);
    if (jobs.length < LEAST_JOBS)
      return { assumed, refitted: assumed, jobs: jobs.length, isRefitted: false };
    const heldOut = {
      assumed: score(jobs, () => assumed),
      refitted: score(jobs, (others) => refit(assumed, others)),
    };
    return {
      ...{ assumed, refitted: refit(assumed, jobs), jobs: jobs.length, isRefitted: true },
      heldOut,
    };
  });
}

/** What a ledger says about one kind of work, one line for each job (its most certain test). */
export function observedFor(entries: readonly LedgerEntry[], activity: string): Observed[] {
  return entries.flatMap(({ gains, ratios, fittedBefore, isSimulated }): Observed[] => {
    if (!ratios || !fittedBefore || isSimulated) return [];
    const own = gains
      .filter((gain) => gain.activity === activity)
      .map(({ factor, low, high }) => ({ factor, sd: Math.log(high / low) / (2 * 1.96) }))
      .sort((a, b) => a.sd - b.sd)[0];
    if (!own) return [];
    const { bandwidth: bandwidthRatio, latency: latencyRatio } = ratios;
    return [{ factor: own.factor, sd: Math.max(0.003, own.sd), bandwidthRatio, latencyRatio }];
  });
}

/** Posterior ranges of both shares. */
function refit(assumed: ActivityClass, jobs: readonly Observed[]): ActivityClass {
  const beta = priorOf(assumed.bandwidth);
  const lambda = priorOf(assumed.latency);
  const rows = jobs.map(({ factor, sd, bandwidthRatio, latencyRatio }) => ({
    b: 1 / bandwidthRatio - 1,
    l: latencyRatio - 1,
    y: 1 / factor - 1,
    sd: sd / factor, // the delta method: d(1/g) = d ln g / g
  }));
  // Scatter between jobs beyond their own intervals, found by one pass without it.
  const plain = solve(rows, beta, lambda, 0);
  const excess =
    rows.reduce((sum, { b, l, y, sd }) => {
      const miss = y - plain.beta * b - plain.lambda * l;
      return sum + miss * miss - sd * sd;
    }, 0) / rows.length;
  const between = Math.max(0, excess);
  const { beta: share, lambda: wait, betaSd, lambdaSd } = solve(rows, beta, lambda, between);
  const reach = Math.sqrt(rows.reduce((sum, { b }) => sum + b * b, 0) / rows.length);
  const own = reach > 0 ? Math.sqrt(between) / reach : 0;
  return {
    ...assumed,
    bandwidth: rangeOf(share, Math.hypot(betaSd, own)),
    latency: rangeOf(wait, lambdaSd),
  };
}

interface Prior {
  readonly mean: number;
  readonly sd: number;
}

const priorOf = ({ low, high }: ActivityClass['bandwidth']): Prior => ({
  mean: (low + high) / 2,
  sd: Math.max(0.005, (high - low) / (2 * RANGE_SD)),
});

const rangeOf = (mean: number, sd: number) => ({
  low: Math.min(1, Math.max(0, mean - RANGE_SD * sd)),
  high: Math.min(1, Math.max(0, mean + RANGE_SD * sd)),
});

/** Two shares by weighted least squares with normal priors: a system of two equations. */
function solve(
  rows: readonly { b: number; l: number; y: number; sd: number }[],
  beta: Prior,
  lambda: Prior,
  between: number,
) {
  let [bb, bl, ll] = [1 / beta.sd ** 2, 0, 1 / lambda.sd ** 2];
  let [by, ly] = [beta.mean / beta.sd ** 2, lambda.mean / lambda.sd ** 2];
  for (const { b, l, y, sd } of rows) {
    const weight = 1 / (sd * sd + between);
    bb += weight * b * b;
    bl += weight * b * l;
    ll += weight * l * l;
    by += weight * b * y;
    ly += weight * l * y;
  }
  const determinant = bb * ll - bl * bl;
  return {
    beta: (ll * by - bl * ly) / determinant,
    lambda: (bb * ly - bl * by) / determinant,
    betaSd: Math.sqrt(ll / determinant),
    lambdaSd: Math.sqrt(bb / determinant),
  };
}

/** Each job predicted from the others alone. */
function score(
  jobs: readonly Observed[],
  classFrom: (others: readonly Observed[]) => ActivityClass,
): BandScore {
  let [inside, width] = [0, 0];
  for (const job of jobs) {
    const { bandwidth, latency } = classFrom(jobs.filter((one) => one !== job));
    const corners = [bandwidth.low, bandwidth.high].flatMap((b) =>
      [latency.low, latency.high].map((l) =>
        speedRatio(b, l, job.bandwidthRatio, job.latencyRatio),
      ),
    );
    const [low, high] = [Math.min(...corners), Math.max(...corners)];
    const slack = Math.exp(1.96 * job.sd);
    if (job.factor >= low / slack && job.factor <= high * slack) inside++;
    width += (high - low) * 100;
  }
  return { inside: inside / jobs.length, width: width / jobs.length };
}
