import { performance } from 'node:perf_hooks';

/** One measured figure beside what was wanted and what this machine does with something plain. */
export interface Row {
  readonly what: string;
  readonly measured: string;
  readonly wanted: string;
  readonly holds: boolean;
  /** A plain task of the same kind, measured in the same run, and the ratio to it. */
  readonly yardstick: string;
}

/** The value below which 95 of 100 lie. */
export function p95(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.ceil(sorted.length * 0.95) - 1)] ?? NaN;
}

/** Calls a second, the best of five rounds after one to warm up: rounds only ever lose time. */
export function perSecond(call: () => unknown, roundMs = 600): number {
  const round = () => {
    const end = performance.now() + roundMs;
    let calls = 0;
    while (performance.now() < end) {
      for (let n = 0; n < 50; n++) call();
      calls += 50;
    }
    return (calls * 1000) / roundMs;
  };
  round();
  return Math.max(...Array.from({ length: 5 }, round));
}

/** Prints rows as one table. */
export function printTable(rows: readonly Row[]): void {
  const cells = rows.map(({ what, measured, wanted, holds, yardstick }) => [
    what,
    measured,
    wanted,
    holds ? 'holds' : 'MISSED',
    yardstick,
  ]);
  const all = [['figure', 'measured', 'wanted', '', 'yardstick in the same run'], ...cells];
  const widths = all[0]?.map((_, at) => Math.max(...all.map((row) => row[at]?.length ?? 0))) ?? [];
  for (const row of all)
    console.log(
      row
        .map((cell, at) => cell.padEnd(widths[at] ?? 0))
        .join('  ')
        .trimEnd(),
    );
}

export const ms = (value: number) => `${value < 10 ? value.toFixed(1) : Math.round(value)} ms`;
export const times = (a: number, b: number) => `×${(a / b).toPrecision(2)}`;
