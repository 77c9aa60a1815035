import { useEffect, useRef } from 'react';
import {
  BarController,
  BarElement,
  BubbleController,
  CategoryScale,
  Chart,
  Legend,
  LineController,
  LineElement,
  LinearScale,
  PointElement,
  Tooltip,
} from 'chart.js';
import type { ChartConfiguration } from 'chart.js';
import dataLabels from 'chartjs-plugin-datalabels';
import type { Options as DataLabelsOptions } from 'chartjs-plugin-datalabels/types/options';

Chart.register(
  BarController,
  BarElement,
  BubbleController,
  CategoryScale,
  Legend,
  LineController,
  LineElement,
  LinearScale,
  PointElement,
  Tooltip,
  dataLabels,
);
// Where a figure does not ask for words on its lines and dots, there are none.
Chart.defaults.set('plugins.datalabels', { display: false });

/** Every line says its name at its end; where two would overlap, the first of the figure is said. */
export const NAMED_ON_THE_LINE: DataLabelsOptions = {
  display: ({ dataset, dataIndex }) => (dataIndex === dataset.data.length - 1 ? 'auto' : false),
  formatter: (_value, { dataset }) => dataset.label,
  color: () => themeColour('ink'),
  align: 'left',
  anchor: 'center',
  offset: 2,
  backgroundColor: () => themeColour('sheet'),
  padding: { top: 0, bottom: 0, left: 3, right: 3 },
};

interface FigureProps<Kind extends 'bar' | 'bubble' | 'line'> {
  /** What the picture shows, for those who hear the page; the same figures stand in a table. */
  readonly label: string;
  readonly config: ChartConfiguration<Kind>;
  readonly height: number;
  /** Gets the chart whenever it is drawn anew, to read its scales. */
  readonly onChart?: (chart: Chart<Kind>) => void;
}

/** A value of the theme, as it now is. */
export const themeColour = (name: string): string =>
  getComputedStyle(document.documentElement).getPropertyValue(`--${name}`).trim();

/** A chart in the page's own type and colours. */
export function Figure<Kind extends 'bar' | 'bubble' | 'line'>({
  label,
  config,
  height,
  onChart,
}: FigureProps<Kind>) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const told = useRef(onChart);
  useEffect(() => {
    told.current = onChart;
  });
  useEffect(() => {
    if (!canvas.current) return;
    Chart.defaults.font.family = "'Atkinson Hyperlegible Next Variable', sans-serif";
    Chart.defaults.font.size = 13;
    Chart.defaults.color = themeColour('muted');
    Chart.defaults.borderColor = themeColour('line');
    const chart = new Chart<Kind>(canvas.current, config);
    told.current?.(chart);
    // Drawn before the page's type is there, it would keep the wrong one.
    let isGone = false;
    void document.fonts.ready.then(() => {
      if (!isGone) chart.update();
    });
    return () => {
      isGone = true;
      chart.destroy();
    };
  }, [config]);
  return (
    <div style={{ height }} className="relative">
      <canvas ref={canvas} role="img" aria-label={label} />
    </div>
  );
}
