import { useMemo } from 'react';
import type { ChartConfiguration } from 'chart.js';
import { decimals } from '#core/units';
import { Figure, themed } from '../visuals/Figure.tsx';
import { inLines } from './inLines.ts';

interface BarPictureProps {
  readonly label: string;
  readonly bars: readonly (readonly [name: string, value: number])[];
  /** What the values are of, along the axis. */
  readonly unit: string;
  /** Counts of something, which has no halves. */
  readonly isWhole?: boolean;
}

/** Lengths side by side; the table beside it has the same figures. */
export function BarPicture({ label, bars, unit, isWhole = false }: BarPictureProps) {
  const key = JSON.stringify(bars);
  const config = useMemo((): ChartConfiguration<'bar'> => {
    const told = JSON.parse(key) as [string, number][];
    return {
      type: 'bar',
      data: {
        labels: told.map(([name]) => inLines(name)),
        datasets: [
          {
            data: told.map(([, value]) => value),
            backgroundColor: themed('teal'),
            maxBarThickness: 22,
          },
        ],
      },
      options: {
        indexAxis: 'y',
        animation: false,
        maintainAspectRatio: false,
        plugins: { legend: { display: false } },
        scales: {
          // Every bar has its name, however many lines that takes.
          y: { ticks: { autoSkip: false } },
          x: {
            beginAtZero: true,
            title: { display: true, text: unit },
            ticks: { callback: (at) => decimals(at), ...(isWhole ? { precision: 0 } : {}) },
          },
        },
      },
    };
  }, [key, unit, isWhole]);
  // One bar alone compares nothing.
  if (bars.filter(([, value]) => value !== 0).length < 2) return null;
  return <Figure label={label} config={config} height={60 + bars.length * 36} />;
}
