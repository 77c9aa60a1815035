import type { Buffering, FormFactor, Generation, MemoryModule } from '../memory/index.ts';
import type { DataRate, Gibibytes } from '../units/index.ts';

/** A trait nobody has established. It gives cautions, never blockers. */
export type Unknown = 'unknown';

/** A channel's letter, as the manual names it: `A`, `B`, … */
export type ChannelId = string;

/** A slot's own id within its machine; never shown. */
export type SlotId = string;

/** A place for one module. */
export interface Slot {
  readonly id: SlotId;
  /** As printed on the board. */
  readonly printedName: string;
  /** Printed colour, if any. Says nothing by itself: boards disagree on what colours mean. */
  readonly colour?: string | undefined;
  /** The channel it feeds; two for a compression module that carries both. */
  readonly channels: readonly ChannelId[];
  /** What this slot takes, where it differs from the machine's {@link Machine.maxPerSlot}. */
  readonly maxCapacity?: Gibibytes | undefined;
}

/** Memory that cannot be taken out. */
export interface SolderedPart {
  readonly channel: ChannelId;
  readonly part: MemoryModule;
}

/** One row of the maker's rate table. */
export interface RateRow {
  readonly modulesPerChannel: number;
  /** Sum of the ranks of those modules. */
  readonly ranksPerChannel: number;
  readonly rate: DataRate;
}

/** A figure known only as a range, GiB. */
export interface GibRange {
  readonly low: Gibibytes;
  readonly high: Gibibytes;
}

/** What kind of machine it is, as the bench sorts them. */
export const MACHINE_KINDS = [
  'desktop',
  'small desktop',
  'laptop',
  'workstation',
  'all-in-one',
] as const;
/** See {@link MACHINE_KINDS}. */
export type MachineKind = (typeof MACHINE_KINDS)[number];

/** What ECC modules do in a machine: `ignored` means they run without ECC. */
export const ECC_TRAITS = ['required', 'works', 'ignored', 'refused', 'unknown'] as const;
/** See {@link ECC_TRAITS}. */
export type EccTrait = (typeof ECC_TRAITS)[number];

/**
 * What the controller does when populated channels differ: `zone` interleaves as far as the
 * smallest reaches and runs the tail narrower; `single` runs the whole set single-channel.
 */
export const UNEVEN_TRAITS = ['zone', 'single', 'unknown'] as const;
/** See {@link UNEVEN_TRAITS}. */
export type UnevenTrait = (typeof UNEVEN_TRAITS)[number];

/** How a cover is held. */
export const COVERS = ['screws', 'clips', 'screws and clips', 'slides', 'unknown'] as const;
/** What must be done about a battery before the board is touched. */
export const BATTERIES = [
  'none',
  'taken out from outside',
  'connector inside',
  'service mode',
  'unknown',
] as const;
/** Where the stated maxima come from; a firmware's claim can be below what works. */
export const MAXIMA_SOURCES = ['manual', 'tested here', 'firmware claim', 'unknown'] as const;

/** How one gets to the memory. */
export interface Access {
  readonly cover: (typeof COVERS)[number];
  readonly screws: number | Unknown;
  /** Fasteners under feet, caps or labels. */
  readonly hiddenFasteners: 'yes' | 'no' | Unknown;
  readonly battery: (typeof BATTERIES)[number];
  /** Where the memory sits, in words: `under the keyboard, right of the fan`. */
  readonly memoryAt: string | Unknown;
}

/** Everything about a machine that decides how memory runs in it. */
export interface Machine {
  readonly name: string;
  readonly kind: MachineKind;
  readonly generations: readonly Generation[];
  readonly formFactor: FormFactor;
  readonly bufferings: readonly Buffering[];
  readonly ecc: EccTrait;
  readonly channels: readonly ChannelId[];
  /** Data bits of one channel: 64 for DIMMs (a DDR5 module's two subchannels count as one 64). */
  readonly channelBits: number;
  /** In physical order, controller side first. */
  readonly slots: readonly Slot[];
  readonly soldered: readonly SolderedPart[];
  /** Slots to use for 1, 2, 3 … modules, from the manual. */
  readonly fillOrder: readonly (readonly SlotId[])[] | Unknown;
  /** A slot that must be filled before any other, or the machine does not start. */
  readonly requiredFirstSlot: SlotId | 'none' | Unknown;
  readonly maxPerSlot: Gibibytes | Unknown;
  readonly maxTotal: Gibibytes | Unknown;
  readonly maximaFrom: (typeof MAXIMA_SOURCES)[number];
  readonly maxRanksPerModule: number | Unknown;
  readonly maxRanksPerChannel: number | Unknown;
  /** Rails the machine can feed, mV. */
  readonly voltagesMv: readonly number[];
  /** Whether 12, 24 and 48 GB modules work. */
  readonly nonBinary: 'yes' | 'no' | Unknown;
  /** Empty where the maker gives none. */
  readonly rateTable: readonly RateRow[];
  readonly controllerLimit: DataRate | Unknown;
  readonly firmwareCap: DataRate | 'none' | Unknown;
  readonly profiles: {
    readonly support: 'yes' | 'no' | Unknown;
    /** The highest profile rate the machine takes. */
    readonly ceiling: DataRate | 'none' | Unknown;
  };
  readonly unevenChannels: UnevenTrait;
  readonly sync: {
    /** Above this rate the controller halves its clock. */
    readonly limit: DataRate | 'none' | Unknown;
    /** A fabric clock takes part: memory clock : fabric clock. */
    readonly fabricClock: boolean | Unknown;
  };
  /** What built-in graphics takes from memory. */
  readonly graphicsCarveOut: GibRange;
  /** Highest capacity the operating system can use. */
  readonly osLimit: GibRange | 'none';
  /** Part numbers the maker lists. */
  readonly verifiedParts: readonly string[] | Unknown;
  readonly access: Access;
}

/** The most a slot takes: its own figure, else the machine's. */
export function slotMaximum(machine: Machine, slot: Slot): Gibibytes | Unknown {
  return slot.maxCapacity ?? machine.maxPerSlot;
}

/** Modules by the slot they sit in. Empty slots have no entry. */
export type Placement = Readonly<Partial<Record<SlotId, MemoryModule>>>;

/** Standard bins, or the modules' overclock profiles. */
export const SETTINGS = ['standard', 'profile'] as const;
/** See {@link SETTINGS}. */
export type Setting = (typeof SETTINGS)[number];
