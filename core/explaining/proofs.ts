import type { ChannelInference, Gain, MetricProof, Proof, ProofCaution } from '../proving/index.ts';
import { CHANNEL_CERTAINTY, METRIC_TRAITS } from '../proving/index.ts';
import { decimals, exhausted } from '../units/index.ts';
import { channelsWord, count, figure, list } from './words.ts';
import type { Explanation } from './words.ts';

/** Factor with its interval: `×1.96 (1.90 to 2.03)`. */
export function gainText({ factor, interval }: Gain): string {
  const range = interval
    ? ` (${decimals(interval.low.toFixed(2))} to ${decimals(interval.high.toFixed(2))})`
    : '';
  return `×${decimals(factor.toFixed(2))}${range}`;
}

/** What is still to be measured, in words; `undefined` when the verdict is settled. */
export function toSettleText({ toSettle }: Gain): string | undefined {
  if (!toSettle) return undefined;
  if (toSettle.type === 'too small to settle')
    return `Even ${toSettle.limit} runs a side would not settle a change this small: treat it as none.`;
  const { before, after, type } = toSettle;
  const noun = type === 'runs' ? 'more run' : 'more sitting';
  const how = type === 'runs' ? '' : ' Restart, let the machine rest, and take the test again.';
  if (before === 0 && after === 0) return undefined;
  if (before === 0) return `${count(after, noun)} after would settle it.${how}`;
  if (after === 0) return `${count(before, noun)} before would settle it.${how}`;
  return `${count(before, noun)} before and ${after} after would settle it.${how}`;
}

/** What sittings were taken to differ by, in words. */
function levelText({ level, sittings }: Gain): string {
  const share = `${figure(level.sd * 100, 2)} %`;
  if (sittings.before === 1 && sittings.after === 1)
    return level.from === 'shop'
      ? ` One sitting a side: sittings differ by ${share} here, by the shop's own repeated ones, and that is allowed for.`
      : ` One sitting a side: sittings are taken to differ by ${share} until the shop's own repeated ones tell, and that is allowed for.`;
  return ` ${count(sittings.before, 'sitting')} before and ${sittings.after} after are compared, not their single runs.`;
}

const trendText = ({ trends }: Gain): string =>
  trends
    .map(
      ({ side, perRun }) =>
        ` Runs ${side} drift by ${figure(perRun * 100, 2)} % each: heat, or another program.`,
    )
    .join('');

/** A gain in words. */
export function explainGain({
  metric,
  gain,
  before,
  after,
  promised,
  againstPromise,
  standsTogether,
  use,
  cautions,
}: MetricProof): Explanation {
  const { unit, better } = METRIC_TRAITS[metric];
  if (use?.before || use?.after) return explainPeak(use);
  const unlike = cautions.find(({ type }) => type === 'conditions-differ');
  if (unlike) return { ...explainProofCaution(unlike), title: 'Not comparable' };
  if (!gain)
    return {
      title: 'Nothing to compare yet',
      why: 'A gain needs runs before and after, each on the right modules.',
      mend: 'Add the missing runs: 3 on each side, same conditions.',
    };
  const sense = better === 'declared' ? 'as declared' : `${better} is better`;
  const sides = `${before.length} runs before and ${after.length} after, in ${unit}, ${sense}.${strayText(gain, unit)}${trendText(gain)}${levelText(gain)}`;
  const mend = toSettleText(gain);
  if (gain.verdict === 'too few runs')
    return {
      title: 'Too few runs to judge',
      why: `${sides} One run says nothing about noise; 2 is the least, 3 on each side is sound.`,
      mend,
    };
  const source =
    'Ratio of means with an interval of 95 %: bootstrap of runs and Student’s t of sittings, rounding included; judged together by Holm’s rule';
  if (gain.verdict === 'inside noise')
    return {
      title: 'Inside run-to-run noise',
      why: `${sides} The interval ${gainText(gain)} includes no change at all.${detectableText(gain)}`,
      mend,
      source,
    };
  const promise =
    againstPromise && promised
      ? ` ${PROMISE_WORDS[againstPromise]}: ${figure(promised.low)} to ${figure(promised.high)} ${unit}, ${PROMISE_BASES[promised.basis]}.`
      : '';
  const title =
    gain.verdict === 'gain' ? `${gainText(gain)} better` : `${gainText(gain)}: worse than before`;
  const together =
    standsTogether === undefined
      ? ''
      : standsTogether
        ? ' It also stands when all comparisons of this job are judged together.'
        : ' Judged together with the other comparisons of this job it could still be chance: of several figures one is often lucky.';
  const why = `${sides} The whole interval lies on one side of 1.${promise}${together}${detectableText(gain)}`;
  return { title, why, source };
}

