import { t95, variance, welchDegrees } from './statistics.ts';

/** A change as a factor, with its 95 % interval. */
export interface Change {
  readonly factor: number;
  readonly low: number;
  readonly high: number;
}

/** Change of the rate between two logs. */
export interface FrameGain extends Change {
  /** Of the rate of the slowest 1 % of frames together, and at the time 99 % stay under. */
  readonly lowAverage: Change;
  readonly lowPercentile: Change;
  /** How long a frame resembles those behind it, s, in the log where that is longer. */
  readonly memory: number;
  /** Seconds a side should be recorded, where its log is too short for its memory. */
  readonly record: { readonly before?: number | undefined; readonly after?: number | undefined };
}

/** Frames are gathered in bins of about this long before neighbours are compared, ms. */
const BIN_MS = 100;
const MOST_BINS = 20_000;
/** Neighbours in a row that must no longer resemble each other (Politis and White, 2004). */
const QUIET_LAGS = 5;
/** Independent stretches, as degrees of freedom, below which an interval is a guess. */
const LEAST_DEGREES = 8;
/** Blocks left out in turn for the lows. */
const BLOCKS = { least: 6, most: 40 } as const;

/**
 * The gain in mean rate and in both 1 % lows.
 *
 * Frames resemble their neighbours for a while, how long the log itself tells: the first lag from which
 * on correlations of bins stay inside 2√(log₁₀N/N), doubled, is the reach M of a flat-top window
 * (Politis and White, 2004), whose sum gives the variance of the mean; Student's t stands for the
 * N ÷ (4/3 M) stretches that are left. A scene that repeats never falls still; there whole rounds are
 * compared. Lows have no such formula: the log is cut into blocks of M, each
 * left out in turn (the delete-block jackknife), again with Student's t.
 */
export function judgeFrames(before: Float64Array, after: Float64Array): FrameGain {
  const [a, b] = [seriesOf(before), seriesOf(after)];
  const mean = change(
    { value: 1 / a.mean, error: a.error, n: a.degrees + 1 },
    { value: 1 / b.mean, error: b.error, n: b.degrees + 1 },
  );
  const [lowA, lowB] = [lowsOf(before, a), lowsOf(after, b)];
  return {
    ...mean,
    lowAverage: change(lowA.average, lowB.average),
    lowPercentile: change(lowA.percentile, lowB.percentile),
    memory: Math.max(a.memory, b.memory),
    record: { before: a.record, after: b.record },
  };
}

/** A figure with the squared standard error of its logarithm, from so many blocks. */
interface Estimate {
  readonly value: number;
  readonly error: number;
  readonly n: number;
}

function change(before: Estimate, after: Estimate): Change {
  const centre = Math.log(after.value / before.value);
  const degrees = welchDegrees(before, after);
  const reach = t95(degrees) * Math.sqrt(before.error + after.error);
  return {
    factor: Math.exp(centre),
    low: Math.exp(centre - reach),
    high: Math.exp(centre + reach),
  };
}

interface Series {
  readonly mean: number;
  /** Squared relative standard error of the mean. */
  readonly error: number;
  readonly degrees: number;
  /** Reach of the window, in frames. */
  readonly block: number;
  /** s. */
  readonly memory: number;
  readonly record: number | undefined;
}

function seriesOf(times: Float64Array): Series {
  const total = times.reduce((sum, one) => sum + one, 0);
  const mean = total / times.length;
  const size = Math.max(
    Math.min(Math.round(BIN_MS / mean), Math.floor(times.length / 40)),
    Math.ceil(times.length / MOST_BINS),
    1,
  );
  const n = Math.max(1, Math.floor(times.length / size));
  const bins = new Float64Array(n);
  for (let at = 0; at < n * size; at++) {
    const bin = Math.floor(at / size);
    bins[bin] = (bins[bin] ?? 0) + ((times[at] ?? 0) - mean) / size;
  }
  const covariance = (lag: number) => {
    let sum = 0;
    for (let at = lag; at < n; at++) sum += (bins[at] ?? 0) * (bins[at - lag] ?? 0);
    return sum / n;
  };
  const own = covariance(0);
  const longest = Math.max(1, Math.floor(n / 4));
  const known: number[] = [own];
  const at = (lag: number) => (known[lag] ??= covariance(lag));
  const still = own * 2 * Math.sqrt(Math.log10(Math.max(2, n)) / n);
  let quiet = 0;
  let lag = 0;
  while (lag < longest && quiet < QUIET_LAGS) {
    lag += 1;
    quiet = Math.abs(at(lag)) < still ? quiet + 1 : 0;
  }
  const last = Math.max(0, lag - quiet);
  const reach = Math.min(Math.max(1, 2 * last), Math.max(1, Math.floor(n / 2)));
  // Long alike, or coming round again? A swing to the other side tells the two apart.
  const period = (0.75 * n) / reach < LEAST_DEGREES ? periodOf(known, own) : undefined;
  if (period !== undefined) return seriesByPeriod(bins, period, size, mean);
  let sum = own;
  for (let one = 1; one <= reach; one++) {
    const share = one / reach;
    sum += 2 * at(one) * (share <= 0.5 ? 1 : 2 * (1 - share));
  }
  // Deviations are taken from the log's own mean, which makes every covariance a little too small.
  const long = Math.max(own, sum) / Math.max(0.25, 1 - (1.5 * reach) / n);
  const degrees = Math.max(1, (0.75 * n) / reach);
  const seconds = total / 1000;
  const wanted = (seconds * LEAST_DEGREES) / degrees;
  return {
    ...{ mean, degrees, error: long / n / mean ** 2, block: reach * size },
    memory: ((own === 0 ? 1 : long / own) * size * mean) / 2000,
    record: degrees < LEAST_DEGREES ? Math.ceil((wanted * 1.2) / 30) * 30 : undefined,
  };
}

