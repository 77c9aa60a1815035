import { and, asc, desc, eq, inArray, isNull, sql } from 'drizzle-orm';
import type { Job } from '#contract/records';
import { fingerprint, levelSpread, memoryTestState, runSetOf } from '#core/proving';
import type { LevelSpread } from '#core/proving';
import type { Note } from '#core/fitting';
import type { Database } from '../openStore.ts';
import { prepared } from '../prepared.ts';
import {
  benchLog,
  jobEvents,
  jobs,
  measurements,
  memoryTests,
  quotes,
  returns,
  snapshots,
} from '../schema/index.ts';
import { NotFoundError } from './errors.ts';
import { MACHINE_WITH, machineRecordOf } from './library.ts';

/** Notes of the bench that tell what rate a screen showed, and whether it still holds. */
const RATE_NOTES = ['begin', 'sits', 'reading', 'undo'];

/** A job by its id, with the rows that belong to it. */
const wholeJob = (db: Database) =>
  db.query.jobs.findFirst({
    where: eq(jobs.id, sql.placeholder('id')),
    with: {
      customer: { columns: { id: true, version: true, name: true, contact: true } },
      machine: MACHINE_WITH,
      snapshots: { orderBy: asc(snapshots.kind) },
      measurements: { orderBy: asc(measurements.takenAt) },
      events: { orderBy: asc(jobEvents.id) },
      quotes: {
        columns: { number: true, answer: true, promise: true },
        orderBy: desc(quotes.number),
      },
      memoryTests: { orderBy: asc(memoryTests.at) },
      returns: { orderBy: asc(returns.at) },
      notes: {
        columns: { id: true, note: true },
        where: ({ note }) => inArray(sql`${note}->>'type'`, RATE_NOTES),
        orderBy: asc(benchLog.seq),
      },
    },
  });

/** A job with all that belongs to it. Throws NotFoundError. */
export async function readJob(db: Database, id: string): Promise<Job> {
  const job = await prepared(db, 'read_job', wholeJob).execute({ id });
  if (!job) throw new NotFoundError('This job');
  const { customer, events, quotes: offered } = job;
  const machine = machineRecordOf(job.machine);
  const { snapshots: ownSnapshots, measurements: ownMeasurements, returns: back } = job;
  const accepted = offered.find(({ answer }) => answer === 'accepted');
  const level = await shopLevel(db);
  const own = job.memoryTests.map(({ jobId: _jobId, at, ...rest }) => ({
    ...rest,
    at: at.toISOString(),
  }));
  const current =
    ownSnapshots.find(({ kind }) => kind === 'as-fitted') ??
    ownSnapshots.find(({ kind }) => kind === 'as-found');
  return {
    id,
    version: job.version,
    number: job.number,
    openedAt: job.openedAt.toISOString(),
    ...{ customer, machine },
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
    shownRate: shownRate(job.notes) ?? null,
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
  const { runs, warmUp, sittings, step, doubts } = measurements;
  const rows = await db
    .select({ runs, warmUp, sittings, step, doubts })
    .from(measurements)
    .where(sql`cardinality(${measurements.sittings}) > 1`)
    .orderBy(desc(measurements.takenAt))
    .limit(LEVELS_FROM);
  return levelSpread(rows.map(runSetOf));
}

/** The rate a screen showed since the machine was last opened, unless it was taken back. */
function shownRate(rows: readonly { id: string; note: Note }[]): number | undefined {
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
