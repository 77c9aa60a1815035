import { seededRandom } from '../units/index.ts';
import { CAUSES } from './causes.ts';
import type { Cause } from './causes.ts';
import { SYMPTOMS } from './symptoms.ts';
import type { Symptom } from './symptoms.ts';
import { SURE, benchMinutes, chancesAfter, suggest } from './infer.ts';
import type { Observation } from './infer.ts';
import { causesOf, modelOf, weightOf } from './model.ts';
import type { Check, Model } from './model.ts';
import type { CheckKind } from './checks.ts';
import { filledSlots, traitsOf } from './situation.ts';
import type { Situation } from './situation.ts';

/** A machine in trouble, without the trouble. */
export type Bench = Omit<Situation, 'symptom'>;

/** A simulated fault, and how the search for it went. */
export interface SimulatedCase {
  readonly cause: Cause;
  readonly symptom: Symptom;
  readonly made: readonly Observation[];
  /** Place of the true cause among the suspects after the checks; 1 = first. */
  readonly rank: number;
  readonly minutes: number;
}

/** How to choose the next check; `undefined` stops. */
export type Chooser = (
  model: Model,
  chances: readonly number[],
  made: readonly Observation[],
) => Check | undefined;

/** The house's own way: most information per minute, safety first. */
export const bestNext: Chooser = (model, chances, made) => suggest(model, chances, made)[0]?.check;

const CHECKLIST: readonly CheckKind[] = [
  'reseat and clean',
  'only this module',
  'change places',
  'standard setting',
  'clear settings',
  'update firmware',
  'known good module',
];

/** The usual list, always in the same order: reseat first, then module by module, then the rest. */
export const reseatFirst: Chooser = (model, _chances, made) => {
  const done = new Set(made.map(({ checkId }) => checkId));
  const place = ({ kind }: Check) => {
    const at = CHECKLIST.indexOf(kind);
    return at < 0 ? CHECKLIST.length : at;
  };
  return model.checks.filter(({ id }) => !done.has(id)).sort((a, b) => place(a) - place(b))[0];
};

const draw = (row: readonly number[], random: () => number): number => {
  let left = random() * row.reduce((sum, one) => sum + one, 0);
  const at = row.findIndex((one) => (left -= one) < 0);
  return at < 0 ? row.length - 1 : at;
};

/** Causes a machine in this state can have. */
export function possibleCauses(bench: Bench): Cause[] {
  const traits = traitsOf({ ...bench, symptom: SYMPTOMS[0] });
  return causesOf(filledSlots(bench)).filter(({ kind }) => weightOf(kind, traits) > 0);
}

/**
 * Draws a symptom and answers for a cause from the model itself, and looks for it.
 *
 * @param most - checks at most; the search also stops when one cause stands out
 */
export function simulateCase(
  bench: Bench,
  cause: Cause,
  choose: Chooser,
  random: () => number,
  most: number,
): SimulatedCase {
  const symptom = SYMPTOMS[draw(CAUSES[cause.kind].shows, random)] ?? SYMPTOMS[0];
  const model = modelOf({ ...bench, symptom });
  const truth = model.causes.findIndex(({ id }) => id === cause.id);
  const made: Observation[] = [];
  let minutes = 0;
  let chances = chancesAfter(model, made);
  while (made.length < most && Math.max(...chances) < SURE) {
    const check = choose(model, chances, made);
    if (!check) break;
    const outcome = check.outcomes[draw(check.chances[truth] ?? [1], random)] ?? 'unknown';
    made.push({ checkId: check.id, outcome });
    minutes += benchMinutes(check);
    chances = chancesAfter(model, made);
    if (check.mends && outcome === check.outcomes[0]) break;
  }
  const own = chances[truth] ?? 0;
  const rank = 1 + chances.filter((chance) => chance > own).length;
  return { cause, symptom, made, rank, minutes };
}

/** The same case searched for in the house's way and by the fixed list. */
export interface SearchedCase {
  readonly own: SimulatedCase;
  readonly fixed: SimulatedCase;
}

/** The fixed list is gone through to its end. */
const ALL = 60;

/**
 * Seeded cases over machines and causes, each searched for in the house's way and by the fixed list.
 *
 * @param most - checks the house's way may make
 */
export function runCases(
  benches: readonly Bench[],
  cases: number,
  drawCause: (bench: Bench, at: number, random: () => number) => Cause,
  most: number,
  seed: number,
): SearchedCase[] {
  const random = seededRandom(seed);
  return Array.from({ length: cases }, (_, at) => {
    const bench = benches[at % benches.length];
    if (!bench) throw new Error('expected machines');
    const cause = drawCause(bench, at, random);
    const own = Math.floor(random() * 2 ** 31);
    const search = (choose: typeof bestNext) =>
      simulateCase(bench, cause, choose, seededRandom(own), choose === bestNext ? most : ALL);
    return { own: search(bestNext), fixed: search(reseatFirst) };
  });
}

/** A cause as often as the model holds it to happen. */
export const byWeight = (bench: Bench, _at: number, random: () => number): Cause => {
  const causes = possibleCauses(bench);
  const traits = traitsOf({ ...bench, symptom: 'does not start' });
  const weights = causes.map(({ kind }) => weightOf(kind, traits));
  let left = random() * weights.reduce((sum, one) => sum + one, 0);
  const cause = causes.find((_, at) => (left -= weights[at] ?? 0) < 0) ?? causes[0];
  if (!cause) throw new Error('expected a cause');
  return cause;
};

/** Every cause of a machine in turn. */
export const eachInTurn = (bench: Bench, at: number): Cause => {
  const causes = possibleCauses(bench);
  const cause = causes[at % causes.length];
  if (!cause) throw new Error('expected a cause');
  return cause;
};

/** Share of cases whose true cause came out first or second. */
export const shareFound = (all: readonly SearchedCase[]): number =>
  all.filter(({ own }) => own.rank <= 2).length / all.length;
const mean = (values: readonly number[]) =>
  values.reduce((sum, one) => sum + one, 0) / values.length;
/** Mean minutes of the house's way over those of the fixed list. */
export const minutesRatio = (all: readonly SearchedCase[]): number =>
  mean(all.map(({ own }) => own.minutes)) / mean(all.map(({ fixed }) => fixed.minutes));
