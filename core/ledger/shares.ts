import { KINDS_OF_WORK, speedRatio } from '../promising/index.ts';
import type { KindOfWork } from '../promising/index.ts';
import type { LedgerEntry, LedgerRatios } from './entry.ts';

/** Jobs of one kind of work below which its shares stay as assumed. */
export const LEAST_JOBS = 6;
/** Jobs of one kind that have a say: later ones tell of today's machines, and more would hardly narrow it. */
export const MOST_JOBS = 200;
/** Jobs are predicted from the others in so many groups; a few jobs each by all the others. */
const GROUPS = 12;
/** A range of a share is read as its middle ± this many standard deviations. */
const RANGE_SD = 2;

/** One job's word on a kind of work: what was proven, and how the memory changed. */
export interface Observed {
  readonly factor: number;
  /** Standard deviation of ln factor. */
  readonly sd: number;
  readonly bandwidthRatio: number;
  readonly latencyRatio: number;
  /** Its place among the entries. */
  readonly at: number;
}

/** A job that the others do not bear out: probably a slip, and counted for next to nothing. */
export interface OddJob {
  /** Its place among the entries. */
  readonly at: number;
  readonly factor: number;
  /** What the other jobs make of it. */
  readonly expected: number;
}

/** A kind of work before and after the shop's own jobs had their say. */
export interface RefittedClass {
  readonly assumed: KindOfWork;
  /** The same as `assumed` where there are too few jobs. */
  readonly refitted: KindOfWork;
  readonly jobs: number;
  readonly isRefitted: boolean;
  /** Jobs named, not believed. */
  readonly odd: readonly OddJob[];
  /** Each job predicted from jobs it is not among; absent where there are too few. */
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
 * 1/gain − 1 = β(1/B − 1) + λ(L − 1) is linear in the shares, with B and L of both sides simulated, as
 * that kind of work moves memory, or reckoned where they are not. So this is a regression with the
 * assumed ranges as a normal prior and each job weighed by its own interval and, by Student's t, by
 * how far it lies from the others: minutes typed for seconds, or another file, move nothing and are
 * named. How far jobs scatter beyond their intervals widens the result. Only real jobs whose need fitted
 * before count: where memory was short, capacity made the gain.
 *
 * @param entries - the latest first; of each kind of work the first {@link MOST_JOBS} have a say
 */
export function refitShares(entries: readonly LedgerEntry[]): RefittedClass[] {
  const observed = observedByActivity(entries);
  return KINDS_OF_WORK.map((assumed) => {
    const jobs = observed.get(assumed.id) ?? [];
    if (jobs.length < LEAST_JOBS)
      return { assumed, refitted: assumed, jobs: jobs.length, isRefitted: false, odd: [] };
    const { refitted, odd } = refit(assumed, jobs);
    const sound = jobs.filter(({ at }) => !odd.some((one) => one.at === at));
    const heldOut = {
      assumed: score(sound, () => assumed),
      refitted: score(sound, (others) => refit(assumed, others).refitted),
    };
    return { ...{ assumed, refitted, odd, jobs: jobs.length, isRefitted: true }, heldOut };
  });
}

/** What a ledger says about each kind of work: one line for each of its latest jobs, by its most certain test. */
function observedByActivity(entries: readonly LedgerEntry[]): Map<string, Observed[]> {
  const observed = new Map<string, Observed[]>(KINDS_OF_WORK.map(({ id }) => [id, []]));
  for (const [at, { gains, ratios, fittedBefore, isSimulated }] of entries.entries()) {
    if (!ratios || !fittedBefore || isSimulated) continue;
    for (const { activity, factor, low, high } of gains) {
      const kind = KINDS_OF_WORK.find(({ id }) => id === activity);
      const jobs = kind && observed.get(kind.id);
      if (!jobs) continue;
      const sd = Math.max(0.003, Math.log(high / low) / (2 * 1.96));
      const last = jobs.at(-1);
      const one = { factor, sd, ...ratiosFor(kind, ratios), at };
      if (last?.at !== at) {
        if (jobs.length < MOST_JOBS) jobs.push(one);
      } else if (sd < last.sd) jobs[jobs.length - 1] = one;
    }
  }
  return observed;
}

/** What a first word is of a whole reply, about: lines of old hold nothing else. */
const FIRST_WORD_SHARE = 0.35;

/** B and L as a kind of work meets them; from rest to loaded the middle. */
function ratiosFor({ moves }: KindOfWork, { simulated, ...reckoned }: LedgerRatios) {
  if (simulated)
    return {
      bandwidthRatio: simulated.bandwidth[moves],
      latencyRatio: Math.sqrt(simulated.reply.idle * simulated.reply.loaded),
    };
  const { bandwidth, latency, reply = 1 + FIRST_WORD_SHARE * (latency - 1) } = reckoned;
  return { bandwidthRatio: bandwidth, latencyRatio: reply };
}

/** Degrees of freedom of the weights: heavy tails, as slips have them. */
const HEAVY = 3;
/** A job this many scatters off is named. */
const ODD = 4;
const ROUNDS = 30;
/** Shares that move less than this in a round have settled. */
const SETTLED = 1e-6;
/** The median of squares of a normal scatter, as a share of its variance. */
const MEDIAN_SQUARE = 0.4549;

/** Posterior ranges of both shares, and the jobs that do not fit them. */
function refit(
  assumed: KindOfWork,
  jobs: readonly Observed[],
): { refitted: KindOfWork; odd: OddJob[] } {
  const beta = priorOf(assumed.bandwidth);
  const lambda = priorOf(assumed.latency);
  // Changed in place: thousands of rounds go over them.
  const rows = jobs.map(({ factor, sd, bandwidthRatio, latencyRatio }) => ({
    ...{ b: 1 / bandwidthRatio - 1, l: latencyRatio - 1, y: 1 / factor - 1 },
    ...{ log: sd, sd, trust: 1 },
  }));
  const squares = new Float64Array(rows.length);
  let shares = { beta: beta.mean, lambda: lambda.mean, betaSd: 0, lambdaSd: 0 };
  let between = 0;
  const missOf = ({ b, l, y }: (typeof rows)[number]) => y - shares.beta * b - shares.lambda * l;
  const expectedOf = ({ b, l }: (typeof rows)[number]) =>
    Math.max(0.05, 1 + shares.beta * b + shares.lambda * l);
  for (let round = 0; round < ROUNDS; round++) {
    const last = shares;
    // The delta method, d(1/g) = d ln g / g, at what is expected: a slip by 60 is not sixty times surer.
    for (const [at, row] of rows.entries()) {
      row.sd = row.log * expectedOf(row);
      squares[at] = Math.max(0, missOf(row) ** 2 - row.sd ** 2);
    }
    between = middleOf(squares) / MEDIAN_SQUARE;
    for (const row of rows)
      row.trust = (HEAVY + 1) / (HEAVY + missOf(row) ** 2 / (row.sd ** 2 + between));
    // Scatter is how far jobs lie from one another, not from what was assumed.
    shares = solve(rows, vague(beta), vague(lambda), between);
    const moved = Math.abs(shares.beta - last.beta) + Math.abs(shares.lambda - last.lambda);
    if (round > 0 && moved < SETTLED) break;
  }
  shares = solve(rows, beta, lambda, between);
  const trusted = rows.reduce((sum, { trust }) => sum + Math.min(1, trust), 0);
  const excess = rows.reduce(
    (sum, row) => sum + Math.min(1, row.trust) * (missOf(row) ** 2 - row.sd ** 2),
    0,
  );
  const apart = Math.max(0, excess / Math.max(1, trusted));
  const reach = Math.sqrt(rows.reduce((sum, { b }) => sum + b * b, 0) / rows.length);
  const own = reach > 0 ? Math.sqrt(apart) / reach : 0;
  const odd = rows.flatMap((row, at): OddJob[] => {
    const job = jobs[at];
    if (!job || Math.abs(missOf(row)) <= ODD * Math.sqrt(row.sd ** 2 + between)) return [];
    return [{ at: job.at, factor: job.factor, expected: 1 / expectedOf(row) }];
  });
  const refitted = {
    ...assumed,
    bandwidth: rangeOf(shares.beta, Math.hypot(shares.betaSd, own)),
    latency: rangeOf(shares.lambda, shares.lambdaSd),
  };
  return { refitted, odd };
}

function middleOf(values: Float64Array): number {
  const sorted = values.toSorted();
  return sorted[Math.floor(sorted.length / 2)] ?? 0;
}

interface Prior {
  readonly mean: number;
  readonly sd: number;
}

const priorOf = ({ low, high }: KindOfWork['bandwidth']): Prior => ({
  mean: (low + high) / 2,
  sd: Math.max(0.005, (high - low) / (2 * RANGE_SD)),
});

/** So wide that jobs alone decide. */
const vague = ({ mean }: Prior): Prior => ({ mean, sd: 0.5 });

const rangeOf = (mean: number, sd: number) => ({
  low: Math.min(1, Math.max(0, mean - RANGE_SD * sd)),
  high: Math.min(1, Math.max(0, mean + RANGE_SD * sd)),
});

/** Two shares by weighted least squares with normal priors: a system of two equations. */
function solve(
  rows: readonly { b: number; l: number; y: number; sd: number; trust: number }[],
  beta: Prior,
  lambda: Prior,
  between: number,
) {
  let [bb, bl, ll] = [1 / beta.sd ** 2, 0, 1 / lambda.sd ** 2];
  let [by, ly] = [beta.mean / beta.sd ** 2, lambda.mean / lambda.sd ** 2];
  for (const { b, l, y, sd, trust } of rows) {
    const weight = trust / (sd * sd + between);
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

/** Each job predicted from the groups it is not in. */
function score(
  jobs: readonly Observed[],
  classFrom: (others: readonly Observed[]) => KindOfWork,
): BandScore {
  const groups = Math.min(GROUPS, jobs.length);
  const classes = Array.from({ length: groups }, (_, group) =>
    classFrom(jobs.filter((_job, at) => at % groups !== group)),
  );
  let [inside, width] = [0, 0];
  for (const [at, job] of jobs.entries()) {
    const { bandwidth, latency } = classes[at % groups] as KindOfWork;
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
