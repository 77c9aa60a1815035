import type { ChartConfiguration } from 'chart.js';
import { useMemo } from 'react';
import { Figure, NAMED_ON_THE_LINE, themed } from '../../visuals/Figure.tsx';
import type { FrameSide, FramesAnswer } from '../../workers/frames.ts';

interface FramePicturesProps {
  readonly sides: Partial<Record<FrameSide, Pick<FramesAnswer, 'view'>>>;
  readonly distribution: FramesAnswer['distribution'];
}

/** Grey dashed before, copper after: told apart without colour too. */
const look = (side: FrameSide) => ({
  borderColor: themed(side === 'before' ? 'muted' : 'copper'),
  borderDash: side === 'before' ? [5, 4] : [],
  borderWidth: 1.5,
  pointRadius: 0,
});

const axes = (x: string, y: string) => ({
  x: { type: 'linear' as const, title: { display: true, text: x } },
  y: { beginAtZero: true, title: { display: true, text: y } },
});

/** How long frames took over time, and how they are spread. */
export function FramePictures({ sides, distribution }: FramePicturesProps) {
  const own = useMemo(
    () => (['before', 'after'] as const).filter((side) => sides[side]?.view),
    [sides],
  );
  const overTime = useMemo(
    (): ChartConfiguration<'line'> => ({
      type: 'line',
      data: {
        datasets: own.map((side) => ({
          ...look(side),
          label: `${side}, slowest of each stretch`,
          data: (sides[side]?.view?.stretches ?? []).map(({ at, most }) => ({ x: at, y: most })),
        })),
      },
      options: {
        animation: false,
        maintainAspectRatio: false,
        plugins: { legend: { display: false }, datalabels: NAMED_ON_THE_LINE },
        scales: axes('time, s', 'frame time, ms'),
      },
    }),
    [own, sides],
  );
  const spread = useMemo(
    (): ChartConfiguration<'line'> => ({
      type: 'line',
      data: {
        datasets: own.map((side) => ({
          ...look(side),
          label: side,
          stepped: true,
          data: (distribution.shares[side] ?? []).map((share, at) => ({
            x: at * distribution.step,
            y: share * 100,
          })),
        })),
      },
      options: {
        animation: false,
        maintainAspectRatio: false,
        scales: axes('frame time, ms', 'share of frames, %'),
      },
    }),
    [own, distribution],
  );
  if (own.length === 0) return null;
  return (
    <div className="grid gap-4 lg:grid-cols-2">
      <Figure label="Slowest frame of each stretch over time" config={overTime} height={240} />
      <Figure label="Share of frames by frame time" config={spread} height={240} />
    </div>
  );
}
