import type { Signed } from '#contract/access';
import { and, asc, eq, isNull, like } from 'drizzle-orm';
import type { BenchInput, BenchLog } from '#contract/bench';
import { jobBench, jobSituation } from '#contract/jobBench';
import type { JobBench } from '#contract/jobBench';
import { snapshotOf } from '#contract/jobProof';
import type { Job } from '#contract/records';
import { modelOf } from '#core/diagnosing';
import { SYMPTOM_WORDS, moduleText, pointText, slotNames } from '#core/explaining';
import { START, effectOf } from '#core/fitting';
import type { Note, SheetStep } from '#core/fitting';
import { writeLabel } from '#core/memory';
import type { MemoryModule } from '#core/memory';
import { samePlacement } from '#core/machine';
import { operatingPoint } from '#core/operating-point';
import type { Database } from '../openStore.ts';
import { benchLog, drawer, quotes, snapshots } from '../schema/index.ts';
import { addEvent, requireOpen } from './changeJobs.ts';
import { sellFitted } from './drawer.ts';
import { NotFoundError, StateError } from './errors.ts';
import { readJob } from './readJobs.ts';

/** A job's bench log, oldest first. Throws NotFoundError. */
export async function readBench(db: Database, jobId: string): Promise<BenchLog> {
  const rows = await db
    .select()
    .from(benchLog)
    .where(eq(benchLog.jobId, jobId))
    .orderBy(asc(benchLog.seq));
  const accepted = await db
    .select({ lines: quotes.lines })
    .from(quotes)
    .where(and(eq(quotes.jobId, jobId), eq(quotes.answer, 'accepted')));
  if (rows.length === 0) await readJob(db, jobId);
  // What the customer was given credit for is the shop's; everything else is theirs.
  const credited = accepted.some(({ lines }) => lines.some(({ kind }) => kind === 'credit'));
  return {
    entries: rows.map(({ id, by, at, note }) => ({ id, by, at: at.toISOString(), note })),
    pulledTo: credited ? 'drawer' : 'customer',
  } as BenchLog;
}

/**
 * Adds a note to a job's bench log and does what follows from it. A note sent twice stands once; a
 * step two people tick keeps the first one's name.
 */
export async function addBenchNote(
  db: Database,
  jobId: string,
  { id, by, note }: Signed<BenchInput>,
): Promise<BenchLog> {
  return db.transaction(async (tx) => {
    const job = await requireOpen(tx, jobId);
    const log = await readBench(tx, jobId);
    if (log.entries.some((entry) => entry.id === id)) return log;
    const bench = jobBench(job, log);
    const step = note.type === 'tick' ? stepOf(bench, note.stepId) : undefined;
    if (step?.tick) return log;
    if (step && job.swollenBattery)
      throw new StateError(
        'Work is stopped: the battery is swollen.',
        'Isolate it and hand it over under local rules. Intake says when work may go on.',
      );
    checkNote(job, bench, log, note);
    const full: Note = step && note.type === 'tick' ? { ...note, effect: effectOf(step) } : note;
    await tx.insert(benchLog).values({ id, jobId, by, note: full });
    const words = eventWords(job, note, step);
    if (words !== undefined) await addEvent(tx, jobId, 'bench', `${words} (${by})`);
    if (step?.id === 'put away') await putAway(tx, job, bench, id);
    // What sits in a machine that runs is sold, whether anything was pulled or not.
    if (step?.id === 'put away' || step?.id === START)
      await sellFitted(tx, job, bench.state.placement, id);
    if (note.type === 'undo') await takeBack(tx, note.of);
    await recordFitted(tx, job, note.type === 'sits');
    return readBench(tx, jobId);
  });
}

function stepOf({ sheet }: JobBench, stepId: string): SheetStep {
  const step = sheet.steps.find(({ id }) => id === stepId);
  if (step) return step;
  throw new StateError(
    'The sheet has changed since this step was shown.',
    'Look at the sheet again: the plan or what sits in the machine is another.',
    'note.stepId',
  );
}

