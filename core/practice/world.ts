import type { CauseKind } from '../diagnosing/index.ts';
import type { Placement, Setting, SlotId } from '../machine/index.ts';
import { writeLabel } from '../memory/index.ts';
import type { Exercise, HiddenFault, Piece, PieceId } from './exercise.ts';

/** Where a module is. On the mat it waits beside the machine. */
export type Place =
  | { readonly at: 'slot'; readonly slotId: SlotId; readonly isHome: boolean }
  | { readonly at: 'mat' }
  | { readonly at: 'drawer' };

/** What would have hurt a person or a part. The act is stopped before it does. */
export const UNSAFE = [
  'opened under power',
  'touched under power',
  'no strap',
  'metal at the pack',
  'forced key',
] as const;
/** See {@link UNSAFE}. */
export type Unsafe = (typeof UNSAFE)[number];

/** A machine on the bench, with all that is done to it so far. Never changed in place. */
export interface World {
  readonly exercise: Exercise;
  /** Modules there are, those that were bought too. */
  readonly pieces: readonly Piece[];
  readonly places: Readonly<Record<PieceId, Place>>;
  /** Pieces whose key was forced: good for nothing any more. */
  readonly broken: readonly PieceId[];
  /** What is still wrong. */
  readonly faults: readonly HiddenFault[];
  readonly lead: 'in' | 'out';
  readonly battery: 'on' | 'off' | 'none';
  /** The power button was held with everything off it. */
  readonly isDrained: boolean;
  readonly hasStrap: boolean;
  readonly cover: 'on' | 'off';
  readonly power: 'off' | 'on';
  /** Minutes of training left; 0 once it is through. */
  readonly training: number;
  /** What it was trained with last. */
  readonly trainedFor: string;
  readonly setting: Setting;
  /** Packs bought, by offer. */
  readonly bought: Readonly<Record<string, number>>;
  readonly minutes: number;
  /** Days waited for parts. */
  readonly days: number;
  readonly spent: number;
  /** What was shown, and with what fitted. */
  readonly tested: { readonly passed: boolean; readonly of: string } | undefined;
  readonly measured: string | undefined;
  readonly unsafe: readonly Unsafe[];
  readonly over: { readonly finding: CauseKind | 'nothing' | undefined } | undefined;
}

/** The machine as it is brought in: closed, on its lead, off. */
export function beginWorld(exercise: Exercise): World {
  const unseated = new Set(
    exercise.faults.flatMap((one) => (one.kind === 'not seated' ? [one.slotId] : [])),
  );
  const places = exercise.pieces.map(({ id, at }): [PieceId, Place] => [
    id,
    at === 'drawer' ? { at } : { at: 'slot', slotId: at, isHome: !unseated.has(at) },
  ]);
  const world: World = {
    exercise,
    pieces: exercise.pieces,
    places: Object.fromEntries(places),
    // How a module sits is a thing of its place, and changes with it.
    faults: exercise.faults.filter(({ kind }) => kind !== 'not seated'),
    ...{ broken: [], lead: 'in', battery: hasPack(exercise) ? 'on' : 'none' },
    ...{ isDrained: false, hasStrap: false, cover: 'on', power: 'off', training: 0 },
    ...{ trainedFor: '', setting: exercise.setting, bought: {}, minutes: 0, days: 0, spent: 0 },
    ...{ tested: undefined, measured: undefined, unsafe: [], over: undefined },
  };
  // Nobody had hands in it: it knows its modules already.
  return exercise.moved ? world : { ...world, trainedFor: seatedKey(world) };
}

/** Whether a battery has to be parted from the board before it is touched. */
export const hasPack = ({ machine: { kind, access } }: Exercise): boolean =>
  access.battery === 'none' ? false : access.battery !== 'unknown' || kind === 'laptop';

/** The piece in a slot. */
export function pieceIn(world: World, slotId: SlotId): Piece | undefined {
  return world.pieces.find(({ id }) => {
    const place = world.places[id];
    return place?.at === 'slot' && place.slotId === slotId;
  });
}

/** Pieces that lie on the mat or in the drawer. */
export const piecesAt = (world: World, at: 'mat' | 'drawer'): Piece[] =>
  world.pieces.filter(({ id }) => world.places[id]?.at === at);

/** What sits in the slots, seated home or not. */
export function sitting(world: World): Placement {
  return Object.fromEntries(
    world.exercise.machine.slots.flatMap(({ id }) => {
      const piece = pieceIn(world, id);
      return piece ? [[id, piece.module]] : [];
    }),
  );
}

/** Names what is fitted and how it is set, so that what was shown of it stays true only of it. */
export function keyOf(world: World): string {
  return `${seatedKey(world)}|${world.setting}`;
}

/** Names what is fitted. */
export function seatedKey(world: World): string {
  return world.exercise.machine.slots
    .map(({ id }) => {
      const piece = pieceIn(world, id);
      const place = piece && world.places[piece.id];
      return place?.at === 'slot' && piece ? `${piece.id}${place.isHome ? '' : '?'}` : '-';
    })
    .join(' ');
}

/** What is printed on a module. */
export const stickerOf = ({ sticker, module }: Piece): string => sticker ?? writeLabel(module);
