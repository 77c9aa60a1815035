import { and, asc, count, eq, ilike, inArray, isNotNull, isNull, sql } from 'drizzle-orm';
import type { Placeholder, SQL } from 'drizzle-orm';
import { union } from 'drizzle-orm/pg-core';
import type { PgColumn } from 'drizzle-orm/pg-core';
import { LRUCache } from 'lru-cache';
import { JOBS_COUNTED } from '#contract/jobRoutes';
import type { JobSummary, SnapshotKind } from '#contract/records';
import { pointText } from '#core/explaining';
import { operatingPoint } from '#core/operating-point';
import { nextStep } from '#core/walk';
import type { JobFacts } from '#core/walk';
import type { Database } from '../openStore.ts';
import { prepared } from '../prepared.ts';
import { customers, jobs, machines, quotes, snapshots } from '../schema/index.ts';
import { containing } from './library.ts';
import { batchOf } from './readJobs.ts';

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
  query: JobQuery,
): Promise<{ jobs: JobSummary[]; total: number }> {
  const { rows, counted } = await (query.search === ''
    ? pageOfAll(db, query)
    : pageOfFound(db, query));
  const read = rows.map((row) => ({ ...row, facts: factsOf(row) }));
  const configured = read.flatMap(({ id, machineId, machine, facts: { found, fitted } }) => {
    const version = fitted ?? found;
    const kind: SnapshotKind = fitted === undefined ? 'as-found' : 'as-fitted';
    if (version === undefined) return [];
    const key = [machineId, machine.version, id, kind, version].join(' ');
    return [{ jobId: id, kind, machineId, key }];
  });
  const headlineOf = await readHeadlines(db, configured);
  return {
    total: Math.min(counted, JOBS_COUNTED),
    jobs: read.map(({ facts, ...job }): JobSummary => {
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
        machineName: job.machine.name,
        customerName: job.customer.name,
        openedAt: job.openedAt.toISOString(),
        changedAt: job.changedAt.toISOString(),
        next: nextStep(steps) ?? null,
        headline: job.result ?? headlineOf.get(job.id) ?? null,
        deadline: job.deadline,
        isStopped: job.swollenBattery,
        batch: batchOf(job),
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

/** Nothing was looked for: read along the index of the state until the page is full. */
async function pageOfAll(db: Database, { state, limit, offset }: JobQuery) {
  const page = prepared(db, `list_jobs_${state}`, (on) =>
    on.query.jobs.findMany({
      ...LINE,
      where: isIn(state),
      orderBy: orderIn(state),
      limit: sql.placeholder('limit'),
      offset: sql.placeholder('offset'),
    }),
  );
  const rows = await page.execute({ limit, offset });
  const isWhole = rows.length < limit && (rows.length > 0 || offset === 0);
  return { rows, counted: isWhole ? offset + rows.length : await countJobs(db, isIn(state)) };
}

/**
 * What was looked for comes in no order, so that all of it is sorted before a page is cut: of ids alone,
 * since whatever is joined to them would be read for every job found.
 */
async function pageOfFound(db: Database, { state, search, limit, offset }: JobQuery) {
  const pattern = containing(search);
  const cut = prepared(db, `find_jobs_${state}`, (on) =>
    on
      .select({ id: jobs.id, counted: sql<number>`count(*) over ()`.mapWith(Number) })
      .from(jobs)
      .where(and(isIn(state), holding(on, sql.placeholder('pattern'))))
      .orderBy(...orderIn(state))
      .limit(sql.placeholder('limit'))
      .offset(sql.placeholder('offset')),
  );
  const found = await cut.execute({ pattern, limit, offset });
  const [first] = found;
  // Beyond the last page nothing says how many there are.
  if (!first)
    return {
      rows: [],
      counted: offset === 0 ? 0 : await countJobs(db, and(isIn(state), holding(db, pattern))),
    };
  const lines = prepared(db, 'lines_of_jobs', (on) =>
    on.query.jobs.findMany({
      ...LINE,
      where: sql`${jobs.id} = any(${sql.placeholder('ids')}::text[])`,
    }),
  );
  const rows = await lines.execute({ ids: found.map(({ id }) => id) });
  const rowOf = new Map(rows.map((row) => [row.id, row]));
  return { rows: found.flatMap(({ id }) => rowOf.get(id) ?? []), counted: first.counted };
}

async function countJobs(db: Database, where: SQL | undefined): Promise<number> {
  const some = db
    .select({ one: sql`1`.as('one') })
    .from(jobs)
    .where(where)
    .limit(JOBS_COUNTED);
  const [counted] = await db.select({ total: count() }).from(some.as('some'));
  return counted?.total ?? 0;
}

/**
 * Jobs with a text in their number, complaint, customer or machine, each found by an index of its own.
 * As one condition with "or" between, a planner may rather walk all jobs in their order; and joined to
 * customers it reads all of both, where an array worked out once is looked up in the index.
 */
function holding(db: Database, pattern: string | Placeholder) {
  const of = (condition: SQL) => db.select({ id: jobs.id }).from(jobs).where(condition);
  const named = (table: typeof customers | typeof machines) =>
    sql`array(${db.select({ id: table.id }).from(table).where(ilike(table.name, pattern))})`;
  const found = union(
    of(ilike(jobs.complaint, pattern)),
    of(ilike(sql`(${jobs.number}::text)`, pattern)),
    of(sql`${jobs.customerId} = any(${named(customers)})`),
    of(sql`${jobs.machineId} = any(${named(machines)})`),
  );
  return inArray(jobs.id, found);
}

/** One parameter however many there are: a long list of them takes longer to take apart than to look up. */
const isAny = (column: PgColumn, ids: readonly string[]) =>
  sql`${column} = any(${sql.param(ids)}::text[])`;

/** What the next step depends on, of the tables a job's rows lie in. */
const FACTS = {
  snapshots: { columns: { kind: true, version: true } },
  measurements: { columns: { kind: true } },
  quotes: { columns: { id: true }, where: eq(quotes.answer, 'accepted') },
} as const;

/** What a line of the list shows, and no more: most of the time goes into decoding fields. */
const LINE = {
  columns: {
    id: true,
    number: true,
    complaint: true,
    machineId: true,
    deadline: true,
    swollenBattery: true,
    batchId: true,
    batchPosition: true,
    batchSize: true,
    openedAt: true,
    changedAt: true,
  },
  extras: {
    hasNeed: sql<boolean>`${jobs.need} is not null`.as('has_need'),
    result: sql<string | null>`${jobs.result} ->> 'headline'`.as('headline'),
  },
  with: {
    customer: { columns: { name: true } },
    machine: { columns: { name: true, version: true } },
    ...FACTS,
  },
} as const;

interface FactRows {
  readonly snapshots: readonly { kind: SnapshotKind; version: number }[];
  readonly measurements: readonly { kind: 'as-found' | 'as-fitted' }[];
  /** Accepted ones. */
  readonly quotes: readonly unknown[];
}

/** What stands in a job so far, with the versions of the configurations saved. */
function factsOf({ snapshots: saved, measurements: taken, quotes: accepted }: FactRows) {
  const versionOf = (kind: SnapshotKind) => saved.find((one) => one.kind === kind)?.version;
  const isMeasured = (kind: SnapshotKind) => taken.some((one) => one.kind === kind);
  return {
    found: versionOf('as-found'),
    fitted: versionOf('as-fitted'),
    hasPlan: versionOf('planned') !== undefined,
    hasBaseline: isMeasured('as-found'),
    hasRunsAfter: isMeasured('as-fitted'),
    hasYes: accepted.length > 0,
  };
}

/** What stands in each of many jobs so far, by its id. */
export async function readFacts(db: Database, rows: readonly { id: string }[]) {
  const ids = rows.map(({ id }) => id);
  const found = await db.query.jobs.findMany({
    columns: { id: true },
    with: FACTS,
    where: isAny(jobs.id, ids),
  });
  const facts = new Map(found.map((row) => [row.id, factsOf(row)]));
  return (id: string) => facts.get(id) ?? factsOf(NONE);
}

const NONE: FactRows = { snapshots: [], measurements: [], quotes: [] };

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
