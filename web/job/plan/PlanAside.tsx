import { useEffect, useRef, useState } from 'react';
import {
  count,
  explainFlag,
  explainTipping,
  explainUnknownTrait,
  list,
  money,
  planText,
  slotNames,
} from '#core/explaining';
import { unknownTraits } from '#core/machine';
import { judgeMatch } from '#core/matching';
import { operatingPoint } from '#core/operating-point';
import { bandwidthAtNeed } from '#core/planning';
import type { Plan, Tipping } from '#core/planning';
import { figuresTogether } from '#core/units';
import { Button } from '../../ui/Button.tsx';
import { Mark } from '../../ui/Mark.tsx';
import { Failed } from '../../ui/States.tsx';
import { WhyLink } from '../../ui/Why.tsx';
import { LaneStrip } from '../../visuals/LaneStrip.tsx';
import { LimitsLadder } from '../../visuals/LimitsLadder.tsx';
import { Schools } from '../../visuals/Schools.tsx';
import { NoAnswer } from '../../workers/asked.ts';
import { Planner } from '../../workers/planner.ts';
import { LimitsSheet } from '../promise/LimitsSheet.tsx';
import { PromiseSheet } from '../promise/PromiseSheet.tsx';
import { FoldedSheet } from '../../ui/Folded.tsx';
import { AsideSheet } from '../StepLayout.tsx';
import type { PlanContext } from './planContext.ts';

/** Everything about one plan: what it costs, gains and risks, and what would change the choice. */
export function PlanAside({
  plan,
  context,
}: {
  readonly plan: Plan;
  readonly context: PlanContext;
}) {
  const { query, job } = context;
  const { machine } = query;
  const point = operatingPoint(machine, plan.placement, plan.setting);
  const stance = {
    need: query.need,
    capacityFirst: query.capacityFirst,
    memoryTestPassed: query.memoryTestPassed,
  };
  const match = judgeMatch(machine, plan.placement, plan.setting, stance);
  if (point.type !== 'runs') return null;
  const need = query.need === undefined ? undefined : query.need + machine.graphicsCarveOut.high;
  const cautions = point.flags.filter(({ severity }) => severity === 'caution');
  const [unknown] = unknownTraits(machine);
  return (
    <>
      <AsideSheet title={figuresTogether(planText(plan, machine))}>
        <Costs plan={plan} context={context} />
        <LaneStrip machine={machine} point={point} need={need} />
      </AsideSheet>
      <AsideSheet title="What it promises" hint="against what is there now">
        <PromiseSheet key={plan.id} plan={plan} job={job} promises={context.promises} />
      </AsideSheet>
      <FoldedSheet title="What limits this machine" hint="and what a mend costs" isHeavy>
        <LimitsSheet
          job={job}
          {...(job.result === null && {
            // In the slots the search would choose, where it found the same.
            onTake: (means: Plan) =>
              context.take(context.plans.find((one) => isSameWork(one, means)) ?? means),
          })}
        />
      </FoldedSheet>
      {(cautions.length > 0 || unknown) && (
        <AsideSheet title="Risks">
          <ul className="grid gap-1.5 text-aside">
            {cautions.map((flag) => {
              const reason = explainFlag(flag, slotNames(machine));
              return (
                <li key={reason.title} className="flex gap-2">
                  <Mark kind="caution" />
                  <span className="min-w-0 grow break-words">{reason.title}</span>
                  <WhyLink title={reason.title} reasons={[reason]} />
                </li>
              );
            })}
            {unknown && (
              <li className="flex gap-2">
                <Mark kind="note" />
                <span className="min-w-0 grow">
                  To find out first: {explainUnknownTrait(unknown).title}
                </span>
                <WhyLink title="Not known yet" reasons={[explainUnknownTrait(unknown)]} />
              </li>
            )}
          </ul>
        </AsideSheet>
      )}
      <AsideSheet title="Limits ladder" hint="what sets the rate">
        <LimitsLadder machine={machine} point={point} />
      </AsideSheet>
      <AsideSheet title="Would each school take it?">
        <Schools report={match} chosen={job.school} />
      </AsideSheet>
      <AsideSheet title="What would change the choice?">
        <TippingPoints key={plan.id} plan={plan} context={context} />
      </AsideSheet>
    </>
  );
}

