import { useMemo, useRef, useState } from 'react';
import type { PointerEvent } from 'react';
import type { Chart, ChartConfiguration } from 'chart.js';
import { CHOICE_SHORT, figure, gb, money, planText } from '#core/explaining';
import type { Plan } from '#core/planning';
import { minorDigits } from '#core/quoting';
import { Figure, themed } from '../../visuals/Figure.tsx';
import type { PlanContext } from './planContext.ts';

/** A stretch of cost and bandwidth to look at. */
export interface Brush {
  readonly costFrom: number;
  readonly costTo: number;
  readonly speedFrom: number;
  readonly speedTo: number;
}

export const isInside = ({ worth }: Plan, brush: Brush | undefined): boolean =>
  !brush ||
  (worth.cost >= brush.costFrom &&
    worth.cost <= brush.costTo &&
    worth.bandwidth >= brush.speedFrom &&
    worth.bandwidth <= brush.speedTo);

interface PlansPictureProps {
  readonly context: PlanContext;
  readonly onBrush: (brush: Brush | undefined) => void;
}

/** Cost across, bandwidth up, capacity as size. Dragging over it narrows the table below. */
export function PlansPicture({ context, onBrush }: PlansPictureProps) {
  const { plans, choices, selected, terms, query, select } = context;
  const chart = useRef<Chart<'bubble'>>(undefined);
  const [drag, setDrag] = useState<{ x: number; y: number; toX: number; toY: number }>();
  const config = useMemo(
    () => pictureOf({ plans, choices, selected, terms, query, select }),
    [plans, choices, selected, terms, query, select],
  );

  const at = (event: PointerEvent<HTMLDivElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    return { x: event.clientX - box.left, y: event.clientY - box.top };
  };
  const finish = () => {
    const { x, y } = chart.current?.scales ?? {};
    if (drag && x && y && Math.abs(drag.x - drag.toX) > 8 && Math.abs(drag.y - drag.toY) > 8) {
      const costs = [drag.x, drag.toX].map(
        (pixel) => (x.getValueForPixel(pixel) ?? 0) * 10 ** minorDigits(terms.currency),
      );
      const speeds = [drag.y, drag.toY].map((pixel) => y.getValueForPixel(pixel) ?? 0);
      onBrush({
        ...{ costFrom: Math.min(...costs), costTo: Math.max(...costs) },
        ...{ speedFrom: Math.min(...speeds), speedTo: Math.max(...speeds) },
      });
    }
    setDrag(undefined);
  };
  return (
    <div
      className="relative touch-pan-y select-none"
      onPointerDown={(event) => {
        const { x, y } = at(event);
        setDrag({ x, y, toX: x, toY: y });
      }}
      onPointerMove={(event) => {
        const { x, y } = at(event);
        if (drag) setDrag({ ...drag, toX: x, toY: y });
      }}
      onPointerUp={finish}
      onPointerLeave={() => setDrag(undefined)}
    >
      <Figure
        label={`${plans.length} plans by cost, bandwidth and capacity; the table has the same figures`}
        config={config}
        height={300}
        onChart={(drawn) => (chart.current = drawn)}
      />
      {drag && (
        <div
          aria-hidden
          className="pointer-events-none absolute border border-copper bg-copper-wash/40"
          style={{
            left: Math.min(drag.x, drag.toX),
            top: Math.min(drag.y, drag.toY),
            width: Math.abs(drag.x - drag.toX),
            height: Math.abs(drag.y - drag.toY),
          }}
        />
      )}
    </div>
  );
}

type Pictured = Pick<PlanContext, 'plans' | 'choices' | 'selected' | 'terms' | 'query' | 'select'>;

/** Every plan as a dot, the one looked at apart; dots that are named choices say so. */
function pictureOf({
  plans,
  choices,
  selected,
  terms,
  query,
  select,
}: Pictured): ChartConfiguration<'bubble'> {
  const largest = Math.max(1, ...plans.map(({ worth }) => worth.usable));
  const unit = 10 ** minorDigits(terms.currency);
  const pointOf = ({ worth }: Plan) => ({
    x: worth.cost / unit,
    y: worth.bandwidth,
    r: 3 + 7 * Math.sqrt(worth.usable / largest),
  });
  const others = plans.filter((plan) => plan !== selected);
  const nameOf = (plan: Plan | undefined) => {
    const kinds = choices.find((one) => one.plan.id === plan?.id)?.kinds;
    return kinds && CHOICE_SHORT[kinds[0]];
  };
  return {
    type: 'bubble',
    data: {
      datasets: [
        {
          label: 'plan looked at',
          data: selected ? [pointOf(selected)] : [],
          backgroundColor: themed('copper'),
          pointStyle: 'rectRot',
        },
        {
          label: 'plans',
          data: others.map(pointOf),
          backgroundColor: themed('teal', '88'),
          borderColor: themed('teal'),
        },
      ],
    },
    options: {
      maintainAspectRatio: false,
      layout: { padding: { right: 34 } },
      animation: false,
      plugins: {
        legend: { display: false },
        // Where two names would overlap, one is said.
        datalabels: {
          display: ({ datasetIndex, dataIndex }) =>
            nameOf(datasetIndex === 0 ? selected : others[dataIndex]) ? 'auto' : false,
          formatter: (_value, { datasetIndex, dataIndex }) =>
            nameOf(datasetIndex === 0 ? selected : others[dataIndex]),
          color: themed('ink'),
          backgroundColor: themed('sheet', 'cc'),
          padding: { top: 0, bottom: 0, left: 3, right: 3 },
          align: 'top',
          clamp: true,
        },
        tooltip: {
          callbacks: {
            label: ({ datasetIndex, dataIndex }) => {
              const plan = datasetIndex === 0 ? selected : others[dataIndex];
              if (!plan) return '';
              const { cost, bandwidth, usable } = plan.worth;
              return `${planText(plan, query.machine)}: ${money(cost, terms.currency)}, ${figure(bandwidth)} GB/s, ${gb(usable)}`;
            },
          },
        },
      },
      scales: {
        x: { title: { display: true, text: `cost, ${terms.currency}` }, grace: '12%' },
        y: { title: { display: true, text: 'bandwidth at the need, GB/s' }, grace: '15%' },
      },
      onClick: (_event, [hit]) => {
        const plan = hit?.datasetIndex === 1 ? others[hit.index] : undefined;
        if (plan) select(plan);
      },
    },
  };
}
