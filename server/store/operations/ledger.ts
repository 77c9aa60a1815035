import { and, desc, eq, isNotNull, isNull, sql } from 'drizzle-orm';
import { closedJobOf } from '#contract/ledger';
import type { Ledger } from '#contract/ledger';
import { jobProof } from '#contract/jobProof';
import type { Job } from '#contract/records';
import { ledgerEntry, provenParts, refitShares } from '#core/ledger';
import type { Proof } from '#core/proving';
import type { Database } from '../openStore.ts';
import { jobs, ledger } from '../schema/index.ts';
import { NotFoundError } from './errors.ts';
import { readJob } from './readJobs.ts';

/** More than a shop proves in ten years; older ones stay stored. */
const LEDGER_LIMIT = 5000;
const DAY_MS = 86_400_000;

/** Enters what a job proved; one that does not run leaves no line. */
export async function enterLedger(
  db: Database,
  job: Job,
  proof: Proof,
  closedAt: Date,
): Promise<void> {
  const closed = closedJobOf(job, proof);
  const entry = closed && ledgerEntry(closed);
  if (!entry) return;
  const line = { machineId: job.machine.id, closedAt, proven: provenParts(entry), entry };
  await db
    .insert(ledger)
    .values({ jobId: job.id, ...line })
    .onConflictDoNothing();
}

/** Jobs closed before there was a ledger are entered this many at a start, the latest first. */
const FILLED_AT_ONCE = 300;

/** Enters closed jobs that have no line yet: those closed before there was a ledger. */
export async function fillLedger(db: Database): Promise<number> {
  const missing = await db
    .select({ id: jobs.id, closedAt: jobs.closedAt })
    .from(jobs)
    .leftJoin(ledger, eq(ledger.jobId, jobs.id))
    .where(and(isNotNull(jobs.closedAt), isNull(ledger.jobId)))
    .orderBy(desc(jobs.closedAt))
    .limit(FILLED_AT_ONCE);
  for (const { id, closedAt } of missing) {
    const job = await readJob(db, id);
    const proof = jobProof(job);
    if (proof && closedAt) await enterLedger(db, job, proof, closedAt);
  }
  return missing.length;
}

/** Leaves a job out of what predictions go by, or takes it in again. */
export async function leaveOut(db: Database, jobId: string, isLeftOut: boolean): Promise<Ledger> {
  const [known] = await db
    .update(ledger)
    .set({ isLeftOut })
    .where(eq(ledger.jobId, jobId))
    .returning({ jobId: ledger.jobId });
  if (!known) throw new NotFoundError('This line of the ledger');
  return readLedger(db);
}

/** What closed jobs proved, the latest first, and what they say about the prediction shares. */
export async function readLedger(db: Database): Promise<Ledger> {
  // The same customer with the same machine again: whatever stood, stood until then.
  const backAt = sql<string | null>`(
    select min(later.opened_at) from jobs later
    where later.customer_id = ${jobs.customerId} and later.machine_id = ${jobs.machineId}
      and later.opened_at > ${ledger.closedAt})`;
  const rows = await db
    .select({ line: ledger, jobNumber: jobs.number, backAt })
    .from(ledger)
    .innerJoin(jobs, eq(jobs.id, ledger.jobId))
    .orderBy(desc(ledger.closedAt))
    .limit(LEDGER_LIMIT);
  const counted = rows.filter(({ line }) => !line.isLeftOut);
  const shares = refitShares(counted.map(({ line }) => line.entry));
  return {
    lines: rows.map(({ line, jobNumber, backAt: back }) => {
      const until = back === null ? new Date() : new Date(back);
      return {
        ...{ jobId: line.jobId, jobNumber, machineId: line.machineId, entry: line.entry },
        closedAt: line.closedAt.toISOString(),
        days: Math.floor((until.getTime() - line.closedAt.getTime()) / DAY_MS),
        cameBack: back !== null,
        isLeftOut: line.isLeftOut,
      };
    }),
    shares,
    odd: shares.flatMap(({ assumed, odd }) =>
      odd.flatMap(({ at, factor, expected }) => {
        const row = counted[at];
        if (!row) return [];
        const { line, jobNumber } = row;
        return [{ jobId: line.jobId, jobNumber, activity: assumed.id, factor, expected }];
      }),
    ),
  };
}
