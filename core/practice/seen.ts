import type { Setting, SlotId } from '../machine/index.ts';
import type { PieceId, Question } from './exercise.ts';
import type { Status } from './running.ts';

/** Why an act is not possible now. Nothing happens and no time passes. */
export const CANNOT = [
  'it is over',
  'cover is on',
  'cover is off',
  'already so',
  'no such slot',
  'slot is taken',
  'slot is empty',
  'no such piece',
  'piece is in a slot',
  'piece is broken',
  'no battery inside',
  'machine is off',
  'machine is on',
  'no power',
  'no picture',
  'no system',
  'no profile here',
  'nothing to lift',
  'not sold',
  'work is not done',
] as const;
/** See {@link CANNOT}. */
export type Cannot = (typeof CANNOT)[number];

/** One slot as looked at with the cover off. */
export interface LookedAt {
  readonly slotId: SlotId;
  readonly pieceId: PieceId | undefined;
  readonly isHome: boolean;
}

/** One row of a firmware screen. */
export interface ScreenRow {
  readonly name: string;
  /** GB; absent where the slot shows empty. */
  readonly capacity: number | undefined;
}

/** One row of the firmware’s table, as our reader takes it. */
export interface TableRow extends ScreenRow {
  readonly partNumber: string | undefined;
  readonly rate: number | undefined;
}

/** The firmware’s own page. */
export interface FirmwareScreen {
  readonly total: number;
  /** As shown: MT/s, or the clock. */
  readonly rate: number;
  readonly rows: readonly ScreenRow[];
  readonly setting: Setting;
  /** Whether it offers an overclock profile at all. */
  readonly offersProfile: boolean;
  readonly reserved: number;
}

/** What an act brought to light. */
export type Seen =
  | { readonly type: 'cannot'; readonly why: Cannot }
  | { readonly type: 'stopped' }
  | { readonly type: 'done' }
  | { readonly type: 'answer'; readonly about: Question; readonly text: string | undefined }
  | {
      readonly type: 'looked';
      readonly slots: readonly LookedAt[];
      readonly leadOff: boolean;
      readonly dusty: boolean;
    }
  | { readonly type: 'sticker'; readonly pieceId: PieceId; readonly text: string }
  | { readonly type: 'tables'; readonly rows: readonly TableRow[] }
  | { readonly type: 'does not go in'; readonly because: 'key' | 'turned' }
  | { readonly type: 'broke'; readonly pieceId: PieceId }
  | { readonly type: 'status'; readonly status: Status }
  | { readonly type: 'firmware'; readonly screen: FirmwareScreen }
  | { readonly type: 'notes'; readonly namesMemory: boolean }
  | {
      readonly type: 'system';
      readonly installed: number;
      readonly usable: number;
      readonly limitedBy: 'system' | 'start option' | undefined;
    }
  | {
      readonly type: 'log';
      readonly says: 'memory errors' | 'far too warm' | 'drive or program' | 'nothing';
    }
  /** The page’s figures are worked out apart, by `measuredOn`: that takes longer than an act may. */
  | { readonly type: 'measured' }
  | {
      readonly type: 'test';
      readonly errors: 'none' | 'all over' | { readonly slotId: SlotId };
    }
  | { readonly type: 'delivered'; readonly pieces: readonly PieceId[] }
  | { readonly type: 'handed over' };
