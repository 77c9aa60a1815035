import { and, count, desc, eq, ilike, isNotNull, isNull, sql } from 'drizzle-orm';
import { closedJobOf } from '#contract/ledger';
import type { Ledger, LedgerQuery, LedgerShares } from '#contract/ledger';
import { jobProof, snapshotOf } from '#contract/jobProof';
import { jobChange } from '#contract/jobPromise';
import type { Job } from '#contract/records';
import { ledgerEntry, provenParts, refitShares } from '#core/ledger';
import { comparedOf } from '#core/promising';
import type { Proof } from '#core/proving';
import { ratiosOf } from '#core/timing-simulation';
import { simulateChange } from '../../simulating/simulateChange.ts';
import type { Database } from '../openStore.ts';
import { jobs, ledger } from '../schema/index.ts';
import { NotFoundError } from './errors.ts';
import { containing } from './library.ts';
import { readJob } from './readJobs.ts';

/** The latest lines shares are refitted from; what machines did long ago says little about today's. */
const REFITTED_FROM = 2000;
const LEFT_OUT_LISTED = 100;
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

/** Lines simulated at one start, the latest first. */
const SIMULATED_AT_ONCE = 100;

/**
 * Simulates the changes of lines that were entered without: jobs without a quote, and those closed
 * before anything was simulated.
 *
 * @param isStopped - asked before each line
 */
export async function simulateLedger(db: Database, isStopped = () => false): Promise<number> {
  const ratios = sql`${ledger.entry} -> 'ratios'`;
  const missing = await db
    .select({ jobId: ledger.jobId })
    .from(ledger)
    .where(sql`jsonb_typeof(${ratios}) = 'object' and not (${ratios} ? 'simulated')`)
    .orderBy(desc(ledger.closedAt))
    .limit(SIMULATED_AT_ONCE);
  let done = 0;
  for (const { jobId } of missing) {
    if (isStopped()) break;
    const job = await readJob(db, jobId);
    const fitted = snapshotOf(job, 'as-fitted');
    const change = fitted && jobChange(job, fitted);
    const compared = change && comparedOf(change);
    const found = compared ? ratiosOf(await simulateChange(compared)) : null;
    if (isStopped()) break;
    const path = sql.raw(`'{ratios,simulated}'`);
    await db
      .update(ledger)
      .set({ entry: sql`jsonb_set(${ledger.entry}, ${path}, ${JSON.stringify(found)}::jsonb)` })
      .where(eq(ledger.jobId, jobId));
    done++;
  }
  return done;
}

/** Leaves a job out of what predictions go by, or takes it in again. */
export async function leaveOut(db: Database, jobId: string, isLeftOut: boolean): Promise<void> {
  const [known] = await db
    .update(ledger)
    .set({ isLeftOut })
    .where(eq(ledger.jobId, jobId))
    .returning({ jobId: ledger.jobId });
  if (!known) throw new NotFoundError('This line of the ledger');
}

/** What stands in a line of the ledger, for those who look for its words. */
const WORDS = sql<string>`concat_ws(' ', ${jobs.number}, ${ledger.entry} ->> 'machineName',
  ${ledger.entry} ->> 'rate', ${ledger.entry} ->> 'setting',
  jsonb_path_query_array(${ledger.entry}, '$.modules[*].*'),
  jsonb_path_query_array(${ledger.entry}, '$.gains[*].test'))`;

/** A page of what closed jobs proved, the latest first. */
export async function readLedger(db: Database, asked: LedgerQuery): Promise<Ledger> {
  const words = asked.search.split(/\s+/).filter(Boolean);
  const where = and(
    asked.mode === '' ? undefined : sql`${ledger.entry} ->> 'mode' = ${asked.mode}`,
    asked.isTested ? sql`${ledger.entry} -> 'stable' <> 'null'` : undefined,
    ...words.map((word) => ilike(WORDS, containing(word))),
  );
  // The same customer with the same machine again: whatever stood, stood until then.
  const backAt = sql<string | null>`(
    select min(later.opened_at) from jobs later
    where later.customer_id = ${jobs.customerId} and later.machine_id = ${jobs.machineId}
      and later.opened_at > ${ledger.closedAt})`;
  const ofJob = eq(jobs.id, ledger.jobId);
  const rows = await db
    .select({ line: ledger, jobNumber: jobs.number, backAt })
    .from(ledger)
    .innerJoin(jobs, ofJob)
    .where(where)
    .orderBy(desc(ledger.closedAt), desc(jobs.number))
    .limit(asked.limit)
    .offset(asked.offset);
  const totals = db.select({ total: count() }).from(ledger);
  // Every line has its job: only words need it, for its number.
  const [counted] = await (words.length > 0
    ? totals.innerJoin(jobs, ofJob).where(where)
    : totals.where(where));
  return {
    total: counted?.total ?? 0,
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
  };
}

/** What was worked out last, and of which lines. */
let last: { readonly of: string; readonly shares: LedgerShares } | undefined;

/** What the ledger says about the shares predictions go by; worked out again only once it has changed. */
export async function readShares(db: Database): Promise<LedgerShares> {
  const [row] = await db
    .select({
      lines: count(),
      // Each closes at a moment of its own.
      // Whichever lines they are, which of them were left out, and which are simulated by now.
      sum: sql<string>`sum(hashtextextended(${ledger.jobId}, ${ledger.isLeftOut}::int + 2 * coalesce(${ledger.entry} -> 'ratios' ? 'simulated', false)::int))`,
      latest: sql<string>`max(${ledger.closedAt})`,
    })
    .from(ledger);
  const of = JSON.stringify(row);
  if (last?.of !== of) last = { of, shares: await workOutShares(db) };
  return last.shares;
}

async function workOutShares(db: Database): Promise<LedgerShares> {
  const linesOf = (isLeftOut: boolean, limit: number) =>
    db
      .select({ jobId: ledger.jobId, jobNumber: jobs.number, entry: ledger.entry })
      .from(ledger)
      .innerJoin(jobs, eq(jobs.id, ledger.jobId))
      .where(eq(ledger.isLeftOut, isLeftOut))
      .orderBy(desc(ledger.closedAt))
      .limit(limit);
  const counted = await linesOf(false, REFITTED_FROM);
  const leftOut = await linesOf(true, LEFT_OUT_LISTED);
  const shares = refitShares(counted.map(({ entry }) => entry));
  return {
    shares,
    odd: shares.flatMap(({ assumed, odd }) =>
      odd.flatMap(({ at, factor, expected }) => {
        const row = counted[at];
        if (!row) return [];
        const { jobId, jobNumber } = row;
        return [{ jobId, jobNumber, activity: assumed.id, factor, expected }];
      }),
    ),
    leftOut: leftOut.map(({ jobId, jobNumber }) => ({ jobId, jobNumber })),
  };
}
