import {
  METRICS,
  METRIC_TRAITS,
  POWER_MODES,
  findRunFaults,
  readRuns,
  runsText,
  senseOf,
} from './measurement.ts';
import type { Measurement, RunFault } from './measurement.ts';

/** Runs as they go in and out of tables, without the modules they belong to. */
export type TabledRuns = Omit<Measurement, 'fingerprint'>;

/** The columns of a table of runs, in order; only test and runs must be there. */
export const RUNS_COLUMNS = [
  'measured',
  'test',
  'unit',
  'better',
  'stands for',
  'warm-up',
  'power',
  'resolution',
  'tool',
  'conditions',
  'runs',
] as const;

/** What is wrong with a table of runs, by row counted from 1 (the header is row 1). */
export type RunsTableFault =
  | { readonly type: 'column-missing'; readonly column: string; readonly row: 1 }
  | { readonly type: 'unknown-measure'; readonly row: number; readonly text: string }
  | { readonly type: 'no-test'; readonly row: number }
  /** A score without a word on which way it counts. */
  | { readonly type: 'no-sense'; readonly row: number }
  | {
      readonly type: 'wrong-unit';
      readonly row: number;
      readonly text: string;
      readonly wanted: string;
    }
  | { readonly type: 'runs'; readonly row: number; readonly fault: RunFault };

/** Runs as rows of text, header first. Runs of a test share one cell, separated by spaces. */
export function runsToRows(measurements: readonly TabledRuns[]): string[][] {
  return [
    [...RUNS_COLUMNS],
    ...measurements.map((one) => {
      const { metric, test, runs, warmUp, power, resolution, tool, conditions } = one;
      return [
        ...[metric, test, METRIC_TRAITS[metric].unit, senseOf(one) ?? '', one.activity ?? ''],
        ...[String(warmUp), power, resolution, tool, conditions, runsText(runs, one.sittings)],
      ];
    }),
  ];
}

/**
 * Reads rows of text with a header into runs. Columns may stand in any order; runs may also be
 * spread over further columns `run 1`, `run 2` … Rows at fault are named, the others are read.
 */
export function runsFromRows(rows: readonly (readonly string[])[]): {
  runs: TabledRuns[];
  faults: RunsTableFault[];
} {
  const [header = [], ...body] = rows;
  const names = header.map((name) => name.trim().toLowerCase());
  const faults: RunsTableFault[] = [];
  const runColumns = names.flatMap((name, at) => (/^runs?(\s*\d+)?$/.test(name) ? [at] : []));
  if (!names.includes('test')) faults.push({ type: 'column-missing', column: 'test', row: 1 });
  if (runColumns.length === 0) faults.push({ type: 'column-missing', column: 'runs', row: 1 });
  if (faults.length > 0) return { runs: [], faults };
  const runs = body.flatMap((cells, at): TabledRuns[] => {
    const row = at + 2;
    const cell = (name: string) => (cells[names.indexOf(name)] ?? '').trim();
    if (cells.every((text) => text.trim() === '')) return [];
    const named = cell('measured') || 'bandwidth';
    const metric = METRICS.find(
      (one) => one === named || METRIC_TRAITS[one].name.toLowerCase() === named.toLowerCase(),
    );
    if (!metric) {
      faults.push({ type: 'unknown-measure', row, text: named.slice(0, 40) });
      return [];
    }
    const { unit } = METRIC_TRAITS[metric];
    const test = cell('test').slice(0, 80);
    if (test === '') faults.push({ type: 'no-test', row });
    const sense = (['higher', 'lower'] as const).find(
      (one) => one === cell('better').toLowerCase(),
    );
    const isDeclared = METRIC_TRAITS[metric].better === 'declared';
    if (isDeclared && !sense) faults.push({ type: 'no-sense', row });
    if (cell('unit') !== '' && cell('unit').toLowerCase() !== unit.toLowerCase())
      faults.push({ type: 'wrong-unit', row, text: cell('unit').slice(0, 20), wanted: unit });
    const warmUp = Number(cell('warm-up') || 0);
    const read = readRuns(runColumns.map((column) => cells[column] ?? '').join(' '));
    const wrong = [...read.faults, ...findRunFaults(metric, read.runs, warmUp)];
    for (const fault of wrong) faults.push({ type: 'runs', row, fault });
    if (faults.some((fault) => fault.row === row)) return [];
    return [
      {
        ...{ metric, test, runs: read.runs, warmUp },
        ...(read.sittings.length > 0 ? { sittings: read.sittings } : {}),
        ...(isDeclared && sense ? { sense } : {}),
        ...(cell('stands for') === '' ? {} : { activity: cell('stands for') }),
        power: POWER_MODES.find((mode) => mode === cell('power')) ?? 'unknown',
        resolution: cell('resolution').slice(0, 80),
        tool: cell('tool').slice(0, 80),
        conditions: cell('conditions').slice(0, 300),
      },
    ];
  });
  return { runs, faults };
}
