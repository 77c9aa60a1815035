import { settleTimings } from '../operating-point/index.ts';
import { exactRate, lowestRate } from '../units/index.ts';
import type { DataRate } from '../units/index.ts';
import type { Board, Load } from './board.ts';
import { spreadOver } from './spreading.ts';
import type { Item } from './spreading.ts';
import type { Kind, Supply } from './supply.ts';

/** Spreads of one width: the loosest limit the rate table has for any of them. */
interface SpreadClass {
  readonly width: number;
  readonly table: DataRate | undefined;
}

/**
 * What a set of modules reaches – so many of each kind, whatever lies where: exact MT/s × channels of
 * the region that counts. Remembered throughout: the same set turns up under many prices and rates.
 */
export class SetReach {
  readonly #board: Board;
  readonly #supply: Supply;
  readonly #spreads = new Map<number | string, readonly SpreadClass[]>();
  /** The worth of one module of a kind in a key; absent where there are too many kinds for a number. */
  readonly #places: readonly number[] | undefined;
  readonly #widths = new Map<number, number>();
  readonly #sizes: readonly number[];
  readonly #digits: readonly number[];
  readonly #steps = new Map<string, number>();
  readonly #needless = new Map<string, boolean>();
  readonly #solderedOwn: DataRate | undefined;
  readonly #solderedRanks: number;

  constructor(board: Board, supply: Supply) {
    this.#board = board;
    this.#supply = supply;
    this.#sizes = supply.kinds.map(({ capacity }) => capacity);
    const distinct = [...new Set(this.#sizes)];
    const base = board.slotCount + 1;
    this.#places =
      base ** supply.kinds.length < Number.MAX_SAFE_INTEGER
        ? supply.kinds.map((_, kind) => base ** kind)
        : undefined;
    this.#digits = this.#sizes.map((size) => base ** distinct.indexOf(size));
    this.#solderedRanks = board.channels.reduce((sum, { soldered }) => sum + soldered.ranks, 0);
    this.#solderedOwn = lowestRate(
      board.machine.soldered.map(
        ({ part }) => (supply.profiled ? part.profile?.rate : part.rate) ?? part.rate,
      ),
    );
  }

  /**
   * The best reach any placement of so many of each kind has, pairs not asked about; 0 where none
   * is admitted. Remembered: the same set turns up under many prices.
   *
   * @param counts - modules by kind
   * @param own - the slowest of their rates
   */
  bestReach(counts: ArrayLike<number>, own: DataRate): number {
    let best = 0;
    for (const { width, table } of this.#spreadsOf(counts, own)) {
      const rate = this.#rateUnder(table, counts, own, false);
      if (rate * width > best) best = rate * width;
    }
    return best;
  }

  /**
   * What the spreads of a set come down to, whatever its rate: for each width the loosest limit of the
   * rate table. The same set is asked about under many rates, and spreading it is dear.
   */
  #spreadsOf(counts: ArrayLike<number>, own: DataRate): readonly SpreadClass[] {
    const key = this.#keyOf(counts);
    const known = this.#spreads.get(key);
    if (known) return known;
    const board = this.#board;
    const set = {
      isUnlike: this.#isUnlike(counts),
      isNeedless: () => this.#isNeedless(counts, own),
    };
    const most = this.bestWidth(counts);
    const tables = new Map<number, DataRate | undefined>();
    const items = this.itemsOf(counts);
    // Profiles may go beyond the table, except that the strict school then refuses them.
    const { profiled, school } = board.rules;
    const loosest = profiled && school !== 'strict' ? 0 : this.loosestTable(counts);
    spreadOver(board, items, (loads, socketed) => {
      if (!board.admits(loads, socketed)) return true;
      const width = board.width(loads, set);
      if (width === 0) return true;
      const table = board.tableLimit(loads);
      if (!tables.has(width)) tables.set(width, table);
      else {
        const before = tables.get(width);
        const isLooser =
          before !== undefined && (table === undefined || exactRate(table) > exactRate(before));
        if (isLooser) tables.set(width, table);
      }
      // Nothing is wider than sizes allow, nor looser than the table can be.
      return !(width === most && (table === undefined || exactRate(table) >= loosest));
    });
    const found = [...tables].map(([width, table]) => ({ width, table }));
    this.#spreads.set(key, found);
    return found;
  }

