import type { Unit } from './arrange.ts';
import { agree } from './supply.ts';
import type { Agreement } from './supply.ts';

/** A kind as something to be stacked, with all its modules could agree by. */
export interface Token {
  readonly kind: number;
  readonly mates: Mates;
  left: number;
}

export interface Mates {
  readonly capacity: number;
  readonly same: Set<string>;
  readonly ratings: Set<string>;
}

export function matesAgree({ mates: a }: Token, { mates: b }: Token): boolean {
  const [one, other] = a.capacity === b.capacity ? [a.same, b.same] : [a.ratings, b.ratings];
  for (const key of one) if (other.has(key)) return true;
  return false;
}

/** Units that may stand for each other, as something to be stacked. */
export interface Bunch {
  readonly kind: number;
  readonly keys: Agreement;
  readonly units: readonly Unit[];
  left: number;
}

export function bunch(units: readonly Unit[], finely: boolean): Bunch[] {
  const bunches = new Map<string, Unit[]>();
  for (const unit of units) {
    const mark = finely && unit.kept ? `${unit.mark} ${unit.kept.slotId}` : unit.mark;
    const list = bunches.get(mark);
    if (list) list.push(unit);
    else bunches.set(mark, [unit]);
  }
  return [...bunches.values()]
    .flatMap((list): Bunch[] => {
      const [first] = list;
      return first
        ? [{ kind: first.of.kind, keys: first.keys, units: list, left: list.length }]
        : [];
    })
    .sort((a, b) => a.kind - b.kind || b.left - a.left);
}

export const bunchesAgree = (a: Bunch, b: Bunch): boolean => agree(a.keys, b.keys);
