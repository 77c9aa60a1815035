import { useCallback, useMemo, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { snapshotOf } from '#contract/jobProof';
import type { Job, KeptPlan } from '#contract/records';
import { samePlacement } from '#core/machine';
import type { Placement, Setting } from '#core/machine';
import { operatingPoint } from '#core/operating-point';
import {
  assess,
  DEFAULT_WEIGHTS,
  judgePlan,
  nameChoices,
  rank,
  recogniseUnits,
} from '#core/planning';
import type { Plan, PlanQuery, Weights } from '#core/planning';
import { planText } from '#core/explaining';
import { useShortcuts } from '../../app/keys.ts';
import { AnswerBar } from '../../ui/AnswerBar.tsx';
import { Button } from '../../ui/Button.tsx';
import { SaveNotice } from '../../ui/SaveNotice.tsx';
import { Failed, Loading } from '../../ui/States.tsx';
import { useSaveSnapshot } from '../../ui/useSaveSnapshot.ts';
import { Next } from '../InspectStep.tsx';
import { PointAnswers } from '../PointAnswers.tsx';
import { AsideSheet, StepLayout } from '../StepLayout.tsx';
import { ChoicesView } from './ChoicesView.tsx';
import { CompareView } from './CompareView.tsx';
import { HandView } from './HandView.tsx';
import { PlanAside } from './PlanAside.tsx';
import { PlansPicture } from './PlansPicture.tsx';
import type { Brush } from './PlansPicture.tsx';
import { EmptyFront, SearchLine } from './SearchLine.tsx';
import { TableView } from './TableView.tsx';
import { VerdictText } from './VerdictText.tsx';
import { WhyNotView } from './WhyNotView.tsx';
import { usePromises } from '../promise/usePromises.ts';
import { offerName } from './planContext.ts';
import type { PlanContext } from './planContext.ts';
import { useKeptPlans } from './useKeptPlans.ts';
import { useJobQuery, usePlanSearch } from './usePlanSearch.ts';

const VIEWS = [
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

/** Every sensible way to upgrade the machine: choose, compare, argue, or lay it out by hand. */
export function PlanStep({ job }: { readonly job: Job }) {
  const [params] = useSearchParams();
  const asked = params.get('view');
  const isClosed = job.result !== null;
  // A closed job's plans are history; a machine without slots has nothing to search.
  const view = VIEWS.find(([one]) => one === asked)?.[0] ?? (isClosed ? 'hand' : 'choices');
  const { query, terms, modules, drawer, error } = useJobQuery(job);
  const search = usePlanSearch(isClosed ? undefined : query);
  const [chosenId, setChosenId] = useState<string>();
  const [brush, setBrush] = useState<Brush>();
  const [weights, setWeights] = useState<Weights>(DEFAULT_WEIGHTS);
  const plans = useMemo(() => search.result?.plans ?? [], [search.result]);
  const choices = useMemo(() => (query ? nameChoices(plans, query) : []), [plans, query]);
  const saving = useSaveSnapshot();
  const { kept, setKept, state: keeping } = useKeptPlans(job);

  const nameOffer = useCallback(
    (id: string) => offerName([...modules, ...drawer].find((one) => one.id === id)),
    [modules, drawer],
  );
  const version = snapshotOf(job, 'planned')?.version ?? 0;
  const take = useCallback(
    (plan: Plan) => {
      const body = { placement: plan.placement, setting: plan.setting, version };
      void saving.save({
        id: job.id,
        kind: 'planned',
        body,
      });
    },
    [saving, job.id, version],
  );

  const head = (
    <nav aria-label="Views of the plans" className="mb-3 flex flex-wrap gap-1 border-b border-line">
      {VIEWS.map(([one, label]) => (
        <Link
          key={one}
          to={`?view=${one}`}
          aria-current={one === view ? 'page' : undefined}
          className="min-h-10 border-b-3 border-transparent px-3 py-2 aria-[current=page]:border-copper aria-[current=page]:font-bold"
        >
          {label}
          {one === 'all' && plans.length > 0 && ` (${plans.length})`}
          {one === 'compare' && kept.length > 0 && ` (${kept.length})`}
        </Link>
      ))}
    </nav>
  );
  const planned = snapshotOf(job, 'planned');
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
  useShortcuts(
    selected && view !== 'hand' && !isClosed && !isTaken(selected)
      ? [{ keys: 'P', does: 'Take as plan', run: () => take(selected) }]
      : [],
  );

  if (view === 'hand')
    return (
      <HandView
        job={job}
        head={head}
        verdictOn={(placement: Placement, setting: Setting) =>
          query && (
            <VerdictText
              query={query}
              currency={terms.currency}
              nameOffer={nameOffer}
              verdict={judgePlan(query, plans, recogniseUnits(query, placement), setting)}
            />
          )
        }
      />
    );
  if (!query)
    return (
      <div className="sheet">
        {head}
        {error ? (
          <Failed failure={error} what="the catalogue" onRetry={() => window.location.reload()} />
        ) : (
          <Loading what="the catalogue" />
        )}
      </div>
    );
  const { machine } = query;
  const context: PlanContext = {
    ...{
      job,
      query,
      terms,
      plans,
      choices,
      selected,
      isTaken,
      nameOffer,
      take,
      weights,
      setWeights,
      kept,
      setKept,
      promises,
    },
    select: (plan) => setChosenId(plan.id),
    keep: (plan) => {
      const { units, setting } = plan;
      const name = planText(plan, machine).slice(0, 60);
      setKept([...kept, { name, note: '', units, setting }]);
    },
  };
  const found = operatingPoint(
    machine,
    query.fitted,
    snapshotOf(job, 'as-found')?.setting ?? 'standard',
  );
  return (
    <StepLayout
      isWide={view === 'compare'}
      aside={
        <>
          {view === 'all' && plans.length > 2 && (
            <AsideSheet title="All plans" hint="the larger the dot, the more is usable">
              <PlansPicture context={context} onBrush={setBrush} />
            </AsideSheet>
          )}
          {selected && view !== 'compare' && <PlanAside plan={selected} context={context} />}
        </>
      }
      bar={
        <AnswerBar
          label="The plan looked at"
          actions={
            selected && !isTaken(selected) ? (
              <Button look="main" keys="P" onClick={() => take(selected)}>
                Take as plan
              </Button>
            ) : (
              <Next to={`/jobs/${job.id}/quote`}>Next: quote</Next>
            )
          }
        >
          {selected ? (
            <PointAnswers
              machine={machine}
              point={operatingPoint(machine, selected.placement, selected.setting)}
              before={found}
              need={
                query.need === undefined ? undefined : query.need + machine.graphicsCarveOut.high
              }
              label={isTaken(selected) ? 'The plan: runs' : 'Would run'}
            />
          ) : (
            <p className="text-muted">{search.isRunning ? 'Searching …' : 'No plan to show.'}</p>
          )}
        </AnswerBar>
      }
    >
      {head}
      <SearchLine search={search} context={context} />
      <SaveNotice state={saving.state} />
      <SaveNotice state={keeping} />
      {search.empty && <EmptyFront reason={search.empty} search={search} context={context} />}
      {view === 'choices' && <ChoicesView context={context} />}
      {view === 'all' && <TableView context={context} brush={brush} onBrush={setBrush} />}
      {view === 'compare' && <CompareView context={context} />}
      {view === 'why-not' && (
        <WhyNotView context={context} exclusions={search.result?.exclusions ?? []} />
      )}
    </StepLayout>
  );
}