  /** The loosest limit, exact MT/s, the rate table can set on any spread of a set. */
  loosestTable(counts: ArrayLike<number>): number {
    const { channels, machine } = this.#board;
    let modules = machine.soldered.length;
    let ranks = this.#solderedRanks;
    let each = this.#solderedRanks;
    this.#supply.kinds.forEach((kind, at) => {
      const count = counts[at] ?? 0;
      modules += count;
      if (count === 0 || Number.isNaN(kind.ranks)) return;
      ranks += kind.ranks * count;
      each = Math.max(each, kind.ranks);
    });
    const share = (all: number) => Math.ceil(all / channels.length);
    return this.#board.bestTableLimit(share(modules), share(ranks), each);
  }

  /** Counts as a number where there are few kinds, else as text. */
  #keyOf(counts: ArrayLike<number>): number | string {
    if (!this.#places) return Array.prototype.join.call(counts, ',');
    let key = 0;
    for (let kind = 0; kind < counts.length; kind++)
      key += (counts[kind] ?? 0) * (this.#places[kind] ?? 0);
    return key;
  }

  /** The most channels any spread of such sizes has side by side, rate and ranks not asked about. */
  bestWidth(counts: ArrayLike<number>): number {
    const sizes = this.#sizes;
    // Asked for every set there is, so the key is a number: digits of a base above any count.
    let key = 0;
    for (let kind = 0; kind < counts.length; kind++)
      key += (counts[kind] ?? 0) * (this.#digits[kind] ?? 0);
    const known = this.#widths.get(key);
    if (known !== undefined) return known;
    const bySize = new Map<number, number>();
    for (let kind = 0; kind < counts.length; kind++) {
      const size = sizes[kind] ?? 0;
      if (counts[kind]) bySize.set(size, (bySize.get(size) ?? 0) + (counts[kind] ?? 0));
    }
    let best = 0;
    const items = [...bySize].map(([capacity, count]) => ({ kind: 0, capacity, ranks: 0, count }));
    // Whether another placement runs turns on ranks and rates, which are not asked about here.
    const set = { isUnlike: this.#isUnlike(counts), isNeedless: () => false };
    spreadOver(this.#board, items, (loads) => {
      best = Math.max(best, this.#board.width(loads, set));
      return best < this.#board.channels.length;
    });
    this.#widths.set(key, best);
    return best;
  }

  /** A set as it is spread over channels. */
  itemsOf(counts: ArrayLike<number>): Item[] {
    const items: Item[] = [];
    this.#supply.kinds.forEach(({ capacity, ranks }: Kind, kind) => {
      const count = counts[kind] ?? 0;
      if (count > 0) items.push({ kind, capacity, ranks, count });
    });
    return items;
  }

  /** What one spread of a set reaches; 0 where it is not admitted or does not run. */
  reachOf(
    loads: readonly Load[],
    socketed: number,
    counts: ArrayLike<number>,
    own: DataRate,
  ): number {
    const board = this.#board;
    if (!board.admits(loads, socketed)) return 0;
    const set = {
      isUnlike: this.#isUnlike(counts),
      isNeedless: () => this.#isNeedless(counts, own),
    };
    const width = board.width(loads, set);
    return width === 0 ? 0 : this.#rateOf(loads, counts, own, false) * width;
  }

  /** The rate such a set runs at, exact MT/s; 0 where it does not, or the school refuses it. */
  #rateOf(
    loads: readonly Load[],
    counts: ArrayLike<number>,
    own: DataRate,
    anySchool: boolean,
  ): number {
    return this.#rateUnder(this.#board.tableLimit(loads), counts, own, anySchool);
  }

  #rateUnder(
    table: DataRate | undefined,
    counts: ArrayLike<number>,
    own: DataRate,
    anySchool: boolean,
  ): number {
    const board = this.#board;
    const { kinds } = this.#supply;
    const first = board.machine.soldered[0]?.part ?? kinds[firstOf(counts)]?.example;
    if (!first) return 0;
    const slowest =
      this.#solderedOwn && exactRate(this.#solderedOwn) < exactRate(own) ? this.#solderedOwn : own;
    const rate = board.rate(first.generation, slowest, table, anySchool);
    return rate === 0 ? 0 : this.#withCommonCl(counts, rate);
  }

  #isUnlike(counts: ArrayLike<number>): boolean {
    let size: number | undefined = this.#board.machine.soldered[0]?.part.capacity;
    for (const { part } of this.#board.machine.soldered) if (part.capacity !== size) return true;
    for (let kind = 0; kind < counts.length; kind++) {
      if (!counts[kind]) continue;
      size ??= this.#sizes[kind];
      if (this.#sizes[kind] !== size) return true;
    }
    return false;
  }

  /** Whether some placement of such a set runs in more than one channel; see `widerPlacement`. */
  #isNeedless(counts: ArrayLike<number>, own: DataRate): boolean {
    const key = `${own} ${Array.prototype.join.call(counts, ',')}`;
    let found = this.#needless.get(key);
    if (found !== undefined) return found;
    found = false;
    const board = this.#board;
    spreadOver(board, this.itemsOf(counts), (loads, socketed) => {
      found ||=
        board.isWide(loads) &&
        board.admits(loads, socketed) &&
        this.#rateOf(loads, counts, own, true) > 0;
      return !found;
    });
    this.#needless.set(key, found);
    return found;
  }

  /** The rate after stepping down to where every module has a CL in common. */
  #withCommonCl(counts: ArrayLike<number>, rate: number): number {
    if (!this.#supply.masks) return rate;
    const key = `${rate} ${Array.prototype.map.call(counts, (n) => (n ? 1 : 0)).join('')}`;
    const known = this.#steps.get(key);
    if (known !== undefined) return known;
    const { kinds } = this.#supply;
    const modules = [
      ...this.#board.machine.soldered.map(({ part }) => part),
      ...kinds.filter((_, kind) => counts[kind]).map(({ example }) => example),
    ];
    const generation = modules[0]?.generation;
    const parts = modules.map((module) => ({ module, slotId: undefined, channels: [] }));
    const settled = generation && settleTimings(parts, generation, rate as DataRate, false);
    const stepped = settled ? exactRate(settled.rate) : 0;
    this.#steps.set(key, stepped);
    return stepped;
  }
}

function firstOf(counts: ArrayLike<number>): number {
  for (let at = 0; at < counts.length; at++) if (counts[at]) return at;
  return -1;
}
