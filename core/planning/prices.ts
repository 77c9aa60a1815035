import { cheapestBills, eitherCost, joinBills } from './bills.ts';
import type { Billed, KindBills } from './bills.ts';
import type { Board } from './board.ts';
import type { ModuleClass } from './supply.ts';
import type { Pool } from './sweep.ts';

/** One kind with its bills, and what it costs at least once some components are settled. */
interface RoundKind {
  readonly kind: number;
  readonly capacity: number;
  readonly bills: KindBills;
  readonly byComponent: ReadonlyMap<number, Float64Array>;
  readonly least: Map<string, Float64Array>;
}

/** How many modules of each component stand in the machine. */
export type Components = ReadonlyMap<number, number>;

/** What every kind of module costs at one minimum rate, also beside modules that already stand. */
export class RoundPrices {
  readonly kinds: readonly RoundKind[];
  readonly #board: Board;
  readonly #keys = new WeakMap<Components, string>();

  constructor(board: Board, pool: Pool, classes: readonly ModuleClass[]) {
    this.#board = board;
    const byKind = new Map<number, Billed[]>();
    for (const of of classes) {
      if (of.sources.length === 0) continue;
      const list = byKind.get(of.kind) ?? [];
      byKind.set(of.kind, list);
      list.push({ of, bills: cheapestBills(of.sources, pool.most) });
    }
    this.kinds = [...byKind].map(([kind, list]) => ({
      kind,
      capacity: pool.supply.kinds[kind]?.capacity ?? 0,
      bills: joinBills(
        list.sort((a, b) => (a.bills.cost[1] ?? 0) - (b.bills.cost[1] ?? 0)),
        pool.most,
        pool.pairs ? board.rows : pool.most,
      ),
      byComponent: costByComponent(list),
      least: new Map(),
    }));
  }

  /**
   * What modules of a kind cost at least, by their number, when these components already stand in
   * rows: out of them, or of as many more as there are rows left.
   */
  least(entry: RoundKind, components: Components): Float64Array {
    const key = this.#keyOf(components);
    let least = entry.least.get(key);
    if (!least) {
      const ids = [...components.keys()].filter((id) => entry.byComponent.has(id));
      const free = Math.max(0, this.#board.rows - components.size);
      const { within, cost } = entry.bills;
      least = within[Math.min(free, within.length - 1)] ?? cost;
      for (const id of ids) least = eitherCost(least, entry.byComponent.get(id) ?? cost);
      entry.least.set(key, least);
    }
    return least;
  }

  /** Which components stand there; a set is asked about many times over. */
  #keyOf(components: Components): string {
    let key = this.#keys.get(components);
    if (key === undefined)
      this.#keys.set(components, (key = [...components.keys()].sort((a, b) => a - b).join(' ')));
    return key;
  }

  /** Rows that modules of so many of each component fill at least: no row holds two components. */
  rowsFor(components: Components): number {
    const width = this.#board.channels.length;
    let rows = 0;
    for (const count of components.values()) rows += Math.ceil(count / width);
    return rows;
  }
}

/** What so many modules cost out of each component alone. */
function costByComponent(list: readonly Billed[]): Map<number, Float64Array> {
  const costs = new Map<number, Float64Array>();
  for (const { of, bills } of list) {
    const known = costs.get(of.component);
    costs.set(of.component, known ? eitherCost(known, bills.cost) : bills.cost);
  }
  return costs;
}
