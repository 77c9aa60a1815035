import type { Situation, Symptom } from '#core/diagnosing';
import { fitSheet, foldLog } from '#core/fitting';
import type { BenchEntry, BenchState, FitSheet } from '#core/fitting';
import type { Placement, Setting } from '#core/machine';
import type { BenchLog } from './bench.ts';
import { jobMachine, snapshotOf } from './jobProof.ts';
import type { Job } from './records.ts';

/** A job's bench work: what sits in the machine, what is to sit in it, and the sheet between. */
export interface JobBench {
  readonly state: BenchState;
  readonly target: { readonly placement: Placement; readonly setting: Setting };
  readonly sheet: FitSheet;
  /** The plan was changed after the first step of this round was ticked. */
  readonly isPlanNewer: boolean;
}

const EMPTY = { placement: {} as Placement, setting: 'standard' as Setting };

/** Tells where the bench work of a job stands; page and server tell it alike. */
export function jobBench(job: Job, { entries, pulledTo }: BenchLog): JobBench {
  const found = snapshotOf(job, 'as-found') ?? EMPTY;
  const planned = snapshotOf(job, 'planned');
  const log = entries as readonly BenchEntry[];
  const hasMoves = log.some(
    ({ note }) => note.type === 'sits' || (note.type === 'tick' && note.effect),
  );
  // Jobs fitted before there was a log, or without one, are where they were recorded to be.
  const state = foldLog(log, hasMoves ? found : (snapshotOf(job, 'as-fitted') ?? found));
  const { purpose, ticks } = state.round;
  const target =
    purpose === 'roll back' ? found : purpose === 'reseat' ? state : (planned ?? state);
  const sheet = fitSheet({
    ...{ machine: jobMachine(job), map: job.machine.coverMap ?? undefined },
    ...{ found: found.placement, state, target, consents: job.consents, pulledTo },
  });
  const [first] = ticks.values();
  const isPlanNewer =
    purpose === 'fit' && first !== undefined && planned !== undefined && planned.savedAt > first.at;
  return { state, target, sheet, isPlanNewer };
}

/** What fault-finding looks into on a job. */
export function jobSituation(job: Job, bench: JobBench, symptom: Symptom): Situation {
  const { placement, setting, isTouched, fault } = bench.state;
  const planned = snapshotOf(job, 'planned');
  return {
    machine: jobMachine(job),
    ...{ placement, setting, symptom },
    planned: planned && { placement: planned.placement, setting: planned.setting },
    moved: isTouched || (fault?.handsIn ?? false) || snapshotOf(job, 'as-fitted') !== undefined,
  };
}
