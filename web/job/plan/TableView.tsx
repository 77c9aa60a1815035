import { useMemo, useState } from 'react';
import {
  createColumnHelper,
  getCoreRowModel,
  getSortedRowModel,
  useReactTable,
} from '@tanstack/react-table';
import type { SortingState } from '@tanstack/react-table';
import { OBJECTIVE_NAMES, count, figure, money, planText, promiseHeadline } from '#core/explaining';
import { GRADES } from '#core/matching';
import { DEFAULT_WEIGHTS, OBJECTIVES, rank } from '#core/planning';
import type { Objective, Ranked } from '#core/planning';
import { leadingGain } from '#core/promising';
import type { PlanPromise } from '#core/promising';
import { Button } from '../../ui/Button.tsx';
import { SortedTable } from '../../ui/SortedTable.tsx';
import { WhyLink } from '../../ui/Why.tsx';
import { isInside } from './PlansPicture.tsx';
import type { Brush } from './PlansPicture.tsx';
import type { PlanContext } from './planContext.ts';

const column = createColumnHelper<Ranked>();
/** Rows shown before more are asked for: fronts of hundreds occur. */
const PAGE = 40;

interface TableViewProps {
  readonly context: PlanContext;
  /** The stretch drawn on the picture beside the table. */
  readonly brush: Brush | undefined;
  readonly onBrush: (brush: Brush | undefined) => void;
}

/** All plans nothing beats: weights to order them, a table to read them. */
export function TableView({ context, brush, onBrush }: TableViewProps) {
  const { plans, weights, selected } = context;
  const [sorting, setSorting] = useState<SortingState>([]);
  const [shown, setShown] = useState(PAGE);
  const ranked = useMemo(() => rank(plans, weights), [plans, weights]);
  const inside = useMemo(() => ranked.filter(({ plan }) => isInside(plan, brush)), [ranked, brush]);
  const columns = useColumns(context);
  const table = useReactTable({
    data: inside,
    columns,
    state: { sorting },
    onSortingChange: setSorting,
    getCoreRowModel: getCoreRowModel(),
    getSortedRowModel: getSortedRowModel(),
    getRowId: ({ plan }) => plan.id,
  });
  if (plans.length === 0) return null;
  const rows = table.getRowModel().rows;
  return (
    <>
      <p className="mb-2 flex min-h-8 flex-wrap items-center gap-x-3 text-aside text-muted">
        {brush ? (
          <>
            {count(inside.length, 'plan')} of {plans.length} in the stretch you drew
            <Button look="quiet" onClick={() => onBrush(undefined)}>
              show all
            </Button>
          </>
        ) : (
          'Drag over the picture to narrow the table.'
        )}
      </p>
      <WeightSliders context={context} />
      <SortedTable
        table={table}
        caption="Plans that nothing beats, by score unless sorted otherwise"
        rows={rows.slice(0, shown)}
        chosenId={selected?.id}
      />
      {rows.length > shown && (
        <Button className="mt-3" onClick={() => setShown(shown + PAGE)}>
          Show {Math.min(PAGE, rows.length - shown)} more of {rows.length}
        </Button>
      )}
    </>
  );
}

