import type { BenchInput, MemoryTestInput } from '#contract/bench';
import type { IntakeTerms, MeasurementInput, SnapshotKind } from '#contract/records';
import type { Placement, Setting } from '#core/machine';
import type { NeedInput } from '#core/need';
import type { DemoDocument } from './documents.ts';
import type { MACHINES } from './machines.ts';

/** One job of the demo world, as far as it has come. */
export interface DemoJob {
  readonly customer: { readonly name: string; readonly contact: string };
  readonly machine: keyof typeof MACHINES;
  readonly complaint: string;
  readonly intake?: Partial<IntakeTerms>;
  readonly daysAgo: number;
  /** When it was promised for, from today. */
  readonly readyInDays?: number;
  readonly need?: NeedInput;
  /** Machines taken in together. */
  readonly batch?: {
    readonly batchId: string;
    readonly batchPosition: number;
    readonly batchSize: number;
  };
  readonly configurations: Partial<
    Record<SnapshotKind, { placement: Placement; setting: Setting }>
  >;
  readonly measurements: readonly MeasurementInput[];
  readonly evidence?: readonly DemoDocument[];
  readonly isClosed?: boolean;
  /** The customer said yes to what is planned; the plan must be one the market can fill. */
  readonly isAgreed?: boolean;
  /** Fault-finding as far as it has come. */
  readonly bench?: readonly BenchInput['note'][];
  readonly memoryTests?: readonly Omit<MemoryTestInput, 'by'>[];
}

/** A memory test that ran overnight and found nothing. */
export const nightTest: Omit<MemoryTestInput, 'by'> = {
  ...{ kind: 'before the system starts', minutes: 540, passes: 6, errors: 0 },
  ...{ tool: 'pre-boot test', conditions: 'closed case, warm' },
};

export const standard = (placement: Placement) => ({ placement, setting: 'standard' }) as const;

/** Figures with a sense of their own, taken where memory was the limit. */
const ownSense = {
  ...{ sense: null, activity: null, isLowerBound: false, step: null },
  ...{ sittings: [] as number[], doubts: [] as ('noisy' | 'slowing')[] },
} as const;

export const bandwidth = (
  kind: 'as-found' | 'as-fitted',
  runs: number[],
  warmUp = 1,
): MeasurementInput => ({
  ...{ kind, metric: 'bandwidth', test: 'memory copy', runs, warmUp, ...ownSense },
  ...{ power: 'mains, full power', resolution: '1 GB blocks', tool: 'bench page' },
  conditions: 'other programs closed',
});

export const timed = (
  kind: 'as-found' | 'as-fitted',
  test: string,
  runs: number[],
): MeasurementInput => ({
  ...{ kind, metric: 'duration', test, runs, warmUp: 0, ...ownSense },
  ...{ power: 'mains, full power', resolution: '', tool: 'stop watch' },
  conditions: 'same project file, second start',
});

/** A need from usual activities, by name and range. */
export const needOf = (
  activities: readonly (readonly [name: string, low: number, high: number])[],
  more: Partial<NeedInput> = {},
): NeedInput => ({
  idle: { low: 2.2, high: 3.8 },
  activities: activities.map(([name, low, high]) => ({ name, low, high })),
  ...{ peak: null, drive: 'solid state', graphicsShort: false, ...more },
});

export const agreed = {
  dataBackedUp: 'yes',
  openCase: 'yes',
  warrantySeal: 'not asked',
} as const;
