import { and, desc, eq, lt } from 'drizzle-orm';
import type { AuditEntry, AuditPage, AuditQuery } from '#contract/audit';
import type { Database } from '../openStore.ts';
import { audit, jobs } from '../schema/index.ts';

/** Who changed what, the latest first, a page at a time; of one job where it is given. */
export async function listChanges(
  db: Database,
  { subject, who, before, limit }: AuditQuery,
  jobId?: string,
): Promise<AuditPage> {
  const rows = await db
    .select({ audit, number: jobs.number })
    .from(audit)
    .leftJoin(jobs, eq(jobs.id, audit.jobId))
    .where(
      and(
        jobId === undefined ? undefined : eq(audit.jobId, jobId),
        subject === undefined ? undefined : eq(audit.subject, subject),
        who === undefined ? undefined : eq(audit.who, who),
        before === undefined ? undefined : lt(audit.id, before),
      ),
    )
    .orderBy(desc(audit.id))
    .limit(limit + 1);
  const page = rows.slice(0, limit);
  return {
    entries: page.map(({ audit: { jobId, at, ...row }, number }) => ({
      ...(row as AuditEntry),
      at: at.toISOString(),
      // Of a job that is gone, only the line is left.
      job: jobId === null || number === null ? null : { id: jobId, number },
    })),
    next: rows.length > limit ? (page.at(-1)?.audit.id ?? null) : null,
  };
}

const AT_ONCE = 500;

/** All of it, oldest last, without ever holding all of it. */
export async function* everyChange(db: Database): AsyncGenerator<AuditEntry> {
  for (let before: number | undefined; ;) {
    const { entries, next } = await listChanges(db, {
      limit: AT_ONCE,
      ...(before === undefined ? {} : { before }),
    });
    yield* entries;
    if (next === null) return;
    before = next;
  }
}
