import { useCallback, useMemo, useSyncExternalStore } from 'react';
import { act, beginWorld } from '#core/practice';
import type { Action, Exercise, Outcome, World } from '#core/practice';

/** One act of a walk with what came of it. */
export interface Step extends Outcome {
  readonly action: Action;
}

/** A walk through an exercise: the world now, and all that was done. */
export interface PracticeWalk {
  readonly world: World;
  readonly steps: readonly Step[];
  readonly actions: readonly Action[];
  readonly act: (action: Action) => void;
  readonly restart: () => void;
}

const PREFIX = 'tembrix.practice.';
const NOTHING: readonly Action[] = [];
/** Acts that were read last, so that the same text gives the same list. */
const read = new Map<string, { readonly text: string; readonly actions: readonly Action[] }>();

/** Acts kept in this browser; what cannot be read counts as none. */
function kept(id: string): readonly Action[] {
  const text = localStorage.getItem(PREFIX + id) ?? '[]';
  const before = read.get(id);
  if (before?.text === text) return before.actions;
  let actions = NOTHING;
  try {
    const value: unknown = JSON.parse(text);
    if (Array.isArray(value)) actions = value as Action[];
  } catch {
    // Nothing that was kept: it begins anew.
  }
  read.set(id, { text, actions });
  return actions;
}

const listeners = new Set<() => void>();

/** Tabs on one exercise are one bench: what is done in one stands in the other. */
function subscribe(listener: () => void): () => void {
  listeners.add(listener);
  window.addEventListener('storage', listener);
  return () => {
    listeners.delete(listener);
    window.removeEventListener('storage', listener);
  };
}

function keep(id: string, actions: readonly Action[]): void {
  localStorage.setItem(PREFIX + id, JSON.stringify(actions));
  for (const listener of listeners) listener();
}

/** Whether an exercise was begun in this browser and not handed over. */
export const isBegun = (id: string): boolean => {
  const actions = kept(id);
  return actions.length > 0 && !actions.some(({ type }) => type === 'hand over');
};

/** Acts that make no sense in this world, as from another version, are left out. */
function played(exercise: Exercise, actions: readonly Action[]): { world: World; steps: Step[] } {
  let world = beginWorld(exercise);
  const steps = actions.flatMap((action): Step[] => {
    try {
      const outcome = act(world, action);
      ({ world } = outcome);
      return [{ ...outcome, action }];
    } catch {
      return [];
    }
  });
  return { world, steps };
}

/** The walk of this browser through an exercise: kept act by act, taken up again after leaving. */
export function usePracticeWalk(exercise: Exercise): PracticeWalk {
  const { id } = exercise;
  const actions = useSyncExternalStore(subscribe, () => kept(id));
  const { world, steps } = useMemo(() => played(exercise, actions), [exercise, actions]);
  const doAct = useCallback((action: Action) => keep(id, [...kept(id), action]), [id]);
  const restart = useCallback(() => keep(id, NOTHING), [id]);
  return { world, steps, actions, act: doAct, restart };
}