/** What the table tells of a plan. */
function useColumns({ query, terms, selected, select, isTaken, promises }: PlanContext) {
  return useMemo(
    () => [
      column.accessor('score', {
        header: 'Score',
        cell: ({ row, getValue }) => (
          <span className="whitespace-nowrap">
            {Math.round(getValue() * 100)}{' '}
            <WhyLink
              title={planText(row.original.plan, query.machine)}
              reasons={scoreReasons(row.original)}
            />
          </span>
        ),
        sortDescFirst: true,
      }),
      column.accessor(({ plan }) => planText(plan, query.machine), {
        id: 'plan',
        header: 'Plan',
        cell: ({ row, getValue }) => (
          <button
            type="button"
            aria-pressed={row.original.plan.id === selected?.id}
            className="min-h-8 text-left"
            onClick={() => select(row.original.plan)}
          >
            {getValue()}
            {isTaken(row.original.plan) && <b> · the plan</b>}
          </button>
        ),
      }),
      column.accessor(({ plan }) => plan.worth.cost, {
        id: 'cost',
        header: OBJECTIVE_NAMES.cost,
        cell: ({ getValue }) => money(getValue(), terms.currency),
      }),
      column.accessor(({ plan }) => plan.worth.usable, {
        id: 'usable',
        header: OBJECTIVE_NAMES.usable,
        sortDescFirst: true,
      }),
      column.accessor(({ plan }) => plan.worth.bandwidth, {
        id: 'bandwidth',
        header: 'GB/s at need',
        cell: ({ getValue }) => figure(getValue()),
        sortDescFirst: true,
      }),
      column.accessor(({ plan }) => worthOf(promises.of(plan)), {
        id: 'promise',
        header: 'Promises',
        cell: ({ row }) => {
          const promise = promises.of(row.original.plan);
          return <span className="block min-w-32">{promise ? promiseHeadline(promise) : '–'}</span>;
        },
        sortDescFirst: true,
      }),
      column.accessor(({ plan }) => GRADES.indexOf(plan.worth.grade), {
        id: 'grade',
        header: OBJECTIVE_NAMES.grade,
        cell: ({ row }) => row.original.plan.worth.grade,
      }),
      column.accessor(({ plan }) => plan.worth.displaced, {
        id: 'displaced',
        header: OBJECTIVE_NAMES.displaced,
      }),
      column.accessor(({ plan }) => plan.worth.freeSlots, {
        id: 'free',
        header: 'Free',
        sortDescFirst: true,
      }),
    ],
    [query.machine, terms.currency, selected, select, isTaken, promises],
  );
}

/** Room first, then what is gained: to sort by. */
function worthOf(promise: PlanPromise | undefined): number {
  if (!promise) return -1000;
  const room = { 'fits now': 1000, 'fitted before': 0, 'still short': -500 };
  const gain = leadingGain(promise);
  return (promise.room ? room[promise.room.type] : 0) + (gain ? (gain.low + gain.high) / 2 : 0);
}

/** What a score is made of, so that the order can be argued with. */
function scoreReasons({ score, shares }: Ranked) {
  return [
    {
      title: `${Math.round(score * 100)} of 100`,
      why: 'Each objective counts by where the plan lies between the worst and the best of all plans shown, times its weight.',
      mend: 'Move the weights above the table.',
    },
    ...OBJECTIVES.map((name) => ({
      title: `${OBJECTIVE_NAMES[name]}: ${(shares[name] * 100).toFixed(0)}`,
      why: `Adds ${(shares[name] * 100).toFixed(1)} of 100 to the score.`,
    })),
  ];
}

function WeightSliders({ context: { weights, setWeights } }: { readonly context: PlanContext }) {
  const set = (name: Objective, value: number) => setWeights({ ...weights, [name]: value });
  const isDefault = OBJECTIVES.every((name) => weights[name] === DEFAULT_WEIGHTS[name]);
  return (
    <fieldset className="mb-3 flex flex-wrap items-end gap-x-5 gap-y-1 text-aside">
      <legend className="sr-only">How much each objective counts</legend>
      {OBJECTIVES.map((name) => (
        <label key={name} className="grid">
          <span>
            {OBJECTIVE_NAMES[name].split(',')[0]} <b className="tabular-nums">{weights[name]}</b>
          </span>
          <input
            type="range"
            min={0}
            max={5}
            step={1}
            value={weights[name]}
            className="h-8 w-26 accent-teal"
            onChange={({ target }) => set(name, Number(target.value))}
          />
        </label>
      ))}
      {!isDefault && (
        <Button look="quiet" onClick={() => setWeights(DEFAULT_WEIGHTS)}>
          usual weights
        </Button>
      )}
    </fieldset>
  );
}
