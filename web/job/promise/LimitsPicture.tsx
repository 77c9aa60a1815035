import { useMemo } from 'react';
import type { ChartConfiguration } from 'chart.js';
import { gainRangeText, limitName, money } from '#core/explaining';
import type { KindOfWork } from '#core/promising';
import { Figure, themed } from '../../visuals/Figure.tsx';
import type { GainingLimit } from './LimitsSheet.tsx';

interface LimitsPictureProps {
  readonly rows: readonly GainingLimit[];
  readonly kind: KindOfWork;
  readonly currency: string;
}

/** Percent below which a loss is within what rounding to cycles gives. */
const LOSS = 2;

/** A bar from the least to the most that each change gives alone, with its price. */
export default function LimitsPicture({ rows, kind, currency }: LimitsPictureProps) {
  const shown = rows.filter(({ gain }) => gain);
  // By content: rows are made anew with every look.
  const key = JSON.stringify(
    shown.map(({ limit, gain }) => [limit.lever, limit.to, gain?.low, gain?.high, limit.means?.id]),
  );
  const config = useMemo((): ChartConfiguration<'bar'> => {
    const span = ({ gain }: GainingLimit): [number, number] => {
      const { low = 0, high = 0 } = gain ?? {};
      // Too small a bar would not be seen at all.
      return high - low < 1 ? [low, low + 1] : [low, high];
    };
    return {
      type: 'bar',
      data: {
        labels: shown.map(({ limit }) => {
          const price = limit.means ? money(limit.means.cost.net, currency) : 'not on offer';
          return [limitName(limit), price];
        }),
        datasets: [
          {
            label: kind.name,
            data: shown.map(span),
            backgroundColor: themed('teal'),
            borderSkipped: false,
            barPercentage: 0.6,
          },
        ],
      },
      options: {
        indexAxis: 'y',
        animation: false,
        maintainAspectRatio: false,
        plugins: {
          legend: { display: false },
          tooltip: {
            callbacks: {
              label: ({ dataIndex }) => {
                const gain = shown[dataIndex]?.gain;
                return gain ? gainRangeText(gain) : '';
              },
            },
          },
        },
        scales: {
          x: {
            title: { display: true, text: `gain in ${kind.short}, %` },
            // A loss is shown; a part of a per cent is none.
            min: Math.min(0, ...shown.map(({ gain }) => (gain && gain.low < -LOSS ? gain.low : 0))),
            suggestedMax: 20,
          },
          y: { grid: { display: false } },
        },
      },
    };
    // oxlint-disable-next-line react/exhaustive-deps
  }, [key, kind, currency]);
  return (
    <Figure
      label={`What each change alone gives in ${kind.short}; the list below has the same figures`}
      config={config}
      height={44 + 46 * shown.length}
    />
  );
}
