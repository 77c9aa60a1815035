import { headlineText } from '#core/explaining';
import type { Machine } from '#core/machine';
import type { Side } from '#core/promising';
import { fingerprint, passNeeded, proveChange } from '#core/proving';
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

/** A change of a machine’s memory, named by what sits where on both sides and how it is set. */
export function changeName(machine: Machine, before: Side, after: Side): string {
  const side = ({ placement, setting }: Side) => `${fingerprint(machine, placement)} ${setting}`;
  return `${side(before)} > ${side(after)}`;
}

/** The change that was made in a job; undefined until something was found and fitted. */
export function changeNameOf(job: Job): string | undefined {
  const [before, after] = [snapshotOf(job, 'as-found'), snapshotOf(job, 'as-fitted')];
  return before && after && changeName(jobMachine(job), before, after);
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
  const known = job.result ? job.result.level : job.levelSpread;
  if (!before || !after) return undefined;
  const machine = jobMachine(job);
  return proveChange(machine, before, after, job.number, {
    level: known ?? undefined,
    seen: { after: job.shownRate ?? undefined },
    // A promise holds for what it was given for.
    made: job.promised?.of === changeNameOf(job) ? (job.promised ?? undefined) : undefined,
  });
}

/** Why what was fitted is not proven without a memory-test pass; undefined where it is. */
export function passLacking(job: Job): string | undefined {
  const fitted = snapshotOf(job, 'as-fitted');
  if (!fitted || job.memoryTestPassed) return undefined;
  const needed = passNeeded(jobMachine(job), fitted.placement, fitted.setting);
  return needed && { profile: 'an overclock profile', 'mixed set': 'a mixed set' }[needed];
}

/** The one line a job comes down to; a set that needs a memory-test pass is not proven without. */
export function jobHeadline(job: Job, proof: Proof): string {
  const lacking = passLacking(job);
  const text = headlineText(proof);
  return lacking === undefined
    ? text
    : `${text}; not proven: ${lacking} without a memory-test pass`;
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
