import { snapshotOf } from '#contract/jobProof';
import {
  basisText,
  explainAdvice,
  explainChoice,
  explainGainRange,
  figure,
  gb,
  money,
  planText,
  promiseHeadline,
} from '#core/explaining';
import { judgeMatch } from '#core/matching';
import { adviseNeed, workingSet } from '#core/need';
import { operatingPoint } from '#core/operating-point';
import { assess, judgePlan, recogniseUnits } from '#core/planning';
import type { Plan } from '#core/planning';
import { figuresTogether } from '#core/units';
import { Button } from '../../ui/Button.tsx';
import { Mark } from '../../ui/Mark.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { WhyLink } from '../../ui/Why.tsx';
import { PlanPicture } from '../../visuals/PlanPicture.tsx';
import { VerdictText } from './VerdictText.tsx';
import type { PlanContext } from './planContext.ts';

/** The front as a few named plans. */
export function ChoicesView({ context }: { readonly context: PlanContext }) {
  const { choices, selected, select } = context;
  return (
    <>
      <OtherAnswers context={context} />
      <OtherPlan context={context} />
      <ul className="grid gap-2">
        {choices.map(({ plan, kinds }) => {
          const isSelected = plan.id === selected?.id;
          // The only plan is the best at everything, which says nothing.
          const [first, ...others] = kinds;
          const told = [first, ...(choices.length > 1 ? others : [])].map((kind) =>
            explainChoice(kind, context.query.need !== undefined),
          );
          return (
            <li
              key={plan.id}
              className={`rounded-md border px-3 py-2 ${isSelected ? 'border-teal bg-teal-wash' : 'border-line'}`}
            >
              <div className="flex flex-wrap items-start gap-x-4 gap-y-1">
                <div className="min-w-0 grow basis-80">
                  <p className="flex flex-wrap items-baseline gap-x-2 text-aside text-muted">
                    <b className="text-copper">{told.map(({ title }) => title).join(' · ')}</b>
                    <WhyLink title={told[0]?.title ?? ''} reasons={told} />
                  </p>
                  <button
                    type="button"
                    aria-pressed={isSelected}
                    className="min-h-8 text-left font-bold"
                    onClick={() => select(plan)}
                  >
                    {figuresTogether(planText(plan, context.query.machine))}
                  </button>
                </div>
                <PlanFigures plan={plan} context={context} />
              </div>
              <PromiseLine plan={plan} context={context} />
              <div className="flex flex-wrap items-center justify-between gap-x-4">
                <PlanPicture
                  machine={context.query.machine}
                  fitted={context.query.fitted}
                  plan={plan}
                />
                <PlanActions plan={plan} context={context} />
              </div>
            </li>
          );
        })}
      </ul>
    </>
  );
}

/** What a plan promises this customer, in one line, and which model says so. */
function PromiseLine({ plan, context }: { readonly plan: Plan; readonly context: PlanContext }) {
  const promise = context.promises.of(plan);
  if (!promise) return null;
  return (
    <p className="text-aside">
      Promises: <b>{promiseHeadline(promise)}</b>{' '}
      <WhyLink
        title="What it promises"
        reasons={[
          { title: promiseHeadline(promise), why: basisText(promise) },
          ...promise.own.map(explainGainRange),
        ]}
      />
    </p>
  );
}

/** Cost, capacity, bandwidth and match of a plan, each with its unit. */
export function PlanFigures({
  plan,
  context,
}: {
  readonly plan: Plan;
  readonly context: PlanContext;
}) {
  const { query, terms, job } = context;
  const { worth } = plan;
  const stance = {
    need: query.need,
    capacityFirst: query.capacityFirst,
    memoryTestPassed: query.memoryTestPassed,
  };
  const verdict = judgeMatch(query.machine, plan.placement, plan.setting, stance).schools.find(
    ({ school }) => school === job.school,
  );
  const cells = [
    ['cost', money(worth.cost, terms.currency)],
    ['usable', gb(worth.usable)],
    ['at the need', `${figure(worth.bandwidth)} GB/s`],
    ['match', worth.grade],
  ] as const;
  return (
    <dl className="grid shrink-0 grid-cols-[5rem_4rem_5rem_5.5rem_7rem] gap-x-3 max-sm:w-full max-sm:grid-cols-3">
      {cells.map(([label, value]) => (
        <div key={label}>
          <dt className="text-aside text-muted">{label}</dt>
          <dd className="font-bold tabular-nums">{value}</dd>
        </div>
      ))}
      <div>
        <dt className="text-aside text-muted">{job.school}</dt>
        <dd className="flex items-center gap-1 font-bold">
          <Mark kind={verdict?.judgement === 'caution' ? 'caution' : 'ok'} />
          {verdict?.judgement === 'caution' ? 'with caution' : 'yes'}
        </dd>
      </div>
    </dl>
  );
}

/** Take or keep a plan. */
export function PlanActions({
  plan,
  context,
}: {
  readonly plan: Plan;
  readonly context: PlanContext;
}) {
  const { take, keep, isTaken, kept, query } = context;
  const isKept = kept.some(
    ({ units, setting }) => assess(query, units, setting).plan.id === plan.id,
  );
  const name = planText(plan, query.machine);
  return (
    <p className="flex flex-wrap gap-x-4 text-aside">
      {isTaken(plan) ? (
        <span className="flex min-h-10 items-center gap-1.5 font-bold">
          <Mark kind="ok" /> this is the plan
        </span>
      ) : (
        <Button look="quiet" aria-label={`Take as plan: ${name}`} onClick={() => take(plan)}>
          take as plan
        </Button>
      )}
      {isKept ? (
        <span className="flex min-h-10 items-center text-muted">kept to compare</span>
      ) : (
        <Button look="quiet" aria-label={`Keep to compare: ${name}`} onClick={() => keep(plan)}>
          keep to compare
        </Button>
      )}
    </p>
  );
}

/** The plan taken is none of these: laid out by hand, shared out in a batch, or outdated by prices. */
function OtherPlan({ context }: { readonly context: PlanContext }) {
  const { job, query, plans, isTaken, terms, nameOffer } = context;
  const planned = snapshotOf(job, 'planned');
  if (!planned || plans.length === 0 || plans.some(isTaken)) return null;
  const units = recogniseUnits(query, planned.placement);
  const verdict = judgePlan(query, plans, units, planned.setting);
  return (
    <div className="mb-3 rounded-md border border-edge px-3 py-2">
      <p className="mb-2">
        <span className="text-aside text-muted">The plan taken is another: </span>
        <b>{figuresTogether(planText(verdict.assessment.plan, query.machine))}</b>
      </p>
      <VerdictText {...{ query, nameOffer, verdict }} currency={terms.currency} />
    </div>
  );
}

/** Where memory is not the answer, or not the whole of it, that comes first. */
function OtherAnswers({ context: { query, job } }: { readonly context: PlanContext }) {
  const input = job.needInput;
  const work = input && workingSet(input);
  if (!input || !work) return null;
  const found = operatingPoint(query.machine, query.fitted, 'standard');
  const advice = adviseNeed(
    query.machine,
    input,
    work,
    job.margin,
    found.type === 'runs' ? found : undefined,
  ).filter(({ type }) =>
    ['drive-first', 'graphics-memory', 'system-first', 'enough'].includes(type),
  );
  if (advice.length === 0) return null;
  return (
    <div className="mb-3 grid gap-2">
      {advice.map((one) => {
        const { title, why, mend } = explainAdvice(one);
        return <Notice key={one.type} kind="caution" title={title} why={why} mend={mend} />;
      })}
    </div>
  );
}
