import { useState } from 'react';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { snapshotOf } from '#contract/jobProof';
import type { Job } from '#contract/records';
import { operatingPoint } from '#core/operating-point';
import { judgePlan, recogniseUnits } from '#core/planning';
import { useShortcuts } from '../../app/keys.ts';
import { AnswerBar } from '../../ui/AnswerBar.tsx';
import { Button } from '../../ui/Button.tsx';
import { SaveNotice } from '../../ui/SaveNotice.tsx';
import { Failed, Loading } from '../../ui/States.tsx';
import { Next } from '../../ui/Next.tsx';
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
import type { PlanContext } from './planContext.ts';
import { PLAN_VIEWS, usePlanStep } from './usePlanStep.ts';

/** Every sensible way to upgrade the machine: choose, compare, argue, or lay it out by hand. */
export function PlanStep({ job }: { readonly job: Job }) {
  const step = usePlanStep(job);
  const { view, context, error, plans, kept } = step;
  const head = <ViewLinks view={view} counts={{ all: plans.length, compare: kept.length }} />;
  if (view === 'hand') return <ByHand job={job} head={head} context={context} />;
  if (context) return <Searched step={step} context={context} head={head} />;
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
}

type View = (typeof PLAN_VIEWS)[number][0];

interface ViewLinksProps {
  readonly view: View;
  readonly counts: Readonly<Partial<Record<View, number>>>;
}

function ViewLinks({ view, counts }: ViewLinksProps) {
  return (
    <nav aria-label="Views of the plans" className="mb-3 flex flex-wrap gap-1 border-b border-line">
      {PLAN_VIEWS.map(([one, label]) => (
        <Link
          key={one}
          to={`?view=${one}`}
          aria-current={one === view ? 'page' : undefined}
          className="min-h-10 border-b-3 border-transparent px-3 py-2 aria-[current=page]:border-copper aria-[current=page]:font-bold"
        >
          {label}
          {(counts[one] ?? 0) > 0 && ` (${counts[one]})`}
        </Link>
      ))}
    </nav>
  );
}

interface ByHandProps {
  readonly job: Job;
  readonly head: ReactNode;
  readonly context: PlanContext | undefined;
}

function ByHand({ job, head, context }: ByHandProps) {
  return (
    <HandView
      job={job}
      head={head}
      verdictOn={(placement, setting) => {
        if (!context) return undefined;
        const { query, plans, terms, nameOffer } = context;
        const verdict = judgePlan(query, plans, recogniseUnits(query, placement), setting);
        return <VerdictText {...{ query, nameOffer, verdict }} currency={terms.currency} />;
      }}
    />
  );
}

interface SearchedProps {
  readonly step: ReturnType<typeof usePlanStep>;
  readonly context: PlanContext;
  readonly head: ReactNode;
}

function Searched({ step, context, head }: SearchedProps) {
  const { view, search, isClosed } = step;
  const { plans, selected, isTaken, take } = context;
  const [brush, setBrush] = useState<Brush>();
  useShortcuts(
    selected && !isClosed && !isTaken(selected)
      ? [{ keys: 'P', does: 'Take as plan', run: () => take(selected) }]
      : [],
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
      bar={<PlanBar context={context} isRunning={search.isRunning} />}
    >
      {head}
      <SearchLine search={search} context={context} />
      <SaveNotice state={step.saving} />
      <SaveNotice state={step.keeping} />
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

interface PlanBarProps {
  readonly context: PlanContext;
  readonly isRunning: boolean;
}

/** The plan looked at, beside what was found. */
function PlanBar({ context, isRunning }: PlanBarProps) {
  const { job, query, selected, isTaken, take } = context;
  const { machine, fitted, need } = query;
  const foundSetting = snapshotOf(job, 'as-found')?.setting ?? 'standard';
  return (
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
          before={operatingPoint(machine, fitted, foundSetting)}
          need={need === undefined ? undefined : need + machine.graphicsCarveOut.high}
          label={isTaken(selected) ? 'The plan: runs' : 'Would run'}
        />
      ) : (
        <p className="text-muted">{isRunning ? 'Searching …' : 'No plan to show.'}</p>
      )}
    </AnswerBar>
  );
}
