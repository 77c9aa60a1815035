import { and, eq } from 'drizzle-orm';
import { jobHeadline, jobProof, snapshotOf } from '#contract/jobProof';
import type {
  Job,
  JobTerms,
  MeasurementInput,
  SnapshotInput,
  SnapshotKind,
} from '#contract/records';
import type { Signed } from '#contract/access';
import { pointText } from '#core/explaining';
import { operatingPoint } from '#core/operating-point';
import { workingSet } from '#core/need';
import { METRIC_TRAITS, fingerprint } from '#core/proving';
import type { Database } from '../openStore.ts';
import { benchLog, jobEvents, jobs, ledger, measurements, snapshots } from '../schema/index.ts';
import { ConflictError, NotFoundError, StateError } from './errors.ts';
import { freeHeld, sellFitted } from './drawer.ts';
import { enterLedger } from './ledger.ts';
import { newId, readMachine } from './library.ts';
import { readJob } from './readJobs.ts';

/** Changes the terms of a job, if it is still at the version the change started from. */
export async function changeJob(
  db: Database,
  id: string,
  {
    version,
    ...terms
  }: { [Term in keyof JobTerms]?: JobTerms[Term] | undefined } & {
    machineId?: string | undefined;
    version: number;
  },
): Promise<Job> {
  return db.transaction(async (tx) => {
    await requireOpen(tx, id);
    if (terms.machineId !== undefined) await readMachine(tx, terms.machineId);
    // What is stored as the need is summed here, never taken from a client.
    const { needInput } = terms;
    const need = needInput && { need: workingSet(needInput)?.need ?? null };
    await bump(tx, id, version, { ...terms, ...need });
    await addEvent(tx, id, 'terms changed', `Changed: ${Object.keys(terms).join(', ')}`);
    return readJob(tx, id);
  });
}

/** Saves a configuration of a job; `version` is that of the one it replaces, 0 for the first. */
export async function saveSnapshot(
  db: Database,
  jobId: string,
  kind: SnapshotKind,
  { version, by, ...input }: Signed<SnapshotInput & { version: number }>,
): Promise<Job> {
  return db.transaction(async (tx) => {
    const job = await requireOpen(tx, jobId);
    const { machine } = job.machine;
    const point = operatingPoint(machine, input.placement, input.setting);
    const stray =
      point.type === 'blocked' && point.blockers.find((blocker) => blocker.type === 'no-such-slot');
    if (stray)
      throw new StateError(
        `The machine has no slot “${stray.slotId}”.`,
        'Move the module to one of its slots.',
        `placement.${stray.slotId}`,
      );
    const fields = { ...input, savedAt: new Date() };
    const where = and(
      eq(snapshots.jobId, jobId),
      eq(snapshots.kind, kind),
      eq(snapshots.version, version),
    );
    const saved =
      version === 0
        ? await tx
            .insert(snapshots)
            .values({ jobId, kind, ...fields })
            .onConflictDoNothing()
            .returning()
        : await tx
            .update(snapshots)
            .set({ ...fields, version: version + 1 })
            .where(where)
            .returning();
    if (saved.length === 0) throw new ConflictError('This configuration', await readJob(tx, jobId));
    await addEvent(tx, jobId, kind, `${EVENT_WORDS[kind]}: ${pointText(point)}`);
    // The bench log tells what sits in the machine; a record on the board outweighs its ticks.
    if (kind === 'as-fitted')
      await tx.insert(benchLog).values({
        ...{ id: newId(), jobId, by },
        note: { type: 'sits', placement: input.placement, setting: input.setting },
      });
    return readJob(tx, jobId);
  });
}

const EVENT_WORDS: Readonly<Record<SnapshotKind, string>> = {
  'as-found': 'Found',
  planned: 'Planned',
  'as-fitted': 'Fitted',
};

/** Records runs on a saved configuration. */
export async function addMeasurement(
  db: Database,
  jobId: string,
  input: MeasurementInput,
): Promise<Job> {
  return db.transaction(async (tx) => {
    const print = await printOf(tx, jobId, input.kind);
    const rows = await tx
      .insert(measurements)
      .values({ id: newId(), jobId, ...input, fingerprint: print })
      .onConflictDoNothing()
      .returning();
    if (rows.length === 0)
      throw new StateError(
        `Runs of “${input.test}” are there already.`,
        'Add to those, or give the test another name.',
        'test',
      );
    await addEvent(tx, jobId, 'measured', measuredText(input));
    return readJob(tx, jobId);
  });
}

