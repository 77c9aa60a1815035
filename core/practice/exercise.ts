import type { CauseKind, Symptom } from '../diagnosing/index.ts';
import type { CoverMap } from '../fitting/index.ts';
import type { Machine, Setting, SlotId } from '../machine/index.ts';
import type { MemoryModule } from '../memory/index.ts';
import type { Minor } from '../planning/index.ts';

/** One module one can hold; its id is never shown. */
export type PieceId = string;

/** A module, and what its sticker says of it where that is not the truth. */
export interface Piece {
  readonly id: PieceId;
  readonly module: MemoryModule;
  /** As printed; written from the module where absent. */
  readonly sticker?: string | undefined;
  /** The slot it lies in at first, or the shop's drawer. */
  readonly at: SlotId | 'drawer';
}

/** What is sold, and how long it takes to come. */
export interface PartOffer {
  readonly id: string;
  readonly module: MemoryModule;
  readonly units: number;
  readonly price: Minor;
  readonly days: number;
}

/**
 * What is wrong and cannot be told from machine and modules alone; the other causes follow from the
 * rules by themselves. Kinds are those of fault-finding.
 */
export type HiddenFault =
  | { readonly kind: 'not seated'; readonly slotId: SlotId }
  | { readonly kind: 'dirty contacts'; readonly pieceId: PieceId }
  | {
      readonly kind: 'bad module';
      readonly pieceId: PieceId;
      readonly shows: 'errors' | 'not seen' | 'no start';
    }
  | { readonly kind: 'dead slot'; readonly slotId: SlotId }
  | { readonly kind: 'lead left off' }
  | { readonly kind: 'stale settings' }
  /** Larger modules, GB, are not seen until the firmware is updated. */
  | { readonly kind: 'firmware outdated'; readonly upTo: number }
  /** Larger modules, GB, are never seen, whatever the tables claim. */
  | { readonly kind: 'density not supported'; readonly upTo: number }
  | { readonly kind: 'profile unstable' }
  | { readonly kind: 'mixed timings' }
  /** The system was told to leave all but so many GB alone. */
  | { readonly kind: 'start option'; readonly usable: number }
  | { readonly kind: 'heat' }
  | { readonly kind: 'not the memory'; readonly shows: 'crashes' | 'no start' };

/** What the customer is asked about. */
export const QUESTIONS = ['work', 'lately', 'budget', 'system'] as const;
/** See {@link QUESTIONS}. */
export type Question = (typeof QUESTIONS)[number];

/** What counts as solved. Always besides: it starts, it is closed, nothing unsafe was done. */
export interface Goal {
  /** GB the system can use, at least. */
  readonly usable?: number | undefined;
  /** MT/s, at least. */
  readonly rate?: number | undefined;
  /** GB that run over all channels in use, at least; `all` of what is fitted. */
  readonly paired?: number | 'all' | undefined;
  /** No module of 16-bit chips is left in a slot. */
  readonly narrowChips?: boolean | undefined;
  /** A memory test passed with all as it is handed over. */
  readonly tested?: boolean | undefined;
  /** The measuring page was run with all as it is handed over. */
  readonly measured?: boolean | undefined;
  /** Most that may be spent. */
  readonly budget?: Minor | undefined;
  /** What to tell the customer was behind it. */
  readonly finding?: CauseKind | undefined;
}

/** What the machine claims of itself that is not so. */
export interface FirmwareClaims {
  /** Shows the clock where the rate is meant. */
  readonly showsClock: boolean;
  /** Slots it lists though the board has none. */
  readonly phantoms: readonly string[];
}

/** A machine to practise on, with all that is hidden in it. */
export interface Exercise {
  readonly id: string;
  readonly title: string;
  /** 1: first days; 4: what catches old hands out. */
  readonly level: 1 | 2 | 3 | 4;
  readonly teaches: readonly RuleId[];
  readonly customer: {
    readonly says: string;
    readonly answers: { readonly [Topic in Question]?: string | undefined };
  };
  readonly machine: Machine;
  readonly cover?: CoverMap | undefined;
  readonly pieces: readonly Piece[];
  readonly offers: readonly PartOffer[];
  readonly setting: Setting;
  readonly faults: readonly HiddenFault[];
  readonly firmware: FirmwareClaims;
  /** What the job on record wants fitted, by slot; absent where nothing is. */
  readonly record?:
    | { readonly placement: Readonly<Record<SlotId, PieceId>>; readonly setting: Setting }
    | undefined;
  /** What brought it in, where something is wrong. */
  readonly symptom?: Symptom | undefined;
  /** Hands have been in it since it last worked. */
  readonly moved: boolean;
  /** Absent in a sandbox: nothing to be solved. */
  readonly goal?: Goal | undefined;
}

/** Rules an exercise can teach; each has its words in `core/explaining`. */
export const RULES = [
  ...(['generation key', 'first slot', 'colours', 'names', 'half clock'] as const),
  ...(['profile off', 'one channel', 'three modules', 'tail', 'soldered and slot'] as const),
  ...(['non-binary', 'low voltage', 'mixed timings', 'wide chips', 'machine cap'] as const),
  ...(['four modules', 'system limit', 'graphics share', 'training', 'seating'] as const),
  ...(['contacts', 'dead slot', 'bad module', 'leads', 'heat', 'not the memory'] as const),
  ...(['phantom slot', 'old firmware', 'start option', 'screws'] as const),
] as const;
/** See {@link RULES}. */
export type RuleId = (typeof RULES)[number];