/** Refuses notes about things that are not there. */
function checkNote(job: Job, bench: JobBench, log: BenchLog, note: BenchInput['note']): void {
  const { machine } = job.machine;
  if (note.type === 'undo' && !log.entries.some(({ id }) => id === note.of))
    throw new NotFoundError('The entry to take back');
  if (note.type === 'sits') {
    const stray = Object.keys(note.placement).find(
      (slotId) => !machine.slots.some(({ id }) => id === slotId),
    );
    if (stray !== undefined)
      throw new StateError(
        `The machine has no slot “${stray}”.`,
        'Move the module to one of its slots.',
        `note.placement.${stray}`,
      );
  }
  if (note.type !== 'seen') return;
  const { fault } = bench.state;
  if (!fault)
    throw new StateError('No fault is being looked for.', 'Say first how it shows.', 'note.type');
  const { checks } = modelOf(jobSituation(job, bench, fault.symptom));
  const check = checks.find(({ id }) => id === note.checkId);
  if (!check || !['unknown', ...check.outcomes].includes(note.outcome))
    throw new StateError(
      `This check or answer is not one for the fault: ${note.checkId}, ${note.outcome}.`,
      check
        ? `Answer with one of: ${check.outcomes.join(', ')}, unknown.`
        : 'Choose a check of the list.',
      'note.outcome',
    );
}

/** What the job's history keeps; single steps stand in the log alone. */
function eventWords(
  job: Job,
  note: BenchInput['note'],
  step: SheetStep | undefined,
): string | undefined {
  const nameOf = slotNames(job.machine.machine);
  if (step?.task.type === 'pull')
    return `Pulled ${moduleText(step.task.module)} from ${nameOf(step.task.slotId)}`;
  if (step?.task.type === 'seat')
    return `Seated ${moduleText(step.task.module)} in ${nameOf(step.task.slotId)}`;
  if (step?.id === START) return 'Started after the work';
  if (note.type === 'begin')
    return {
      fit: 'Opened to fit',
      reseat: 'Opened to reseat',
      'roll back': 'Opened to restore what was found',
    }[note.purpose];
  if (note.type === 'symptom') return `Fault: ${SYMPTOM_WORDS[note.symptom]}`;
  return note.type === 'sits' ? 'Corrected what sits where' : undefined;
}

/** Puts pulled modules into the drawer where they are the shop's. */
async function putAway(db: Database, job: Job, { sheet }: JobBench, entryId: string) {
  const kept = sheet.pulled.filter(({ to }) => to === 'drawer');
  if (kept.length === 0) return;
  const cost = await creditOf(db, job.id, kept);
  const origin = `pulled in job ${String(job.number).padStart(4, '0')}`;
  await db.insert(drawer).values(
    kept.map(({ module }, at) => ({
      id: `${entryId}.${at}`,
      cost: cost(module),
      ...{ label: writeLabel(module), module, state: 'untested' as const, price: 0, origin },
      pulledIn: job.id,
    })),
  );
}

/** What the customer was given for each module that stays is what it cost: by its share of the GB. */
async function creditOf(db: Database, jobId: string, kept: readonly { module: MemoryModule }[]) {
  const [accepted] = await db
    .select({ lines: quotes.lines })
    .from(quotes)
    .where(and(eq(quotes.jobId, jobId), eq(quotes.answer, 'accepted')));
  const given = (accepted?.lines ?? []).filter(({ kind }) => kind === 'credit');
  const credit = -given.reduce((sum, { each, quantity }) => sum + each * quantity, 0);
  const room = kept.reduce((sum, { module }) => sum + module.capacity, 0);
  return ({ capacity }: MemoryModule) => Math.round((credit * capacity) / room);
}

/**
 * Undoes what an entry did to the drawer: what it took is back and held again, and what it put there
 * is gone, unless it is promised to a job.
 */
async function takeBack(db: Database, entryId: string) {
  await db
    .update(drawer)
    .set({ gone: null, goneAt: null, goneJob: null, goneBy: null })
    .where(eq(drawer.goneBy, entryId));
  await db.delete(drawer).where(and(like(drawer.id, `${entryId}.%`), isNull(drawer.reservedFor)));
}

/** Once the machine was started, what sits in it is what was fitted. */
async function recordFitted(db: Database, before: Job, isCorrection: boolean) {
  const { state } = jobBench(before, await readBench(db, before.id));
  const saved = snapshotOf(before, 'as-fitted');
  if (state.round.startedAt === undefined && !(isCorrection && saved)) return;
  const { placement, setting } = state;
  const point = operatingPoint(before.machine.machine, placement, setting);
  if (saved && saved.setting === setting && samePlacement(saved.placement, placement)) return;
  const fields = { placement, setting, savedAt: new Date() };
  await db
    .insert(snapshots)
    .values({ jobId: before.id, kind: 'as-fitted', ...fields })
    .onConflictDoUpdate({
      target: [snapshots.jobId, snapshots.kind],
      set: { ...fields, version: (saved?.version ?? 0) + 1 },
    });
  await addEvent(db, before.id, 'as-fitted', `Fitted: ${pointText(point)}`);
}