/** Corrects runs; saving them states that they were taken on the configuration as it now is. */
export async function changeMeasurement(
  db: Database,
  jobId: string,
  id: string,
  { version, ...input }: MeasurementInput & { version: number },
): Promise<Job> {
  return db.transaction(async (tx) => {
    const print = await printOf(tx, jobId, input.kind);
    const own = and(eq(measurements.id, id), eq(measurements.jobId, jobId));
    const rows = await tx
      .update(measurements)
      .set({ ...input, fingerprint: print, version: version + 1 })
      .where(and(own, eq(measurements.version, version)))
      .returning();
    if (rows.length === 0) {
      const [theirs] = await tx.select().from(measurements).where(own);
      if (!theirs) throw new NotFoundError('This measurement');
      throw new ConflictError('This measurement', await readJob(tx, jobId));
    }
    await addEvent(tx, jobId, 'measured', `Corrected: ${measuredText(input)}`);
    return readJob(tx, jobId);
  });
}

/** Removes runs of a test. The history keeps that they were there. */
export async function removeMeasurement(db: Database, jobId: string, id: string): Promise<Job> {
  return db.transaction(async (tx) => {
    await requireOpen(tx, jobId);
    const own = and(eq(measurements.id, id), eq(measurements.jobId, jobId));
    const [gone] = await tx.delete(measurements).where(own).returning();
    if (!gone) throw new NotFoundError('This measurement');
    await addEvent(tx, jobId, 'measured', `Removed: ${measuredText(gone)}`);
    return readJob(tx, jobId);
  });
}

/** Closes a job with a verdict computed here, never a client's. */
export async function closeJob(
  db: Database,
  id: string,
  version: number,
  closedAt = new Date(),
): Promise<Job> {
  return db.transaction(async (tx) => {
    const job = await requireOpen(tx, id);
    const proof = jobProof(job);
    if (!proof)
      throw new StateError(
        'The job has no record of what was found and what was fitted.',
        'Save both, then hand over. If nothing was changed, record what was found as fitted.',
      );
    const headline = jobHeadline(job, proof);
    const result = {
      ...{ closedAt: closedAt.toISOString(), headline, machine: job.machine.machine },
      level: job.levelSpread,
    };
    await bump(tx, id, version, { result, closedAt });
    await enterLedger(tx, job, proof, closedAt);
    await sellFitted(tx, job, snapshotOf(job, 'as-fitted')?.placement ?? {}, null);
    await freeHeld(tx, id);
    await addEvent(tx, id, 'closed', `Handed over: ${headline}`, closedAt);
    return readJob(tx, id);
  });
}

/** Opens a closed job again. */
export async function reopenJob(db: Database, id: string, version: number): Promise<Job> {
  return db.transaction(async (tx) => {
    const { result } = await readJob(tx, id);
    if (!result) throw new StateError('This job is open already.', 'Go on working on it.');
    await bump(tx, id, version, { result: null, closedAt: null });
    await tx.delete(ledger).where(eq(ledger.jobId, id));
    await addEvent(tx, id, 'reopened', 'Opened again');
    return readJob(tx, id);
  });
}

/** The job, which must not be closed. Throws StateError. */
export async function requireOpen(db: Database, id: string): Promise<Job> {
  // Held until the transaction ends: two that change one job take turns, whatever the engine.
  await db.select({ id: jobs.id }).from(jobs).where(eq(jobs.id, id)).for('update');
  const job = await readJob(db, id);
  if (job.result) throw new StateError('This job is closed.', 'Open it again to change it.');
  return job;
}

/** What sits in the machine on a side, as runs are filed by. Throws StateError where it is not on record. */
export async function printOf(
  db: Database,
  jobId: string,
  kind: 'as-found' | 'as-fitted',
): Promise<string> {
  const job = await requireOpen(db, jobId);
  const snapshot = job.snapshots.find((one) => one.kind === kind);
  if (snapshot) return fingerprint(job.machine.machine, snapshot.placement);
  const what = kind === 'as-found' ? 'what was found' : 'what was fitted';
  throw new StateError(
    `It is not on record ${what}.`,
    `Save ${what} first; runs belong to a set of modules.`,
    'kind',
  );
}

type JobFields = {
  [Field in keyof typeof jobs.$inferInsert]?: (typeof jobs.$inferInsert)[Field] | undefined;
};

async function bump(db: Database, id: string, version: number, fields: JobFields) {
  const rows = await db
    .update(jobs)
    .set({ ...(fields as Partial<typeof jobs.$inferInsert>), version: version + 1 })
    .where(and(eq(jobs.id, id), eq(jobs.version, version)))
    .returning({ id: jobs.id });
  if (rows.length === 0) throw new ConflictError('This job', await readJob(db, id));
}

/** Adds a line to a job's history, as of a moment. */
export async function addEvent(
  db: Database,
  jobId: string,
  type: string,
  text: string,
  at = new Date(),
): Promise<void> {
  await db.insert(jobEvents).values({ jobId, type, text, at });
  await db.update(jobs).set({ changedAt: at }).where(eq(jobs.id, jobId));
}

function measuredText({
  test,
  metric,
  runs,
  kind,
}: Pick<MeasurementInput, 'test' | 'metric' | 'runs' | 'kind'>): string {
  return `${test}, ${kind}: ${runs.join(' ')} ${METRIC_TRAITS[metric].unit}`;
}
