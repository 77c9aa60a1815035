import { GRADES } from '../matching/index.ts';
import type { PlanWorth } from './query.ts';

/**
 * A plan's worth as six numbers that are all better when lower: cost, −usable, −bandwidth, grade
 * from the best, displaced, −free slots.
 */
export type Vector = readonly [number, number, number, number, number, number];

/** See {@link Vector}. Bandwidth is kept to 1 MB/s, so that no rounding splits equal plans. */
export function vectorOf(worth: PlanWorth): Vector {
  return [
    worth.cost,
    -worth.usable,
    -Math.round(worth.bandwidth * 1000),
    GRADES.indexOf(worth.grade),
    worth.displaced,
    -worth.freeSlots,
  ];
}

/** Whether `a` is at least as good as `b` in all six, which includes being equal. */
export function covers(a: Vector, b: Vector): boolean {
  return (
    a[0] <= b[0] && a[1] <= b[1] && a[2] <= b[2] && a[3] <= b[3] && a[4] <= b[4] && a[5] <= b[5]
  );
}

/** Vectors none of which is covered by another; each carries what it stands for. */
export class Front<T> {
  readonly #entries: { readonly vector: Vector; readonly item: T }[] = [];

  get size(): number {
    return this.#entries.length;
  }

  /** Cheapest first. */
  get items(): T[] {
    return this.#entries.map(({ item }) => item);
  }

  /** Whether something on the front is at least as good in all six. */
  isCovered(vector: Vector): boolean {
    for (const entry of this.#entries) {
      // Sorted by cost: what follows is dearer and covers nothing.
      if (entry.vector[0] > vector[0]) return false;
      if (covers(entry.vector, vector)) return true;
    }
    return false;
  }

  /** The least cost at which something covers the other five; Infinity where nothing does. */
  costToBeat([, ...others]: Vector): number {
    const [usable, bandwidth, grade, displaced, free] = others;
    for (const { vector } of this.#entries)
      if (covers(vector, [vector[0], usable, bandwidth, grade, displaced, free])) return vector[0];
    return Infinity;
  }

  /** Takes a vector in and drops what it covers. Equal vectors: the first one in stays. */
  add(vector: Vector, item: T): boolean {
    if (this.isCovered(vector)) return false;
    let kept = 0;
    for (const entry of this.#entries)
      if (!covers(vector, entry.vector)) this.#entries[kept++] = entry;
    this.#entries.length = kept;
    const at = this.#entries.findIndex((entry) => entry.vector[0] > vector[0]);
    this.#entries.splice(at < 0 ? kept : at, 0, { vector, item });
    return true;
  }
}