/** Runs unlike the others: kept, and said. */
function strayText({ strays }: Gain, unit: string): string {
  return strays
    .map(
      ({ side, value, others, distance }) =>
        ` Unlike the others ${side}: ${figure(value)} ${unit}, ${figure(distance, 2)} times the usual scatter away from them (mean ${figure(others)}); it counts, and widens the interval.`,
    )
    .join('');
}

const detectableText = ({ detectable }: Gain): string =>
  detectable === undefined
    ? ''
    : ` The smallest change these runs would show four times in five is ${figure((detectable - 1) * 100, 2)} %.`;

/** From this share of what is usable on, memory was full: the system pushes out or pages. */
const FULL = 0.92;

function explainPeak({ before, after }: NonNullable<MetricProof['use']>): Explanation {
  const text = (one: NonNullable<typeof before>) =>
    `${figure(one.peak)} of ${figure(one.usable)} GB usable (${Math.round((100 * one.peak) / one.usable)} %)`;
  const isFull = (one: typeof before) => one !== undefined && one.peak >= one.usable * FULL;
  const title = after
    ? isFull(after)
      ? 'Memory is still full at the peak'
      : isFull(before)
        ? 'Memory was full, and is no longer'
        : 'Memory holds the peak'
    : 'Nothing measured after';
  const sides = [before && `before ${text(before)}`, after && `now ${text(after)}`].filter(Boolean);
  const mend = after && isFull(after) ? 'Fit more, or do less at the same time.' : undefined;
  return { title, why: `The most in use at once: ${sides.join(', ')}.`, mend };
}

/** Said where several figures are compared: none is picked for being good. */
export function multiplicityText({ metrics }: Proof): string | undefined {
  const judged = metrics.filter(({ standsTogether }) => standsTogether !== undefined);
  if (judged.length < 2) return undefined;
  const lucky = Math.round(100 * (1 - 0.95 ** judged.length));
  const standing = judged.filter(({ standsTogether }) => standsTogether).length;
  return `${judged.length} figures are compared, and all are shown. With none of them changed, one would look changed by chance in ${lucky} % of cases; judged together, ${standing === judged.length ? 'all of them' : `${standing} of ${judged.length}`} stand.`;
}

/** What a promise was made from. */
export const PROMISE_BASES = {
  simulated: 'from both sides simulated when it was quoted',
  reckoned: 'reckoned from rate, channels and times',
} as const;

/** How a figure stands to its promise. */
export const PROMISE_WORDS = {
  inside: 'Inside the promise',
  better: 'Better than promised',
  worse: 'Short of the promise',
} as const;

/** The channel verdict in words. */
export function explainChannels({
  verdict,
  withBaseline,
  widths,
  neither,
}: ChannelInference): Explanation {
  const best = Math.max(0, ...widths.map(({ probability }) => probability));
  const basis = withBaseline
    ? 'The baseline on the same machine fixes how much of the bus the test reaches; the ratio does the rest.'
    : 'Without a baseline the test’s own efficiency is not known, so one figure fits several widths.';
  const odds = `${basis} Most likely reading: ${figure(best * 100, 2)} %; ${figure(neither * 100, 2)} % unexplained.`;
  const source = `Efficiency = measured ÷ peak, weighed over all widths; a verdict needs ${CHANNEL_CERTAINTY * 100} %`;
  switch (verdict.type) {
    case 'paired':
      return { title: `Runs ${channelsWord(verdict.width)}`, why: odds, source };
    case 'one wide':
      return {
        title: 'Runs single-channel',
        why: odds,
        mend: 'Look for a module in the wrong slot or not fully seated, and reseat it.',
        source,
      };
    case 'partly':
      return {
        title: `Runs ${channelsWord(verdict.width)} only`,
        why: odds,
        mend: 'Some channels hold memory that is not used side by side: reseat, then check the slots.',
        source,
      };
    case "can't tell":
      return {
        title: 'Channel mode: can’t tell',
        why: odds,
        mend: verdict.open.map((one) => QUESTION_WORDS[one]).join(' '),
        source,
      };
    case 'only one channel holds memory':
      return {
        title: 'Single-channel',
        why: 'Only one channel holds memory, so nothing can run side by side.',
      };
    case 'above the bus':
      return {
        title: 'More than the bus can carry',
        why: `${figure(verdict.measured)} GB/s was entered and the bus peaks at ${figure(verdict.peak)} GB/s. The test ran in the processor’s cache, or the unit is another.`,
        mend: 'Use a test larger than the cache, and enter GB/s.',
      };
    default:
      return exhausted(verdict);
  }
}

