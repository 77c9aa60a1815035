import type { CommandTimesPs } from '../memory/index.ts';

/** Generations there is a model of. */
export const MODELLED_GENERATIONS = ['DDR3', 'DDR4', 'DDR5'] as const;
/** See {@link MODELLED_GENERATIONS}. */
export type ModelledGeneration = (typeof MODELLED_GENERATIONS)[number];

/** Ways of using memory that are simulated. */
export const WORKLOADS = ['stream', 'triad', 'random', 'graphics', 'desktop', 'chase'] as const;
/**
 * See {@link WORKLOADS}. `stream`: eight cores read on and on. `triad`: two read for one written.
 * `random`: single lines anywhere. `graphics`: a built-in graphics unit beside a little of the
 * processor's own. `desktop`: an invented mixture of short runs and pauses. `chase`: every request
 * waits for the one before it.
 */
export type Workload = (typeof WORKLOADS)[number];

/** Memory that lies over the same channels. */
export interface Zone {
  /** Indices of {@link MemorySystem.channels}. */
  readonly channels: readonly number[];
  /** Lines of 64 bytes in all. */
  readonly lines: number;
}

/** A memory system to simulate: like channels, filled alike or not. */
export interface MemorySystem {
  readonly generation: ModelledGeneration;
  /** Data rate, MT/s. */
  readonly rate: number;
  /** Cycles at the rate. */
  readonly cl: number;
  readonly rcd: number;
  readonly rp: number;
  /** Cycles; the generation’s usual time where it is not known. */
  readonly ras?: number | undefined;
  /** Times between commands the modules state, the longest of each; usual ones for the rest. */
  readonly stated?: CommandTimesPs | undefined;
  /** Bits of one chip. */
  readonly chipWidth: number;
  /** Gbit of one chip. */
  readonly density: number;
  /** Ranks on each channel; its length is the number of channels. */
  readonly ranks: readonly number[];
  /** How capacity lies over the channels, the widest first. */
  readonly zones: readonly Zone[];
}

/** Choices of the controller; the study's, from which nothing is taken but ratios. */
export interface ControllerChoices {
  /** What a reply costs beyond the memory itself: caches, fabric, controller; ns. */
  readonly overhead: number;
  /** Reads and writes a channel can hold. */
  readonly queue: number;
  /** Writes at which they are drained, and at which reading goes on. */
  readonly drainFrom: number;
  readonly drainTo: number;
  /** Writes drained while nothing is to be read. */
  readonly idleDrain: number;
  /** A row nobody asks for is closed after this, ns. */
  readonly pageTimeout: number;
  /** An older read comes first, ns. */
  readonly ageCap: number;
  /** Consecutive bytes on one channel. */
  readonly channelGranule: number;
  /** Of one subchannel (DDR5). */
  readonly subchannelGranule: number;
  /** Cores, and requests each has under way. */
  readonly cores: number;
  readonly perCore: number;
  readonly refreshes: boolean;
}

/** The study's defaults. */
export const USUAL_CHOICES: ControllerChoices = {
  ...{ overhead: 40, queue: 64, drainFrom: 48, drainTo: 16, idleDrain: 8 },
  ...{ pageTimeout: 150, ageCap: 1500, channelGranule: 256, subchannelGranule: 128 },
  ...{ cores: 8, perCore: 24, refreshes: true },
};

/** A command to a channel. */
export const COMMANDS = ['ACT', 'PRE', 'RD', 'WR', 'REF'] as const;
/** See {@link COMMANDS}. */
export type Command = (typeof COMMANDS)[number];

/** Hears every command as it is given; times in cycles, places within the channel. */
export type CommandListener = (
  at: number,
  channel: number,
  command: Command,
  bank: number,
  row: number,
  request: number,
) => void;
