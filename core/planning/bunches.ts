import { ratingsAgree, specsAgree } from '../matching/index.ts';
import type { Rating, Spec } from '../matching/index.ts';
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
  /** Parts, kits and packs. */
  readonly same: ReadonlySet<string>;
  readonly specs: readonly Spec[];
  readonly ratings: readonly Rating[];
  /** What was found before, by the other's mates. */
  readonly known: Map<Mates, boolean>;
}

/** Whether some module of the one kind may agree with some module of the other. */
export function matesAgree({ mates: a }: Token, { mates: b }: Token): boolean {
  let found = a.known.get(b);
  if (found === undefined) a.known.set(b, (found = mayAgree(a, b)));
  return found;
}

function mayAgree(a: Mates, b: Mates): boolean {
  if (a.capacity !== b.capacity)
    return a.ratings.some((one) => b.ratings.some((other) => ratingsAgree(one, other)));
  for (const key of a.same) if (b.same.has(key)) return true;
  return a.specs.some((one) => b.specs.some((other) => specsAgree(one, other)));
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
