import { exactRate } from '../units/index.ts';
import type { DataRate } from '../units/index.ts';
import type { Arranger, Unit } from './arrange.ts';
import { boughtBy, cheapestBills, eitherCost, joinBills } from './bills.ts';
import type { Billed, KindBills } from './bills.ts';
import type { Board } from './board.ts';
import { Outlook } from './outlook.ts';
import type { OutlookKind } from './outlook.ts';
import { kitOf } from './supply.ts';
import type { ModuleClass, Source, Supply } from './supply.ts';
import type { Pool, SweepHost } from './sweep.ts';

/** Place of `uneven` in the list of grades. */
const UNEVEN = 4;

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

/** One kind with its bills, and what it costs at least once some components are settled. */
interface RoundKind {
  readonly kind: number;
  readonly capacity: number;
  readonly bills: KindBills;
  readonly byComponent: ReadonlyMap<number, Float64Array>;
  readonly least: Map<string, Float64Array>;
}

/** A kind at the least it costs beside what is kept. */
interface PricedKind extends OutlookKind {
  readonly kind: number;
}

/** One minimum rate: prices of every kind, and the sets tried with what is kept. */
export class Round {
  readonly #board: Board;
  readonly #pool: Pool;
  readonly #host: SweepHost;
  readonly #arranger: Arranger;
  readonly #speed: number;
  readonly #overOwn: DataRate | undefined;
  readonly #kinds: readonly RoundKind[];
  readonly #solderedSizes: ReadonlySet<number>;
  readonly #solderedChannels: number;
  /** The most ranks of any module; one that is not known may have as many as there are. */
  readonly #ranksEach: number;
  readonly #keys = new WeakMap<ReadonlyMap<number, number>, string>();

