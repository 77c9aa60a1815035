import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { EXERCISE_VERSION, exerciseFile, exerciseOf, fileOf } from '#contract/practice';
import type { HeldExercise, ListedExercise, PracticeRun } from '#contract/practice';
import { exerciseFromJob } from '#contract/practiceFromJob';
import type { Job } from '#contract/records';
import type { Quote } from '#contract/quotes';
import type { BenchLog } from '#contract/bench';
import { playPar } from '#core/practice';
import type { Exercise } from '#core/practice';
import { Api, module } from './support/api.ts';
import { labelled } from './support/builders.ts';
import { SHIPPED, shipped } from './support/exercises.ts';

let api: Api;
beforeAll(async () => {
  api = await Api.start();
});
afterAll(() => api.server.stop());

const own = (id: string, more: Partial<Exercise> = {}): Exercise => ({
  ...shipped('gangway-laptop'),
  id,
  ...more,
});
const bring = (exercise: Exercise) =>
  api.ok<HeldExercise>('POST', '/practice/exercises', fileOf(exercise));
const refuse = (file: unknown) => api.problem('POST', '/practice/exercises', file);

test('an exercise written and read again is the same', () => {
  for (const exercise of SHIPPED) {
    const text = JSON.stringify(fileOf(exercise));
    expect(exerciseOf(exerciseFile.parse(JSON.parse(text)))).toEqual(exercise);
  }
});

describe('the list', () => {
  test('has what came with Tembrix, the easiest first, and tells nothing of what is hidden', async () => {
    const all = await api.ok<ListedExercise[]>('GET', '/practice/exercises');
    expect(all.map(({ id }) => id)).toEqual(expect.arrayContaining(SHIPPED.map(({ id }) => id)));
    const levels = all.map(({ level }) => level);
    expect(levels).toEqual([...levels].sort());
    expect(JSON.stringify(all)).not.toContain('faults');
  });

  test('one is read whole; what is not there is not found', async () => {
    const held = await api.ok<HeldExercise>('GET', '/practice/exercises/ticket-window');
    expect(held).toEqual({ source: 'shipped', version: 0, exercise: shipped('ticket-window') });
    expect((await api.send('GET', '/practice/exercises/nowhere')).status).toBe(404);
  });
});

describe('somebody else’s file', () => {
  test('is taken in, changed, and removed; what came with Tembrix stays as it is', async () => {
    const held = await bring(own('borrowed'));
    expect(held).toMatchObject({ source: 'file', version: 1, exercise: { id: 'borrowed' } });
    const { title, level, teaches, customer, goal } = held.exercise;
    const change = { title, level, teaches, customer, goal: { ...goal, budget: 2700 }, version: 1 };
    const path = '/practice/exercises/borrowed';
    const changed = await api.ok<HeldExercise>('PUT', path, { ...change, title: 'Twice as much' });
    expect(changed).toMatchObject({ version: 2, exercise: { title: 'Twice as much' } });
    // The version it started from is gone.
    expect((await api.send('PUT', path, change)).status).toBe(409);
    const left = await api.ok<ListedExercise[]>('DELETE', path);
    expect(left.some(({ id }) => id === 'borrowed')).toBe(false);
    for (const method of ['PUT', 'DELETE']) {
      const body = method === 'PUT' ? change : undefined;
      const problem = await api.problem(method, '/practice/exercises/deck-plan', body);
      expect(problem.title + problem.detail).toMatch(/came with Tembrix/);
    }
  });

  test('under an id that is taken is refused', async () => {
    const problem = await refuse(fileOf(own('deck-plan')));
    expect(JSON.stringify(problem)).toMatch(/There is an exercise “deck-plan” already/);
  });

  test('that names a slot or a module there is not is refused, and told which there are', async () => {
    const file = fileOf(own('odd'));
    const [piece] = file.pieces;
    const cases: [object, RegExp][] = [
      [{ pieces: [{ ...piece, at: 'c7' }] }, /no slot “c7”. It has a1, b1/],
      [{ faults: [{ kind: 'dead slot', slotId: 'z' }] }, /no slot “z”/],
      [{ faults: [{ kind: 'dirty contacts', pieceId: 'm9' }] }, /no module “m9”. There are m1, m2/],
      [{ record: { placement: { a1: 'm7' }, setting: 'standard' } }, /no module “m7”/],
      [{ pieces: [piece, { ...piece, id: 'twin' }] }, /Slot “a1” holds two modules/],
      [{ pieces: [piece, { ...piece, at: 'drawer' }] }, /Two modules have the same id/],
    ];
    for (const [more, said] of cases)
      expect(JSON.stringify(await refuse({ ...file, ...more }))).toMatch(said);
  });

  test('of a newer version, or of another kind, says so', async () => {
    const file = fileOf(own('newer'));
    const newer = await refuse({ ...file, version: EXERCISE_VERSION + 1 });
    expect(JSON.stringify(newer)).toMatch(/another version of the format.*Update Tembrix/);
    expect(JSON.stringify(await refuse({ ...file, format: 'something else' }))).toMatch(
      /no exercise file/,
    );
    expect((await api.send('POST', '/practice/exercises', '{"format":')).status).toBe(400);
  });

  test('whose goal cannot be reached is refused with what is out of reach and how far one gets', async () => {
    const problem = await refuse(fileOf(own('too-much', { goal: { usable: 64, budget: 3000 } })));
    expect(JSON.stringify(problem)).toMatch(
      /goal cannot be reached: 64 GB to use \(it has \d+ GB\)/,
    );
    const unsafe = await refuse(fileOf(own('no-goal', { goal: undefined })));
    expect(JSON.stringify(unsafe)).toMatch(/has no goal/);
  });

  test('of ten megabytes of noise is refused, and the bench goes on', async () => {
    const noise = JSON.stringify({ format: 'x'.repeat(10 * 2 ** 20) });
    expect((await api.send('POST', '/practice/exercises', noise)).status).toBe(413);
    expect((await api.send('GET', '/health')).status).toBe(200);
  });
});

