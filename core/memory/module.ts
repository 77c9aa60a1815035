import type { DataRate, Gibibytes } from '../units/index.ts';
import { generationTraits } from './generation.ts';
import type { Generation } from './generation.ts';

/** The outline a module has; `soldered` parts have none. */
export const FORM_FACTORS = ['DIMM', 'SODIMM', 'compression', 'soldered'] as const;
/** See {@link FORM_FACTORS}. `compression` modules are pressed on and screwed down flat. */
export type FormFactor = (typeof FORM_FACTORS)[number];

/** How command and data lines are driven. The three never mix. */
export const BUFFERINGS = ['unbuffered', 'registered', 'load-reduced'] as const;
/** See {@link BUFFERINGS}. */
export type Buffering = (typeof BUFFERINGS)[number];

/** Primary timings in clocks. Only CL is always known; a label may state no more. */
export interface TimingCycles {
  readonly cl: number;
  readonly trcd?: number | undefined;
  readonly trp?: number | undefined;
  readonly tras?: number | undefined;
}

/** The four primary timings, in the order they are printed. */
export const TIMING_NAMES = ['cl', 'trcd', 'trp', 'tras'] as const;
/** See {@link TIMING_NAMES}. */
export type TimingName = (typeof TIMING_NAMES)[number];

/** SPD times in ps, by timing. */
export type TimesPs = { readonly [Name in TimingName]?: number | undefined };

/** Times between commands an SPD may state beside the primary ones; named as in the device standards. */
export const COMMAND_TIMES = [
  ...(['rrdShort', 'rrdLong', 'faw', 'ccdLong', 'wtrShort', 'wtrLong', 'rtp', 'wr'] as const),
  'rfc',
] as const;
/** See {@link COMMAND_TIMES}. Nothing a label states; they decide how busy a channel can be kept. */
export type CommandTime = (typeof COMMAND_TIMES)[number];

/** Times between commands in ps, by name. */
export type CommandTimesPs = { readonly [Name in CommandTime]?: number | undefined };

/** A named setting beyond the standard bin, stored on the module by its maker. */
export interface OverclockProfile {
  readonly rate: DataRate;
  readonly timings: TimingCycles;
  readonly voltageMv: number;
}

/** Fields a reader had to take from the generation's common case because nothing stated them. */
export type AssumedField = 'rate' | 'timings' | 'form factor' | 'buffering';

/** One memory module, or one soldered part, as labels and SPD describe it. */
export interface MemoryModule {
  readonly maker?: string | undefined;
  /** With its revision suffix: two revisions are two parts. */
  readonly partNumber?: string | undefined;
  readonly generation: Generation;
  readonly formFactor: FormFactor;
  readonly buffering: Buffering;
  readonly ecc: boolean;
  /** Capacity of the module, GiB. */
  readonly capacity: Gibibytes;
  /** Ranks; never guessed from capacity. */
  readonly ranks: number | 'unknown';
  /** Bits of one memory chip: 4, 8 or 16 (32 on some low-power parts). */
  readonly chipWidth: number | 'unknown';
  /** Standard bin: the rate of its SPD without any profile. */
  readonly rate: DataRate;
  /** Cycles at {@link rate}. */
  readonly timings: TimingCycles;
  /** SPD times in ps, where read; they outrank the label's cycles. */
  readonly timesPs?: TimesPs | undefined;
  /** Times between commands, where an SPD states them. */
  readonly commandTimesPs?: CommandTimesPs | undefined;
  /** CAS latencies the SPD lists; absent = not read. */
  readonly supportedCls?: readonly number[] | undefined;
  /** Rails the module is specified for, mV; DDR3L lists 1350 and 1500. */
  readonly voltagesMv: readonly number[];
  readonly profile?: OverclockProfile | undefined;
  /** The sealed pack it came from; modules of one pack were tested together. */
  readonly kitId?: string | undefined;
  /** Channels the module carries by itself: 1, or 2 for most compression modules. */
  readonly channels?: number | undefined;
  readonly assumed?: readonly AssumedField[] | undefined;
}

/** The generation by its trade name: DDR3L where a DDR3 part also has 1.35 V among its rails. */
export function generationName({
  generation,
  voltagesMv,
}: Pick<MemoryModule, 'generation' | 'voltagesMv'>): string {
  const { lowVoltage } = generationTraits(generation);
  return lowVoltage && voltagesMv.includes(lowVoltage.mv) ? lowVoltage.name : generation;
}

/** Whether two modules are alike in all that is known of them, however they were written down. */
export function sameModule(a: MemoryModule | undefined, b: MemoryModule | undefined): boolean {
  return a === b || (a !== undefined && b !== undefined && canonical(a) === canonical(b));
}

/** A database may hand back fields in another order, and drops those that are absent. */
const canonical = (value: unknown): string =>
  JSON.stringify(value, (_key, part: unknown) =>
    part !== null && typeof part === 'object' && !Array.isArray(part)
      ? Object.fromEntries(Object.entries(part).sort(([x], [y]) => (x < y ? -1 : 1)))
      : part,
  );
