import { and, asc, count, desc, eq, ilike, inArray, isNotNull, isNull, or, sql } from 'drizzle-orm';
import { jobFacts } from '#contract/jobProof';
import type { Job, JobSummary } from '#contract/records';
import { pointText } from '#core/explaining';
import { operatingPoint } from '#core/operating-point';
import { nextStep } from '#core/walk';
import type { Database } from '../openStore.ts';
import { customers, jobEvents, jobs, machines, measurements, snapshots } from '../schema/index.ts';
import { NotFoundError } from './errors.ts';
import { containing } from './library.ts';

/** A job with all that belongs to it. Throws NotFoundError. */
export async function readJob(db: Database, id: string): Promise<Job> {
  const [row] = await db
    .select()
    .from(jobs)
    .innerJoin(customers, eq(customers.id, jobs.customerId))
    .innerJoin(machines, eq(machines.id, jobs.machineId))
    .where(eq(jobs.id, id));
  if (!row) throw new NotFoundError('This job');
  const { jobs: job, customers: customer, machines: machine } = row;
  const [ownSnapshots, ownMeasurements, events] = await Promise.all([
    db.select().from(snapshots).where(eq(snapshots.jobId, id)),
    db
      .select()
      .from(measurements)
      .where(eq(measurements.jobId, id))
      .orderBy(asc(measurements.takenAt)),
    db.select().from(jobEvents).where(eq(jobEvents.jobId, id)).orderBy(asc(jobEvents.id)),
  ]);
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
    machine: { id: machine.id, version: machine.version, machine: machine.machine },
    complaint: job.complaint,
    need: job.need,
    margin: job.margin,
    school: job.school,
    capacityFirst: job.capacityFirst,
    memoryTestPassed: job.memoryTestPassed,
    result: job.result,
    snapshots: ownSnapshots.map(({ jobId: _jobId, savedAt, ...rest }) => ({
      ...rest,
      placement: { ...rest.placement } as Job['snapshots'][number]['placement'],
      savedAt: savedAt.toISOString(),
    })),
    measurements: ownMeasurements.map(({ jobId: _jobId, takenAt, ...rest }) => ({
      ...rest,
      takenAt: takenAt.toISOString(),
    })),
    events: events.map(({ jobId: _jobId, at, ...rest }) => ({ ...rest, at: at.toISOString() })),
  };
}

/** What the bench list asks for. */
export interface JobQuery {
  readonly state: 'open' | 'closed';
  readonly search: string;
  readonly limit: number;
  readonly offset: number;
}

/** A page of jobs: open ones the longest waiting first, closed ones the latest first. */
export async function listJobs(
  db: Database,
  { state, search, limit, offset }: JobQuery,
): Promise<{ jobs: JobSummary[]; total: number }> {
  const pattern = containing(search);
  const where = and(
    state === 'open' ? isNull(jobs.closedAt) : isNotNull(jobs.closedAt),
    search === ''
      ? undefined
      : or(
          ilike(customers.name, pattern),
          ilike(machines.name, pattern),
          ilike(jobs.complaint, pattern),
          ilike(sql`${jobs.number}::text`, pattern),
        ),
  );
  const joined = () =>
    db
      .select({
        job: jobs,
        customerName: customers.name,
        machineName: machines.name,
        machine: machines.machine,
      })
      .from(jobs)
      .innerJoin(customers, eq(customers.id, jobs.customerId))
      .innerJoin(machines, eq(machines.id, jobs.machineId));
  const rows = await joined()
    .where(where)
    .orderBy(state === 'open' ? asc(jobs.openedAt) : desc(jobs.closedAt), asc(jobs.number))
    .limit(limit)
    .offset(offset);
  const counting = db.select({ total: count() }).from(jobs);
  const [counted] = await (search === ''
    ? counting.where(where)
    : counting
        .innerJoin(customers, eq(customers.id, jobs.customerId))
        .innerJoin(machines, eq(machines.id, jobs.machineId))
        .where(where));
  const ids = rows.map(({ job }) => job.id);
  const [ownSnapshots, ownMeasurements] =
    ids.length === 0
      ? [[], []]
      : await Promise.all([
          db.select().from(snapshots).where(inArray(snapshots.jobId, ids)),
          db
            .select({ jobId: measurements.jobId, kind: measurements.kind })
            .from(measurements)
            .where(inArray(measurements.jobId, ids)),
        ]);
  return {
    total: counted?.total ?? 0,
    jobs: rows.map(({ job, machine, customerName, machineName }): JobSummary => {
      const mine = ownSnapshots.filter(({ jobId }) => jobId === job.id);
      const current =
        mine.find(({ kind }) => kind === 'as-fitted') ??
        mine.find(({ kind }) => kind === 'as-found');
      const facts = jobFacts({
        snapshots: mine as never,
        measurements: ownMeasurements.filter(({ jobId }) => jobId === job.id) as never,
        need: job.need,
        result: job.result,
      });
      const state =
        current && pointText(operatingPoint(machine, current.placement, current.setting));
      return {
        ...{ id: job.id, number: job.number, customerName, machineName, complaint: job.complaint },
        openedAt: job.openedAt.toISOString(),
        changedAt: job.changedAt.toISOString(),
        next: nextStep(facts) ?? null,
        headline: job.result?.headline ?? state ?? null,
      };
    }),
  };
}
