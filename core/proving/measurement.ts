import type { Machine, Placement } from '../machine/index.ts';
import { moduleSummary } from '../memory/index.ts';
import { RUNS } from './gain.ts';
import type { Better } from './gain.ts';

/** What is measured. Bandwidth and latency can be promised from the plan; the others cannot. */
export const METRICS = ['bandwidth', 'latency', 'duration', 'frames'] as const;
/** See {@link METRICS}. */
export type Metric = (typeof METRICS)[number];

/** Name, unit and sense of each metric, and the largest figure that is not a slip. */
export const METRIC_TRAITS: Readonly<
  Record<Metric, { name: string; unit: string; better: Better; most: number }>
> = {
  bandwidth: { name: 'Sustained transfer', unit: 'GB/s', better: 'higher', most: 5000 },
  latency: { name: 'First reply', unit: 'ns', better: 'lower', most: 10_000 },
  duration: { name: 'Time taken', unit: 's', better: 'lower', most: 1_000_000 },
  frames: { name: 'Frame rate', unit: 'fps', better: 'higher', most: 10_000 },
};

/** How the machine was fed and set while measuring. */
export const POWER_MODES = ['mains, full power', 'mains, saving', 'battery', 'unknown'] as const;
/** See {@link POWER_MODES}. */
export type PowerMode = (typeof POWER_MODES)[number];

/** What must be the same before and after for runs to be compared. */
export interface Conditions {
  readonly power: PowerMode;
  /** Screen resolution or test size, as the test names it. */
  readonly resolution: string;
  /** Browser, program or page that measured. */
  readonly tool: string;
  /** Anything else that was the same: file, programs closed. */
  readonly conditions: string;
}

const CONDITION_FIELDS = ['power', 'resolution', 'tool', 'conditions'] as const;

/** All that was stated, in one line. */
export function conditionsText(one: Conditions): string {
  return CONDITION_FIELDS.map((field) => one[field].trim())
    .filter((text) => text !== '' && text !== 'unknown')
    .join(' · ');
}

/** Conditions that differ; one side not stating something differs from the other that does. */
export function differingConditions(a: Conditions, b: Conditions): (keyof Conditions)[] {
  return CONDITION_FIELDS.filter((field) => a[field].trim() !== b[field].trim());
}

/** Runs of one test on one set of modules. */
export interface Measurement extends Conditions {
  readonly metric: Metric;
  /** The test as the technician calls it; runs are compared only under the same name. */
  readonly test: string;
  /** In the metric's unit, in the order taken, warm-up runs included. */
  readonly runs: readonly number[];
  /** How many of the first runs were warm-up; they are left out. */
  readonly warmUp: number;
  /** Modules the runs were taken on, by {@link fingerprint}. */
  readonly fingerprint: string;
}

/** What is wrong with runs as typed. */
export type RunFault =
  | { readonly type: 'not-a-number'; readonly text: string }
  | { readonly type: 'not-positive'; readonly value: number }
  | {
      readonly type: 'too-large';
      readonly value: number;
      readonly most: number;
      readonly unit: string;
    }
  | { readonly type: 'too-many'; readonly count: number; readonly most: number }
  | { readonly type: 'no-runs' }
  | { readonly type: 'all-warm-up'; readonly warmUp: number; readonly count: number };

/**
 * Reads runs typed as `31.2 30.9; 31,4`: split on spaces, semicolons or line ends; a comma between
 * digits is a decimal mark, as half the trade's keyboards type it. Units are ignored.
 */
export function readRuns(text: string): { runs: number[]; faults: RunFault[] } {
  const pieces = text.split(/[\s;|]+|,(?=\s|$)/).filter((piece) => piece !== '');
  const faults: RunFault[] = [];
  const runs: number[] = [];
  for (const piece of pieces) {
    if (/^(gb\/s|ns|s|fps)$/i.test(piece)) continue;
    const figure = /^([-+]?\d+(?:[.,]\d+)?)(?:gb\/s|ns|s|fps)?$/i.exec(piece)?.[1];
    if (figure === undefined) faults.push({ type: 'not-a-number', text: piece.slice(0, 40) });
    else runs.push(Number(figure.replace(',', '.')));
  }
  return { runs, faults };
}

/** Faults of a set of runs; an empty list means they can be judged. */
export function findRunFaults(metric: Metric, runs: readonly number[], warmUp: number): RunFault[] {
  const { most, unit } = METRIC_TRAITS[metric];
  const faults: RunFault[] = [];
  if (runs.length === 0) faults.push({ type: 'no-runs' });
  if (runs.length > RUNS.most)
    faults.push({ type: 'too-many', count: runs.length, most: RUNS.most });
  for (const value of runs) {
    if (!(value > 0)) faults.push({ type: 'not-positive', value });
    else if (value > most) faults.push({ type: 'too-large', value, most, unit });
  }
  if (runs.length > 0 && warmUp >= runs.length)
    faults.push({ type: 'all-warm-up', warmUp, count: runs.length });
  return faults;
}

/** Runs without the warm-up. */
export function countedRuns({ runs, warmUp }: Measurement): readonly number[] {
  return runs.slice(warmUp);
}

/**
 * Which modules sit where, as text. Runs belong to a set of modules; a baseline taken on others
 * proves nothing, and this tells.
 */
export function fingerprint({ slots }: Machine, placement: Placement): string {
  return slots
    .flatMap(({ id }) => {
      const module = placement[id];
      if (!module) return [];
      const { capacity, partNumber = '', kitId = '' } = module;
      return [`${id}=${capacity}GB ${moduleSummary(module)} ${partNumber} ${kitId}`.trimEnd()];
    })
    .join('; ');
}
