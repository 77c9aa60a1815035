/** A point of the front as a staircase sees it. */
export interface Step {
  readonly cost: number;
  readonly usable: number;
  readonly reach: number;
  readonly grade: number;
  readonly displaced: number;
  readonly free: number;
}

/**
 * Answers "what does anything at least this good cost?" in one look-up for the many sets that share all
 * but cost and capacity: per combination of the other four, the least cost for each capacity.
 */
export class Stairs {
  readonly #steps: () => readonly Step[];
  readonly #version: () => number;
  readonly #usableOf: (installed: number) => number;
  /** All capacities are whole multiples of it, GiB. */
  readonly unit: number;
  readonly #size: number;
  readonly #built = new Map<string, { version: number; least: Float64Array }>();

  /**
   * @param unit - all capacities are whole multiples of it, GiB
   * @param most - the largest capacity asked about, GiB
   */
  constructor(
    unit: number,
    most: number,
    usableOf: (installed: number) => number,
    steps: () => readonly Step[],
    version: () => number,
  ) {
    this.unit = unit;
    this.#size = Math.round(most / unit) + 1;
    this.#usableOf = usableOf;
    this.#steps = steps;
    this.#version = version;
  }

  /** The least cost of anything at least this good; Infinity where nothing is. */
  least(installed: number, reach: number, grade: number, displaced: number, free: number): number {
    const key = `${reach} ${grade} ${displaced} ${free}`;
    let stair = this.#built.get(key);
    if (!stair || stair.version !== this.#version()) {
      stair = { version: this.#version(), least: this.#build(reach, grade, displaced, free) };
      this.#built.set(key, stair);
    }
    return stair.least[Math.round(installed / this.unit)] ?? Infinity;
  }

  #build(reach: number, grade: number, displaced: number, free: number): Float64Array {
    const least = new Float64Array(this.#size).fill(Infinity);
    for (const step of this.#steps()) {
      if (step.reach < reach || step.grade > grade) continue;
      if (step.displaced > displaced || step.free < free) continue;
      const at = this.#indexOf(step.usable);
      least[at] = Math.min(least[at] ?? Infinity, step.cost);
    }
    for (let at = this.#size - 2; at >= 0; at--)
      least[at] = Math.min(least[at] ?? Infinity, least[at + 1] ?? Infinity);
    return least;
  }

  /** The largest capacity that is no more use than `usable`. */
  #indexOf(usable: number): number {
    let low = 0;
    let high = this.#size - 1;
    while (low < high) {
      const middle = Math.ceil((low + high) / 2);
      if (this.#usableOf(middle * this.unit) <= usable) low = middle;
      else high = middle - 1;
    }
    return low;
  }
}
