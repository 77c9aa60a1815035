import { describe, expect, test } from 'vitest';
import { aJob } from '../test/support/aJob.ts';
import { desktop, labelled } from '../test/support/builders.ts';
import { playPar } from '#core/practice';
import type { Exercise } from '#core/practice';
import type { Placement, Setting } from '#core/machine';
import { exercise as exerciseSchema } from './practice.ts';
import { exerciseFromJob } from './practiceFromJob.ts';
import type { BenchLog } from './bench.ts';
import type { Job } from './records.ts';

const AT = '2026-05-04T12:00:00.000Z';
const eight = labelled('8GB 1Rx8 PC4-2400T-UA1-11');
const sixteen = labelled('16GB 2Rx8 PC4-2400T-UB1-11');
const kit = labelled('16GB 2Rx8 PC4-2133P-UB1-11', {
  profile: { rate: 3200 as never, timings: { cl: 16 }, voltageMv: 1350 },
});

const snapshot = (
  kind: 'as-found' | 'as-fitted',
  placement: Placement,
  setting: Setting = 'standard',
) => ({ kind, version: 1, placement, setting, savedAt: AT }) as Job['snapshots'][number];

function jobWith(found: Placement, fitted: Placement, setting: Setting = 'standard'): Job {
  const snapshots = [snapshot('as-found', found), snapshot('as-fitted', fitted, setting)];
  return aJob(
    { snapshots, complaint: 'Slow since Olaf had it' },
    desktop({ name: 'Loft desktop' }),
  );
}

const QUIET = { entries: [], pulledTo: 'drawer' } as unknown as BenchLog;

function trouble(symptom: string, ...seen: readonly (readonly [string, string])[]): BenchLog {
  const notes = [
    { type: 'symptom', symptom, handsIn: true },
    ...seen.map(([checkId, outcome]) => ({ type: 'seen', checkId, outcome })),
  ];
  const entries = notes.map((note, at) => ({ id: `n${at}`, by: 'Olaf', at: AT, note }));
  return { entries, pulledTo: 'drawer' } as unknown as BenchLog;
}

const made = (...of: Parameters<typeof exerciseFromJob>): Exercise => {
  const exercise = exerciseFromJob(...of);
  if (!exercise) throw new Error('expected an exercise');
  return exercise;
};

describe('an upgrade', () => {
  test('starts from what was found, sells what was added, and asks for what was reached', () => {
    const exercise = made(jobWith({ a1: eight }, { a1: eight, b1: eight }), QUIET, []);
    expect(exercise).toMatchObject({
      ...{ pieces: [{ at: 'a1', module: eight }], faults: [], moved: false },
      offers: [{ module: eight, units: 1 }],
      goal: { usable: 16, paired: 'all' },
    });
    expect(playPar(exercise).isSolved).toBe(true);
  });

  test('two of a kind are sold together; what was kept is not sold', () => {
    const exercise = made(jobWith({ a1: eight }, { a1: sixteen, b1: sixteen }), QUIET, []);
    expect(exercise.offers).toMatchObject([{ units: 2, module: sixteen }]);
    const moved = made(jobWith({ a1: eight, a2: eight }, { a1: eight, b1: eight }), QUIET, []);
    expect(moved).toMatchObject({ offers: [], goal: { budget: 0, paired: 'all' } });
  });

  test('a profile that was switched on is asked for by its rate', () => {
    const both = { a1: kit, b1: kit };
    const exercise = made(jobWith(both, both, 'profile'), QUIET, []);
    expect(exercise.goal).toMatchObject({ rate: 3200 });
    expect(playPar(exercise).isSolved).toBe(true);
  });

  test('an uneven set is not asked to be paired', () => {
    const { goal } = made(jobWith({ a1: eight }, { a1: eight, b1: sixteen }), QUIET, []);
    expect(goal).not.toHaveProperty('paired');
  });

  test('parts cost what the accepted quote charged for them, shared out, and not what another did', () => {
    const quote = (what: string, each: number) => ({
      ...{ answer: { what, by: 'Olaf', at: AT, note: '' } },
      lines: [
        { kind: 'part', text: 'a module', quantity: 2, each },
        { kind: 'labour', text: 'fitting', quantity: 1, each: 4000 },
      ],
    });
    const quotes = [quote('declined', 9900), quote('accepted', 2500)] as never;
    const job = jobWith({}, { a1: eight, b1: eight });
    expect(made(job, QUIET, quotes)).toMatchObject({
      offers: [{ price: 5000 }],
      goal: { budget: 5000 },
    });
    expect(made(job, QUIET, [], () => 1700)).toMatchObject({ offers: [{ price: 3400 }] });
  });
});

describe('something that was wrong', () => {
  const both = { a1: eight, b1: eight };
  const job = jobWith({ a1: eight }, both);

  test.each<[string, BenchLog, object]>([
    [
      'a module that was not seated',
      trouble('less memory than fitted', ['look it over', 'b1'], ['reseat and clean', 'gone']),
      { faults: [{ kind: 'not seated', slotId: 'b1' }], teaches: ['seating'] },
    ],
    [
      'a lead left off',
      trouble('does not start', ['look it over', 'a lead is off']),
      { faults: [{ kind: 'lead left off' }], teaches: ['leads'] },
    ],
    [
      'a drive',
      trouble(
        'crashes at times',
        ['log and warmth', 'drive or program'],
        ['other supply or drive', 'gone'],
      ),
      { faults: [{ kind: 'not the memory' }], teaches: ['not the memory'] },
    ],
  ])('%s: hidden as it was found, nothing sold, its cause asked for', (_title, log, wanted) => {
    const exercise = made(job, log, []);
    expect(exercise).toMatchObject({ ...wanted, offers: [], moved: true, goal: { budget: 0 } });
    expect(exercise.goal?.finding).toBe(exercise.faults[0]?.kind);
    expect(exercise.pieces.map(({ at }) => at)).toEqual(['a1', 'b1']);
  });

  test('that was never found out makes an upgrade of it', () => {
    const exercise = made(job, trouble('does not start'), []);
    expect(exercise).toMatchObject({ faults: [], offers: [{ units: 1 }] });
    expect(exercise).not.toHaveProperty('symptom');
  });
});

test('nothing of the customer goes along, and the file is one any bench takes', () => {
  const job = jobWith({ a1: eight }, { a1: eight, b1: eight });
  const exercise = made(job, QUIET, []);
  const text = JSON.stringify(exercise);
  for (const word of ['Olaf', 'Loft', job.customer.name, job.id]) expect(text).not.toContain(word);
  expect(exerciseSchema.parse(JSON.parse(text))).toEqual(JSON.parse(text));
});

test('a job that says nothing of its modules makes none', () => {
  expect(exerciseFromJob(aJob({ snapshots: [] }), QUIET, [])).toBeUndefined();
  const blocked = jobWith({ a1: eight }, {});
  expect(exerciseFromJob(blocked, QUIET, [])).toBeUndefined();
});
