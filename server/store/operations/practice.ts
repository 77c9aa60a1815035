import type { Signed } from '#contract/access';
import { and, desc, eq } from 'drizzle-orm';
import { readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import type { z } from 'zod';
import { exerciseFile, exerciseOf } from '#contract/practice';
import type {
  HeldExercise,
  ListedExercise,
  PracticeRun,
  PracticeRunInput,
  exerciseChange,
} from '#contract/practice';
import { exerciseFromJob, exerciseIdOf } from '#contract/practiceFromJob';
import { goalText } from '#core/explaining';
import { sameModule } from '#core/memory';
import { goalLines, playPar } from '#core/practice';
import type { Exercise } from '#core/practice';
import { packageRoot } from '../../packageRoot.ts';
import type { Database } from '../openStore.ts';
import { exercises, practiceRuns } from '../schema/index.ts';
import { readBench } from './bench.ts';
import { listModules } from './catalogue.ts';
import { ConflictError, NotFoundError, StateError } from './errors.ts';
import { newId } from './library.ts';
import { listQuotes } from './quotes.ts';
import { readJob } from './readJobs.ts';

/** Runs that are listed at most, the latest first. */
const MOST_RUNS = 2000;

let shipped: readonly Exercise[] | undefined;

/** Exercises that came with Tembrix; read once, and refused loudly where one is broken. */
function shippedExercises(): readonly Exercise[] {
  const folder = join(packageRoot(), 'exercises');
  shipped ??= readdirSync(folder)
    .filter((name) => name.endsWith('.json'))
    .map((name) => JSON.parse(readFileSync(join(folder, name), 'utf8')) as unknown)
    .map((file) => exerciseOf(exerciseFile.parse(file)));
  return shipped;
}

/** All exercises, the easiest first. */
export async function listExercises(db: Database): Promise<ListedExercise[]> {
  const own = await db.select().from(exercises);
  const listed = (source: ListedExercise['source'], exercise: Exercise): ListedExercise => ({
    ...{ id: exercise.id, title: exercise.title, level: exercise.level },
    ...{ teaches: [...exercise.teaches], says: exercise.customer.says, source },
  });
  return [
    ...shippedExercises().map((one) => listed('shipped', one)),
    ...own.map(({ source, exercise }) => listed(source, exercise)),
  ].sort((a, b) => a.level - b.level || (a.title < b.title ? -1 : 1));
}

/** One exercise with all that is in it. */
export async function readExercise(db: Database, id: string): Promise<HeldExercise> {
  const came = shippedExercises().find((one) => one.id === id);
  if (came) return { source: 'shipped', version: 0, exercise: came };
  const [row] = await db.select().from(exercises).where(eq(exercises.id, id));
  if (!row) throw new NotFoundError('This exercise');
  return { source: row.source, version: row.version, exercise: row.exercise };
}

/** Nobody is given what cannot be done: the house's own way goes through it first. */
function mustBeSolvable(exercise: Exercise): void {
  if (!exercise.goal)
    throw new StateError('The exercise has no goal.', 'Say what counts as solved.', 'goal');
  const { isSolved, world } = playPar(exercise);
  if (isSolved) return;
  const missed = goalLines(world).filter(({ holds }) => !holds);
  throw new StateError(
    `The goal cannot be reached: ${missed.map(goalText).join('; ')}.`,
    'Ask for less, or give the exercise what it takes: an offer, a module in the drawer, a larger budget.',
    'goal',
  );
}

/** Takes in an exercise of somebody else's. */
export async function importExercise(
  db: Database,
  file: z.output<typeof exerciseFile>,
): Promise<HeldExercise> {
  const exercise = exerciseOf(file);
  mustBeSolvable(exercise);
  return keep(db, 'file', exercise);
}

async function keep(
  db: Database,
  source: 'file' | 'job',
  exercise: Exercise,
): Promise<HeldExercise> {
  const { id } = exercise;
  const isShipped = shippedExercises().some((one) => one.id === id);
  const [row] = isShipped
    ? []
    : await db
        .insert(exercises)
        .values({ id, source, exercise })
        .onConflictDoNothing()
        .returning({ id: exercises.id });
  if (!row)
    throw new StateError(
      `There is an exercise “${id}” already.`,
      'Remove that one first, or give this one another id.',
      'id',
    );
  return readExercise(db, id);
}

/** Makes an exercise of a closed job. */
export async function makeFromJob(db: Database, jobId: string): Promise<HeldExercise> {
  const job = await readJob(db, jobId);
  if (!job.result)
    throw new StateError(
      'The job is still open: what was in it is not settled yet.',
      'Close the job first.',
    );
  const catalogue = await listModules(db, '');
  const exercise = exerciseFromJob(
    job,
    await readBench(db, jobId),
    await listQuotes(db, jobId),
    (module) => {
      const one = catalogue.find((record) => sameModule(record.module, module));
      return one?.price == null ? undefined : Math.round(one.price / (one.units ?? 1));
    },
  );
  if (!exercise)
    throw new StateError(
      'The job does not say what was found and what was fitted.',
      'Only a job whose modules are recorded makes an exercise.',
    );
  const { world } = playPar(exercise);
  // Some of what was reached there cannot be reached here, as with a part nobody sells: that is not asked.
  const missed = new Set(goalLines(world).flatMap(({ holds, what }) => (holds ? [] : [what])));
  const goal = Object.fromEntries(
    Object.entries(exercise.goal ?? {}).filter(([name]) => !missed.has(name as 'usable')),
  );
  const reachable = { ...exercise, goal };
  mustBeSolvable(reachable);
  return keep(db, 'job', { ...reachable, id: exerciseIdOf(job) });
}

/** Changes goal and words of one of the shop's own. */
export async function changeExercise(
  db: Database,
  id: string,
  { version, goal, ...words }: z.output<typeof exerciseChange>,
): Promise<HeldExercise> {
  const held = await readExercise(db, id);
  if (held.version === 0)
    throw new StateError(
      'This exercise came with Tembrix and stays as it is.',
      'Export it, change the file, and take that in under another id.',
    );
  const exercise: Exercise = { ...held.exercise, ...words, goal };
  mustBeSolvable(exercise);
  const rows = await db
    .update(exercises)
    .set({ exercise, version: version + 1 })
    .where(and(eq(exercises.id, id), eq(exercises.version, version)))
    .returning({ id: exercises.id });
  const now = await readExercise(db, id);
  if (rows.length === 0) throw new ConflictError('This exercise', now);
  return now;
}

/** Removes one of the shop's own; what was recorded of it stays. */
export async function removeExercise(db: Database, id: string): Promise<ListedExercise[]> {
  const { version } = await readExercise(db, id);
  if (version === 0)
    throw new StateError('This exercise came with Tembrix and stays.', 'Only your own can go.');
  await db.delete(exercises).where(eq(exercises.id, id));
  return listExercises(db);
}

const runOf = ({ at, ...row }: typeof practiceRuns.$inferSelect): PracticeRun => ({
  ...row,
  at: at.toISOString(),
});

/** Who practised what, the latest first; of one person where a name is given. */
export async function listPracticeRuns(db: Database, by: string): Promise<PracticeRun[]> {
  const rows = await db
    .select()
    .from(practiceRuns)
    .where(by === '' ? undefined : eq(practiceRuns.by, by))
    .orderBy(desc(practiceRuns.at), desc(practiceRuns.id))
    .limit(MOST_RUNS);
  return rows.map(runOf);
}

/** Records an exercise gone through to its end. */
export async function recordPracticeRun(
  db: Database,
  input: Signed<PracticeRunInput>,
): Promise<PracticeRun> {
  await readExercise(db, input.exerciseId);
  const [row] = await db
    .insert(practiceRuns)
    .values({ id: newId(), ...input })
    .returning();
  if (!row) throw new Error('expected a stored run');
  return runOf(row);
}
