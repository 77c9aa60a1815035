import type { Machine, Placement, Setting } from '../machine/index.ts';
import { operatingPoint } from '../operating-point/index.ts';
import type { OperatingPoint, Running } from '../operating-point/index.ts';
import { generationTraits } from '../memory/index.ts';
import type { MadePromise } from '../promising/index.ts';
import { exactRate, peakBandwidth } from '../units/index.ts';
import { inferChannels } from './channels.ts';
import type { BandwidthSide, ChannelInference } from './channels.ts';
import { judgeGain, standTogether } from './gain.ts';
import type { Better, Gain } from './gain.ts';
import {
  conditionsText,
  differingConditions,
  fingerprint,
  runSetOf,
  senseOf,
} from './measurement.ts';
import type { Difference, Doubt, Measurement, Metric } from './measurement.ts';
import { PROBE_TESTS } from './probe.ts';
import { physicalLimit, promisedBand } from './promise.ts';
import type { Promised } from './promise.ts';
import { judgeShownRate } from './shownRate.ts';
import { ASSUMED_LEVEL, figuresOf } from './sittings.ts';
import type { LevelSpread, RunSet } from './sittings.ts';

/** A configuration with what was measured on it. */
export interface ProofSide {
  readonly placement: Placement;
  readonly setting: Setting;
  readonly measurements: readonly Measurement[];
}

/** What deserves a word before a comparison is believed. */
export type ProofCaution =
  | {
      readonly type: 'baseline-on-other-modules';
      readonly measured: string;
      readonly expected: string;
    }
  | { readonly type: 'runs-on-other-modules'; readonly measured: string; readonly expected: string }
  | {
      readonly type: 'conditions-differ';
      readonly fields: readonly Difference[];
      readonly before: string;
      readonly after: string;
    }
  /** The measuring page said so of its own windows. */
  | {
      readonly type: 'doubtful';
      readonly side: 'before' | 'after';
      readonly doubts: readonly Doubt[];
    }
  | { readonly type: 'no-baseline' }
  | { readonly type: 'no-runs-after' };

/** The most memory ever in use at once, against what programs could have. All in GiB. */
export interface PeakUse {
  readonly peak: number;
  /** The low end of what is usable. */
  readonly usable: number;
}

/** One test, before against after. */
export interface MetricProof {
  readonly metric: Metric;
  readonly test: string;
  readonly before: readonly number[];
  readonly after: readonly number[];
  /** Absent where one side is missing or was refused, or where the conditions differ. */
  readonly gain?: Gain | undefined;
  /** It still counts as a change when all comparisons of the job are judged together. */
  readonly standsTogether?: boolean | undefined;
  /** For the peak of memory in use, in place of a gain. */
  readonly use?: { readonly before?: PeakUse | undefined; readonly after?: PeakUse | undefined };
  readonly promised?: Promised | undefined;
  /** Turned so that it reads the same whichever way the figure counts. */
  readonly againstPromise?: 'inside' | 'better' | 'worse' | undefined;
  readonly limit?: number | undefined;
  readonly cautions: readonly ProofCaution[];
}

/** The one line the job comes down to. */
export type ProofHeadline =
  | { readonly type: 'nothing measured' }
  | { readonly type: 'not running'; readonly side: 'before' | 'after' }
  | { readonly type: 'no comparison' }
  | { readonly type: 'not comparable'; readonly proof: MetricProof }
  /** Some tests gained and others lost: capacity bought with rate, for instance. */
  | { readonly type: 'mixed'; readonly gained: MetricProof; readonly lost: MetricProof }
  | {
      readonly type: 'gain' | 'loss' | 'inside noise' | 'too few runs';
      readonly proof: MetricProof;
    };

/** Rates read off a screen, MT/s or MHz as shown; absent where nobody looked. */
export interface SeenRates {
  readonly before?: number | undefined;
  readonly after?: number | undefined;
}

/** What a comparison goes by beside its runs. */
export interface ProofContext {
  /** How far levels wander from sitting to sitting. */
  readonly level?: LevelSpread | undefined;
  readonly seen?: SeenRates | undefined;
  /** What was promised for this very change. */
  readonly made?: MadePromise | undefined;
}

/** Everything that was proven by a change. */
export interface Proof {
  readonly headline: ProofHeadline;
  readonly metrics: readonly MetricProof[];
  readonly channels?: ChannelInference | undefined;
  readonly before: OperatingPoint;
  readonly after: OperatingPoint;
}