  constructor(
    board: Board,
    pool: Pool,
    host: SweepHost,
    arranger: Arranger,
    classes: readonly ModuleClass[],
    speed: number,
  ) {
    this.#board = board;
    this.#pool = pool;
    this.#host = host;
    this.#arranger = arranger;
    this.#speed = speed;
    const over = classes.filter(({ kind }) => pool.supply.kinds[kind]?.over);
    this.#overOwn = over[0]?.own;
    this.#solderedSizes = new Set(board.machine.soldered.map(({ part }) => part.capacity));
    this.#solderedChannels = new Set(board.machine.soldered.map(({ channel }) => channel)).size;
    this.#ranksEach = Math.max(
      ...board.channels.map(({ soldered }) => soldered.ranks),
      ...pool.supply.kinds.map(({ ranks }) => (Number.isNaN(ranks) ? 64 : ranks)),
    );
    const byKind = new Map<number, Billed[]>();
    for (const of of classes) {
      if (of.sources.length === 0) continue;
      const list = byKind.get(of.kind) ?? [];
      byKind.set(of.kind, list);
      list.push({ of, bills: cheapestBills(of.sources, pool.most) });
    }
    this.#kinds = [...byKind].map(([kind, list]) => ({
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
  #leastCost(entry: RoundKind, components: ReadonlyMap<number, number>): Float64Array {
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
  #keyOf(components: ReadonlyMap<number, number>): string {
    let key = this.#keys.get(components);
    if (key === undefined)
      this.#keys.set(components, (key = [...components.keys()].sort((a, b) => a - b).join(' ')));
    return key;
  }

  run(kept: readonly Unit[]): void {
    const { found, slots, solderedCapacity, labour, budget, stairs } = this.#host;
    const { most, bestGrade, large, supply, pairs } = this.#pool;
    const counts = new Uint8Array(supply.kinds.length);
    const fresh = new Uint8Array(supply.kinds.length);
    let keptCapacity = solderedCapacity;
    const sizes = new Set(this.#solderedSizes);
    for (const { of, keys } of kept) {
      counts[of.kind] = (counts[of.kind] ?? 0) + 1;
      keptCapacity += keys.capacity;
      sizes.add(keys.capacity);
    }
    const stay = new Set(kept.map((unit) => unit.kept?.slotId));
    const credit = found.reduce((sum, one) => sum + (stay.has(one.slotId) ? 0 : one.credit), 0);
    const displaced = found.length - kept.length;
    const base = labour - credit;
    const room = most - kept.length;
    const components = new Map<number, number>();
    for (const { of } of kept)
      components.set(of.component, (components.get(of.component) ?? 0) + 1);
    if (pairs && this.#rowsFor(components) > this.#board.rows) return;
    const kinds = this.#kinds.map((entry): PricedKind => ({
      ...{ kind: entry.kind, capacity: entry.capacity },
      cost: pairs ? this.#leastCost(entry, components) : entry.bills.cost,
    }));
    let polls = 0;

    const leaf = (added: number, cost: number, installed: number, even: boolean): void => {
      const total = kept.length + added;
      const free = slots - total;
      const net = base + cost;
      if (net > budget) return;
      const grade = even ? bestGrade : Math.max(bestGrade, UNEVEN);
      if (large) {
        const width = this.#arranger.sets.bestWidth(counts);
        if (width === 0) return;
        const isBeaten = (rate: number) =>
          stairs.least(installed, rate * width, grade, displaced, free) <= net;
        const rate = this.#bestRate(total);
        if (isBeaten(rate)) return;
        const held = supply.profiled ? Infinity : this.#arranger.sets.loosestTable(counts);
        if (held < rate && isBeaten(held)) return;
      }
      if (supply.mustMiss && supply.kinds.every((one, at) => one.hasProfile || !counts[at])) return;
      const own = this.#ownOf(counts);
      let reach = this.#arranger.sets.bestReach(counts, own);
      if (reach === 0) return;
      if (this.#host.isCovered(net, installed, reach, grade, displaced, free)) return;
      if (this.#pool.pairs) {
        reach = this.#arranger.bestPairedReach(counts, own);
        if (reach === 0) return;
        if (this.#host.isCovered(net, installed, reach, grade, displaced, free)) return;
      }
      this.#realise(kept, fresh, base, installed, reach, grade, displaced, free, components);
    };
    const grow = (
      from: readonly PricedKind[],
      ahead: Outlook | undefined,
      ...[at, added, cost, installed, size]: [number, number, number, number, number]
    ): void => {
      if ((++polls & 1023) === 0 && this.#host.shouldStop()) return;
      if (at === from.length) {
        const isLeftOut = ahead !== undefined && size >= 0;
        if (kept.length + added > 0 && !isLeftOut) leaf(added, cost, installed, size >= 0);
        return;
      }
      const entry = from[at];
      if (!entry) return;
      const { kind, capacity, cost: prices } = entry;
      const before = counts[kind] ?? 0;
      for (let count = 0; count + added <= room; count++) {
        const price = prices[count] ?? Infinity;
        if (price === Infinity || base + cost + price > budget) break;
        const then = [at + 1, added + count, cost + price, installed + count * capacity] as const;
        if (ahead && then[2] >= ahead.limit(then[0], then[1], then[3] - keptCapacity)) continue;
        counts[kind] = before + count;
        fresh[kind] = count;
        const next = count === 0 || size === capacity ? size : size === 0 ? capacity : -1;
        grow(from, ahead, ...then, next);
      }
      counts[kind] = before;
      fresh[kind] = 0;
    };
    // `size`: the one size all modules have so far, 0 for none yet, −1 once they differ.
    const [only = 0] = sizes;
    const start = sizes.size > 1 ? -1 : only;
    if (!large) {
      grow(kinds, undefined, 0, 0, 0, keptCapacity, start);
      return;
    }
    // Sets of one size match better and are few: the uneven ones then have something to beat.
    for (const size of new Set(sizes.size === 0 ? kinds.map(({ capacity }) => capacity) : sizes))
      if (start >= 0) {
        const alike = kinds.filter(({ capacity }) => capacity === size);
        grow(alike, undefined, 0, 0, 0, keptCapacity, start);
      }
    const width = this.#board.channels.length;
    const grade = Math.max(bestGrade, UNEVEN);
    const ahead = new Outlook(kinds, room, stairs.unit, (added, capacity) => {
      const total = kept.length + added;
      const reach = this.#bestRate(total) * Math.min(width, total + this.#solderedChannels);
      return (
        this.#host.toBeat(keptCapacity + capacity, reach, grade, displaced, slots - total) - base
      );
    });
    grow(kinds, ahead, 0, 0, 0, keptCapacity, start);
  }

  /** No set of so many modules runs faster: the sweep's rate, or the table's for its fullest channel. */
  #bestRate(total: number): number {
    const { channels } = this.#board;
    const soldered = channels.reduce((sum, one) => sum + one.soldered.modules, 0);
    const fullest = Math.ceil((total + soldered) / Math.max(1, channels.length));
    // Profiles may go beyond the table.
    const table = this.#pool.supply.profiled
      ? Infinity
      : this.#board.bestTableLimit(fullest, 0, this.#ranksEach);
    return Math.min(this.#speed, table);
  }

  /** The rate the set counts with: this round's, unless all of it is clipped by the ceiling. */
  #ownOf(counts: Uint8Array): DataRate {
    const { kinds } = this.#pool.supply;
    if (this.#overOwn !== undefined && kinds.every(({ over }, at) => over || !counts[at]))
      return this.#overOwn;
    return this.#speed as DataRate;
  }

  /** Finds concrete modules for a set of kinds, cheapest first, as long as they can still matter. */
  #realise(
    kept: readonly Unit[],
    fresh: Uint8Array,
    base: number,
    installed: number,
    reachAtBest: number,
    grade: number,
    displaced: number,
    free: number,
    components: ReadonlyMap<number, number>,
  ): void {
    const wanted = this.#kinds.filter(({ kind }) => (fresh[kind] ?? 0) > 0);
    const { supply, pairs } = this.#pool;
    let toBeat = this.#host.costToBeat(installed, reachAtBest, grade, displaced, free);
    const finish = (bought: readonly Unit[], cost: number): void => {
      const units = [...kept, ...bought];
      const own = this.#slowest(units);
      const counts = new Uint8Array(supply.kinds.length);
      for (const { of } of units) counts[of.kind] = (counts[of.kind] ?? 0) + 1;
      const reach = pairs
        ? this.#arranger.pairedReach(units, own, reachAtBest)
        : this.#arranger.sets.bestReach(counts, own);
      if (reach === 0) return;
      this.#host.take({ units, own, reach, cost, installed, pairs }, this.#arranger);
      toBeat = this.#host.costToBeat(installed, reachAtBest, grade, displaced, free);
    };
    const unitsOf = ({ of, bills }: Billed, count: number): Unit[] =>
      boughtBy(bills, count).map(({ source, copy }) => boughtUnit(of, source, copy, supply));
    // Where only the pack vouches for a module, it matters how many come out of which pack.
    const unitChoices = (billed: Billed, count: number): Unit[][] => {
      const [source] = billed.of.sources;
      if (billed.of.by !== 'pack' || !source || source.units === 1) return [unitsOf(billed, count)];
      const packs = Math.ceil(count / source.units);
      return sharesOf(count, packs, source.units).map((shares) =>
        shares.flatMap((share, copy) =>
          Array.from({ length: share }, () => boughtUnit(billed.of, source, copy, supply)),
        ),
      );
    };

    if (!pairs) {
      let cost = base;
      const units: Unit[] = [];
      for (const { kind, bills } of wanted) {
        cost += bills.cost[fresh[kind] ?? 0] ?? Infinity;
        for (const part of bills.split(fresh[kind] ?? 0))
          units.push(...unitsOf(part.billed, part.count));
      }
      finish(units, cost);
      return;
    }
    const { budget } = this.#host;
    const isIdle = (cost: number) => cost > budget || cost >= toBeat;
    const restOf = (at: number, left: number, components: ReadonlyMap<number, number>): number => {
      let rest = 0;
      for (let one = at; one < wanted.length; one++) {
        const entry = wanted[one];
        if (!entry) break;
        const count = one === at ? left : (fresh[entry.kind] ?? 0);
        if (count > 0) rest += this.#leastCost(entry, components)[count] ?? Infinity;
      }
      return rest;
    };
    const choose = (
      at: number,
      classAt: number,
      left: number,
      cost: number,
      units: readonly Unit[],
      components: ReadonlyMap<number, number>,
    ): void => {
      const entry = wanted[at];
      if (this.#host.shouldStop()) return;
      if (!entry) return finish(units, cost);
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
        if (this.#rowsFor(joined) > this.#board.rows) continue;
        if (isIdle(cost + price + restOf(at, left - count, joined))) continue;
        for (const more of unitChoices(billed, count))
          choose(at, classAt + 1, left - count, cost + price, [...units, ...more], joined);
      }
      if (!isIdle(cost + restOf(at, left, components)))
        choose(at, classAt + 1, left, cost, units, components);
    };
    const first = wanted[0];
    if (!first) {
      finish([], base);
      return;
    }
    choose(0, 0, fresh[first.kind] ?? 0, base, [], components);
  }

  /** Rows that modules of so many of each component fill at least: no row holds two components. */
  #rowsFor(components: ReadonlyMap<number, number>): number {
    const width = this.#board.channels.length;
    let rows = 0;
    for (const count of components.values()) rows += Math.ceil(count / width);
    return rows;
  }

  #slowest(units: readonly Unit[]): DataRate {
    const [first] = units;
    return units.reduce(
      (low, { of }) => (exactRate(of.own) < exactRate(low) ? of.own : low),
      first?.of.own ?? (this.#speed as DataRate),
    );
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
