import { mean, variance } from './statistics.ts';

/** One side of a channel question: what bandwidth was measured, and what the bus could carry. */
export interface BandwidthSide {
  /** Runs in GB/s. */
  readonly runs: readonly number[];
  /** Peak of a single channel at the operating rate, GB/s. */
  readonly channelPeak: number;
  /** Channels that hold memory. */
  readonly populated: number;
  /** Memory was perhaps not what limited the test: it could be up to twice as fast. */
  readonly isLowerBound?: boolean | undefined;
}

/** What a measured bandwidth says about how many channels ran side by side. */
export interface ChannelInference {
  readonly verdict:
    | { readonly type: 'paired' | 'one wide' | 'partly'; readonly width: number }
    | { readonly type: "can't tell" }
    | { readonly type: 'only one channel holds memory' }
    | { readonly type: 'above the bus'; readonly measured: number; readonly peak: number };
  /** Probability of each width, widest first; sums to 1 with `neither`. */
  readonly widths: readonly { readonly width: number; readonly probability: number }[];
  /** Probability that none of the widths explains the figure. */
  readonly neither: number;
  /** A baseline on the same machine fixed the efficiency. */
  readonly withBaseline: boolean;
}

/** Below this probability the verdict is "can't tell". */
export const CHANNEL_CERTAINTY = 0.9;

/**
 * Share of the peak a copy or read test reaches, over machines and programs. Wide on purpose:
 * without a baseline one figure rarely settles anything.
 */
const EFFICIENCY = { mean: 0.7, sd: 0.15, lowest: 0.2 } as const;
/** How far the efficiency of one machine and program wanders when modules change (log scale). */
export const EFFICIENCY_CARRY_SD = 0.06;
/** A test can come out a little over the peak, by clock and rounding error; not more. */
const HEADROOM = 1.03;
/** Prior weight of "something else went on": background load, the wrong test, a tail in use. */
const NEITHER_PRIOR = 0.03;
const STEP = 0.01;
/** How often a machine came in running narrower than its modules allow, against as wide as they do. */
const NARROWED_BEFORE = 0.1;
/** A baseline that fits no efficiency at all must leave the prior standing, not divide by zero. */
const UNEXPLAINED = 1e-9;

/**
 * How many channels ran side by side, from measured bandwidth.
 *
 * Bayes over a grid of efficiencies: each width w predicts `efficiency × w × channel peak`. A
 * baseline on the same machine narrows the efficiency to a few per cent, whatever its own width
 * was, so the after/before ratio tells one wide from paired sharply; without one the prior is
 * wide and "can't tell" is a common, honest answer.
 *
 * @param after - measured with the modules in question
 * @param before - the baseline: same machine, same test, modules as found
 */
export function inferChannels(after: BandwidthSide, before?: BandwidthSide): ChannelInference {
  const withBaseline = before !== undefined && before.runs.length > 0;
  const none = { widths: [], neither: 0, withBaseline };
  const measured = mean(after.runs);
  const peak = after.channelPeak * after.populated;
  if (measured > peak * HEADROOM)
    return { ...none, verdict: { type: 'above the bus', measured, peak } };
  if (after.populated < 2) return { ...none, verdict: { type: 'only one channel holds memory' } };

  const efficiencies = posteriorEfficiency(withBaseline ? before : undefined);
  const prior = (1 - NEITHER_PRIOR) / after.populated;
  const weights = Array.from({ length: after.populated }, (_, at) => {
    const width = after.populated - at;
    const sd = Math.hypot(withBaseline ? EFFICIENCY_CARRY_SD : 0, relativeError(after.runs));
    const weight = overShortfalls(after, width, (share) =>
      share > HEADROOM ? 0 : density(efficiencies, share, sd),
    );
    return { width, weight: prior * weight };
  });
  // "Neither" spreads evenly (in log) from a hundredth of the bus to all of it.
  const neitherWeight = NEITHER_PRIOR / Math.log(100);
  const total = weights.reduce((sum, { weight }) => sum + weight, neitherWeight);
  const widths = weights.map(({ width, weight }) => ({ width, probability: weight / total }));
  return {
    verdict: verdictOf(widths, after.populated),
    widths,
    neither: neitherWeight / total,
    withBaseline,
  };
}

/** How far below its reach a test may stay where more threads still brought more. */
const SHORTFALLS = [1, 0.9, 0.8, 0.7, 0.6, 0.5];

/**
 * A weight averaged over what the measured share of the peak may stand for: itself, or, as a lower
 * bound, up to twice as much.
 */
function overShortfalls(
  { runs, channelPeak, isLowerBound }: BandwidthSide,
  width: number,
  weigh: (share: number) => number,
): number {
  const share = mean(runs) / (channelPeak * width);
  if (!isLowerBound) return weigh(share);
  return SHORTFALLS.reduce((sum, part) => sum + weigh(share / part), 0) / SHORTFALLS.length;
}

interface GridPoint {
  readonly efficiency: number;
  readonly weight: number;
}

/** The efficiency as far as a baseline tells it, over every width the baseline may have had. */
function posteriorEfficiency(before: BandwidthSide | undefined): GridPoint[] {
  const grid: GridPoint[] = [];
  for (let efficiency = EFFICIENCY.lowest; efficiency <= 1 + 1e-9; efficiency += STEP) {
    const prior = normal(efficiency, EFFICIENCY.mean, EFFICIENCY.sd);
    const likelihood = before
      ? Array.from({ length: before.populated }, (_, at) => {
          const weight = overShortfalls(before, at + 1, (share) =>
            normal(
              Math.log(share),
              Math.log(efficiency),
              Math.max(0.02, relativeError(before.runs)),
            ),
          );
          return weight * (at + 1 === before.populated ? 1 : NARROWED_BEFORE);
        }).reduce((sum, part) => sum + part, UNEXPLAINED)
      : 1;
    grid.push({ efficiency, weight: prior * likelihood });
  }
  const total = grid.reduce((sum, { weight }) => sum + weight, 0);
  return grid.map(({ efficiency, weight }) => ({ efficiency, weight: weight / total }));
}

function density(grid: readonly GridPoint[], share: number, sd: number): number {
  const spread = Math.max(sd, STEP); // no sharper than the grid
  return grid.reduce(
    (sum, { efficiency, weight }) =>
      sum + weight * normal(Math.log(share), Math.log(efficiency), spread),
    0,
  );
}

const normal = (x: number, centre: number, sd: number): number =>
  Math.exp(-(((x - centre) / sd) ** 2) / 2) / (sd * Math.sqrt(2 * Math.PI));

/** Relative standard error of the mean; one run alone is taken as good to 5 %. */
function relativeError(runs: readonly number[]): number {
  return runs.length < 2 ? 0.05 : Math.sqrt(variance(runs) / runs.length) / mean(runs);
}

function verdictOf(
  widths: ChannelInference['widths'],
  populated: number,
): ChannelInference['verdict'] {
  const sure = widths.find(({ probability }) => probability >= CHANNEL_CERTAINTY);
  if (!sure) return { type: "can't tell" };
  const type = sure.width === populated ? 'paired' : sure.width === 1 ? 'one wide' : 'partly';
  return { type, width: sure.width };
}
