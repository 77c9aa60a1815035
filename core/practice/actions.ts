import { CHECKS } from '../diagnosing/index.ts';
import type { CauseKind } from '../diagnosing/index.ts';
import { openingActs } from '../fitting/index.ts';
import type { Setting, SlotId } from '../machine/index.ts';
import type { Exercise, PieceId, Question } from './exercise.ts';

/** What a technician can do at the simulated bench. */
export type Action =
  | { readonly type: 'ask'; readonly about: Question }
  | { readonly type: 'look' }
  | { readonly type: 'read sticker'; readonly pieceId: PieceId }
  | { readonly type: 'read tables' }
  | { readonly type: 'lead'; readonly to: 'in' | 'out' }
  | { readonly type: 'hold power' }
  | { readonly type: 'strap'; readonly to: 'on' | 'off' }
  | { readonly type: 'open'; readonly tool: 'plastic' | 'metal' }
  | { readonly type: 'close' }
  | { readonly type: 'battery'; readonly to: 'on' | 'off' }
  | { readonly type: 'pull'; readonly slotId: SlotId }
  | {
      readonly type: 'seat';
      readonly pieceId: PieceId;
      readonly slotId: SlotId;
      /** The notch over the key, or turned round. */
      readonly way: 'right' | 'turned';
      /** Pressed until both sides hold, or one of them. */
      readonly pressed: 'both' | 'one';
      readonly force?: boolean | undefined;
    }
  | { readonly type: 'press home'; readonly slotId: SlotId }
  | { readonly type: 'clean'; readonly pieceId: PieceId }
  | { readonly type: 'put leads on' }
  | { readonly type: 'switch'; readonly to: 'on' | 'off' }
  | { readonly type: 'wait'; readonly minutes: number }
  | { readonly type: 'firmware screen' }
  | { readonly type: 'set'; readonly setting: Setting }
  | { readonly type: 'clear settings' }
  | { readonly type: 'firmware notes' }
  | { readonly type: 'update firmware' }
  | { readonly type: 'system page' }
  | { readonly type: 'lift start option' }
  | { readonly type: 'read log' }
  | { readonly type: 'measure' }
  | { readonly type: 'memory test' }
  | { readonly type: 'other supply or drive' }
  | { readonly type: 'clear dust' }
  | { readonly type: 'order'; readonly offerId: string }
  | { readonly type: 'hand over'; readonly finding?: CauseKind | 'nothing' | undefined };

/** Longest single wait, minutes. */
export const LONGEST_WAIT = 60;

const lasts = ({ hands, waits }: { readonly hands: number; readonly waits: number }) =>
  hands + waits;

/**
 * Minutes at the bench. What is a check of fault-finding takes what it takes there; the single acts of
 * the hands are its parts: reseating two modules – pull, clean, seat and press each, one look – makes
 * the ten minutes of `reseat and clean`.
 */
const MINUTES = {
  ask: 1,
  look: 2,
  'read sticker': 1,
  'read tables': 3,
  lead: 0.5,
  'hold power': 0.5,
  strap: 0.5,
  battery: 1,
  pull: 1,
  seat: 1.5,
  'press home': 0.5,
  clean: 1.5,
  'put leads on': 2,
  switch: 1,
  'firmware screen': CHECKS['firmware’s page'].hands,
  set: CHECKS['standard setting'].hands,
  'clear settings': lasts(CHECKS['clear settings']),
  'firmware notes': CHECKS['firmware’s age'].hands,
  'update firmware': lasts(CHECKS['update firmware']),
  'system page': CHECKS['system’s page'].hands,
  'lift start option': 3,
  'read log': lasts(CHECKS['log and warmth']),
  measure: lasts(CHECKS['measure again']),
  'memory test': lasts(CHECKS['test with addresses']),
  'other supply or drive': lasts(CHECKS['other supply or drive']),
  'clear dust': 8,
  order: 5,
  'hand over': 2,
} as const satisfies Partial<Record<Action['type'], number>>;

/** Minutes a cover takes by itself, and each of its parts. */
const COVER = { lift: 1, part: 0.5, unmapped: 4 } as const;

/** Minutes an act takes on this machine. */
export function minutesOf(action: Action, { cover }: Pick<Exercise, 'cover'>): number {
  if (action.type === 'wait') return Math.min(LONGEST_WAIT, Math.max(0, action.minutes));
  if (action.type !== 'open' && action.type !== 'close') return MINUTES[action.type];
  return COVER.lift + (cover ? openingActs(cover).length * COVER.part : COVER.unmapped);
}