/** What would settle the channel mode, by what is open. */
const QUESTION_WORDS = {
  uneven:
    'The channels hold different amounts, and the test’s memory may lie wholly in either part. Even them out to be sure.',
  rate: 'Read the rate off a screen and enter it at the first start: a lower rate would look the same.',
  quiet:
    'Measure the reply too, or close other programs and measure again: a busy program would look the same.',
  cores:
    'Use the measuring page: it tells whether one core was the limit, which would look the same.',
  baseline: 'Measure the modules as found with the same test, with nothing else running.',
  figure: 'The figure lies between the readings: measure in another sitting.',
} as const;

const DOUBT_WORDS = {
  noisy: 'They still differed when taken again',
  slowing: 'reads at the end were slower than at the start',
} as const;

const CONDITION_NAMES = {
  power: 'power mode',
  resolution: 'resolution',
  tool: 'tool',
  conditions: 'notes',
  sense: 'which way the score counts',
} as const;

/** A caution on a comparison, in words. */
export function explainProofCaution(caution: ProofCaution): Explanation {
  switch (caution.type) {
    case 'baseline-on-other-modules':
      return {
        title: 'The baseline was taken on other modules',
        why: `Measured on: ${caution.measured || 'nothing in the slots'}. As found: ${caution.expected || 'nothing in the slots'}.`,
        mend: 'Measure again with the modules as found, or correct the modules as found.',
      };
    case 'runs-on-other-modules':
      return {
        title: 'These runs were taken on other modules',
        why: `Measured on: ${caution.measured || 'nothing in the slots'}. Fitted now: ${caution.expected || 'nothing in the slots'}.`,
        mend: 'Measure again, or correct the modules as fitted.',
      };
    case 'conditions-differ':
      return {
        title: `Not the same conditions: ${list(caution.fields.map((field) => CONDITION_NAMES[field]))}`,
        why: `Before: ${caution.before || 'not noted'}. After: ${caution.after || 'not noted'}.`,
        mend: 'Repeat one side under the other’s conditions.',
      };
    case 'doubtful':
      return {
        title: `The measuring page was not sure of its windows ${caution.side}`,
        why: `${list(caution.doubts.map((doubt) => DOUBT_WORDS[doubt]))}, so this sitting is trusted less.`,
        mend: 'Close other programs, let the machine rest, and measure in another sitting.',
      };
    case 'no-baseline':
      return {
        title: 'No baseline',
        why: 'Nothing was measured before.',
        mend: 'Add runs on the modules as found.',
      };
    case 'no-runs-after':
      return {
        title: 'Nothing measured after',
        why: 'The new modules were not measured.',
        mend: 'Add runs after fitting.',
      };
    default:
      return exhausted(caution);
  }
}

/** The job's one line: verdict first, for the answer bar and the report. */
export function headlineText({ headline, channels }: Proof): string {
  switch (headline.type) {
    case 'nothing measured':
      return 'Nothing measured yet';
    case 'no comparison':
      return channels ? explainChannels(channels).title : 'Nothing to compare yet';
    case 'not running':
      return 'The fitted modules would not run';
    case 'mixed': {
      const part = ({ test, gain }: MetricProof) => `${test} ×${gain?.factor.toFixed(2)}`;
      return `Mixed: ${part(headline.gained)} better, ${part(headline.lost)} worse`;
    }
    case 'not comparable':
      return `Not comparable: ${headline.proof.test}`;
    case 'too few runs':
      return 'Too few runs to judge';
    case 'inside noise':
      return 'No change beyond noise';
    case 'loss':
      return `Worse: ${headline.proof.gain ? gainText(headline.proof.gain) : ''}`;
    case 'gain': {
      const verdict = channels?.verdict;
      const promise = headline.proof.againstPromise;
      const held = promise ? PROMISE_WORDS[promise].toLowerCase() : 'better than before';
      if (verdict?.type === 'paired') return `Runs ${channelsWord(verdict.width)}, ${held}`;
      return promise ? `Better, ${held}` : 'Better than before';
    }
  }
}
