import { and, asc, count, eq, ilike, isNotNull, isNull, or, sql } from 'drizzle-orm';
import type { PgColumn } from 'drizzle-orm/pg-core';
import { LRUCache } from 'lru-cache';
import type { JobSummary, SnapshotKind } from '#contract/records';
import { pointText } from '#core/explaining';
import { operatingPoint } from '#core/operating-point';
import { nextStep } from '#core/walk';
import type { JobFacts } from '#core/walk';
import type { Database } from '../openStore.ts';
import { customers, jobs, machines, measurements, quotes, snapshots } from '../schema/index.ts';
import { containing } from './library.ts';
import { batchOf } from './readJobs.ts';

/** What the bench list asks for. */
export interface JobQuery {
  readonly state: 'open' | 'closed';
  readonly search: string;
  readonly limit: number;
  readonly offset: number;
}

/**
 * A page of jobs: open ones the longest waiting first, closed ones the latest first.
 *
 * Many small questions instead of one large one: the embedded engine takes longer to plan a large one
 * than to answer all of these.
 */
export async function listJobs(
  db: Database,
  { state, search, limit, offset }: JobQuery,
): Promise<{ jobs: JobSummary[]; total: number }> {
  const where = and(
    state === 'open' ? isNull(jobs.closedAt) : isNotNull(jobs.closedAt),
    search === '' ? undefined : await holding(db, containing(search)),
  );
  const rows = await db
    // Only what a line shows: most of the time goes into decoding fields.
    .select({
      id: jobs.id,
      number: jobs.number,
      complaint: jobs.complaint,
      customerId: jobs.customerId,
      machineId: jobs.machineId,
      deadline: jobs.deadline,
      isStopped: jobs.swollenBattery,
      batchId: jobs.batchId,
      batchPosition: jobs.batchPosition,
      batchSize: jobs.batchSize,
      openedAt: jobs.openedAt,
      changedAt: jobs.changedAt,
      hasNeed: sql<boolean>`${jobs.need} is not null`,
      result: sql<string | null>`${jobs.result} ->> 'headline'`,
    })
    .from(jobs)
    .where(where)
    .orderBy(
      ...(state === 'open'
        ? [asc(jobs.openedAt), asc(jobs.number)]
        : [sql`${jobs.closedAt} desc nulls last`, asc(jobs.number)]),
    )
    .limit(limit)
    .offset(offset);
  const isWhole = rows.length < limit && (rows.length > 0 || offset === 0);
  const [counted] = isWhole ? [] : await db.select({ total: count() }).from(jobs).where(where);
  const factsOf = await readFacts(db, rows);
  const nameOf = await readNames(db, rows);
  const machineOf = await readVersions(db, rows);
  const configured = rows.flatMap(({ id, machineId }) => {
    const { found, fitted } = factsOf(id);
    const version = fitted ?? found;
    const kind = fitted === undefined ? 'as-found' : 'as-fitted';
    const machine = machineOf.get(machineId);
    if (version === undefined || !machine) return [];
    return [{ jobId: id, kind, machineId, key: [machineId, machine.version, id, kind, version] }];
  });
  const headlineOf = await readHeadlines(
    db,
    configured.map((one) => ({ ...one, kind: one.kind as SnapshotKind, key: one.key.join(' ') })),
  );
  return {
    total: counted?.total ?? offset + rows.length,
    jobs: rows.map((job): JobSummary => {
      const facts = factsOf(job.id);
      const steps: JobFacts = {
        hasFound: facts.found !== undefined,
        hasNeed: job.hasNeed,
        hasBaseline: facts.hasBaseline,
        hasPlan: facts.hasPlan,
        hasYes: facts.hasYes,
        hasFitted: facts.fitted !== undefined,
        hasRunsAfter: facts.hasRunsAfter,
        closed: job.result !== null,
      };
      return {
        ...{ id: job.id, number: job.number, complaint: job.complaint },
        machineName: machineOf.get(job.machineId)?.name ?? '',
        customerName: nameOf.get(job.customerId) ?? '',
        openedAt: job.openedAt.toISOString(),
        changedAt: job.changedAt.toISOString(),
        next: nextStep(steps) ?? null,
        headline: job.result ?? headlineOf.get(job.id) ?? null,
        deadline: job.deadline,
        isStopped: job.isStopped,
        batch: batchOf(job),
      };
    }),
  };
}

