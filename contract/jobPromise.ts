import { kindsOfWork, needWithMargin } from '#core/need';
import { KINDS_OF_WORK, mostBound } from '#core/promising';
import type { Change, Grounds, KindOfWork, Side } from '#core/promising';
import { jobMachine, snapshotOf } from './jobProof.ts';
import type { Job } from './records.ts';

/** What would change in a job's machine; undefined until it is on record what was found. */
export function jobChange(job: Job, after: Side): Change | undefined {
  const found = snapshotOf(job, 'as-found');
  return (
    found && {
      machine: jobMachine(job),
      before: { placement: found.placement, setting: found.setting },
      after: { placement: after.placement, setting: after.setting },
      need: needWithMargin(job),
    }
  );
}

/** What a promise to this customer is made from, the simulation aside. */
export function jobGrounds(job: Job, kinds: readonly KindOfWork[] | undefined): Grounds {
  return {
    ...(kinds && { kinds }),
    own: kindsOfWork(jobMachine(job), job.needInput ?? undefined),
    drive: job.needInput?.drive ?? 'unknown',
    drawCap: job.drawCap ?? undefined,
  };
}

/**
 * Kinds of work that can be done on a job’s machine, those of them that this customer does, and the one
 * its limits are shown for: of theirs, or else of all, the one that waits most for memory.
 */
export function jobKinds(job: Job, kinds: readonly KindOfWork[] = KINDS_OF_WORK) {
  const isShared = jobMachine(job).graphicsCarveOut.high > 0;
  const all = kinds.filter(({ id }) => id !== (isShared ? 'graphics' : 'integrated'));
  const { own } = jobGrounds(job, kinds);
  const theirs = all.filter(({ id }) => own?.has(id));
  return { all, own: theirs, leading: mostBound(theirs) ?? mostBound(all) };
}
