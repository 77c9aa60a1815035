import { useEffect, useMemo, useState } from 'react';
import type { Compared } from '#core/promising';
import { Simulator } from '../../workers/simulation.ts';

/** How far a simulation is. */
export type SimulationState =
  | { readonly type: 'running'; readonly share: number; readonly stop: () => void }
  | { readonly type: 'stopped'; readonly isFailed: boolean; readonly again: () => void }
  | { readonly type: 'over' };

/** Steps in which progress is told. */
const STEPS = 20;

type Stand =
  | { readonly type: 'running'; readonly share: number }
  | { readonly type: 'stopped'; readonly isFailed: boolean }
  | { readonly type: 'over' };

/**
 * Simulates changes in a worker, the first first; the last list asked for counts. What was found
 * stands in `simulatedBefore`; `found` counts, so that whoever shows it looks again.
 */
export function useSimulation(changes: readonly Compared[]) {
  const [simulator] = useState(() => new Simulator());
  const [stand, setStand] = useState<Stand>({ type: 'over' });
  const [found, setFound] = useState(0);
  const [tries, setTries] = useState(0);
  useEffect(() => () => simulator.close(), [simulator]);
  // By what is compared: a list made anew with the same content is no other.
  const key = useMemo(() => JSON.stringify(changes), [changes]);
  useEffect(() => {
    const asked = JSON.parse(key) as readonly Compared[];
    setStand(asked.length > 0 ? { type: 'running', share: 0 } : { type: 'over' });
    simulator.compare(asked, (news) => {
      if (news.type === 'found') setFound((count) => count + 1);
      else if (news.type === 'failed') setStand({ type: 'stopped', isFailed: true });
      else if (news.type === 'over') setStand(news);
      // A page that draws itself anew for every percent is busier than the worker.
      else setStand({ type: 'running', share: Math.floor(news.share * STEPS) / STEPS });
    });
    return () => simulator.cancel();
  }, [simulator, key, tries]);
  const state: SimulationState =
    stand.type === 'running'
      ? {
          ...stand,
          stop: () => {
            simulator.cancel();
            setStand({ type: 'stopped', isFailed: false });
          },
        }
      : stand.type === 'stopped'
        ? { ...stand, again: () => setTries((count) => count + 1) }
        : stand;
  return { state, found };
}
