import { readFileSync, readdirSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { exerciseFile, exerciseOf } from '#contract/practice';
import { act, beginWorld } from '#core/practice';
import type { Action, Exercise } from '#core/practice';

const folder = resolve(import.meta.dirname, '../../exercises');

/** The exercises that come with Tembrix, read as any other file would be. */
export const SHIPPED: readonly Exercise[] = readdirSync(folder)
  .filter((name) => name.endsWith('.json'))
  .sort()
  .map((name) =>
    exerciseOf(exerciseFile.parse(JSON.parse(readFileSync(join(folder, name), 'utf8')))),
  );

/** One of them by its id. */
export function shipped(id: string): Exercise {
  const found = SHIPPED.find((one) => one.id === id);
  if (!found) throw new Error(`expected an exercise ${id}`);
  return found;
}

/** An exercise from its start, act after act: the world at the end, and what each act came to. */
export const walk = (exercise: Exercise, actions: readonly Action[]) => {
  let world = beginWorld(exercise);
  const outcomes = actions.map((action) => {
    const outcome = act(world, action);
    ({ world } = outcome);
    return outcome;
  });
  return { world, outcomes };
};
/** What comes before a cover is off, done safely. */
export const OPEN: readonly Action[] = [
  { type: 'lead', to: 'out' },
  { type: 'hold power' },
  { type: 'strap', to: 'on' },
  { type: 'open', tool: 'plastic' },
];
/** Shut, switched on, and long enough for its memory to be trained. */
export const CLOSE: readonly Action[] = [
  { type: 'close' },
  { type: 'lead', to: 'in' },
  { type: 'switch', to: 'on' },
  { type: 'wait', minutes: 10 },
];
/** A piece seated the right way round and pressed home. */
export const seat = (pieceId: string, slotId: string, more = {}): Action => ({
  ...{ type: 'seat', pieceId, slotId, way: 'right', pressed: 'both', ...more },
});
