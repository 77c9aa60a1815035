import type { Signed } from '#contract/access';
import { createHash } from 'node:crypto';
import { and, desc, eq, isNull } from 'drizzle-orm';
import { customAlphabet } from 'nanoid';
import { currentResult, probeResult } from '#contract/measuring';
import type {
  CarriedInput,
  MadeTicket,
  ProbePost,
  ProbeRecord,
  ResultWay,
  SimulateInput,
  Ticket,
  TicketInput,
} from '#contract/measuring';
import { snapshotOf } from '#contract/jobProof';
import type { Job } from '#contract/records';
import { explainCarryFault, probeText } from '#core/explaining';
import { CARRIED_STEP, RUNS, measurementsOf, readCarryCode } from '#core/proving';
import { bareExercise, measuredOn, oneChannelFaults, runningWorld } from '#core/practice';
import type { Doubt, PowerMode, ProbeEssence, ProbeResult } from '#core/proving';
import type { Database } from '../openStore.ts';
import { jobs, measurements, probeResults, tickets } from '../schema/index.ts';
import { addEvent, printOf, requireOpen } from './changeJobs.ts';
import { StateError, TokenError } from './errors.ts';
import { addEvidence } from './evidence.ts';
import { newId } from './library.ts';
import { readJob } from './readJobs.ts';

/** How long a link is good for. */
const TICKET_MINUTES = 60;

/**
 * Links are typed on machines without a camera: 12 small letters and digits that cannot be taken
 * for one another, 59 bits. With an hour to live and 30 tries a minute nobody guesses one.
 */
const newToken = customAlphabet('23456789abcdefghjkmnpqrstvwxyz', 12);

const digestOf = (text: string): string => createHash('sha256').update(text).digest('hex');

/** Makes a link to the measuring page. The token is told here once; its digest alone is kept. */
export async function makeTicket(
  db: Database,
  jobId: string,
  { brings, kind, power, by }: Signed<TicketInput>,
  doorUrl: string | null,
): Promise<MadeTicket> {
  return db.transaction(async (tx) => {
    // Refuses where nothing is on record that could be measured; files come before anything is.
    if (brings === 'result') await printOf(tx, jobId, kind);
    else await requireOpen(tx, jobId);
    const token = newToken().replaceAll(/(.{4})(?=.)/g, '$1-');
    const expiresAt = new Date(Date.now() + TICKET_MINUTES * 60_000);
    const [row] = await tx
      .insert(tickets)

      .values({
        id: newId(),
        jobId,
        brings,
        kind,
        power,
        by,
        digest: tokenDigest(token),
        expiresAt,
      })
      .returning();
    if (!row) throw new Error('expected the ticket just inserted');
    const what =
      brings === 'files'
        ? 'Link for a collected file made'
        : `Link to the measuring page made for ${kind}`;
    await addEvent(tx, jobId, 'measuring', `${what} (${by})`);
    return { ...ticketOf(row), token, link: doorUrl && `${doorUrl}/#${token}` };
  });
}

/** Hyphens and capitals are no matter: it may have been typed. */
const tokenDigest = (token: string): string =>
  digestOf(token.toLowerCase().replaceAll(/[^a-z0-9]/g, ''));

function ticketOf({ createdAt, expiresAt, resultId, ...row }: typeof tickets.$inferSelect): Ticket {
  const { id, brings, kind, power, by } = row;
  const state =
    resultId !== null ? 'used' : expiresAt.getTime() < Date.now() ? 'expired' : 'waiting';
  const times = { createdAt: createdAt.toISOString(), expiresAt: expiresAt.toISOString() };
  return { id, brings, kind, power, by, ...times, state };
}

/** Links of a job, the latest first. */
export async function listTickets(db: Database, jobId: string): Promise<Ticket[]> {
  const rows = await db
    .select()
    .from(tickets)
    .where(eq(tickets.jobId, jobId))
    .orderBy(desc(tickets.createdAt))
    .limit(20);
  return rows.map(ticketOf);
}

/** Makes a link useless before its time; a used one stays as it is. */
export async function withdrawTicket(db: Database, jobId: string, id: string): Promise<Ticket[]> {
  await db
    .update(tickets)
    .set({ expiresAt: new Date(0) })
    .where(and(eq(tickets.id, id), eq(tickets.jobId, jobId), isNull(tickets.resultId)));
  return listTickets(db, jobId);
}

/**
 * Takes a result for the job its token belongs to. A token is good for one result; the same result
 * sent again is taken for said, since its answer may have been lost on the way.
 *
 * @throws TokenError when the token is unknown, expired or used
 */
