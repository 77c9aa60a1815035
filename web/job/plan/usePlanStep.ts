import { useCallback, useMemo, useState } from 'react';
import { useSearchParams } from 'react-router';
import { snapshotOf } from '#contract/jobProof';
import type { Job, KeptPlan } from '#contract/records';
import { samePlacement } from '#core/machine';
import { assess, DEFAULT_WEIGHTS, nameChoices, rank } from '#core/planning';
import type { Plan, PlanQuery, Weights } from '#core/planning';
import { planText } from '#core/explaining';
import { useSaveSnapshot } from '../../ui/useSaveSnapshot.ts';
import { usePromises } from '../promise/usePromises.ts';
import { offerName } from './planContext.ts';
import type { PlanContext } from './planContext.ts';
import { useKeptPlans } from './useKeptPlans.ts';
import { useJobQuery, usePlanSearch } from './usePlanSearch.ts';

/** The ways to look at the plans, and what each is called. */
export const PLAN_VIEWS = [
  ['choices', 'Choices'],
  ['all', 'All plans'],
  ['compare', 'Compare'],
  ['why-not', 'Why not …?'],
  ['hand', 'By hand'],
] as const;

/** Plans simulated at a time: what a screen shows and a little more. */
const MOST_SIMULATED = 40;

const planOf = (query: PlanQuery, { units, setting }: KeptPlan): Plan =>
  assess(query, units, setting).plan;

/** The plans of a job: searched, named, looked at, kept and taken. */
export function usePlanStep(job: Job) {
  const [params] = useSearchParams();
  const asked = params.get('view');
  const isClosed = job.result !== null;
  // A closed job's plans are history; a machine without slots has nothing to search.
  const view = PLAN_VIEWS.find(([one]) => one === asked)?.[0] ?? (isClosed ? 'hand' : 'choices');
  const { query, terms, modules, drawer, error } = useJobQuery(job);
  const search = usePlanSearch(isClosed ? undefined : query);
  const [chosenId, setChosenId] = useState<string>();
  const [weights, setWeights] = useState<Weights>(DEFAULT_WEIGHTS);
  const plans = useMemo(() => search.result?.plans ?? [], [search.result]);
  const choices = useMemo(() => (query ? nameChoices(plans, query) : []), [plans, query]);
  const saving = useSaveSnapshot();
  const { kept, setKept, state: keeping } = useKeptPlans(job);
  const nameOffer = useCallback(
    (id: string) => offerName([...modules, ...drawer].find((one) => one.id === id)),
    [modules, drawer],
  );
  const planned = snapshotOf(job, 'planned');
  const version = planned?.version ?? 0;
  const take = useCallback(
    ({ placement, setting }: Plan) =>
      void saving.save({ id: job.id, kind: 'planned', body: { placement, setting, version } }),
    [saving, job.id, version],
  );
  const isTaken = (plan: Plan) =>
    planned?.setting === plan.setting && samePlacement(planned.placement, plan.placement);
  const selected =
    plans.find(({ id }) => id === chosenId) ?? plans.find(isTaken) ?? choices[0]?.plan;
  const wanted = useMemo(() => {
    const looked = selected ? [selected] : [];
    const named = choices.map(({ plan }) => plan);
    const rest = view === 'all' ? rank(plans, weights).map(({ plan }) => plan) : [];
    const keptOf = view === 'compare' && query ? kept.map((one) => planOf(query, one)) : [];
    // Each once, the one looked at first.
    return [...new Set([...looked, ...named, ...keptOf, ...rest])].slice(0, MOST_SIMULATED);
  }, [selected, choices, view, plans, weights, kept, query]);
  const promises = usePromises(job, wanted);
  const context: PlanContext | undefined = query && {
    ...{ job, query, terms, plans, choices, selected, isTaken, nameOffer, take },
    ...{ weights, setWeights, kept, setKept, promises },
    select: (plan) => setChosenId(plan.id),
    keep: (plan) => {
      const { units, setting } = plan;
      const name = planText(plan, query.machine).slice(0, 60);
      setKept([...kept, { name, note: '', units, setting }]);
    },
  };
  return { view, isClosed, context, plans, kept, error, search, saving: saving.state, keeping };
}
