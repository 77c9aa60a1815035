import type { Job, MeasurementInput, MeasurementRecord } from '#contract/records';
import { explainRunFault } from '#core/explaining';
import { KINDS_OF_WORK } from '#core/promising';
import { findRunFaults, readRuns, runsText } from '#core/proving';
import type { Metric, PowerMode, RunFault } from '#core/proving';

/** Which side of a job runs belong to. */
export type Side = MeasurementRecord['kind'];

/** What the form holds, as typed. */
export interface TypedRuns {
  metric: Metric;
  activity: string;
  sense: 'higher' | 'lower';
  test: string;
  runs: string;
  warmUp: string;
  power: PowerMode;
  resolution: string;
  tool: string;
  conditions: string;
}

/** Metrics that measure someone's work rather than the memory itself. */
export const WORK_METRICS: readonly Metric[] = ['duration', 'frames', 'lows', 'transfer', 'score'];

/** The name a draft of new runs is kept under in this browser. */
export const runsDraft = (jobId: string, kind: Side, editedId = 'new') =>
  `runs.${jobId}.${kind}.${editedId}`;

/** A new measurement takes test and conditions over from the other side, so both are comparable. */
export function startingRuns(job: Job, kind: Side, edited?: MeasurementRecord): TypedRuns {
  const other = job.measurements.find(
    (one) => one.kind !== kind && !sameTest(job, kind, one.metric, one.test),
  );
  const like = edited ?? other;
  return {
    metric: like?.metric ?? 'bandwidth',
    sense: like?.sense ?? 'higher',
    activity: like?.activity ?? '',
    test: like?.test ?? 'memory copy',
    runs: edited ? runsText(edited.runs, edited.sittings) : '',
    warmUp: String(like?.warmUp ?? 0),
    power: like?.power ?? 'unknown',
    resolution: like?.resolution ?? '',
    tool: like?.tool ?? '',
    conditions: like?.conditions ?? '',
  };
}

/** The measurement of one side with this metric and test, if there is one: new runs are added to it. */
export function sameTest(
  job: Job,
  kind: Side,
  metric: Metric,
  test: string,
): MeasurementRecord | undefined {
  return job.measurements.find(
    (own) => own.kind === kind && own.metric === metric && own.test === test.trim(),
  );
}

/** What is typed so far, read: its runs, how many count, and the first slip in words. */
export function readTyped({ metric, runs: text = '', warmUp }: Partial<TypedRuns>) {
  const parsed = readRuns(text);
  const faults =
    text.trim() === ''
      ? []
      : [
          ...parsed.faults,
          ...findRunFaults(metric ?? 'bandwidth', parsed.runs, Number(warmUp) || 0),
        ];
  return {
    ...parsed,
    counted: parsed.runs.length - (Number(warmUp) || 0),
    slip: faults[0] && faultText(faults[0]),
  };
}

/** A slip and what mends it, in one line. */
export function faultText(fault: RunFault): string {
  const { title, mend = '' } = explainRunFault(fault);
  return `${title}. ${mend}`;
}

/**
 * What is sent: the runs alone, or behind those of the same test that are on record, so that `//`
 * in front starts another sitting. Only a score's sense is declared.
 */
export function runsInput(
  typed: TypedRuns,
  kind: Side,
  known: MeasurementRecord | undefined,
  isCorrection: boolean,
): MeasurementInput {
  const { metric, sense, warmUp } = typed;
  const { runs, sittings } = readRuns(
    known && !isCorrection ? `${runsText(known.runs, known.sittings)} ${typed.runs}` : typed.runs,
  );
  const activity = WORK_METRICS.includes(metric)
    ? KINDS_OF_WORK.find(({ id }) => id === typed.activity)
    : undefined;
  return {
    ...{ ...typed, kind, runs, sittings, warmUp: Number(warmUp) },
    ...{ step: known?.step ?? null, doubts: known?.doubts ?? [] },
    ...{ sense: metric === 'score' ? sense : null, isLowerBound: known?.isLowerBound ?? false },
    activity: activity?.id ?? null,
  };
}
