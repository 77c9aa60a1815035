import { and, asc, desc, eq, inArray, isNull, sql } from 'drizzle-orm';
import type { Job } from '#contract/records';
import { fingerprint, levelSpread, memoryTestState, runSetOf } from '#core/proving';
import type { LevelSpread } from '#core/proving';
import type { Database } from '../openStore.ts';
import {
  benchLog,
  customers,
  jobEvents,
  jobs,
  measurements,
  memoryTests,
  quotes,
  returns,
  snapshots,
} from '../schema/index.ts';
import { NotFoundError } from './errors.ts';
import { readMachine } from './library.ts';

/** A job with all that belongs to it. Throws NotFoundError. */
export async function readJob(db: Database, id: string): Promise<Job> {
  const [row] = await db
    .select()
    .from(jobs)
    .innerJoin(customers, eq(customers.id, jobs.customerId))
    .where(eq(jobs.id, id));
  if (!row) throw new NotFoundError('This job');
  const { jobs: job, customers: customer } = row;
  // One after the other: a connection in a transaction answers one question at a time.
  const machine = await readMachine(db, job.machineId);
  const ownSnapshots = await db
    .select()
    .from(snapshots)
    .where(eq(snapshots.jobId, id))
    .orderBy(asc(snapshots.kind));
  const ownMeasurements = await db
    .select()
    .from(measurements)
    .where(eq(measurements.jobId, id))
    .orderBy(asc(measurements.takenAt));
  const events = await db
    .select()
    .from(jobEvents)
    .where(eq(jobEvents.jobId, id))
    .orderBy(asc(jobEvents.id));
  const offered = await db
    .select({ number: quotes.number, answer: quotes.answer, promise: quotes.promise })
    .from(quotes)
    .where(eq(quotes.jobId, id))
    .orderBy(desc(quotes.number));
  const accepted = offered.find(({ answer }) => answer === 'accepted');
  const tests = await db
    .select()
    .from(memoryTests)
    .where(eq(memoryTests.jobId, id))
    .orderBy(asc(memoryTests.at));
  const back = await db
    .select()
    .from(returns)
    .where(eq(returns.jobId, id))
    .orderBy(asc(returns.at));
  const level = await shopLevel(db);
  const shown = await shownRate(db, id);
  const own = tests.map(({ jobId: _jobId, at, ...rest }) => ({ ...rest, at: at.toISOString() }));
  const current =
    ownSnapshots.find(({ kind }) => kind === 'as-fitted') ??
    ownSnapshots.find(({ kind }) => kind === 'as-found');
  return {
    id,
    version: job.version,
    number: job.number,
    openedAt: job.openedAt.toISOString(),
    customer: {
      id: customer.id,
      version: customer.version,
      name: customer.name,
      contact: customer.contact,
    },
    machine,
    batch: batchOf(job),
    complaint: job.complaint,
    work: job.work,
    budget: job.budget,
    deadline: job.deadline,
    consents: job.consents,
    condition: job.condition,
    swollenBattery: job.swollenBattery,
    need: job.need,
    needInput: job.needInput && { ...job.needInput, activities: [...job.needInput.activities] },
    margin: job.margin,
    school: job.school,
    capacityFirst: job.capacityFirst,
    drawCap: job.drawCap,
    deadSlots: job.deadSlots,
    memoryTests: own,
    memoryTestPassed:
      current !== undefined &&
      memoryTestState(own, {
        fingerprint: fingerprint(machine.machine, current.placement),
        setting: current.setting,
      }) === 'passed',
    returns: back.map((one) => ({ ...one, jobNumber: job.number, at: one.at.toISOString() })),
    keptPlans: job.keptPlans,
    levelSpread: level ?? null,
    shownRate: shown ?? null,
    acceptedQuote: accepted?.number ?? null,
    promised: (accepted ?? offered[0])?.promise.figures ?? null,
    result: job.result,
    snapshots: ownSnapshots.map(({ jobId: _jobId, savedAt, ...rest }) => ({
      ...rest,
      placement: { ...rest.placement },
      savedAt: savedAt.toISOString(),
    })),
    measurements: ownMeasurements.map(({ jobId: _jobId, takenAt, ...rest }) => ({
      ...rest,
      takenAt: takenAt.toISOString(),
    })),
    events: events.map(({ jobId: _jobId, at, ...rest }) => ({ ...rest, at: at.toISOString() })),
  };
}

/** Sides looked at for the shop's own spread of levels, the latest first. */
const LEVELS_FROM = 200;

/** How far levels differ from sitting to sitting, by the shop's own repeated ones. */
async function shopLevel(db: Database): Promise<LevelSpread | undefined> {
  const rows = await db
    .select()
    .from(measurements)
    .where(sql`cardinality(${measurements.sittings}) > 1`)
    .orderBy(desc(measurements.takenAt))
    .limit(LEVELS_FROM);
  return levelSpread(rows.map(runSetOf));
}

/** The rate a screen showed since the machine was last opened, unless it was taken back. */
async function shownRate(db: Database, jobId: string): Promise<number | undefined> {
  const kinds = ['begin', 'sits', 'reading', 'undo'];
  const rows = await db
    .select({ id: benchLog.id, note: benchLog.note })
    .from(benchLog)
    .where(and(eq(benchLog.jobId, jobId), inArray(sql`${benchLog.note}->>'type'`, kinds)))
    .orderBy(asc(benchLog.seq));
  const undone = new Set(rows.flatMap(({ note }) => (note.type === 'undo' ? [note.of] : [])));
  let shown: number | undefined;
  for (const { id, note } of rows) {
    if (undone.has(id)) continue;
    if (note.type === 'begin' || note.type === 'sits') shown = undefined;
    if (note.type === 'reading' && note.kind === 'rate' && typeof note.value === 'number')
      shown = note.value;
  }
  return shown;
}

/** A job's place in its batch, if it came in one. */
export function batchOf(row: {
  batchId: string | null;
  batchPosition: number | null;
  batchSize: number | null;
}): Job['batch'] {
  const { batchId, batchPosition, batchSize } = row;
  return batchId === null || batchPosition === null || batchSize === null
    ? null
    : { id: batchId, position: batchPosition, size: batchSize };
}

/** The open jobs of a batch, in their order. Throws NotFoundError. */
export async function listBatch(db: Database, batchId: string): Promise<Job[]> {
  const rows = await db
    .select({ id: jobs.id })
    .from(jobs)
    .where(and(eq(jobs.batchId, batchId), isNull(jobs.closedAt)))
    .orderBy(asc(jobs.batchPosition));
  if (rows.length === 0) throw new NotFoundError('This batch');
  const batch: Job[] = [];
  for (const { id } of rows) batch.push(await readJob(db, id));
  return batch;
}
