import { useEffect, useMemo, useState } from 'react';
import type { Running } from '#core/operating-point';
import { operatingPoint } from '#core/operating-point';
import type { Plan, PlanQuery } from '#core/planning';
import { systemOf } from '#core/timing-simulation';
import type { Ratios } from '#core/timing-simulation';
import { Simulator } from '../../workers/simulation.ts';
import type { Compared } from '../../workers/simulation.ts';

/** How far the simulation of a plan is. */
export type Simulated =
  /** Nobody here knows how this memory is timed, or its times cannot be. */
  | { readonly type: 'none' }
  | { readonly type: 'running'; readonly share: number; readonly stop: () => void }
  | { readonly type: 'stopped'; readonly again: () => void }
  | {
      readonly type: 'done';
      readonly ratios: Ratios;
      readonly before: Running;
      readonly after: Running;
    };

const LINES_PER_GIB = 2 ** 24;

function pairOf({ machine, fitted, need }: PlanQuery, plan: Plan) {
  const before = operatingPoint(machine, fitted, 'standard');
  const after = operatingPoint(machine, plan.placement, plan.setting);
  if (before.type !== 'runs' || after.type !== 'runs') return undefined;
  const was = systemOf(machine, fitted, before);
  const will = systemOf(machine, plan.placement, after);
  if (was.type !== 'system' || will.type !== 'system') return undefined;
  const needed = need === undefined ? undefined : Math.round(need * LINES_PER_GIB);
  const pair: Compared = { before: was.system, after: will.system, needed };
  return { pair, before, after };
}

/** Simulates what is fitted against a plan, in a worker; the last plan asked for counts. */
export function useSimulated(query: PlanQuery, plan: Plan): Simulated {
  const found = useMemo(() => pairOf(query, plan), [query, plan]);
  const [state, setState] = useState<
    | { readonly type: 'running'; readonly share: number }
    | { readonly type: 'stopped' }
    | { readonly type: 'done'; readonly ratios: Ratios }
  >({ type: 'running', share: 0 });
  // By what is compared: a query made anew with the same content is no other.
  const key = found && JSON.stringify(found.pair);
  const [tries, setTries] = useState(0);
  const [simulator] = useState(() => new Simulator());
  useEffect(() => () => simulator.close(), [simulator]);
  useEffect(() => {
    if (!found) return;
    setState({ type: 'running', share: 0 });
    simulator.compare(found.pair, (answer) => {
      setState(
        answer.type === 'done'
          ? { type: 'done', ratios: answer.ratios }
          : { type: 'running', share: answer.share },
      );
    });
    return () => simulator.cancel();
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [simulator, key, tries]);
  if (!found) return { type: 'none' };
  switch (state.type) {
    case 'done':
      return { ...state, before: found.before, after: found.after };
    case 'stopped':
      return { type: 'stopped', again: () => setTries((count) => count + 1) };
    default:
      return {
        ...state,
        stop: () => {
          simulator.cancel();
          setState({ type: 'stopped' });
        },
      };
  }
}
