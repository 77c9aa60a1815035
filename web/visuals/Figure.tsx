import { useEffect, useRef, useSyncExternalStore } from 'react';
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
import { onShownTheme, shownTheme } from '../app/theme.ts';

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

/**
 * A colour of the theme, looked up as it is drawn: a picture made in the light is read in the dark.
 *
 * @param alpha - two hexadecimal digits; none = it hides what is behind
 */
export const themed =
  (name: string, alpha = '') =>
  (): string =>
    getComputedStyle(document.documentElement).getPropertyValue(`--${name}`).trim() + alpha;

/** Every line says its name at its end; where two would overlap, the first of the figure is said. */
export const NAMED_ON_THE_LINE: DataLabelsOptions = {
  display: ({ dataset, dataIndex }) => (dataIndex === dataset.data.length - 1 ? 'auto' : false),
  formatter: (_value, { dataset }) => dataset.label,
  color: themed('ink'),
  align: 'left',
  anchor: 'center',
  offset: 2,
  backgroundColor: themed('sheet'),
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

/** A chart in the page's own type and colours. */
export function Figure<Kind extends 'bar' | 'bubble' | 'line'>({
  label,
  config,
  height,
  onChart,
}: FigureProps<Kind>) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const told = useRef(onChart);
  const theme = useSyncExternalStore(onShownTheme, shownTheme);
  useEffect(() => {
    told.current = onChart;
  });
  useEffect(() => {
    if (!canvas.current) return;
    Chart.defaults.font.family = "'Atkinson Hyperlegible Next Variable', sans-serif";
    Chart.defaults.font.size = 13;
    Chart.defaults.color = themed('muted')();
    Chart.defaults.borderColor = themed('line')();
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
  }, [config, theme]);
  return (
    <div style={{ height }} className="relative">
      <canvas ref={canvas} role="img" aria-label={label} />
    </div>
  );
}
