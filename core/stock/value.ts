import type { DrawerState, Minor } from '../planning/index.ts';

/** What the value of a drawer is counted from. */
export interface ValuedPiece {
  readonly state: DrawerState;
  /** What it is sold for. */
  readonly price: Minor;
  /** What was paid for it; `null` = not known. */
  readonly cost: Minor | null;
  readonly isReserved: boolean;
}

/** What modules in stock are worth. Minor units. */
export interface StockValue {
  readonly pieces: number;
  /** Paid for those whose cost is known. */
  readonly cost: Minor;
  /** Nobody noted what was paid for these. */
  readonly withoutCost: number;
  /** What the sound ones would bring, tax included. */
  readonly price: Minor;
  /** Sound ones nobody has priced. */
  readonly withoutPrice: number;
  /** Suspect and faulty ones: they count for nothing until they are tested. */
  readonly unsound: number;
  readonly reserved: number;
}

const isSound = (state: DrawerState) => state === 'tested' || state === 'untested';

/**
 * The value of the drawer, at cost and at price. What is suspect or faulty brings nothing; a cost
 * nobody noted is counted as unknown, never as nothing.
 */
export function valueOf(pieces: readonly ValuedPiece[]): StockValue {
  const sound = pieces.filter(({ state }) => isSound(state));
  const sum = (amounts: readonly number[]) => amounts.reduce((total, one) => total + one, 0);
  return {
    pieces: pieces.length,
    cost: sum(pieces.map(({ cost }) => cost ?? 0)),
    withoutCost: pieces.filter(({ cost }) => cost === null).length,
    price: sum(sound.map(({ price }) => price)),
    withoutPrice: sound.filter(({ price }) => price === 0).length,
    unsound: pieces.length - sound.length,
    reserved: pieces.filter(({ isReserved }) => isReserved).length,
  };
}
