import type { Machine, Placement, Setting } from '../machine/index.ts';
import { moduleSummary } from '../memory/index.ts';
import { bandwidthAtLoad } from '../planning/index.ts';
import { latencyOf, replyOf } from '../promising/index.ts';
import { METRIC_TRAITS } from '../proving/index.ts';
import type { Metric, Proof } from '../proving/index.ts';
import type { Ratios } from '../timing-simulation/index.ts';

/** What a measurement said about how the channels ran. */
export const LEDGER_MODES = ['paired', 'partly paired', 'one channel wide', 'not known'] as const;
export type LedgerMode = (typeof LEDGER_MODES)[number];

/** A gain as it was proven, with the kind of work it was said to stand for. */
export interface LedgerGain {
  readonly test: string;
  readonly metric: Metric;
  /** An activity class of planning; null where nobody said. */
  readonly activity: string | null;
  /** Better is above 1; with its 95 % interval. */
  readonly factor: number;
  readonly low: number;
  readonly high: number;
}

/** New ÷ old of a change. */
export interface LedgerRatios {
  /** At the load, by rate and channels. */
  readonly bandwidth: number;
  /** The first word. */
  readonly latency: number;
  /** The whole reply; absent on lines entered before it was asked. */
  readonly reply?: number;
  /** Both sides simulated; null where nobody knows such memory’s times, absent until it is done. */
  readonly simulated?: Ratios | null;
}

/** What a closed job adds to the shop's memory: machine × modules × slots × setting → result. */
export interface LedgerEntry {
  readonly machineName: string;
  readonly modules: readonly {
    readonly slot: string;
    readonly capacity: number;
    /** Its own number, or what the label says where it has none. */
    readonly part: string;
    readonly isNumbered: boolean;
  }[];
  readonly setting: Setting;
  /** MT/s it ran at by the record. */
  readonly rate: number;
  readonly mode: LedgerMode;
  /** The longest memory test that passed on it; null where none did. */
  readonly stable: { readonly minutes: number; readonly passes: number } | null;
  readonly gains: readonly LedgerGain[];
  /** What the change did to the memory itself; null where it did not run before. */
  readonly ratios: LedgerRatios | null;
  /** The need fitted before, so capacity had no part in the gains. */
  readonly fittedBefore: boolean;
  /** Some of it was measured on a simulated machine: never used to judge real ones. */
  readonly isSimulated: boolean;
}

/** What {@link ledgerEntry} is made of. */
export interface ClosedJob {
  readonly machine: Machine;
  readonly placement: Placement;
  readonly setting: Setting;
  readonly proof: Proof;
  /** GiB, margin included; undefined where not stated. */
  readonly need: number | undefined;
  readonly passed: readonly { readonly minutes: number; readonly passes: number }[];
  readonly activityOf: (metric: Metric, test: string) => string | null;
  readonly isSimulated: boolean;
  /** The change as it was simulated for the quote, where it was. */
  readonly simulated?: Ratios | undefined;
}

/** The ledger's line for a closed job; undefined where what was fitted does not run. */
export function ledgerEntry(job: ClosedJob): LedgerEntry | undefined {
  const { machine, placement, setting, proof, need, passed } = job;
  const { before, after, metrics } = proof;
  if (after.type === 'blocked') return undefined;
  const load = (need ?? 0) + machine.graphicsCarveOut.high;
  const longest = [...passed].sort((a, b) => b.minutes - a.minutes)[0];
  return {
    machineName: machine.name,
    modules: machine.slots.flatMap(({ id, printedName }) => {
      const module = placement[id];
      if (!module) return [];
      const { capacity, partNumber } = module;
      const part = partNumber ?? moduleSummary(module);
      return [{ slot: printedName, capacity, part, isNumbered: partNumber !== undefined }];
    }),
    ...{ setting, rate: after.rate, mode: modeOf(proof) },
    stable: longest ? { minutes: longest.minutes, passes: longest.passes } : null,
    gains: metrics.flatMap(({ metric, test, gain }) =>
      gain?.interval && METRIC_TRAITS[metric].better !== 'neither'
        ? [
            {
              ...{ test, metric, activity: job.activityOf(metric, test) },
              ...{ factor: gain.factor, low: gain.interval.low, high: gain.interval.high },
            },
          ]
        : [],
    ),
    ratios:
      before.type === 'runs'
        ? {
            bandwidth: bandwidthAtLoad(after, load) / bandwidthAtLoad(before, load),
            latency: latencyOf(after) / latencyOf(before),
            reply: replyOf(after) / replyOf(before),
            ...(job.simulated && { simulated: job.simulated }),
          }
        : null,
    fittedBefore: before.type === 'runs' && need !== undefined && before.usable.low >= need,
    isSimulated: job.isSimulated,
  };
}

function modeOf({ channels }: Proof): LedgerMode {
  switch (channels?.verdict.type) {
    case 'paired':
      return 'paired';
    case 'partly':
      return 'partly paired';
    case 'one wide':
    case 'only one channel holds memory':
      return 'one channel wide';
    default:
      return 'not known';
  }
}

/**
 * Parts an entry vouches for in its machine: those with a number, where a memory test passed, and
 * nothing was simulated. They count as listed when the same machine is planned again.
 */
export function provenParts({ modules, stable, isSimulated }: LedgerEntry): string[] {
  if (!stable || isSimulated) return [];
  return [...new Set(modules.flatMap(({ part, isNumbered }) => (isNumbered ? [part] : [])))];
}
