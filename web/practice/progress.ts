import type { ListedExercise, PracticeRun } from '#contract/practice';
import type { RuleId } from '#core/practice';

/** Solved without an unsafe act, in no more than half again what our own way takes. */
export const isKnown = ({ solved, unsafe, minutes, parMinutes }: PracticeRun): boolean =>
  solved && unsafe === 0 && minutes <= parMinutes * 1.5 + 1;

/** Rules of the exercises somebody has shown to know. */
export function rulesKnown(
  exercises: readonly ListedExercise[],
  runs: readonly PracticeRun[],
): Set<RuleId> {
  const done = new Set(runs.filter(isKnown).map(({ exerciseId }) => exerciseId));
  return new Set(exercises.filter(({ id }) => done.has(id)).flatMap(({ teaches }) => teaches));
}

/** The easiest exercise with the most rules not shown to be known yet. */
export function nextExercise(
  exercises: readonly ListedExercise[],
  runs: readonly PracticeRun[],
): ListedExercise | undefined {
  const known = rulesKnown(exercises, runs);
  const news = ({ teaches }: ListedExercise) => teaches.filter((rule) => !known.has(rule)).length;
  return [...exercises]
    .filter((one) => news(one) > 0)
    .sort((a, b) => a.level - b.level || news(b) - news(a))[0];
}