/** The same modules bought, kept and pulled at the same setting, whichever slots they go into. */
const isSameWork = (one: Plan, other: Plan): boolean =>
  JSON.stringify([one.setting, one.purchases, one.drawer, one.pulled]) ===
  JSON.stringify([other.setting, other.purchases, other.drawer, other.pulled]);

function Costs({ plan, context }: { readonly plan: Plan; readonly context: PlanContext }) {
  const { query, terms, nameOffer } = context;
  const { machine } = query;
  const amount = (value: number) => money(value, terms.currency);
  const before = operatingPoint(machine, query.fitted, 'standard');
  const was = before.type === 'runs' ? before : undefined;
  const moreGb = plan.worth.usable - (was?.usable.low ?? 0);
  const moreSpeed = plan.worth.bandwidth - (was ? bandwidthAtNeed(query, was) : 0);
  const nameOf = slotNames(machine);
  const rows = [
    ...plan.purchases.map(({ offerId, packs }) => [`${packs} × ${nameOffer(offerId)}`, undefined]),
    ...plan.drawer.map((id) => [`From the drawer: ${nameOffer(id)}`, undefined]),
    ['Parts', amount(plan.cost.parts)],
    ['Labour', amount(plan.cost.labour)],
    ...(plan.cost.credit > 0 ? [['Credit for what is pulled', amount(-plan.cost.credit)]] : []),
  ] as const;
  return (
    <div className="mb-3">
      <dl className="text-aside">
        {rows.map(([label, value]) => (
          <div key={label} className="flex justify-between gap-3">
            <dt className="min-w-0 break-words">{label}</dt>
            {value !== undefined && <dd className="tabular-nums">{value}</dd>}
          </div>
        ))}
        <div className="flex justify-between gap-3 border-t border-line font-bold">
          <dt>Together</dt>
          <dd className="tabular-nums">{amount(plan.cost.net)}</dd>
        </div>
      </dl>
      <p className="mt-1 text-aside text-muted">
        {[
          ...(moreGb > 0 && plan.cost.net > 0
            ? [`${amount(Math.round(plan.cost.net / moreGb))} per GB gained`]
            : []),
          ...(moreSpeed > 0.5 && plan.cost.net > 0
            ? [`${amount(Math.round(plan.cost.net / moreSpeed))} per GB/s gained`]
            : []),
          ...(plan.pulled.length > 0
            ? [
                `pulled from ${list(plan.pulled.map(nameOf))}: ${plan.cost.credit > 0 ? 'taken in for credit' : 'handed back to the customer'}`,
              ]
            : []),
        ].join(' · ')}
      </p>
    </div>
  );
}

/** Asked for, because each point is a search of its own. */
function TippingPoints({ plan, context }: { readonly plan: Plan; readonly context: PlanContext }) {
  const { query, terms, nameOffer } = context;
  const planner = useRef<Planner>(undefined);
  const [state, setState] = useState<{ points: readonly Tipping[]; isFinal: boolean }>();
  const [failure, setFailure] = useState<NoAnswer>();
  useEffect(() => () => planner.current?.close(), []);
  const ask = () => {
    planner.current ??= new Planner();
    setState({ points: [], isFinal: false });
    setFailure(undefined);
    planner.current.ask({ type: 'tipping', query, plan }, (answer) => {
      if (answer.type === 'tipping') setState(answer);
      if (answer.type === 'failed') setFailure(new NoAnswer(answer.message));
    });
  };
  if (!state)
    return (
      <Button look="quiet" onClick={ask}>
        Find prices, needs and open questions that would
      </Button>
    );
  if (failure) return <Failed failure={failure} what="what would change it" onRetry={ask} />;
  return (
    <div aria-live="polite">
      <ul className="grid gap-2 text-aside">
        {state.points.map((point) => {
          const { title, why } = explainTipping(point, query, terms.currency, nameOffer);
          return (
            <li key={title}>
              <b className="block break-words">{title}</b>
              {why}
            </li>
          );
        })}
      </ul>
      <p className="mt-2 text-aside text-muted">
        {state.isFinal
          ? `${count(state.points.length, 'point')} looked at; the cheapest plan that meets the need counts as the choice.`
          : 'Looking …'}
      </p>
    </div>
  );
}
