import { useEffect, useId, useRef, useState } from 'react';
import {
  count,
  explainBeaten,
  explainExclusion,
  explainObjection,
  planText,
} from '#core/explaining';
import type { Exclusion, SourceVerdict } from '#core/planning';
import { figuresTogether } from '#core/units';
import { Button } from '../../ui/Button.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { Failed } from '../../ui/States.tsx';
import { NoAnswer } from '../../workers/asked.ts';
import { Planner } from '../../workers/planner.ts';
import type { PlanContext } from './planContext.ts';

interface WhyNotViewProps {
  readonly context: PlanContext;
  readonly exclusions: readonly Exclusion[];
}

/** Pick any module on offer and learn what excludes it, or what beats the best it can do. */
export function WhyNotView({ context, exclusions }: WhyNotViewProps) {
  const { query, plans, nameOffer } = context;
  const inputId = useId();
  const planner = useRef<Planner>(undefined);
  const [filter, setFilter] = useState('');
  const [asked, setAsked] = useState<{ id: string; verdict?: SourceVerdict; failure?: NoAnswer }>();
  useEffect(() => () => planner.current?.close(), []);
  const all = [...query.offers, ...query.drawer].map(({ id }) => ({ id, name: nameOffer(id) }));
  const found = all.filter(({ name }) => name.toLowerCase().includes(filter.toLowerCase()));
  const ask = (id: string) => {
    planner.current ??= new Planner();
    setAsked({ id });
    planner.current.ask({ type: 'source', query, front: plans, id }, (answer) => {
      if (answer.type === 'source') setAsked({ id, verdict: answer.verdict });
      if (answer.type === 'failed') setAsked({ id, failure: new NoAnswer(answer.message) });
    });
  };
  const reasons = new Map<string, number>();
  for (const one of exclusions) {
    const [first] = explainExclusion(one, query.machine);
    if (first) reasons.set(first.title, (reasons.get(first.title) ?? 0) + 1);
  }
  return (
    <div className="grid gap-4 md:grid-cols-2">
      <div>
        <label htmlFor={inputId} className="mb-1 block font-bold">
          Which module?
        </label>
        <input
          id={inputId}
          className="input"
          value={filter}
          placeholder="part of its label"
          onChange={({ target }) => setFilter(target.value)}
        />
        <ul className="mt-2 max-h-96 overflow-y-auto">
          {found.slice(0, 60).map(({ id, name }) => (
            <li key={id}>
              <button
                type="button"
                aria-pressed={asked?.id === id}
                className="min-h-10 w-full border-b border-line text-left text-aside aria-pressed:bg-teal-wash"
                onClick={() => ask(id)}
              >
                {name}
              </button>
            </li>
          ))}
        </ul>
        {found.length === 0 && <p className="mt-2 text-muted">No label holds that.</p>}
        {found.length > 60 && (
          <p className="mt-2 text-aside text-muted">{found.length - 60} more; type to narrow.</p>
        )}
      </div>
      <div aria-live="polite" className="grid content-start gap-3">
        {asked ? (
          <>
            <p className="font-bold break-words">{nameOffer(asked.id)}</p>
            {asked.verdict ? (
              <SourceAnswer verdict={asked.verdict} context={context} />
            ) : asked.failure ? (
              <Failed failure={asked.failure} what="why not" onRetry={() => ask(asked.id)} />
            ) : (
              <p className="text-muted">Looking …</p>
            )}
          </>
        ) : (
          <>
            <p>
              A placement of your own is judged the same way under <b>By hand</b>.
            </p>
            {reasons.size > 0 && (
              <div>
                <p className="font-bold">
                  {count(exclusions.length, 'module')} left out from the start
                </p>
                <ul className="mt-1 grid gap-1 text-aside">
                  {[...reasons].map(([title, times]) => (
                    <li key={title}>
                      <b className="tabular-nums">{times} ×</b> {title}
                    </li>
                  ))}
                </ul>
              </div>
            )}
          </>
        )}
      </div>
    </div>
  );
}

function SourceAnswer({
  verdict,
  context,
}: {
  readonly verdict: SourceVerdict;
  readonly context: PlanContext;
}) {
  const { query, terms, nameOffer, select } = context;
  const { machine } = query;
  switch (verdict.type) {
    case 'excluded':
      return explainExclusion(verdict.exclusion, machine).map(({ title, why, mend }) => (
        <Notice key={title} kind="stop" title={title} why={why} mend={mend} />
      ));
    case 'used':
      return (
        <Notice
          kind="ok"
          title={`Part of ${count(verdict.plans.length, 'plan')} that nothing beats`}
        >
          <ul>
            {verdict.plans.slice(0, 4).map((plan) => (
              <li key={plan.id}>
                <Button look="quiet" className="text-left" onClick={() => select(plan)}>
                  {figuresTogether(planText(plan, machine))}
                </Button>
              </li>
            ))}
          </ul>
        </Notice>
      );
    case 'beaten':
      return verdict.best.slice(0, 3).map(({ plan, by }) => {
        const { title, why } = explainBeaten(plan, by, machine, terms.currency);
        return (
          <div key={plan.id}>
            <p className="mb-1 text-aside text-muted">
              The best it can do: {figuresTogether(planText(plan, machine))}
            </p>
            <Notice kind="caution" title={title} why={why} />
          </div>
        );
      });
    case 'no-plan': {
      const objections = verdict.nearest?.objections.flatMap((one) =>
        explainObjection(one, query, terms.currency, nameOffer),
      );
      return objections && objections.length > 0 ? (
        objections.map(({ title, why, mend }) => (
          <Notice key={title} kind="stop" title={title} why={why} mend={mend} />
        ))
      ) : (
        <Notice
          kind="stop"
          title="Nothing that runs comes of it"
          why="No placement with it gets past the machine’s limits."
        />
      );
    }
  }
}