export async function acceptPost(
  db: Database,
  { token, result }: ProbePost,
  way: ResultWay = 'sent',
): Promise<{ jobId: string }> {
  return db.transaction(async (tx) => {
    const known = await useTicket(tx, token, 'result', result.id);
    const { jobId, kind, power, by } = known;
    if (known.isRepeated) return { jobId };
    await record(tx, jobId, { kind, power, by, way, id: result.id, result });
    return { jobId };
  });
}

/**
 * Takes a collected file for the job its token belongs to; its parts lie beside it from then on.
 *
 * @param content - the file, known to be one
 * @throws TokenError when the token is unknown, expired or used
 */
export async function acceptCollected(
  db: Database,
  token: string,
  content: Buffer,
): Promise<{ jobId: string }> {
  return db.transaction(async (tx) => {
    const digest = createHash('sha256').update(content).digest('hex');
    const { jobId, by, isRepeated } = await useTicket(tx, token, 'files', digest);
    if (!isRepeated)
      await addEvidence(tx, jobId, [
        {
          ...{ kind: 'file', name: 'collected.json', slotIds: [], by },
          base64: content.toString('base64'),
        },
      ]);
    return { jobId };
  });
}

/**
 * Uses a ticket for what was brought. It is good for one; the same sent again is taken for said, since
 * its answer may have been lost on the way.
 */
async function useTicket(db: Database, token: string, brings: Ticket['brings'], broughtId: string) {
  const own = and(eq(tickets.digest, tokenDigest(token)), eq(tickets.brings, brings));
  const [known] = await db.select().from(tickets).where(own);
  if (!known)
    throw new TokenError(404, 'This link is not known here.', 'Ask at the bench for a new one.');
  if (known.resultId === broughtId) return { ...known, isRepeated: true };
  if (known.resultId !== null)
    throw new TokenError(
      409,
      `This link has brought its ${brings === 'files' ? 'file' : 'result'} already.`,
      'Ask at the bench for a new one; each brings one.',
    );
  if (known.expiresAt.getTime() < Date.now())
    throw new TokenError(
      410,
      `This link is older than ${TICKET_MINUTES} minutes.`,
      'Ask at the bench for a new one, or carry what it was for there.',
    );
  // Two posts at once: only one finds the ticket unused.
  const taken = await db
    .update(tickets)
    .set({ resultId: broughtId })
    .where(and(own, isNull(tickets.resultId)))
    .returning({ id: tickets.id });
  if (taken.length === 0)
    throw new TokenError(409, 'This link has just been used.', 'Ask at the bench for a new one.');
  return { ...known, isRepeated: false };
}

/** Records a result brought by hand. */
export async function addCarried(
  db: Database,
  jobId: string,
  { code, file, ...input }: Signed<CarriedInput>,
): Promise<Job> {
  return db.transaction(async (tx) => {
    const brought = code === undefined ? fromFile(file) : fromCode(code);
    await record(tx, jobId, { ...input, ...brought });
    return readJob(tx, jobId);
  });
}

function fromCode(code: string): { id: string; way: ResultWay; result: ProbeEssence } {
  const read = readCarryCode(code);
  if (!read.ok) {
    const { title, why, mend = '' } = explainCarryFault(read.fault);
    throw new StateError(`${title}. ${why}`, mend, 'code');
  }
  return { id: digestOf(JSON.stringify(read.value)).slice(0, 32), way: 'code', result: read.value };
}

function fromFile(file: unknown): { id: string; way: ResultWay; result: ProbeResult } {
  const read = probeResult.safeParse(currentResult(file));
  if (!read.success) {
    const [issue] = read.error.issues;
    throw new StateError(
      `This is no result of the measuring page: ${issue?.path.join('.') ?? ''} ${issue?.message ?? ''}`,
      'Choose the file the measuring page saved, unchanged.',
      'file',
    );
  }
  return { id: read.data.id, way: 'file', result: read.data };
}

/** Lets a simulated machine send a result through the very door a real one would. */
export async function simulateResult(
  db: Database,
  jobId: string,
  { fault, ...input }: Signed<SimulateInput>,
): Promise<Job> {
  const job = await readJob(db, jobId);
  const { token } = await makeTicket(db, jobId, { ...input, brings: 'result' }, null);
  const snapshot = snapshotOf(job, input.kind);
  const { machine } = job.machine;
  const placement = snapshot?.placement ?? {};
  const visits = await db.$count(probeResults, eq(probeResults.jobId, jobId));
  const faults = fault === 'one channel' ? oneChannelFaults(machine, placement) : [];
  const setting = snapshot?.setting ?? 'standard';
  const result = measuredOn(
    runningWorld(bareExercise(job.id, machine, placement, setting, faults)),
    job.number * 1000 + visits,
    fault === 'still rising' ? fault : 'none',
  );
  if (!result)
    throw new StateError(
      'A machine that does not start cannot measure itself.',
      'Correct the modules, then simulate again.',
    );
  await acceptPost(db, { token, result: probeResult.parse(result) }, 'simulated');
  return readJob(db, jobId);
}

