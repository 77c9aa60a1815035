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
  /** Channels hold different amounts: the memory a test is given may lie wholly in either part. */
  readonly isUneven?: boolean | undefined;
  /** A screen showed the rate that {@link channelPeak} goes by. */
  readonly isRateConfirmed?: boolean | undefined;
  /** Rates it might run at instead, as shares of the expected one; absent = any. */
  readonly lowerRates?: readonly number[] | undefined;
  /** Nothing else kept memory busy: the reply took no longer than it should. Absent = not known. */
  readonly isQuiet?: boolean | undefined;
  /** More threads brought no more: memory was the limit, not one core. Absent = not known. */
  readonly isPlateau?: boolean | undefined;
}

/** What has to be known before a narrower reading is believed, in the order to ask. */
export const CHANNEL_QUESTIONS = [
  'uneven',
  'rate',
  'quiet',
  'cores',
  'baseline',
  'figure',
] as const;
/**
 * - `uneven`: even the channels out, or look it up: a test cannot tell
 * - `rate`: what rate does a screen show?
 * - `quiet`: is another program busy? Take the reply as well, or measure again after a pause
 * - `cores`: was one core the limit? The measuring page tells
 * - `baseline`: there is none under the same conditions, or something else was busy
 * - `figure`: the figure lies between the readings; another sitting may tell
 */
export type ChannelQuestion = (typeof CHANNEL_QUESTIONS)[number];

/** What a measured bandwidth says about how many channels ran side by side. */
export interface ChannelInference {
  readonly verdict:
    | { readonly type: 'paired' | 'one wide' | 'partly'; readonly width: number }
    | { readonly type: "can't tell"; readonly open: readonly ChannelQuestion[] }
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
/** Chance that a rate nobody has confirmed is lower than expected, spread over the rates it might be. */
const LOWER_RATE = 0.15;
/** Rates it might be where the generation's are not told. */
const ANY_LOWER = [0.94, 0.88, 0.8, 0.75, 0.67, 0.59, 0.5];
/** Chance that the processor, not memory, stops a wider set short: one core, or all of them. */
const CAPPED = 0.12;
/** How far a capped set gets between one channel's worth and all of it. */
const CAPS = [0.1, 0.3, 0.5, 0.7, 0.9];
/** Widths a test may see of an uneven set, between one channel and all. */
const ZONE_PARTS = [0, 0.25, 0.5, 0.75, 1];
/** A rate explains a reading when it comes this near to it (log scale). */
const EXPLAINS = 0.16;
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
 * A set may also run at a lower rate than expected, or be stopped short by the processor; both are
 * reckoned with. Whatever slows a test looks like a narrower set, so narrower than all channels is
 * only said where the rate is confirmed (or no lower rate would explain it), nothing else was busy and
 * more threads brought no more. A baseline taken while something else was busy is none.
 * Of an uneven set nothing is said for sure.
 *
 * @param after - measured with the modules in question
 * @param before - the baseline: same machine, same test, modules as found
 */
export function inferChannels(after: BandwidthSide, before?: BandwidthSide): ChannelInference {
  const withBaseline = before !== undefined && before.runs.length > 0 && before.isQuiet !== false;
  const none = { widths: [], neither: 0, withBaseline };
  const measured = mean(after.runs);
  const peak = after.channelPeak * after.populated;
  if (measured > peak * HEADROOM)
    return { ...none, verdict: { type: 'above the bus', measured, peak } };
  if (after.populated < 2) return { ...none, verdict: { type: 'only one channel holds memory' } };

  const efficiencies = posteriorEfficiency(withBaseline ? before : undefined);
  const prior = (1 - NEITHER_PRIOR) / after.populated;
  const sd = Math.hypot(withBaseline ? EFFICIENCY_CARRY_SD : 0, relativeError(after.runs));
  const weigh = (share: number) => (share > HEADROOM ? 0 : density(efficiencies, share, sd));
  const weights = Array.from({ length: after.populated }, (_, at) => {
    const width = after.populated - at;
    const straight = overRates(after, width, weigh);
    if (width === 1) return { width, weight: prior * straight };
    const capped =
      CAPS.reduce((sum, part) => sum + overRates(after, 1 + (width - 1) * part, weigh), 0) /
      CAPS.length;
    return { width, weight: prior * ((1 - CAPPED) * straight + CAPPED * capped) };
  });
  // "Neither" spreads evenly (in log) from a hundredth of the bus to all of it.
  const neitherWeight = NEITHER_PRIOR / Math.log(100);
  const total = weights.reduce((sum, { weight }) => sum + weight, neitherWeight);
  const widths = weights.map(({ width, weight }) => ({ width, probability: weight / total }));
  return {
    verdict: verdictOf(widths, after, withBaseline),
    widths,
    neither: neitherWeight / total,
    withBaseline,
  };
}

/** A weight averaged over the rates a side may really have run at. */
function overRates(side: BandwidthSide, width: number, weigh: (share: number) => number): number {
  const full = overShortfalls(side, width, weigh);
  const lower = side.lowerRates ?? ANY_LOWER;
  if (side.isRateConfirmed || lower.length === 0) return full;
  const others =
    lower.reduce((sum, rate) => sum + overShortfalls(side, width * rate, weigh), 0) / lower.length;
  return (1 - LOWER_RATE) * full + LOWER_RATE * others;
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
      ? widthsOf(before)
          .map(({ width, weight: own }) => {
            const weight = overRates(before, width, (share) =>
              normal(
                Math.log(share),
                Math.log(efficiency),
                Math.max(0.02, relativeError(before.runs)),
              ),
            );
            return weight * own;
          })
          .reduce((sum, part) => sum + part, UNEXPLAINED)
      : 1;
    grid.push({ efficiency, weight: prior * likelihood });
  }
  const total = grid.reduce((sum, { weight }) => sum + weight, 0);
  return grid.map(({ efficiency, weight }) => ({ efficiency, weight: weight / total }));
}

