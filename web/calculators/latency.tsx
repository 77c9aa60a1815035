import { useMemo } from 'react';
import type { ChartConfiguration } from 'chart.js';
import { figure } from '#core/explaining';
import { dataRate, exactRate, firstWordNs } from '#core/units';
import { TextField } from '../ui/Field.tsx';
import { Figure, NAMED_ON_THE_LINE, themed } from '../visuals/Figure.tsx';
import { Result } from './Result.tsx';
import { figureIn, useUrlText } from './useUrlText.ts';

/** Times of equal latency drawn beside the one entered, ns. */
const CURVES = [8, 10, 12, 14, 16] as const;

/** CL is cycles, not time: what it is in nanoseconds, and what equals it at other rates. */
export function LatencyCalculator() {
  const [clText, setCl] = useUrlText('cl', '16');
  const [rateText, setRate] = useUrlText('at', '3200');
  const [otherText, setOther] = useUrlText('to', '3600');
  const cl = figureIn(clText, 1, 200);
  const rate = figureIn(rateText, 200, 12_000);
  const other = figureIn(otherText, 200, 12_000);
  const ns = cl !== undefined && rate !== undefined ? firstWordNs(cl, dataRate(rate)) : undefined;
  const config = useMemo((): ChartConfiguration<'line'> | undefined => {
    if (ns === undefined || rate === undefined || cl === undefined) return undefined;
    const [from, to] = [Math.max(200, rate * 0.5), rate * 1.75];
    const rates = Array.from({ length: 40 }, (_, at) => from + ((to - from) * at) / 39);
    const curve = (time: number) => rates.map((one) => ({ x: one, y: (time * one) / 2000 }));
    return {
      type: 'line',
      data: {
        datasets: [
          {
            label: `CL ${cl} at ${rate}`,
            data: [{ x: rate, y: cl }],
            borderColor: themed('copper'),
            backgroundColor: themed('copper'),
            pointRadius: 6,
            pointStyle: 'rectRot',
          },
          {
            label: `${figure(ns, 3)} ns, as entered`,
            data: curve(ns),
            borderColor: themed('teal'),
            borderWidth: 2.5,
            borderDash: [6, 3],
            pointRadius: 0,
          },
          ...CURVES.map((time) => ({
            label: `${time} ns`,
            data: curve(time),
            borderColor: themed('edge'),
            borderWidth: 1,
            pointRadius: 0,
          })),
        ],
      },
      options: {
        maintainAspectRatio: false,
        animation: false,
        plugins: {
          legend: { display: false },
          datalabels: NAMED_ON_THE_LINE,
          tooltip: { enabled: false },
        },
        scales: {
          x: {
            type: 'linear',
            min: from,
            max: to,
            title: { display: true, text: 'data rate, MT/s' },
          },
          y: { title: { display: true, text: 'CL, clocks' }, beginAtZero: true },
        },
      },
    };
  }, [ns, rate, cl]);
  return (
    <>
      <div className="grid grid-cols-3 gap-3">
        <TextField
          label="CL"
          inputMode="decimal"
          value={clText}
          error={cl === undefined ? 'From 1 to 200 clocks.' : undefined}
          onChange={({ target }) => setCl(target.value)}
        />
        <TextField
          label="at, MT/s"
          inputMode="decimal"
          value={rateText}
          error={rate === undefined ? 'From 200 to 12000 MT/s.' : undefined}
          onChange={({ target }) => setRate(target.value)}
        />
        <TextField
          label="equals at, MT/s"
          inputMode="decimal"
          value={otherText}
          error={other === undefined ? 'From 200 to 12000 MT/s.' : undefined}
          onChange={({ target }) => setOther(target.value)}
        />
      </div>
      {ns !== undefined && (
        <Result
          aside={
            other === undefined
              ? undefined
              : `The same time at ${other} MT/s is CL ${figure((ns * exactRate(dataRate(other))) / 2000, 4)}. Compare kits by ns, never by bare CL.`
          }
        >
          {figure(ns, 4)} ns latency
        </Result>
      )}
      {config && (
        <div className="mt-2">
          <Figure
            label={`Curves of equal latency over data rates; CL ${cl} at ${rate} MT/s lies at ${ns === undefined ? '' : figure(ns, 3)} ns`}
            config={config}
            height={230}
          />
        </div>
      )}
    </>
  );
}