/**
 * Compares what was measured before and after a change with what was promised and what is
 * possible. Runs taken on modules other than the side's own are refused, and said so.
 *
 * @param seed - for the bootstrap; a job uses its number, so its report never changes
 * @param context - what is known beside the runs
 */
export function proveChange(
  machine: Machine,
  before: ProofSide,
  after: ProofSide,
  seed: number,
  { level = ASSUMED_LEVEL, seen = {}, made }: ProofContext = {},
): Proof {
  const pointBefore = operatingPoint(machine, before.placement, before.setting);
  const pointAfter = operatingPoint(machine, after.placement, after.setting);
  const points = { before: pointBefore, after: pointAfter };
  if (pointAfter.type === 'blocked')
    return { headline: { type: 'not running', side: 'after' }, metrics: [], ...points };
  const baseline = pointBefore.type === 'runs' ? pointBefore : undefined;
  const prints = {
    before: fingerprint(machine, before.placement),
    after: fingerprint(machine, after.placement),
  };
  const alone = testNames(before, after).map(({ metric, test }) => {
    const find = ({ measurements }: ProofSide) =>
      measurements.find((one) => one.metric === metric && one.test === test);
    const sides = { metric, test, before: find(before), after: find(after) };
    return proveMetric(sides, prints, baseline, pointAfter, { seed, level, made });
  });
  const compared = alone.filter(({ gain }) => gain);
  const stands = standTogether(compared.map(({ gain }) => gain?.chance));
  const metrics = alone.map((proof) => {
    const at = compared.indexOf(proof);
    return at < 0 || compared.length < 2 ? proof : { ...proof, standsTogether: stands[at] };
  });
  const find = ({ measurements }: ProofSide, { metric, test }: MetricProof) =>
    measurements.find((one) => one.metric === metric && one.test === test);
  const channels = channelMode(machine, metrics, baseline, pointAfter, seen, (proof) => ({
    before: find(before, proof)?.isLowerBound === true,
    after: find(after, proof)?.isLowerBound === true,
  }));
  return { headline: headline(metrics), metrics, ...(channels ? { channels } : {}), ...points };
}

interface Sides {
  readonly metric: Metric;
  readonly test: string;
  readonly before: Measurement | undefined;
  readonly after: Measurement | undefined;
}

function testNames(before: ProofSide, after: ProofSide): { metric: Metric; test: string }[] {
  const seen = new Map<string, { metric: Metric; test: string }>();
  for (const { metric, test } of [...before.measurements, ...after.measurements])
    seen.set(`${metric} ${test}`, { metric, test });
  return [...seen.values()];
}

function proveMetric(
  { metric, test, before, after }: Sides,
  prints: { before: string; after: string },
  pointBefore: Running | undefined,
  pointAfter: Running,
  {
    seed,
    level,
    made,
  }: {
    readonly seed: number;
    readonly level: LevelSpread;
    readonly made: MadePromise | undefined;
  },
): MetricProof {
  const cautions: ProofCaution[] = [];
  const accept = (side: Measurement | undefined, at: 'before' | 'after'): RunSet => {
    const none = { sittings: [] };
    if (!side) {
      cautions.push({ type: at === 'before' ? 'no-baseline' : 'no-runs-after' });
      return none;
    }
    if (side.fingerprint === prints[at]) {
      const { doubts = [] } = side;
      if (doubts.length > 0) cautions.push({ type: 'doubtful', side: at, doubts });
      return runSetOf(side);
    }
    const type = at === 'before' ? 'baseline-on-other-modules' : 'runs-on-other-modules';
    cautions.push({ type, measured: side.fingerprint, expected: prints[at] });
    return none;
  };
  const sets = { before: accept(before, 'before'), after: accept(after, 'after') };
  const [runsBefore, runsAfter] = [sets.before.sittings.flat(), sets.after.sittings.flat()];
  const limit = physicalLimit(metric, pointAfter);
  const result = { metric, test, before: runsBefore, after: runsAfter, limit, cautions };
  if (metric === 'peak')
    return {
      ...result,
      use: { before: useOf(runsBefore, pointBefore), after: useOf(runsAfter, pointAfter) },
    };
  if (!before || !after || runsBefore.length === 0 || runsAfter.length === 0) return result;
  const differing = differingConditions(before, after);
  if (differing.length > 0) {
    cautions.push({
      ...{ type: 'conditions-differ', fields: differing },
      ...{ before: conditionsText(before), after: conditionsText(after) },
    });
    return result;
  }
  const sense = senseOf(after);
  if (!sense) return result;
  const gain = judgeGain(sets.before, sets.after, sense, seed, level);
  const promised =
    pointBefore &&
    promisedBand(metric, figuresOf(sets.before).mean, pointBefore, pointAfter, {
      ...{ made, sense, kind: after.activity },
    });
  return {
    ...result,
    gain,
    promised,
    againstPromise: promised && place(sense, figuresOf(sets.after).mean, promised),
  };
}

