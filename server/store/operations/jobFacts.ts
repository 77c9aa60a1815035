import { and, eq, exists, sql } from 'drizzle-orm';
import type { SnapshotKind } from '#contract/records';
import type { JobFacts } from '#core/walk';
import type { Database } from '../openStore.ts';
import { jobs, measurements, quotes, snapshots } from '../schema/index.ts';
import { isAny } from './isAny.ts';

/** What the next step of a job depends on, as columns of a question about jobs. */
export function factColumns(on: Database) {
  const version = (kind: SnapshotKind) => {
    const saved = on
      .select({ version: snapshots.version })
      .from(snapshots)
      .where(and(eq(snapshots.jobId, jobs.id), eq(snapshots.kind, kind)));
    return sql<number | null>`(${saved})`;
  };
  const isMeasured = (kind: 'as-found' | 'as-fitted') => {
    const taken = on
      .select({ one: sql`1` })
      .from(measurements)
      .where(and(eq(measurements.jobId, jobs.id), eq(measurements.kind, kind)));
    return sql<boolean>`${exists(taken)}`;
  };
  const accepted = on
    .select({ one: sql`1` })
    .from(quotes)
    .where(and(eq(quotes.jobId, jobs.id), eq(quotes.answer, 'accepted')));
  return {
    /** Versions of the configurations saved. */
    found: version('as-found'),
    fitted: version('as-fitted'),
    planned: version('planned'),
    hasBaseline: isMeasured('as-found'),
    hasRunsAfter: isMeasured('as-fitted'),
    hasYes: sql<boolean>`${exists(accepted)}`,
  };
}

/** What {@link factColumns} found in one job. */
export interface FactRow {
  readonly found: number | null;
  readonly fitted: number | null;
  readonly planned: number | null;
  readonly hasBaseline: boolean;
  readonly hasRunsAfter: boolean;
  readonly hasYes: boolean;
}

/** All but what stands in the job's own row. */
export const factsOf = (row: FactRow): Omit<JobFacts, 'hasNeed' | 'closed'> => ({
  hasFound: row.found !== null,
  hasPlan: row.planned !== null,
  hasFitted: row.fitted !== null,
  hasBaseline: row.hasBaseline,
  hasRunsAfter: row.hasRunsAfter,
  hasYes: row.hasYes,
});

/** What stands in each of many jobs so far, by its id. */
export async function readFacts(db: Database, ids: readonly string[]) {
  const rows = await db
    .select({ id: jobs.id, ...factColumns(db) })
    .from(jobs)
    .where(isAny(jobs.id, ids));
  return new Map(rows.map(({ id, ...row }) => [id, factsOf(row)]));
}
