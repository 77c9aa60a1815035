import type { Signed } from '#contract/access';
import { and, desc, eq } from 'drizzle-orm';
import type { MemoryTestInput, ReturnInput, ReturnRecord, ReturnState } from '#contract/bench';
import { snapshotOf } from '#contract/jobProof';
import type { Job } from '#contract/records';
import { count, moduleText, slotNames } from '#core/explaining';
import { fingerprint, judgeMemoryTest } from '#core/proving';
import type { Database } from '../openStore.ts';
import { jobs, memoryTests, returns } from '../schema/index.ts';
import { addEvent, requireOpen } from './changeJobs.ts';
import { ConflictError, NotFoundError, StateError } from './errors.ts';
import { newId } from './library.ts';
import { readJob } from './readJobs.ts';

/** Records a memory test on what sits in the machine now. */
export async function addMemoryTest(
  db: Database,
  jobId: string,
  input: Signed<MemoryTestInput>,
  at = new Date(),
): Promise<Job> {
  return db.transaction(async (tx) => {
    const job = await requireOpen(tx, jobId);
    const now = snapshotOf(job, 'as-fitted') ?? snapshotOf(job, 'as-found');
    if (!now)
      throw new StateError(
        'It is not on record what sits in the machine.',
        'Save what was found first; a test belongs to a set of modules.',
      );
    const print = fingerprint(job.machine.machine, now.placement);
    const test = { ...input, fingerprint: print, setting: now.setting };
    await tx.insert(memoryTests).values({ id: newId(), jobId, ...test, at });
    const { minutes, passes, errors, by } = input;
    await addEvent(
      tx,
      jobId,
      'memory test',
      `Memory test ${judgeMemoryTest(test)}: ${minutes} min, ${passes === 1 ? '1 pass' : `${passes} passes`}, ${count(errors, 'error')} (${by})`,
      at,
    );
    return readJob(tx, jobId);
  });
}

/** Removes a test recorded by mistake. The history keeps that it was there. */
export async function removeMemoryTest(db: Database, jobId: string, id: string): Promise<Job> {
  return db.transaction(async (tx) => {
    await requireOpen(tx, jobId);
    const own = and(eq(memoryTests.id, id), eq(memoryTests.jobId, jobId));
    const [gone] = await tx.delete(memoryTests).where(own).returning();
    if (!gone) throw new NotFoundError('This memory test');
    await addEvent(
      tx,
      jobId,
      'memory test',
      `Removed: a memory test with ${count(gone.errors, 'error')}`,
    );
    return readJob(tx, jobId);
  });
}

/** Puts a bad module on the list of returns; plans no longer count on it. */
export async function addReturn(
  db: Database,
  jobId: string,
  input: Signed<ReturnInput>,
): Promise<Job> {
  return db.transaction(async (tx) => {
    const job = await requireOpen(tx, jobId);
    await tx.insert(returns).values({ id: newId(), jobId, ...input });
    const nameOf = slotNames(job.machine.machine);
    await addEvent(
      tx,
      jobId,
      'return',
      `To be sent back: ${moduleText(input.module)} from ${nameOf(input.slotId)}, ${input.reason} (${input.by})`,
    );
    return readJob(tx, jobId);
  });
}

/** Modules sent back, the latest first. */
export async function listReturns(db: Database): Promise<ReturnRecord[]> {
  const rows = await db
    .select({ one: returns, jobNumber: jobs.number })
    .from(returns)
    .innerJoin(jobs, eq(jobs.id, returns.jobId))
    .orderBy(desc(returns.at));
  return rows.map(({ one, jobNumber }) => ({ ...one, jobNumber, at: one.at.toISOString() }));
}

/** Says where a return stands, if it is still at the version the change started from. */
export async function changeReturn(
  db: Database,
  id: string,
  { state, serial, version }: { state: ReturnState; serial?: string | undefined; version: number },
): Promise<ReturnRecord[]> {
  const rows = await db
    .update(returns)
    .set({ state, version: version + 1, ...(serial === undefined ? {} : { serial }) })
    .where(and(eq(returns.id, id), eq(returns.version, version)))
    .returning({ id: returns.id });
  const all = await listReturns(db);
  if (rows.length > 0) return all;
  const theirs = all.find((one) => one.id === id);
  if (!theirs) throw new NotFoundError('This return');
  throw new ConflictError('This return', theirs);
}
