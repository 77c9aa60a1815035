import type { Machine, Placement } from '../machine/index.ts';
import { moduleSummary } from '../memory/index.ts';
import type { Better } from './gain.ts';
import { RUNS, sittingsOf } from './sittings.ts';
import type { RunSet } from './sittings.ts';

/** What is measured. Bandwidth and latency can be promised from the plan; the others cannot. */
export const METRICS = [
  'bandwidth',
  'latency',
  'duration',
  'frames',
  'lows',
  'transfer',
  'score',
  'peak',
] as const;
/** See {@link METRICS}. */
export type Metric = (typeof METRICS)[number];

/**
 * Which way a figure counts: a score's sense is declared by whoever typed it, and the peak of
 * memory in use is neither good nor bad, but is held against what there is.
 */
export type Sense = Better | 'declared' | 'neither';

/** Name, unit and sense of each metric, and the largest figure that is not a slip. */
export const METRIC_TRAITS: Readonly<
  Record<Metric, { name: string; unit: string; better: Sense; most: number }>
> = {
  bandwidth: { name: 'Memory bandwidth', unit: 'GB/s', better: 'higher', most: 5000 },
  latency: { name: 'Latency', unit: 'ns', better: 'lower', most: 10_000 },
  duration: { name: 'Time taken', unit: 's', better: 'lower', most: 1_000_000 },
  frames: { name: 'Frame rate', unit: 'fps', better: 'higher', most: 10_000 },
  lows: { name: '1 % low', unit: 'fps', better: 'higher', most: 10_000 },
  transfer: { name: 'File transfer', unit: 'MB/s', better: 'higher', most: 1_000_000 },
  score: { name: 'Score', unit: 'points', better: 'declared', most: 1_000_000_000 },
  peak: { name: 'Peak memory in use', unit: 'GB', better: 'neither', most: 4096 },
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

/** What may differ between two sides: conditions, and the sense a score was declared to have. */
export type Difference = keyof Conditions | 'sense';

/** Conditions that differ; one side not stating something differs from the other that does. */
export function differingConditions(a: Measurement, b: Measurement): Difference[] {
  const conditions = CONDITION_FIELDS.filter((field) => a[field].trim() !== b[field].trim());
  return senseOf(a) === senseOf(b) ? conditions : [...conditions, 'sense'];
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
  /** The kind of work it stands for, an activity class of planning; null where nobody said. */
  readonly activity?: string | null | undefined;
  /** Which way a score counts; null or absent for what has a sense of its own. */
  readonly sense?: Better | null | undefined;
  /** Memory was perhaps not what limited the test, so a bandwidth is at least this. */
  readonly isLowerBound?: boolean | undefined;
  /** Runs of each sitting, in order; empty where all are of one. */
  readonly sittings?: readonly number[] | undefined;
  /** What figures were rounded to, in their unit; found from their digits where absent. */
  readonly step?: number | null | undefined;
  readonly doubts?: readonly Doubt[] | undefined;
}

/** What a page said of its own windows: they still differed after a repeat, or the end was slower. */
export const DOUBTS = ['noisy', 'slowing'] as const;
/** See {@link DOUBTS}. */
export type Doubt = (typeof DOUBTS)[number];

/** Which way the figures of a measurement count; undefined where they are not to be compared. */
export function senseOf({
  metric,
  sense,
}: Pick<Measurement, 'metric' | 'sense'>): Better | undefined {
  const { better } = METRIC_TRAITS[metric];
  if (better === 'neither') return undefined;
  return better === 'declared' ? (sense ?? undefined) : better;
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

/** Between the runs of two sittings, as typed. */
const NEXT_SITTING = '//';

/**
 * Reads runs typed as `31.2 30.9; 31,4`: split on spaces, semicolons or line ends; a comma between
 * digits is a decimal mark, as half the trade's keyboards type it. Units are ignored, but minutes
 * become seconds: `12:30` and `12.5min` are 750. `//` starts another sitting.
 */
export function readRuns(text: string): { runs: number[]; sittings: number[]; faults: RunFault[] } {
  const pieces = text
    .replaceAll(NEXT_SITTING, ` ${NEXT_SITTING} `)
    .split(/[\s;|]+|,(?=\s|$)/)
    .filter((piece) => piece !== '');
  const faults: RunFault[] = [];
  const runs: number[] = [];
  const starts = [0];
  for (const piece of pieces) {
    if (UNIT.test(piece)) continue;
    if (piece === NEXT_SITTING) {
      starts.push(runs.length);
      continue;
    }
    const run = readRun(piece);
    if (run === undefined) faults.push({ type: 'not-a-number', text: piece.slice(0, 40) });
    else runs.push(run);
  }
  const sizes = starts.map((start, at) => (starts[at + 1] ?? runs.length) - start);
  const sittings = sizes.filter((size) => size > 0);
  return { runs, sittings: sittings.length > 1 ? sittings : [], faults };
}

/** Runs as {@link readRuns} takes them again. */
export function runsText(runs: readonly number[], sittings: readonly number[] = []): string {
  return sittingsOf(runs, sittings)
    .map((sitting) => sitting.join(' '))
    .join(` ${NEXT_SITTING} `);
}

const UNIT = /^(?:[gm]b\/s|gb|ns|s|fps|points)$/i;

function readRun(piece: string): number | undefined {
  const clock = /^(\d{1,4}):([0-5]\d(?:[.,]\d+)?)$/.exec(piece);
  if (clock) return Number(clock[1]) * 60 + Number(clock[2]?.replace(',', '.'));
  const [, figure, unit = ''] = /^([-+]?\d+(?:[.,]\d+)?)([a-z/]*)$/i.exec(piece) ?? [];
  if (figure === undefined) return undefined;
  const value = Number(figure.replace(',', '.'));
  if (unit === '' || UNIT.test(unit)) return value;
  return /^min$/i.test(unit) ? value * 60 : undefined;
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
export function countedRuns({
  runs,
  warmUp,
}: Pick<Measurement, 'runs' | 'warmUp'>): readonly number[] {
  return runs.slice(warmUp);
}

/** Runs without the warm-up, by sitting; only the first sitting warms up. */
export function runSetOf(
  one: Pick<Measurement, 'runs' | 'warmUp' | 'sittings' | 'step' | 'doubts'>,
): RunSet {
  const { sittings = [], warmUp, step, doubts = [] } = one;
  const [first = 0, ...others] = sittings;
  // A warm-up longer than the first sitting would take its runs from the second.
  const sizes = first > warmUp ? [first - warmUp, ...others] : [];
  return {
    sittings: sittingsOf(countedRuns(one), sizes),
    step: step ?? undefined,
    isDoubtful: doubts.length > 0,
  };
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
