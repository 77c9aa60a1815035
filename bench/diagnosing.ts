import {
  byWeight,
  diagnose,
  eachInTurn,
  minutesRatio,
  modelOf,
  runCases,
  shareFound,
} from '#core/diagnosing';
import type { Bench, SearchedCase } from '#core/diagnosing';
import { JOBS } from '../demo/jobs.ts';
import { MACHINES } from '../demo/machines.ts';
import type { Row } from './table.ts';

const CASES = 2000;
const MOST = 5;
const SEED = 20261125;
const mean = (values: readonly number[]) =>
  values.reduce((sum, one) => sum + one, 0) / values.length;

/** Every demo machine as it last stood, just worked on: any fault the model knows can be in it. */
export function demoBenches(): Bench[] {
  return JOBS.flatMap(({ machine, configurations }): Bench[] => {
    const now = configurations['as-fitted'] ?? configurations.planned ?? configurations['as-found'];
    return now && Object.keys(now.placement).length > 0
      ? [{ machine: MACHINES[machine], ...now, planned: now, moved: true }]
      : [];
  });
}

/** How surely and how fast faults are found, with the causes that are hardest. */
export function benchDiagnosing(): Row[] {
  const benches = demoBenches();
  const weighted = runCases(benches, CASES, byWeight, MOST, SEED);
  const uniform = runCases(benches, CASES, eachInTurn, MOST, SEED);
  const kinds = new Map<string, SearchedCase[]>();
  for (const one of uniform)
    kinds.set(one.own.cause.kind, [...(kinds.get(one.own.cause.kind) ?? []), one]);
  console.log(`\nHardest causes of ${CASES} cases, each cause in turn: found, minutes`);
  const table = [...kinds].map(([kind, all]) => ({
    cause: kind,
    cases: all.length,
    'first or second': `${(100 * shareFound(all)).toFixed(1)} %`,
    minutes: mean(all.map(({ own }) => own.minutes)).toFixed(0),
    'fixed list': mean(all.map(({ fixed }) => fixed.minutes)).toFixed(0),
  }));
  console.table(
    table
      .sort((a, b) => parseFloat(a['first or second']) - parseFloat(b['first or second']))
      .slice(0, 8),
  );
  const row = (what: string, all: readonly SearchedCase[]): Row[] => [
    {
      what: `true cause first or second after ≤ ${MOST} checks, ${what}`,
      measured: `${(100 * shareFound(all)).toFixed(1)} %`,
      wanted: '≥ 95 %',
      holds: shareFound(all) >= 0.95,
      yardstick: `${all.length} seeded cases on ${benches.length} demo machines`,
    },
    {
      what: `minutes spent against the fixed list, ${what}`,
      measured: minutesRatio(all).toFixed(2),
      wanted: '≤ 0.70',
      holds: minutesRatio(all) <= 0.7,
      yardstick: `${mean(all.map(({ own }) => own.minutes)).toFixed(1)} min of ${mean(all.map(({ fixed }) => fixed.minutes)).toFixed(1)} min`,
    },
  ];
  return [
    ...row('causes as often as they happen', weighted),
    ...row('every cause in turn', uniform),
    ...speed(benches),
  ];
}

/** A suggestion on the machine with most causes and checks. */
function speed(benches: readonly Bench[]): Row[] {
  const models = benches.map((bench) => modelOf({ ...bench, symptom: 'does not start' }));
  const [model] = models.sort((a, b) => b.causes.length - a.causes.length);
  if (!model) throw new Error('expected a model');
  const [check] = model.checks;
  const observed = check ? [{ checkId: check.id, outcome: check.outcomes[0] ?? '' }] : [];
  const times = Array.from({ length: 60 }, () => {
    const start = performance.now();
    diagnose(model, observed);
    return performance.now() - start;
  }).sort((a, b) => a - b);
  const median = times[30] ?? 0;
  return [
    {
      what: 'next check suggested',
      measured: `${median.toFixed(2)} ms`,
      wanted: '< 5 ms',
      holds: median < 5,
      yardstick: `${model.causes.length} causes × ${model.checks.length} checks, median of 60`,
    },
  ];
}