describe('who practised', () => {
  const run = {
    ...{ exerciseId: 'deck-plan', solved: true, minutes: 31, parMinutes: 25 },
    ...{ spent: 0, acts: 17, unsafe: 0 },
  };

  test('is kept by whose session it was, the latest first; the owner alone sees others’', async () => {
    const bram = await api.person('technician', 'Bram Oddmund');
    await api.ok<PracticeRun>('POST', '/practice/runs', run);
    await api.ok<PracticeRun>('POST', '/practice/runs', { ...run, minutes: 26 });
    await bram.ok<PracticeRun>('POST', '/practice/runs', { ...run, minutes: 40 });
    const seen = async (visitor: Api, query = '') =>
      (await visitor.ok<PracticeRun[]>('GET', `/practice/runs${query}`)).map(
        ({ minutes }) => minutes,
      );
    expect(await seen(api)).toEqual([26, 31]);
    expect(await seen(bram)).toEqual([40]);
    expect(await seen(bram, '?by=Ottoline%20V.')).toEqual([40]);
    expect(await seen(api, '?by=Bram%20Oddmund')).toEqual([40]);
    expect((await api.send('POST', '/practice/runs', { ...run, exerciseId: 'gone' })).status).toBe(
      404,
    );
  });
});

describe('a closed job as an exercise', () => {
  const eight = labelled('8GB 1Rx8 PC4-2400T-UA1-11');
  const closed = async (): Promise<Job> => {
    const job = await api.jobWithFound();
    const path = `/jobs/${job.id}`;
    await api.ok('PUT', `${path}/snapshots/as-fitted`, {
      ...{ placement: { a1: module, b1: eight }, setting: 'standard', version: 0 },
    });
    const { version } = await api.ok('GET', path);
    return api.ok('POST', `${path}/close`, { version });
  };

  test('has its machine, what was bought and what was reached, and nothing of its customer', async () => {
    const job = await closed();
    const path = `/practice/exercises/from-job/${job.id}`;
    const held = await api.ok<HeldExercise>('POST', path, {});
    const { exercise } = held;
    expect(held).toMatchObject({ source: 'job', version: 1 });
    expect(exercise).toMatchObject({
      id: `job-${job.number}`,
      // No quote was accepted, and the catalogue does not have it: 8 GB at the usual price.
      goal: { usable: 16, paired: 'all', budget: 2400 },
      pieces: [{ at: 'a1' }],
      offers: [{ units: 1, price: 2400 }],
    });
    expect(playPar(exercise).isSolved).toBe(true);
    const text = JSON.stringify(exercise);
    for (const own of [job.customer.name, job.complaint, job.machine.machine.name])
      expect(text).not.toContain(own);
    // Twice is one too many.
    expect(JSON.stringify(await api.problem('POST', path, {}))).toMatch(/already/);
  });

  test('costs what the catalogue asks, a module of a pack its share', async () => {
    const body = { label: 'pair', module: eight, price: 9000, units: 2 };
    await api.ok('POST', '/modules', body);
    const job = await closed();
    const held = await api.ok<HeldExercise>('POST', `/practice/exercises/from-job/${job.id}`, {});
    expect(held.exercise).toMatchObject({ goal: { budget: 4500 }, offers: [{ price: 4500 }] });
  });

  test('an open job is refused: nothing in it is settled', async () => {
    const { id } = await api.jobWithFound();
    const problem = await api.problem('POST', `/practice/exercises/from-job/${id}`, {});
    expect(JSON.stringify(problem)).toMatch(/still open.*Close the job first/);
  });

  test('with something that was wrong starts from it, and asks for its cause', async () => {
    const job = await closed();
    const by = 'Bram';
    const note = (id: string, one: object) => ({ id, by, at: '2026-11-01T10:00:00Z', note: one });
    const log = {
      ...{ pulledTo: 'drawer', version: 1 },
      entries: [
        note('1', { type: 'symptom', symptom: 'less memory than fitted', handsIn: true }),
        note('2', { type: 'seen', checkId: 'look it over', outcome: 'b1' }),
        note('3', { type: 'seen', checkId: 'reseat and clean', outcome: 'gone' }),
      ],
    } as unknown as BenchLog;
    const quotes: Quote[] = [];
    const exercise = exerciseFromJob(job, log, quotes);
    expect(exercise).toMatchObject({
      ...{ symptom: 'less memory than fitted', moved: true, teaches: ['seating'] },
      faults: [{ kind: 'not seated', slotId: 'b1' }],
      goal: { finding: 'not seated', budget: 0 },
    });
    expect(exercise && playPar(exercise).isSolved).toBe(true);
  });
});
