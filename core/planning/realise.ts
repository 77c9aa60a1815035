import { exactRate } from '../units/index.ts';
import type { DataRate } from '../units/index.ts';
import type { Arranger, Unit } from './arrange.ts';
import { boughtBy } from './bills.ts';
import type { Billed } from './bills.ts';
import type { Components, RoundPrices } from './prices.ts';
import { kitOf } from './supply.ts';
import type { ModuleClass, Source, Supply } from './supply.ts';
import type { Pool, SweepHost } from './sweep.ts';

/** So many new modules of each kind beside the kept ones, and what is known of all of them together. */
export interface SetOfKinds {
  readonly kept: readonly Unit[];
  /** New modules by kind. */
  readonly fresh: Uint8Array;
  /** Components of the kept ones. */
  readonly components: Components;
  /** Labour less credit, in minor units. */
  readonly base: number;
  /** GB, soldered ones with them. */
  readonly installed: number;
  /** The most it can reach at this rate, MT/s times channels. */
  readonly reach: number;
  readonly grade: number;
  readonly displaced: number;
  /** Slots left empty. */
  readonly free: number;
}

function boughtUnit(of: ModuleClass, source: Source, copy: number, supply: Supply): Unit {
  const own = supply.keysOf.get(source) ?? of.keys;
  const keys =
    source.units > 1 ? { ...own, kit: kitOf(source.id, copy) } : { ...own, kit: undefined };
  // Modules that agree by spec or part anyway need not be told apart by their packs.
  const mark = of.by === 'pack' ? `${of.id} ${keys.kit ?? ''}` : `${of.id} `;
  return { of, keys, mark, bought: { source, copy } };
}

/** Ways to take `count` modules out of so many packs, fuller packs first. */
function sharesOf(count: number, packs: number, units: number): number[][] {
  if (packs === 0) return count === 0 ? [[]] : [];
  return Array.from({ length: Math.min(count, units) + 1 }, (_, taken) => taken).flatMap((taken) =>
    sharesOf(count - taken, packs - 1, taken).map((rest) => [taken, ...rest]),
  );
}

/** Finds the concrete modules for sets of kinds at one minimum rate. */
export class Realiser {
  readonly #pool: Pool;
  readonly #host: SweepHost;
  readonly #arranger: Arranger;
  readonly #prices: RoundPrices;
  readonly #rows: number;
  readonly #speed: number;

  constructor(
    pool: Pool,
    host: SweepHost,
    arranger: Arranger,
    prices: RoundPrices,
    rows: number,
    speed: number,
  ) {
    this.#pool = pool;
    this.#host = host;
    this.#arranger = arranger;
    this.#prices = prices;
    this.#rows = rows;
    this.#speed = speed;
  }

  /** Hands over every choice of modules for a set, cheapest first, as long as it can still matter. */
  realise(set: SetOfKinds): void {
    if (this.#pool.pairs) this.#byPairs(set);
    else this.#cheapest(set);
  }

  /** Where no module minds its neighbour, the cheapest ones stand for all. */
  #cheapest(set: SetOfKinds): void {
    let cost = set.base;
    const units: Unit[] = [];
    for (const { kind, bills } of this.#prices.kinds) {
      const count = set.fresh[kind] ?? 0;
      if (count === 0) continue;
      cost += bills.cost[count] ?? Infinity;
      for (const part of bills.split(count)) units.push(...this.#unitsOf(part.billed, part.count));
    }
    this.#take(set, units, cost);
  }

  /** Where a row holds one component only: every way to part the modules among classes. */
  #byPairs(set: SetOfKinds): void {
    const { fresh } = set;
    const { budget } = this.#host;
    const wanted = this.#prices.kinds.filter(({ kind }) => (fresh[kind] ?? 0) > 0);
    let toBeat = this.#costToBeat(set);
    const isIdle = (cost: number) => cost > budget || cost >= toBeat;
    const restOf = (at: number, left: number, components: Components): number => {
      let rest = 0;
      for (let one = at; one < wanted.length; one++) {
        const entry = wanted[one];
        if (!entry) break;
        const count = one === at ? left : (fresh[entry.kind] ?? 0);
        if (count > 0) rest += this.#prices.least(entry, components)[count] ?? Infinity;
      }
      return rest;
    };
    const choose = (
      at: number,
      classAt: number,
      left: number,
      cost: number,
      units: readonly Unit[],
      components: Components,
    ): void => {
      const entry = wanted[at];
      if (this.#host.shouldStop()) return;
      if (!entry) {
        this.#take(set, units, cost);
        toBeat = this.#costToBeat(set);
        return;
      }
      if (left === 0) {
        const next = wanted[at + 1];
        choose(at + 1, 0, next ? (fresh[next.kind] ?? 0) : 0, cost, units, components);
        return;
      }
      const billed = entry.bills.classes[classAt];
      if (!billed) return;
      for (let count = left; count > 0; count--) {
        const price = billed.bills.cost[count] ?? Infinity;
        if (price === Infinity) continue;
        const joined = new Map(components);
        joined.set(billed.of.component, (joined.get(billed.of.component) ?? 0) + count);
        if (this.#prices.rowsFor(joined) > this.#rows) continue;
        if (isIdle(cost + price + restOf(at, left - count, joined))) continue;
        for (const more of this.#choicesOf(billed, count))
          choose(at, classAt + 1, left - count, cost + price, [...units, ...more], joined);
      }
      if (!isIdle(cost + restOf(at, left, components)))
        choose(at, classAt + 1, left, cost, units, components);
    };
    const [first] = wanted;
    if (first) choose(0, 0, fresh[first.kind] ?? 0, set.base, [], set.components);
    else this.#take(set, [], set.base);
  }

  #costToBeat({ installed, reach, grade, displaced, free }: SetOfKinds): number {
    return this.#host.costToBeat(installed, reach, grade, displaced, free);
  }

  #take(set: SetOfKinds, bought: readonly Unit[], cost: number): void {
    const { supply, pairs } = this.#pool;
    const units = [...set.kept, ...bought];
    const own = this.#slowest(units);
    const counts = new Uint8Array(supply.kinds.length);
    for (const { of } of units) counts[of.kind] = (counts[of.kind] ?? 0) + 1;
    const reach = pairs
      ? this.#arranger.pairedReach(units, own, set.reach)
      : this.#arranger.sets.bestReach(counts, own);
    if (reach === 0) return;
    const { installed } = set;
    this.#host.take({ units, own, reach, cost, installed, pairs }, this.#arranger);
  }

  #unitsOf({ of, bills }: Billed, count: number): Unit[] {
    const { supply } = this.#pool;
    return boughtBy(bills, count).map(({ source, copy }) => boughtUnit(of, source, copy, supply));
  }

  /** Where only the pack vouches for a module, it matters how many come out of which pack. */
  #choicesOf(billed: Billed, count: number): Unit[][] {
    const { of } = billed;
    const [source] = of.sources;
    if (of.by !== 'pack' || !source || source.units === 1) return [this.#unitsOf(billed, count)];
    const packs = Math.ceil(count / source.units);
    return sharesOf(count, packs, source.units).map((shares) =>
      shares.flatMap((share, copy) =>
        Array.from({ length: share }, () => boughtUnit(of, source, copy, this.#pool.supply)),
      ),
    );
  }

  #slowest(units: readonly Unit[]): DataRate {
    const [first] = units;
    return units.reduce(
      (low, { of }) => (exactRate(of.own) < exactRate(low) ? of.own : low),
      first?.of.own ?? (this.#speed as DataRate),
    );
  }
}