/** Widths a baseline may have run at, and how likely each is beside all channels. */
function widthsOf({ populated, isUneven }: BandwidthSide): { width: number; weight: number }[] {
  if (isUneven)
    return ZONE_PARTS.map((part) => ({
      width: 1 + (populated - 1) * part,
      weight: 1 / ZONE_PARTS.length,
    }));
  return Array.from({ length: populated }, (_, at) => ({
    width: at + 1,
    weight: at + 1 === populated ? 1 : NARROWED_BEFORE,
  }));
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
  after: BandwidthSide,
  withBaseline: boolean,
): ChannelInference['verdict'] {
  const { populated } = after;
  if (after.isUneven) return { type: "can't tell", open: ['uneven'] };
  const sure = widths.find(({ probability }) => probability >= CHANNEL_CERTAINTY);
  if (sure?.width === populated) return { type: 'paired', width: populated };
  const likeliest = widths.reduce((best, one) => (one.probability > best.probability ? one : best));
  const open: ChannelQuestion[] = [];
  if (likeliest.width < populated) {
    if (explainedByRate(after, likeliest.width)) open.push('rate');
    if (after.isQuiet !== true) open.push('quiet');
    if (after.isPlateau !== true) open.push('cores');
  }
  if (sure && open.length === 0)
    return { type: sure.width === 1 ? 'one wide' : 'partly', width: sure.width };
  if (!sure) open.push(withBaseline ? 'figure' : 'baseline');
  return { type: "can't tell", open };
}

/** Whether a wider set at a lower rate would look like this width. */
function explainedByRate(
  { isRateConfirmed, lowerRates = ANY_LOWER, populated }: BandwidthSide,
  width: number,
): boolean {
  if (isRateConfirmed) return false;
  for (let wider = width + 1; wider <= populated; wider++)
    if (lowerRates.some((rate) => Math.abs(Math.log((rate * wider) / width)) < EXPLAINS))
      return true;
  return false;
}
