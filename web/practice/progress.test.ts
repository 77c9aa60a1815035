import { expect, test } from 'vitest';
import type { ListedExercise, PracticeRun } from '#contract/practice';
import type { RuleId } from '#core/practice';
import { isKnown, nextExercise, rulesKnown } from './progress.ts';

const exercise = (id: string, level: number, ...teaches: RuleId[]): ListedExercise => ({
  ...{ id, level, teaches, title: id, says: '', source: 'shipped' },
});
const run = (exerciseId: string, more: Partial<PracticeRun> = {}): PracticeRun => ({
  ...{ id: 'r', exerciseId, by: 'Ottoline', at: '2026-11-01T10:00:00Z', solved: true },
  ...{ minutes: 20, parMinutes: 20, spent: 0, acts: 9, unsafe: 0, ...more },
});
const ALL = [
  exercise('one', 1, 'seating'),
  exercise('two', 1, 'training', 'seating'),
  exercise('three', 2, 'tail'),
];

test('a rule counts as known by a walk that was solved, safe, and not half again as slow', () => {
  expect(isKnown(run('one'))).toBe(true);
  expect(isKnown(run('one', { minutes: 31 }))).toBe(true);
  expect(isKnown(run('one', { minutes: 32 }))).toBe(false);
  expect(isKnown(run('one', { unsafe: 1 }))).toBe(false);
  expect(isKnown(run('one', { solved: false }))).toBe(false);
  expect(rulesKnown(ALL, [run('two'), run('three', { unsafe: 1 })])).toEqual(
    new Set(['training', 'seating']),
  );
});

test('next is the easiest with most that is new; nothing once all is known', () => {
  expect(nextExercise(ALL, [])?.id).toBe('two');
  expect(nextExercise(ALL, [run('one')])?.id).toBe('two');
  expect(nextExercise(ALL, [run('two')])?.id).toBe('three');
  expect(nextExercise(ALL, [run('two'), run('three')])).toBeUndefined();
});
