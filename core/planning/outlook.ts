/** A kind as an outlook sees it. */
export interface OutlookKind {
  /** GiB of one module. */
  readonly capacity: number;
  /** What so many of them cost at least; Infinity where the supply ends. */
  readonly cost: ArrayLike<number>;
}

/**
 * How much a half-chosen set may have cost by now and still become something new: whatever else is
 * added, dearer than that it ends up behind a plan already found. Worked out from the last kind
 * backwards and once for each state – kind to come, modules added, capacity reached – so that whole
 * families of sets are dropped where they begin.
 *
 * Found plans only become more, so an answer given early is too generous, never too strict.
 */
export class Outlook {
  readonly #kinds: readonly OutlookKind[];
  readonly #room: number;
  readonly #unit: number;
  readonly #toBeat: (added: number, capacity: number) => number;
  readonly #steps: number;
  readonly #known: Float64Array;

  /**
   * @param kinds - in the order they are chosen
   * @param room - most modules added
   * @param unit - all capacities are whole multiples of it, GiB
   * @param toBeat - what a finished set of so many added modules and GiB has to cost less than
   */
  constructor(
    kinds: readonly OutlookKind[],
    room: number,
    unit: number,
    toBeat: (added: number, capacity: number) => number,
  ) {
    this.#kinds = kinds;
    this.#room = room;
    this.#unit = unit;
    this.#toBeat = toBeat;
    const largest = Math.max(0, ...kinds.map(({ capacity }) => capacity));
    this.#steps = Math.round((room * largest) / unit) + 1;
    this.#known = new Float64Array((kinds.length + 1) * (room + 1) * this.#steps).fill(NaN);
  }

  /**
   * The cost, of what was added so far, at and above which nothing can come of it; −Infinity where
   * nothing can at any cost.
   *
   * @param at - the first kind not chosen yet
   * @param added - modules added by those before
   * @param capacity - of those modules, GiB
   */
  limit(at: number, added: number, capacity: number): number {
    const key = (at * (this.#room + 1) + added) * this.#steps + Math.round(capacity / this.#unit);
    const known = this.#known[key];
    if (known !== undefined && !Number.isNaN(known)) return known;
    const kind = this.#kinds[at];
    let limit = -Infinity;
    if (!kind) limit = this.#toBeat(added, capacity);
    else
      for (let count = 0; count + added <= this.#room; count++) {
        const price = kind.cost[count] ?? Infinity;
        if (price === Infinity) break;
        const rest = this.limit(at + 1, added + count, capacity + count * kind.capacity) - price;
        if (rest > limit) limit = rest;
      }
    this.#known[key] = limit;
    return limit;
  }
}
