import { describe, expect, test } from 'vitest';
import { SHIPPED, shipped } from '../test/support/exercises.ts';
import { exercise, exerciseFile, fileOf, practiceRunInput } from './practice.ts';

type Json = Record<string, unknown>;

const file = (more: Json = {}): Json => ({
  ...(fileOf(shipped('ticket-window')) as object),
  ...more,
});
const faultsOf = (value: unknown): [string, string][] => {
  const { error } = exerciseFile.safeParse(value);
  return (error?.issues ?? []).map(({ path, message }) => [path.join('.'), message]);
};
const MAY_BE_ABSENT = ['cover', 'record', 'symptom', 'goal'];

describe('an exercise file', () => {
  test('without one of its fields is refused at that field; some may be absent', () => {
    for (const key of Object.keys(file())) {
      const { [key]: _gone, ...rest } = file();
      const paths = faultsOf(rest).map(([path]) => path.split('.')[0]);
      if (MAY_BE_ABSENT.includes(key)) expect([key, paths]).toEqual([key, []]);
      else expect([key, paths]).toEqual([key, expect.arrayContaining([key])]);
    }
  });

  test('with a field nobody knows is refused: it was meant for something', () => {
    expect(faultsOf(file({ hint: 'look at B2' }))).not.toEqual([]);
    const { customer } = shipped('ticket-window');
    expect(faultsOf(file({ customer: { ...customer, phone: '12' } }))).not.toEqual([]);
  });

  test.each<[string, Json, RegExp]>([
    ['an id with spaces', { id: 'Deck Plan' }, /small letters, figures and dashes/],
    ['an id too long', { id: 'x'.repeat(80) }, /small letters/],
    ['no title', { title: ' ' }, /Enter a title/],
    ['a fifth level', { level: 5 }, /./],
    ['nothing to teach', { teaches: [] }, /which rule it teaches/],
    ['a rule there is not', { teaches: ['luck'] }, /./],
    [
      'seventeen modules',
      { pieces: Array(17).fill(shipped('ticket-window').pieces[0]) },
      /Sixteen/,
    ],
    ['a fault there is not', { faults: [{ kind: 'gremlins' }] }, /./],
    ['a slot in a fault', { faults: [{ kind: 'not seated', slotId: 'b9' }] }, /no slot “b9”/],
    ['a goal in words', { goal: { usable: 'plenty' } }, /./],
    ['a budget below nothing', { goal: { budget: -1 } }, /0 or more/],
    ['a cause there is not', { goal: { finding: 'bad luck' } }, /./],
  ])('%s', (_what, more, said) => {
    const messages = faultsOf(file(more)).map(([, message]) => message);
    expect(messages.join(' ')).toMatch(said);
  });

  test('two faults at once are both named', () => {
    const paths = faultsOf(file({ title: '', level: 9 })).map(([path]) => path);
    expect(paths).toEqual(expect.arrayContaining(['title', 'level']));
  });

  test('all that came with Tembrix fit, each under a name of its own', () => {
    for (const one of SHIPPED) expect(exercise.safeParse(one).success).toBe(true);
    expect(new Set(SHIPPED.map(({ id }) => id)).size).toBe(SHIPPED.length);
    expect(new Set(SHIPPED.map(({ title }) => title)).size).toBe(SHIPPED.length);
  });

  test('names nobody: no customer, no maker', () => {
    for (const one of SHIPPED)
      for (const { module } of [...one.pieces, ...one.offers]) expect(module.maker).toBeUndefined();
  });
});

test('a walk is recorded with sensible figures only', () => {
  const run = {
    ...{ exerciseId: 'deck-plan', solved: true, minutes: 30.5, parMinutes: 25 },
    ...{ spent: 0, acts: 12, unsafe: 0 },
  };
  expect(practiceRunInput.safeParse(run).success).toBe(true);
  for (const more of [
    { minutes: -1 },
    { acts: 1.5 },
    { unsafe: -1 },
    { spent: 0.5 },
    { by: 'Bram' },
  ])
    expect([more, practiceRunInput.safeParse({ ...run, ...more }).success]).toEqual([more, false]);
});