/** How far correlations have to swing to the other side for a scene to be called one that repeats. */
const SWING = -0.3;

/** The lag at which a repeating scene comes round; `undefined` where correlations never swing back. */
function periodOf(covariances: readonly number[], own: number): number | undefined {
  const trough = covariances.findIndex((one) => one < SWING * own);
  if (trough < 0) return undefined;
  let best = trough;
  for (let lag = trough; lag < Math.min(covariances.length, 3 * trough + 3); lag++)
    if ((covariances[lag] ?? 0) > (covariances[best] ?? 0)) best = lag;
  return best > trough ? best : undefined;
}

/** A scene that repeats: means of whole periods are what is independent. */
function seriesByPeriod(bins: Float64Array, period: number, size: number, mean: number): Series {
  const rounds = Math.floor(bins.length / period);
  const means = Array.from({ length: rounds }, (_, at) => {
    let sum = 0;
    for (let one = at * period; one < (at + 1) * period; one++) sum += bins[one] ?? 0;
    return sum / period;
  });
  const error = variance(means) / rounds / mean ** 2;
  const [degrees, memory] = [Math.max(1, rounds - 1), (period * size * mean) / 1000];
  const record =
    degrees < LEAST_DEGREES ? Math.ceil((memory * (LEAST_DEGREES + 2)) / 30) * 30 : undefined;
  return { mean, error, degrees, block: period * size, memory, record };
}

/** Frame times by size, in steps of 0.05 %, for counting from the slow end. */
const FINEST = 0.05;
const STEP = Math.log(1.0005);
const SIZES = Math.ceil(Math.log(5000 / FINEST) / STEP) + 2;
const sizeOf = (ms: number): number =>
  Math.min(SIZES - 1, Math.max(0, Math.round(Math.log(ms / FINEST) / STEP)));

function lowsOf(
  times: Float64Array,
  { block: length }: Series,
): { average: Estimate; percentile: Estimate } {
  const wanted = Math.floor(times.length / Math.max(1, length));
  const blocks = Math.min(BLOCKS.most, Math.max(BLOCKS.least, wanted));
  const counts = Array.from({ length: blocks }, () => new Uint32Array(SIZES));
  const all = new Uint32Array(SIZES);
  const longs = new Uint32Array(blocks);
  for (let at = 0; at < times.length; at++) {
    const size = sizeOf(times[at] ?? 1);
    const block = Math.floor((at * blocks) / times.length);
    const own = counts[block];
    if (own) own[size] = (own[size] ?? 0) + 1;
    longs[block] = (longs[block] ?? 0) + 1;
    all[size] = (all[size] ?? 0) + 1;
  }
  const whole = slowEnd(all, times.length);
  const without = counts.map((own, at) => slowEnd(all, times.length - (longs[at] ?? 0), own));
  const estimate = (pick: (one: SlowEnd) => number): Estimate => {
    const logs = without.map((one) => Math.log(pick(one)));
    const centre = logs.reduce((sum, one) => sum + one, 0) / blocks;
    const squares = logs.reduce((sum, one) => sum + (one - centre) ** 2, 0);
    return { value: pick(whole), error: (squares * (blocks - 1)) / blocks, n: blocks };
  };
  return {
    average: estimate(({ average }) => average),
    percentile: estimate(({ percentile }) => percentile),
  };
}

interface SlowEnd {
  /** Rate of the slowest 1 % together, and at the time 99 % stay under. */
  readonly average: number;
  readonly percentile: number;
}

/** Of so many frames, those of one block left out. */
function slowEnd(all: Uint32Array, frames: number, without?: Uint32Array): SlowEnd {
  const count = (size: number) => (all[size] ?? 0) - (without?.[size] ?? 0);
  const wanted = Math.max(1, Math.round(frames / 100));
  let taken = 0;
  let sum = 0;
  let size = SIZES - 1;
  for (; size >= 0 && taken < wanted; size--) {
    const more = Math.min(count(size), wanted - taken);
    taken += more;
    sum += more * FINEST * Math.exp(size * STEP);
  }
  return {
    average: (1000 * taken) / sum,
    percentile: 1000 / (FINEST * Math.exp((size + 1) * STEP)),
  };
}
