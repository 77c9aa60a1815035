import type { DataRate } from '../units/index.ts';
import type { Arranger, Unit } from './arrange.ts';
import type { Board } from './board.ts';
import { Outlook } from './outlook.ts';
import type { OutlookKind } from './outlook.ts';
import { RoundPrices } from './prices.ts';
import { Realiser } from './realise.ts';
import type { ModuleClass } from './supply.ts';
import type { Pool, SweepHost } from './sweep.ts';

/** Place of `uneven` in the list of grades. */
const UNEVEN = 4;

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
  readonly #prices: RoundPrices;
  readonly #realiser: Realiser;
  readonly #solderedSizes: ReadonlySet<number>;
  readonly #solderedChannels: number;
  /** The most ranks of any module; one that is not known may have as many as there are. */
  readonly #ranksEach: number;

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
    this.#prices = new RoundPrices(board, pool, classes);
    this.#realiser = new Realiser(pool, host, arranger, this.#prices, board.rows, speed);
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
    if (pairs && this.#prices.rowsFor(components) > this.#board.rows) return;
    const kinds = this.#prices.kinds.map((entry): PricedKind => ({
      ...{ kind: entry.kind, capacity: entry.capacity },
      cost: pairs ? this.#prices.least(entry, components) : entry.bills.cost,
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
      const set = { kept, fresh, components, base, installed, reach, grade, displaced, free };
      this.#realiser.realise(set);
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
}