/** Jobs with a text in their number, complaint, customer or machine, each found by an index of its own. */
async function holding(db: Database, pattern: string) {
  const named = async (table: typeof customers | typeof machines) => {
    const rows = await db.select({ id: table.id }).from(table).where(ilike(table.name, pattern));
    return rows.map(({ id }) => id);
  };
  return or(
    ilike(jobs.complaint, pattern),
    ilike(sql`(${jobs.number}::text)`, pattern),
    isAny(jobs.customerId, await named(customers)),
    isAny(jobs.machineId, await named(machines)),
  );
}

/** One parameter however many there are: a long list of them takes longer to take apart than to look up. */
const isAny = (column: PgColumn, ids: readonly string[]) =>
  sql`${column} = any(${sql.param(ids)}::text[])`;

interface Facts {
  /** Versions of the configurations saved. */
  found?: number;
  fitted?: number;
  hasPlan: boolean;
  hasBaseline: boolean;
  hasRunsAfter: boolean;
  hasYes: boolean;
}

/** What stands in each job so far, by its id. */
export async function readFacts(db: Database, rows: readonly { id: string }[]) {
  const ids = rows.map(({ id }) => id);
  const saved = await db
    .select({ jobId: snapshots.jobId, kind: snapshots.kind, version: snapshots.version })
    .from(snapshots)
    .where(isAny(snapshots.jobId, ids));
  const measured = await db
    .select({ jobId: measurements.jobId, kind: measurements.kind })
    .from(measurements)
    .where(isAny(measurements.jobId, ids));
  const accepted = await db
    .select({ jobId: quotes.jobId })
    .from(quotes)
    .where(and(isAny(quotes.jobId, ids), eq(quotes.answer, 'accepted')));
  const none = { hasPlan: false, hasBaseline: false, hasRunsAfter: false, hasYes: false };
  const facts = new Map<string, Facts>(ids.map((id) => [id, { ...none }]));
  const of = (id: string): Facts => facts.get(id) ?? none;
  for (const { jobId, kind, version } of saved) {
    if (kind === 'as-found') of(jobId).found = version;
    else if (kind === 'as-fitted') of(jobId).fitted = version;
    else of(jobId).hasPlan = true;
  }
  for (const { jobId, kind } of measured)
    of(jobId)[kind === 'as-found' ? 'hasBaseline' : 'hasRunsAfter'] = true;
  for (const { jobId } of accepted) of(jobId).hasYes = true;
  return of;
}

async function readNames(db: Database, rows: readonly { customerId: string }[]) {
  const { id, name } = customers;
  const ids = rows.map(({ customerId }) => customerId);
  const found = await db.select({ id, name }).from(customers).where(isAny(id, ids));
  return new Map(found.map((one) => [one.id, one.name]));
}

async function readVersions(db: Database, rows: readonly { machineId: string }[]) {
  const { id, version, name } = machines;
  const ids = [...new Set(rows.map(({ machineId }) => machineId))];
  const found = await db.select({ id, version, name }).from(machines).where(isAny(id, ids));
  return new Map(found.map((one) => [one.id, one]));
}

/** Enough for the pages people look at; one is a line of text. */
const HEADLINES_KEPT = 5000;
/** Worked out before, by database: a version of a configuration on a version of a machine never changes. */
const headlines = new WeakMap<Database, LRUCache<string, string>>();

interface Configured {
  readonly jobId: string;
  readonly kind: SnapshotKind;
  readonly machineId: string;
  /** Names both versions. */
  readonly key: string;
}

/** What each job runs at, in one line, by its id. */
async function readHeadlines(
  db: Database,
  configured: readonly Configured[],
): Promise<Map<string, string>> {
  const kept = headlines.get(db) ?? new LRUCache<string, string>({ max: HEADLINES_KEPT });
  headlines.set(db, kept);
  const missing = configured.filter(({ key }) => !kept.has(key));
  if (missing.length > 0) {
    const owners = [...new Set(missing.map(({ machineId }) => machineId))];
    const models = await db
      .select({ id: machines.id, machine: machines.machine })
      .from(machines)
      .where(isAny(machines.id, owners));
    const machineOf = new Map(models.map(({ id, machine }) => [id, machine]));
    const saved = await db
      .select({
        jobId: snapshots.jobId,
        kind: snapshots.kind,
        placement: snapshots.placement,
        setting: snapshots.setting,
      })
      .from(snapshots)
      .where(
        isAny(
          snapshots.jobId,
          missing.map(({ jobId }) => jobId),
        ),
      );
    for (const { jobId, kind, machineId, key } of missing) {
      const own = saved.find((one) => one.jobId === jobId && one.kind === kind);
      const machine = machineOf.get(machineId);
      if (own && machine)
        kept.set(key, pointText(operatingPoint(machine, own.placement, own.setting)));
    }
  }
  return new Map(configured.map(({ jobId, key }) => [jobId, kept.get(key) ?? '']));
}