function useOf(runs: readonly number[], point: Running | undefined): PeakUse | undefined {
  return point && runs.length > 0
    ? { peak: Math.max(...runs), usable: point.usable.low }
    : undefined;
}

function place(
  sense: Better,
  value: number,
  { low, high }: Promised,
): 'inside' | 'better' | 'worse' {
  if (value >= low && value <= high) return 'inside';
  return value > high === (sense === 'higher') ? 'better' : 'worse';
}

/** The measuring page goes up in threads until more bring no more, or says that it could not. */
const isOfPage = ({ test }: MetricProof): boolean =>
  Object.values(PROBE_TESTS).some((own) => own.test === test);

function channelMode(
  machine: Machine,
  metrics: readonly MetricProof[],
  before: Running | undefined,
  after: Running,
  seen: SeenRates,
  boundsOf: (proof: MetricProof) => { readonly before: boolean; readonly after: boolean },
): ChannelInference | undefined {
  const measured = metrics.filter(
    ({ metric, after: runs }) => metric === 'bandwidth' && runs.length > 0,
  );
  // A test with a baseline under the same conditions tells far more than one without.
  const proof = measured.find(({ gain }) => gain) ?? measured[0];
  if (!proof) return undefined;
  const isLower = boundsOf(proof);
  const sideOf = (
    point: Running,
    runs: readonly number[],
    isLowerBound: boolean,
    shown: number | undefined,
  ): BandwidthSide => {
    const populated = point.loads.filter(({ capacity }) => capacity > 0);
    const running = exactRate(point.rate);
    return {
      ...{ runs, isLowerBound, populated: populated.length },
      channelPeak: peakBandwidth(point.rate, machine.channelBits),
      isUneven: populated.some(({ capacity }) => capacity !== populated[0]?.capacity),
      isRateConfirmed: shown !== undefined && judgeShownRate(shown, point).type === 'as expected',
      lowerRates: generationTraits(point.generation)
        .standardRates.map((rate) => exactRate(rate) / running)
        .filter((share) => share < 0.97),
    };
  };
  const baseline =
    before && proof.gain ? sideOf(before, proof.before, isLower.before, seen.before) : undefined;
  // Another program that keeps memory busy makes every reply wait as well.
  const reply = metrics.find(({ metric, gain }) => metric === 'latency' && gain);
  const against = reply?.againstPromise;
  // A reply that is quicker than promised was slow before: then the baseline was the busy one.
  return inferChannels(
    {
      ...sideOf(after, proof.after, isLower.after, seen.after),
      isQuiet: against && against !== 'worse',
      isPlateau: isOfPage(proof) && !isLower.after,
    },
    baseline && { ...baseline, isQuiet: against && against !== 'better' },
  );
}

/**
 * The change the job comes down to. Of several figures one is often lucky, so only changes that
 * stand when all are judged together lead; among those bandwidth, which memory changes most directly.
 */
function headline(metrics: readonly MetricProof[]): ProofHeadline {
  if (metrics.length === 0) return { type: 'nothing measured' };
  const compared = metrics.filter(({ gain }) => gain);
  const leading = (proofs: readonly MetricProof[]) =>
    proofs.find(({ metric }) => metric === 'bandwidth') ?? proofs[0];
  const standing = (verdict: 'gain' | 'loss') =>
    compared.filter((one) => one.gain?.verdict === verdict && one.standsTogether !== false);
  const [gained, lost] = [leading(standing('gain')), leading(standing('loss'))];
  if (gained && lost) return { type: 'mixed', gained, lost };
  if (gained) return { type: 'gain', proof: gained };
  if (lost) return { type: 'loss', proof: lost };
  const proof = leading(compared);
  if (proof)
    return {
      type: proof.gain?.verdict === 'too few runs' ? 'too few runs' : 'inside noise',
      proof,
    };
  const unlike = metrics.find(({ cautions }) =>
    cautions.some(({ type }) => type === 'conditions-differ'),
  );
  return unlike ? { type: 'not comparable', proof: unlike } : { type: 'no comparison' };
}
