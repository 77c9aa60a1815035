import { useMemo } from 'react';
import { jobChange, jobGrounds } from '#contract/jobPromise';
import type { Job } from '#contract/records';
import { comparedOf, promiseOf } from '#core/promising';
import type { Compared, PlanPromise, Side } from '#core/promising';
import { measuringApi } from '../../app/measuringApi.ts';
import { simulatedBefore } from '../../workers/simulation.ts';
import { useSimulation } from './useSimulation.ts';
import type { SimulationState } from './useSimulation.ts';

/** What plans promise, and how far their simulation is. */
export interface Promises {
  /** Undefined where nothing ran before, or the plan would not run. */
  readonly of: (plan: Side) => PlanPromise | undefined;
  /** Whether such memory can be simulated at all. */
  readonly canSimulate: (plan: Side) => boolean;
  readonly simulation: SimulationState;
}

/**
 * Promises of a job’s plans: at once by rate, channels and times, and from a simulation as soon as that
 * is there.
 *
 * @param wanted - plans to simulate, the one looked at first; a list that stays the same while its content does
 */
export function usePromises(job: Job, wanted: readonly Side[]): Promises {
  const { data } = measuringApi.useSharesQuery();
  const comparedFor = useMemo(() => {
    const known = new Map<Side, Compared | undefined>();
    return (plan: Side): Compared | undefined => {
      if (!known.has(plan)) {
        const change = jobChange(job, plan);
        known.set(plan, change && comparedOf(change));
      }
      return known.get(plan);
    };
  }, [job]);
  const changes = useMemo(
    () => wanted.flatMap((plan) => comparedFor(plan) ?? []),
    [wanted, comparedFor],
  );
  const { state, found } = useSimulation(changes);
  const of = useMemo(() => {
    const grounds = jobGrounds(
      job,
      data?.shares.map(({ refitted }) => refitted),
    );
    const known = new Map<Side, PlanPromise | undefined>();
    return (plan: Side) => {
      if (!known.has(plan)) {
        const change = jobChange(job, plan);
        const compared = comparedFor(plan);
        const profiles = compared && simulatedBefore(compared);
        known.set(plan, change && promiseOf(change, { ...grounds, profiles }));
      }
      return known.get(plan);
    };
    // What was found meanwhile is read anew.
    // oxlint-disable-next-line react/exhaustive-deps
  }, [job, data, comparedFor, found]);
  return { of, canSimulate: (plan) => comparedFor(plan) !== undefined, simulation: state };
}
