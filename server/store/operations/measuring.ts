import type { Signed } from '#contract/access';
import { and, desc, eq } from 'drizzle-orm';
import { currentResult, probeResult } from '#contract/measuring';
import type {
  CarriedInput,
  ProbePost,
  ProbeRecord,
  ResultWay,
  SimulateInput,
} from '#contract/measuring';
import { snapshotOf } from '#contract/jobProof';
import type { Job } from '#contract/records';
import { explainCarryFault, probeText } from '#core/explaining';
import { CARRIED_STEP, RUNS, measurementsOf, readCarryCode } from '#core/proving';
import { bareExercise, measuredOn, oneChannelFaults, runningWorld } from '#core/practice';
import type { Doubt, PowerMode, ProbeEssence, ProbeResult } from '#core/proving';
import { digestOf } from '../../digest.ts';
import type { Database } from '../openStore.ts';
import { jobs, measurements, probeResults } from '../schema/index.ts';
import { addEvent, printOf, requireOpen } from './changeJobs.ts';
import { StateError } from './errors.ts';
import { addEvidence } from './evidence.ts';
import { newId } from './library.ts';
import { readJob } from './readJobs.ts';
import { makeTicket, useTicket } from './tickets.ts';

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
    const { jobId, by, isRepeated } = await useTicket(tx, token, 'files', digestOf(content));
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
