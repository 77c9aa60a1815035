import { useEffect, useMemo, useState } from 'react';
import { snapshotOf } from '#contract/jobProof';
import type { KeptPlan } from '#contract/records';
import { explainObjection, planText, promiseHeadline } from '#core/explaining';
import { figuresTogether } from '#core/units';
import { Button } from '../../ui/Button.tsx';
import { Mark } from '../../ui/Mark.tsx';
import { TextField } from '../../ui/Field.tsx';
import { PlanPicture } from '../../visuals/PlanPicture.tsx';
import { FIGURES, MOST, changeOf, comparedPlans } from './compared.ts';
import type { Compared } from './compared.ts';
import type { PlanContext } from './planContext.ts';

/** What is there now, plans put aside and the named choices, side by side; what differs is marked. */
export function CompareView({ context }: { readonly context: PlanContext }) {
  const { kept, setKept, job } = context;
  const found = snapshotOf(job, 'as-found')?.setting ?? 'standard';
  const all = useMemo(() => comparedPlans(context, found), [context, found]);
  const [gone, setGone] = useState<{ plan: KeptPlan; at: number }>();
  const drop = (at: number) => {
    const plan = kept[at];
    if (!plan) return;
    setGone({ plan, at });
    setKept(kept.filter((_, one) => one !== at));
  };
  const change = (at: number, next: KeptPlan) =>
    setKept(kept.map((one, other) => (other === at ? next : one)));
  const shown = all.slice(0, MOST);
  return (
    <>
      {gone && (
        <p className="mb-3 flex items-center gap-3" role="status">
          “{gone.plan.name}” was dropped.
          <Button
            look="quiet"
            onClick={() => {
              setKept([...kept.slice(0, gone.at), gone.plan, ...kept.slice(gone.at)]);
              setGone(undefined);
            }}
          >
            undo
          </Button>
        </p>
      )}
      <p className="mb-2 text-aside text-muted">
        ▲ better than now · ▼ worse than now.{' '}
        {all.length > shown.length &&
          `${shown.length} of ${all.length} are shown: what is there now, then plans you kept, then the named choices.`}
      </p>
      <div className="overflow-x-auto">
        <table className="w-full text-left align-top text-aside tabular-nums">
          <caption className="sr-only">Plans beside what is there now</caption>
          <thead>
            <tr className="align-top">
              <td />
              {shown.map((one) => (
                <Head
                  key={keyOf(one)}
                  one={one}
                  context={context}
                  onChange={(next) => change(one.at, next)}
                />
              ))}
            </tr>
          </thead>
          <tbody>
            <Pictures shown={shown} context={context} />
            <Promised shown={shown} context={context} />
            <Figures shown={shown} context={context} />
            <Against shown={shown} context={context} />
          </tbody>
          <tfoot>
            <tr className="border-t border-line align-top">
              <td />
              {shown.map((one) => (
                <td key={keyOf(one)} className="px-2 py-1">
                  <Actions
                    one={one}
                    context={context}
                    onDrop={() => drop(one.at)}
                    onChange={(next) => change(one.at, next)}
                  />
                </td>
              ))}
            </tr>
          </tfoot>
        </table>
      </div>
    </>
  );
}

const keyOf = ({ role, at, title, assessment }: Compared) =>
  `${role} ${at} ${role === 'kept' ? title : assessment.plan.id}`;

interface ColumnProps {
  readonly one: Compared;
  readonly context: PlanContext;
  readonly onChange: (plan: KeptPlan) => void;
}

/** What a column is: now, a choice by its name, or a plan with a name of its own to be changed. */
function Head({ one: { role, at, title, assessment }, context, onChange }: ColumnProps) {
  const plan = context.kept[at];
  return (
    <th
      scope="col"
      className={`min-w-36 px-2 py-1 text-left ${assessment.plan.id === context.selected?.id ? 'rounded-t-md bg-teal-wash' : ''}`}
    >
      {role === 'kept' && plan ? (
        <KeptText
          label="Name"
          text={plan.name}
          most={60}
          onStore={(name) => onChange({ ...plan, name })}
          isNeeded
        />
      ) : (
        <span className={role === 'now' ? '' : 'text-copper'}>{title}</span>
      )}
      {role !== 'now' && (
        <span className="mt-1 block font-normal">
          {figuresTogether(planText(assessment.plan, context.query.machine))}
        </span>
      )}
    </th>
  );
}

type RowProps = { readonly shown: readonly Compared[]; readonly context: PlanContext };

function Pictures({ shown, context: { query } }: RowProps) {
  return (
    <tr className="border-t border-line align-top">
      <th scope="row" className="py-1 pr-2 font-normal text-muted">
        Slots
      </th>
      {shown.map((one) => (
        <td key={keyOf(one)} className="px-2">
          <PlanPicture machine={query.machine} fitted={query.fitted} plan={one.assessment.plan} />
        </td>
      ))}
    </tr>
  );
}

