import { proveChange } from '#core/proving';
import type { Proof, ProofSide } from '#core/proving';
import type { JobFacts } from '#core/walk';
import type { Job, Snapshot, SnapshotKind } from './records.ts';

/** A job's configuration of a kind, where it has been saved. */
export function snapshotOf(job: Pick<Job, 'snapshots'>, kind: SnapshotKind): Snapshot | undefined {
  return job.snapshots.find((snapshot) => snapshot.kind === kind);
}

/** The machine a job is judged on: for a closed job the one its result was stored with. */
export function jobMachine(job: Pick<Job, 'machine' | 'result'>) {
  return job.result?.machine ?? job.machine.machine;
}

/** What a job proved, from its own records; `undefined` until something was found and fitted. */
export function jobProof(job: Job): Proof | undefined {
  const sideOf = (kind: 'as-found' | 'as-fitted'): ProofSide | undefined => {
    const snapshot = snapshotOf(job, kind);
    if (!snapshot) return undefined;
    const measurements = job.measurements.filter((one) => one.kind === kind);
    return { placement: snapshot.placement, setting: snapshot.setting, measurements };
  };
  const before = sideOf('as-found');
  const after = sideOf('as-fitted');
  // The job's number seeds the interval, so a report printed twice says the same.
  return before && after && proveChange(jobMachine(job), before, after, job.number);
}

/** What is on record, for the next step. */
export function jobFacts(
  job: Pick<Job, 'snapshots' | 'measurements' | 'need' | 'result' | 'acceptedQuote'>,
): JobFacts {
  const has = (kind: SnapshotKind) => snapshotOf(job, kind) !== undefined;
  const measured = (kind: string) => job.measurements.some((one) => one.kind === kind);
  return {
    hasFound: has('as-found'),
    hasNeed: job.need !== null,
    hasBaseline: measured('as-found'),
    hasPlan: has('planned'),
    hasYes: job.acceptedQuote !== null,
    hasFitted: has('as-fitted'),
    hasRunsAfter: measured('as-fitted'),
    closed: job.result !== null,
  };
}
