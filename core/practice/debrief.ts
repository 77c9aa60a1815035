import { chancesAfter, suggest } from '../diagnosing/index.ts';
import type { Model, Observation, Suggestion } from '../diagnosing/index.ts';
import { act } from './act.ts';
import type { Action } from './actions.ts';
import type { Exercise } from './exercise.ts';
import { goalLines, isSolved } from './goal.ts';
import type { GoalLine } from './goal.ts';
import { bandwidthOf, measuredOn } from './measuring.ts';
import type { Par } from './policy.ts';
import type { Seen } from './seen.ts';
import { Telling } from './telling.ts';
import { beginWorld, sitting } from './world.ts';
import type { Unsafe, World } from './world.ts';

/** One act of a walk, and what it was worth. */
export interface Turn {
  readonly action: Action;
  readonly seen: Seen;
  /** On the bench clock when it was done. */
  readonly at: number;
  readonly minutes: number;
  readonly spent: number;
  readonly unsafe: Unsafe | undefined;
  /** Bits of doubt it took away; absent where it told nothing of a fault. */
  readonly bits: number | undefined;
  /** Our own way did the like of it. */
  readonly isOnPar: boolean;
}

/** A walk gone through again. */
export interface Debrief {
  readonly turns: readonly Turn[];
  readonly world: World;
  readonly lines: readonly GoalLine[];
  readonly isSolved: boolean;
  /** Place of the first act our own way does not have. */
  readonly partedAt: number | undefined;
  /** What our own way did that this walk left out. */
  readonly leftOut: readonly Action[];
  /** The check that would have told most a minute at the very start. */
  readonly firstCheck: Suggestion | undefined;
}

/** Asking and reading stickers is never beside the way. */
const FREE: readonly Action['type'][] = ['ask', 'read sticker'];

/** Two acts are the like of one another whatever slot or module they are about. */
const nameOf = (action: Action): string => {
  const way = 'to' in action ? action.to : 'setting' in action ? action.setting : '';
  return `${action.type} ${way}`;
};

/** Bits by which an answer changed what was believed (relative entropy, base 2). */
export function bitsTold(model: Model, made: readonly Observation[], next: Observation): number {
  const before = chancesAfter(model, made);
  const after = chancesAfter(model, [...made, next]);
  return after.reduce((sum, one, at) => {
    const was = before[at] ?? 0;
    return one > 0 && was > 0 ? sum + one * Math.log2(one / was) : sum;
  }, 0);
}

/**
 * Goes through a walk again, from the acts alone: what each told and cost, and where it parted from our
 * own way.
 */
export function debriefOf(exercise: Exercise, actions: readonly Action[], par: Par): Debrief {
  const telling = Telling.of(exercise);
  const left = [...par.actions];
  const made: Observation[] = [];
  let world = beginWorld(exercise);
  const turns = actions.flatMap((action): Turn[] => {
    const outcome = act(world, action);
    if (outcome.seen.type === 'cannot') return [];
    const at = world.minutes;
    const before = world.spent;
    ({ world } = outcome);
    const place = left.findIndex((one) => nameOf(one) === nameOf(action));
    if (place >= 0) left.splice(place, 1);
    const told = telling && observed(telling, world, outcome.seen);
    // The same answer twice tells nothing new.
    const isNew = told && !made.some(({ checkId }) => checkId === told.checkId);
    const bits = telling && told && isNew ? bitsTold(telling.model, made, told) : undefined;
    if (told && isNew) made.push(told);
    const { seen, unsafe, minutes } = outcome;
    const spent = world.spent - before;
    return [
      {
        action,
        seen,
        at,
        minutes,
        spent,
        unsafe,
        bits,
        isOnPar: place >= 0 || FREE.includes(action.type),
      },
    ];
  });
  const parted = turns.findIndex(({ isOnPar }) => !isOnPar);
  return {
    ...{ turns, world, leftOut: left },
    lines: goalLines(world),
    isSolved: isSolved(world),
    partedAt: parted < 0 ? undefined : parted,
    firstCheck: telling && suggest(telling.model, telling.model.priors, [])[0],
  };
}

function observed(telling: Telling, world: World, seen: Seen): Observation | undefined {
  const result = seen.type === 'measured' ? measuredOn(world) : undefined;
  return telling.observe(seen, sitting(world), result && bandwidthOf(result));
}