const CHANGE_WORDS = { better: ['▲', 'better than now'], worse: ['▼', 'worse than now'] } as const;

function Figures({ shown, context: { terms } }: RowProps) {
  const now = shown[0]?.assessment;
  if (!now) return null;
  return FIGURES.map((row) => (
    <tr key={row.label} className="border-t border-line align-top">
      <th scope="row" className="py-1 pr-2 font-normal text-muted">
        {row.label}
      </th>
      {shown.map((one) => {
        const change = one.role === 'now' ? 'other' : changeOf(row, one.assessment, now);
        const words = change === 'better' || change === 'worse' ? CHANGE_WORDS[change] : undefined;
        return (
          <td
            key={keyOf(one)}
            className={`px-2 py-1 ${change === 'same' ? 'text-muted' : 'font-bold'} ${change === 'better' ? 'text-teal' : ''} ${change === 'worse' ? 'text-stop' : ''}`}
          >
            {words && (
              <>
                <span aria-hidden>{words[0]} </span>
                <span className="sr-only">{words[1]}: </span>
              </>
            )}
            {row.text(one.assessment, terms.currency)}
          </td>
        );
      })}
    </tr>
  ));
}

/** What each promises this customer against what is there now. */
function Promised({ shown, context: { promises } }: RowProps) {
  return (
    <tr className="border-t border-line align-top">
      <th scope="row" className="py-1 pr-2 font-normal text-muted">
        Promises
      </th>
      {shown.map((one) => {
        const promise = one.role === 'now' ? undefined : promises.of(one.assessment.plan);
        return (
          <td key={keyOf(one)} className="px-2 py-1 font-bold">
            {promise ? promiseHeadline(promise) : <span className="text-muted">–</span>}
          </td>
        );
      })}
    </tr>
  );
}

/** What speaks against a plan, where anything does. */
function Against({ shown, context: { query, terms, nameOffer } }: RowProps) {
  const against = shown.map(
    ({ assessment }) =>
      assessment.objections.flatMap((one) =>
        explainObjection(one, query, terms.currency, nameOffer),
      )[0],
  );
  if (against.every((one) => one === undefined)) return null;
  return (
    <tr className="border-t border-line align-top">
      <th scope="row" className="py-1 pr-2 font-normal text-muted">
        Against it
      </th>
      {shown.map((one, at) => (
        <td key={keyOf(one)} className="px-2 py-1">
          {against[at] ? (
            <span className="flex gap-2 font-bold text-stop">
              <Mark kind="stop" />
              {against[at].title}
            </span>
          ) : (
            <span className="text-muted">nothing</span>
          )}
        </td>
      ))}
    </tr>
  );
}

/** What can be done with a column. */
function Actions({
  one: { role, at, title, assessment },
  context,
  onDrop,
  onChange,
}: ColumnProps & { readonly onDrop: () => void }) {
  const { kept, keep, take, isTaken } = context;
  const { plan, objections } = assessment;
  const stored = kept[at];
  if (role === 'now') return null;
  return (
    <>
      {stored && (
        <KeptText
          label="Note"
          text={stored.note}
          most={300}
          onStore={(note) => onChange({ ...stored, note })}
        />
      )}
      <p className="flex flex-wrap gap-x-3">
        {isTaken(plan) ? (
          <span className="flex min-h-10 items-center gap-1.5 font-bold">
            <Mark kind="ok" /> this is the plan
          </span>
        ) : (
          objections.length === 0 && (
            <Button look="quiet" aria-label={`Take as plan: ${title}`} onClick={() => take(plan)}>
              take as plan
            </Button>
          )
        )}
        {role === 'kept' ? (
          <Button look="quiet" aria-label={`Drop: ${title}`} onClick={onDrop}>
            drop
          </Button>
        ) : (
          <Button look="quiet" aria-label={`Keep: ${title}`} onClick={() => keep(plan)}>
            keep
          </Button>
        )}
      </p>
    </>
  );
}

interface KeptTextProps {
  readonly label: string;
  readonly text: string;
  readonly most: number;
  /** An empty text is not stored. */
  readonly isNeeded?: boolean;
  readonly onStore: (text: string) => void;
}

/** A line that is stored when it is left, if it changed. */
function KeptText({ label, text, most, isNeeded = false, onStore }: KeptTextProps) {
  const [typed, setTyped] = useState(text);
  useEffect(() => setTyped(text), [text]);
  return (
    <TextField
      label={label}
      value={typed}
      maxLength={most}
      onChange={({ target }) => setTyped(target.value)}
      onBlur={() => {
        const next = typed.trim();
        if (next !== text && (next !== '' || !isNeeded)) onStore(next);
        else setTyped(text);
      }}
    />
  );
}
