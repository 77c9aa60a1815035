import { useEffect, useState } from 'react';
import type { KeptPlan } from '#contract/records';
import {
  explainObjection,
  figure,
  gb,
  money,
  planText,
  rateText,
  widthText,
} from '#core/explaining';
import { assess, withVerified } from '#core/planning';
import { TextField } from '../../ui/Field.tsx';
import { Button } from '../../ui/Button.tsx';
import { Mark } from '../../ui/Mark.tsx';
import { Empty } from '../../ui/States.tsx';
import { LaneStrip } from '../../visuals/LaneStrip.tsx';
import type { PlanContext } from './planContext.ts';

/** Columns that fit side by side and can be held in mind. */
const MOST = 4;

/** Plans put aside, side by side, with a name and a word to each. */
export function CompareView({ context }: { readonly context: PlanContext }) {
  const { kept, setKept } = context;
  const [gone, setGone] = useState<{ plan: KeptPlan; at: number }>();
  const drop = (at: number) => {
    const plan = kept[at];
    if (!plan) return;
    setGone({ plan, at });
    setKept(kept.filter((_, one) => one !== at));
  };
  const undo = gone && (
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
  );
  if (kept.length === 0)
    return (
      <>
        {undo}
        <Empty title="No plan is kept yet.">
          Under Choices or All plans say “keep to compare”; up to four stand side by side here.
        </Empty>
      </>
    );
  return (
    <>
      {undo}
      {kept.length > MOST && (
        <p className="mb-2 text-muted">
          The first {MOST} of {kept.length} kept plans; drop one to see the next.
        </p>
      )}
      <div className="grid auto-cols-[minmax(13rem,1fr)] grid-flow-col gap-3 overflow-x-auto">
        {kept.slice(0, MOST).map((plan, at) => (
          <Column
            key={`${plan.name} ${at}`}
            kept={plan}
            context={context}
            onDrop={() => drop(at)}
            onChange={(next) => setKept(kept.map((one, other) => (other === at ? next : one)))}
          />
        ))}
      </div>
    </>
  );
}

interface ColumnProps {
  readonly kept: KeptPlan;
  readonly context: PlanContext;
  readonly onDrop: () => void;
  readonly onChange: (plan: KeptPlan) => void;
}

function Column({ kept, context, onDrop, onChange }: ColumnProps) {
  const { query, terms, nameOffer, take, isTaken } = context;
  const [name, setName] = useState(kept.name);
  const [note, setNote] = useState(kept.note);
  useEffect(() => setName(kept.name), [kept.name]);
  useEffect(() => setNote(kept.note), [kept.note]);
  const machine = withVerified(query.machine, query.offers);
  const { plan, point, objections } = assess({ ...query, machine }, kept.units, kept.setting);
  const store = () => {
    const next = { ...kept, name: name.trim() || kept.name, note: note.trim() };
    if (next.name !== kept.name || next.note !== kept.note) onChange(next);
  };
  const amount = (value: number) => money(value, terms.currency);
  const rows: readonly (readonly [string, string])[] = [
    ['Cost', amount(plan.cost.net)],
    ['Parts', amount(plan.cost.parts)],
    ['Labour', amount(plan.cost.labour)],
    ['Usable', gb(plan.worth.usable)],
    ['Runs at', point.type === 'runs' ? rateText(point) : 'does not run'],
    ['Side by side', point.type === 'runs' ? widthText(point) : '–'],
    ['At the need', `${figure(plan.worth.bandwidth)} GB/s`],
    ['Match', plan.worth.grade],
    ['Pulled', String(plan.worth.displaced)],
    ['Free slots', String(plan.worth.freeSlots)],
  ];
  const [against] = objections.flatMap((one) =>
    explainObjection(one, query, terms.currency, nameOffer),
  );
  return (
    <section
      aria-label={kept.name}
      className="flex flex-col gap-2 rounded-md border border-line p-3"
    >
      <TextField
        label="Name"
        value={name}
        maxLength={60}
        onChange={({ target }) => setName(target.value)}
        onBlur={store}
      />
      <p className="text-aside">{planText(plan, machine)}</p>
      <dl className="text-aside tabular-nums">
        {rows.map(([label, value]) => (
          <div key={label} className="flex justify-between gap-2 border-b border-line py-0.5">
            <dt className="text-muted">{label}</dt>
            <dd className="text-right font-bold">{value}</dd>
          </div>
        ))}
      </dl>
      {against ? (
        <p className="flex gap-2 text-aside font-bold text-stop">
          <Mark kind="stop" />
          {against.title}
        </p>
      ) : (
        point.type === 'runs' && (
          <LaneStrip
            machine={machine}
            point={point}
            need={query.need === undefined ? undefined : query.need + machine.graphicsCarveOut.high}
          />
        )
      )}
      <TextField
        label="A word to it"
        value={note}
        maxLength={300}
        onChange={({ target }) => setNote(target.value)}
        onBlur={store}
      />
      <p className="mt-auto flex flex-wrap gap-x-3">
        {!against && !isTaken(plan) && (
          <Button look="quiet" aria-label={`Take as plan: ${kept.name}`} onClick={() => take(plan)}>
            take as plan
          </Button>
        )}
        <Button look="quiet" aria-label={`Drop: ${kept.name}`} onClick={onDrop}>
          drop
        </Button>
      </p>
    </section>
  );
}