/** Results of a job, the latest first. */
export async function listResults(db: Database, jobId: string): Promise<ProbeRecord[]> {
  const rows = await db
    .select()
    .from(probeResults)
    .where(eq(probeResults.jobId, jobId))
    .orderBy(desc(probeResults.at));
  return rows.map(({ jobId: _jobId, at, ...rest }) => ({
    ...rest,
    at: at.toISOString(),
    // Read-only lists in the core, plain ones in the contract.
    result: currentResult(rest.result) as ProbeRecord['result'],
  }));
}

interface Brought {
  readonly id: string;
  readonly kind: 'as-found' | 'as-fitted';
  readonly power: PowerMode;
  readonly by: string;
  readonly way: ResultWay;
  readonly result: ProbeResult | ProbeEssence;
}

/** Keeps a result as it came, and its windows as runs of the page's tests. */
async function record(db: Database, jobId: string, brought: Brought): Promise<void> {
  const { id, kind, power, by, way, result } = brought;
  await requireOpen(db, jobId);
  const print = await printOf(db, jobId, kind);
  const kept = await db
    .insert(probeResults)
    .values({ jobId, id, kind, way, by, fingerprint: print, result })
    .onConflictDoNothing()
    .returning({ id: probeResults.id });
  if (kept.length === 0)
    throw new StateError(
      'This result is on the job already.',
      'Measure again to add another; the same one does not count twice.',
    );
  const step = way === 'code' ? CARRIED_STEP : undefined;
  for (const one of measurementsOf(result, power, step)) await addRuns(db, jobId, kind, print, one);
  await addEvent(
    db,
    jobId,
    'measured',
    `Measuring page, ${kind}, ${way}: ${probeText(result)} (${by})`,
  );
  await db.update(jobs).set({ changedAt: new Date() }).where(eq(jobs.id, jobId));
}

/** Windows of a further sitting beside the earlier ones; the oldest go where there are too many. */
function joined(
  known: typeof measurements.$inferSelect,
  runs: readonly number[],
  doubts: readonly Doubt[],
) {
  const before = known.sittings.length > 0 ? known.sittings : [known.runs.length];
  const sittings = [...before, runs.length];
  let over = known.runs.length + runs.length - RUNS.most;
  while (over > 0 && sittings[0] !== undefined) {
    const less = Math.min(over, sittings[0]);
    over -= less;
    if (sittings[0] === less) sittings.shift();
    else sittings[0] -= less;
  }
  return {
    sittings,
    doubts: [...new Set([...known.doubts, ...doubts])],
    step: known.step,
  };
}

type Windows = ReturnType<typeof measurementsOf>[number];

/** Adds to runs on the same modules under the same conditions; others take the place of the old. */
async function addRuns(
  db: Database,
  jobId: string,
  kind: 'as-found' | 'as-fitted',
  print: string,
  { runs, doubts = [], ...rest }: Windows,
): Promise<void> {
  const one = { ...rest, step: rest.step ?? null, doubts: [...doubts], sittings: [] };
  const { metric, test } = one;
  const own = and(
    eq(measurements.jobId, jobId),
    eq(measurements.kind, kind),
    eq(measurements.metric, metric),
    eq(measurements.test, test),
  );
  const [known] = await db.select().from(measurements).where(own);
  if (!known) {
    const fields = { id: newId(), jobId, kind, fingerprint: print, ...one, runs: [...runs] };
    await db.insert(measurements).values(fields);
    return;
  }
  const isSame =
    known.fingerprint === print &&
    (['power', 'resolution', 'tool', 'conditions'] as const).every(
      (field) => known[field] === one[field],
    );
  await db
    .update(measurements)
    .set({
      ...one,
      ...(isSame ? joined(known, runs, doubts) : {}),
      isLowerBound: one.isLowerBound === true && (!isSame || known.isLowerBound),
      runs: isSame ? [...known.runs, ...runs].slice(-RUNS.most) : [...runs],
      fingerprint: print,
      version: known.version + 1,
      takenAt: new Date(),
    })
    .where(own);
}
