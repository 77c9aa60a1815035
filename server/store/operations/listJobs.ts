import { and, asc, count, desc, eq, ilike, isNotNull, isNull, sql } from 'drizzle-orm';
import type { Placeholder, SQL } from 'drizzle-orm';
import { union } from 'drizzle-orm/pg-core';
import { LRUCache } from 'lru-cache';
import { JOBS_COUNTED } from '#contract/jobRoutes';
import type { JobSummary, SnapshotKind } from '#contract/records';
import { pointText } from '#core/explaining';
import { operatingPoint } from '#core/operating-point';
import { nextStep } from '#core/walk';
import type { Database } from '../openStore.ts';
import { prepared } from '../prepared.ts';
import { customers, jobs, machines, snapshots } from '../schema/index.ts';
import { isAny } from './isAny.ts';
import { factColumns, factsOf } from './jobFacts.ts';
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
 * A page of jobs: open ones the longest waiting first, closed ones the latest first. The page is cut of
 * ids alone: whatever is joined to them would be read for every job found, and every one skipped.
 */
export async function listJobs(
  db: Database,
  query: JobQuery,
): Promise<{ jobs: JobSummary[]; total: number }> {
  const { ids, counted } = await cutPage(db, query);
  const rows = await readLines(db, ids);
  const configured = rows.flatMap(({ id, machineId, machineVersion, found, fitted }) => {
    const version = fitted ?? found;
    const kind: SnapshotKind = fitted === null ? 'as-found' : 'as-fitted';
    if (version === null) return [];
    const key = [machineId, machineVersion, id, kind, version].join(' ');
    return [{ jobId: id, kind, machineId, key }];
  });
  const headlineOf = await readHeadlines(db, configured);
  return {
    total: Math.min(counted, JOBS_COUNTED),
    jobs: rows.map((row): JobSummary => {
      const facts = { ...factsOf(row), hasNeed: row.hasNeed, closed: row.result !== null };
      return {
        ...{ id: row.id, number: row.number, complaint: row.complaint },
        ...{ machineName: row.machineName, customerName: row.customerName },
        openedAt: row.openedAt.toISOString(),
        changedAt: row.changedAt.toISOString(),
        next: nextStep(facts) ?? null,
        headline: row.result ?? headlineOf.get(row.id) ?? null,
        deadline: row.deadline,
        isStopped: row.swollenBattery,
        batch: batchOf(row),
      };
    }),
  };
}

const isIn = (state: JobQuery['state']) =>
  state === 'open' ? isNull(jobs.closedAt) : isNotNull(jobs.closedAt);
const orderIn = (state: JobQuery['state']): SQL[] =>
  state === 'open'
    ? [asc(jobs.openedAt), asc(jobs.number)]
    : [sql`${jobs.closedAt} desc nulls last`, asc(jobs.number)];

/** The ids of a page in order, and how many jobs its question finds. */
async function cutPage(db: Database, { state, search, limit, offset }: JobQuery) {
  const pages = search === '' ? pagesOfAll(db, state) : pagesOfFound(db, state);
  const pattern = containing(search);
  const page = await pages.execute({ pattern, limit, offset });
  const ids = page.map(({ id }) => id);
  // Beyond the last page nothing says how many there are.
  const isBeyond = ids.length === 0 && offset > 0;
  const [one] = isBeyond ? await pages.execute({ pattern, limit: 1, offset: 0 }) : page;
  return { ids, counted: one?.counted ?? 0 };
}

/** Nothing is looked for: the index of the state is read until the page is full, and counted no further than is told. */
const pagesOfAll = (db: Database, state: JobQuery['state']) =>
  prepared(db, `list_jobs_${state}`, (on) => {
    const some = on
      .select({ one: sql`1`.as('one') })
      .from(jobs)
      .where(isIn(state))
      .limit(JOBS_COUNTED)
      .as('some');
    const counted = on.select({ counted: count() }).from(some);
    return on
      .select({ id: jobs.id, counted: sql<number>`(${counted})`.mapWith(Number) })
      .from(jobs)
      .where(isIn(state))
      .orderBy(...orderIn(state))
      .limit(sql.placeholder('limit'))
      .offset(sql.placeholder('offset'));
  });

/** What is looked for comes in no order, so that all of it is sorted before a page is cut. */
const pagesOfFound = (db: Database, state: JobQuery['state']) =>
  prepared(db, `find_jobs_${state}`, (on) => {
    const found = jobsHolding(on, state, sql.placeholder('pattern'));
    return on
      .select({ id: found.id, counted: sql<number>`count(*) over ()`.mapWith(Number) })
      .from(found)
      .orderBy(state === 'open' ? asc(found.at) : desc(found.at), asc(found.number))
      .limit(sql.placeholder('limit'))
      .offset(sql.placeholder('offset'));
  });

/**
 * Jobs of a state with a text in their number, complaint, customer or machine, each found by an index
 * of its own. As one condition with "or" between, a planner may rather walk all jobs in their order; and
 * joined to customers it reads all of both, where an array worked out once is looked up in the index.
 */
function jobsHolding(db: Database, state: JobQuery['state'], pattern: Placeholder) {
  const at = sql<Date>`${state === 'open' ? jobs.openedAt : jobs.closedAt}`.as('at');
  const having = (condition: SQL) =>
    db
      .select({ id: jobs.id, at, number: jobs.number })
      .from(jobs)
      .where(and(isIn(state), condition));
  const named = (table: typeof customers | typeof machines) =>
    sql`array(${db.select({ id: table.id }).from(table).where(ilike(table.name, pattern))})`;
  return union(
    having(ilike(jobs.complaint, pattern)),
    having(ilike(sql`(${jobs.number}::text)`, pattern)),
    having(sql`${jobs.customerId} = any(${named(customers)})`),
    having(sql`${jobs.machineId} = any(${named(machines)})`),
  ).as('found');
}

/** The lines of a page, in the order of its ids. */
async function readLines(db: Database, ids: readonly string[]) {
  if (ids.length === 0) return [];
  const lines = prepared(db, 'lines_of_jobs', (on) =>
    on
      .select({ ...LINE, ...factColumns(on) })
      .from(jobs)
      .innerJoin(customers, eq(customers.id, jobs.customerId))
      .innerJoin(machines, eq(machines.id, jobs.machineId))
      .where(sql`${jobs.id} = any(${sql.placeholder('ids')}::text[])`),
  );
  const rowOf = new Map((await lines.execute({ ids })).map((row) => [row.id, row]));
  return ids.flatMap((id) => rowOf.get(id) ?? []);
}

/** What a line of the list shows, and no more: most of the time goes into decoding fields. */
const LINE = {
  id: jobs.id,
  number: jobs.number,
  complaint: jobs.complaint,
  machineId: jobs.machineId,
  deadline: jobs.deadline,
  swollenBattery: jobs.swollenBattery,
  batchId: jobs.batchId,
  batchPosition: jobs.batchPosition,
  batchSize: jobs.batchSize,
  openedAt: jobs.openedAt,
  changedAt: jobs.changedAt,
  customerName: customers.name,
  machineName: machines.name,
  machineVersion: machines.version,
  hasNeed: sql<boolean>`${jobs.need} is not null`,
  result: sql<string | null>`${jobs.result} ->> 'headline'`,
};

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
