import type { SlotId } from '../machine/index.ts';
import type { Rating, Spec } from '../matching/index.ts';
import { settleTimings } from '../operating-point/index.ts';
import { exactRate, lowestRate } from '../units/index.ts';
import type { DataRate } from '../units/index.ts';
import type { Bought } from './bills.ts';
import type { Board, Load } from './board.ts';
import { bunch, bunchesAgree, matesAgree } from './bunches.ts';
import type { Bunch, Mates, Token } from './bunches.ts';
import { seat } from './seating.ts';
import { spreadOver } from './spreading.ts';
import type { Item } from './spreading.ts';
import { stackColumns } from './stacking.ts';
import { agreementOf, specText } from './supply.ts';
import type { Agreement, Fitted, Kind, ModuleClass, Supply } from './supply.ts';

/** One module to be placed: one that stays, or one that is bought or taken from the drawer. */
export interface Unit {
  readonly of: ModuleClass;
  readonly keys: Agreement;
  /** Equal for units that may stand for each other anywhere. */
  readonly mark: string;
  readonly kept?: Fitted | undefined;
  readonly bought?: Bought | undefined;
}

/** Spreads of one width: the loosest limit the rate table has for any of them. */
interface SpreadClass {
  readonly width: number;
  readonly table: DataRate | undefined;
}

/** Units by slot, and what the set then reaches: exact MT/s × channels of the region that counts. */
export interface Arrangement {
  readonly reach: number;
  readonly slots: ReadonlyMap<SlotId, Unit>;
}

/**
 * Finds the best way to lay modules over channels. Which of several alike modules goes where is
 * only settled once a plan is worth keeping.
 */
export class Arranger {
  readonly #board: Board;
  readonly #supply: Supply;
  readonly #spreads = new Map<number | string, readonly SpreadClass[]>();
  /** The worth of one module of a kind in a key; absent where there are too many kinds for a number. */
  readonly #places: readonly number[] | undefined;
  readonly #widths = new Map<number, number>();
  readonly #sizes: readonly number[];
  readonly #digits: readonly number[];
  readonly #steps = new Map<string, number>();
  readonly #paired = new Map<string, number>();
  readonly #patterns = new Map<string, number>();
  readonly #mates = new Map<number, Mates>();
  readonly #needless = new Map<string, boolean>();
  /** Marks for ratings, specs, parts and kits, by their text. */
  readonly #marks = [new Map(), new Map(), new Map(), new Map()] as Map<string, number>[];
  readonly #solderedMates: readonly { readonly channel: number; readonly token: Token }[];
  readonly #soldered: readonly { readonly channel: number; readonly keys: Agreement }[];
  readonly #solderedOwn: DataRate | undefined;
  readonly #solderedRanks: number;

  constructor(board: Board, supply: Supply) {
    this.#board = board;
    this.#supply = supply;
    const { machine } = board;
    this.#sizes = supply.kinds.map(({ capacity }) => capacity);
    const distinct = [...new Set(this.#sizes)];
    const base = board.slotCount + 1;
    this.#places =
      base ** supply.kinds.length < Number.MAX_SAFE_INTEGER
        ? supply.kinds.map((_, kind) => base ** kind)
        : undefined;
    this.#digits = this.#sizes.map((size) => (board.slotCount + 1) ** distinct.indexOf(size));
    this.#soldered = machine.soldered.map(({ channel, part }) => ({
      channel: machine.channels.indexOf(channel),
      keys: agreementOf(part, supply.profiled),
    }));
    this.#solderedMates = this.#soldered.map(({ channel, keys }) => {
      const mates: Mates = {
        capacity: keys.capacity,
        same: new Set(keys.part ? [`part ${keys.part}`] : []),
        ...{ specs: [keys.spec], ratings: [keys.rating], known: new Map() },
      };
      return { channel, token: { kind: -1, mates, left: 0 } };
    });
    this.#solderedRanks = board.channels.reduce((sum, { soldered }) => sum + soldered.ranks, 0);
    this.#solderedOwn = lowestRate(
      machine.soldered.map(
        ({ part }) => (supply.profiled ? part.profile?.rate : part.rate) ?? part.rate,
      ),
    );
  }

  /** What soldered parts agree by. */
  get soldered(): Agreement[] {
    return this.#soldered.map(({ keys }) => keys);
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
    const items = this.#itemsOf(counts);
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

  /**
   * Puts units into slots so that they reach what the search found: by the manual's fill order, then
   * with fewest moves.
   *
   * @param target - the reach to be met
   * @param pairs - the n-th modules of all channels have to agree
   * @param verify - the last word on a choice of slots
   * @returns `undefined` where no placement is admitted
   */
  place(
    units: readonly Unit[],
    own: DataRate,
    target: number,
    pairs: boolean,
    verify: (slots: ReadonlyMap<SlotId, Unit>) => boolean,
  ): Arrangement | undefined {
    const counts = new Uint8Array(this.#supply.kinds.length);
    for (const { of } of units) counts[of.kind] = (counts[of.kind] ?? 0) + 1;
    let best: (Arrangement & { score: number }) | undefined;
    /** False once nothing better can come. */
    const consider = (columns: readonly (readonly Unit[])[], loads: readonly Load[]): boolean => {
      const reach = this.#reachOf(loads, units.length, counts, own);
      if (reach < target) return true;
      const seated = seat(this.#board, columns, units.length, pairs);
      if (!seated || (best && seated.score >= best.score)) return true;
      const { slots, score } = seated;
      if (verify(slots)) best = { reach, slots, score };
      return best?.score !== 0;
    };
    if (pairs) this.#stackUnits(units, consider);
    else
      spreadOver(this.#board, this.#itemsOf(counts), (loads, _, spread) =>
        consider(this.#columnsOf(units, spread), loads),
      );
    return best;
  }

  /**
   * The best reach of concrete modules whose rows agree. Remembered by who agrees with whom, which
   * is the same for many choices of modules.
   *
   * @param most - no more can come out of it
   */
  pairedReach(units: readonly Unit[], own: DataRate, most: number): number {
    const tokens = bunch(units, false);
    // Where agreeing is not handed on, who agrees with whom is not told by what is equal here.
    const names = this.#supply.gaps
      ? this.#marks
      : ([new Map(), new Map(), new Map(), new Map()] as Map<string, number>[]);
    const label = (at: number, key: string | undefined): number => {
      const map = names[at];
      if (key === undefined || !map) return -1;
      let found = map.get(key);
      if (found === undefined) map.set(key, (found = map.size));
      return found;
    };
    let pattern = `${own}`;
    // What a module agrees by in any case needs no further mark.
    const describe = ({ rating, spec, part, kit }: Agreement, of?: ModuleClass, kept = false) => {
      pattern += ` ${label(0, rating.key)},${label(1, spec.known ? specText(spec) : undefined)}`;
      if (of?.by !== 'spec') pattern += `,${label(2, part)}`;
      if (of?.by === 'pack' || kept) pattern += `,${label(3, kit)}`;
    };
    for (const { keys } of this.#soldered) describe(keys);
    const counts = new Uint8Array(this.#supply.kinds.length);
    for (const { kind, left, keys, units: like } of tokens) {
      counts[kind] = (counts[kind] ?? 0) + left;
      pattern += ` ${kind}x${left}`;
      describe(keys, like[0]?.of, like[0]?.kept !== undefined);
    }
    const known = this.#patterns.get(pattern);
    if (known !== undefined) return known;
    let best = 0;
    stackColumns(
      this.#board,
      this.#supply.kinds,
      tokens,
      this.#solderedBunches,
      bunchesAgree,
      (_, loads) => {
        best = Math.max(best, this.#reachOf(loads, units.length, counts, own));
        return best < most;
      },
    );
    this.#patterns.set(pattern, best);
    return best;
  }

  get #solderedBunches(): { channel: number; token: Bunch }[] {
    return this.#soldered.map(({ channel, keys }) => ({
      channel,
      token: { kind: -1, keys, units: [], left: 0 },
    }));
  }

  #stackUnits(
    units: readonly Unit[],
    consider: (columns: readonly (readonly Unit[])[], loads: readonly Load[]) => boolean,
  ): void {
    const tokens = bunch(units, true);
    stackColumns(
      this.#board,
      this.#supply.kinds,
      tokens,
      this.#solderedBunches,
      bunchesAgree,
      (columns, loads) => {
        const taken = new Map<Bunch, number>();
        const seated = columns.map((column) =>
          column.flatMap((bunch) => {
            const at = taken.get(bunch) ?? 0;
            taken.set(bunch, at + 1);
            return bunch.units[at] ?? [];
          }),
        );
        return consider(seated, loads);
      },
    );
  }

  #itemsOf(counts: ArrayLike<number>): Item[] {
    const items: Item[] = [];
    this.#supply.kinds.forEach(({ capacity, ranks }: Kind, kind) => {
      const count = counts[kind] ?? 0;
      if (count > 0) items.push({ kind, capacity, ranks, count });
    });
    return items;
  }

  #reachOf(
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
    let size = this.#soldered[0]?.keys.capacity;
    for (const { keys } of this.#soldered) if (keys.capacity !== size) return true;
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
    spreadOver(board, this.#itemsOf(counts), (loads, socketed) => {
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

  /** Picks units for a spread by kind; one that stays goes to its own channel where it can. */
  #columnsOf(units: readonly Unit[], spread: readonly Uint8Array[]): Unit[][] {
    const kindsUsed = [...new Set(units.map(({ of }) => of.kind))].sort((a, b) => a - b);
    const left = new Set(units);
    const columns: Unit[][] = spread.map(() => []);
    const wanting = spread.map((counts) => [...counts]);
    for (const home of [true, false])
      for (const unit of units) {
        const at = kindsUsed.indexOf(unit.of.kind);
        const channel = this.#board.channels.findIndex(
          ({ slots }, one) =>
            (wanting[one]?.[at] ?? 0) > 0 &&
            (!home || (unit.kept !== undefined && slots.includes(unit.kept.slotId))),
        );
        if (!left.has(unit) || channel < 0) continue;
        left.delete(unit);
        columns[channel]?.push(unit);
        const wants = wanting[channel];
        if (wants) wants[at] = (wants[at] ?? 0) - 1;
      }
    return columns;
  }

  /**
   * The best reach of stacked columns where rows agree as far as kinds can tell; no set of concrete
   * modules of these kinds has more. Remembered, like {@link Arranger.bestReach}.
   */
  bestPairedReach(counts: ArrayLike<number>, own: DataRate): number {
    const key = `${own} ${Array.prototype.join.call(counts, ',')}`;
    const known = this.#paired.get(key);
    if (known !== undefined) return known;
    let best = 0;
    const most = this.bestReach(counts, own);
    const tokens: Token[] = [];
    let total = 0;
    for (let kind = 0; kind < counts.length; kind++)
      if (counts[kind]) {
        tokens.push({ kind, mates: this.#matesOf(kind), left: counts[kind] ?? 0 });
        total += counts[kind] ?? 0;
      }
    stackColumns(
      this.#board,
      this.#supply.kinds,
      tokens,
      this.#solderedMates,
      matesAgree,
      (_, loads) => {
        best = Math.max(best, this.#reachOf(loads, total, counts, own));
        return best < most;
      },
    );
    this.#paired.set(key, best);
    return best;
  }

  /** What modules of a kind can agree by. */
  #matesOf(kind: number): Mates {
    const known = this.#mates.get(kind);
    if (known) return known;
    const same = new Set<string>();
    const specs = new Map<string, Spec>();
    const ratings = new Map<string, Rating>();
    for (const one of this.#supply.classes) {
      if (one.kind !== kind) continue;
      for (const source of [...one.sources, ...one.fitted]) {
        const { spec, part, kit, rating } = this.#supply.keysOf.get(source) ?? one.keys;
        if (part) same.add(`part ${part}`);
        if (kit) same.add(`kit ${kit}`);
        if ('units' in source && source.units > 1) same.add(`pack ${source.id}`);
        specs.set(specText(spec), spec);
        ratings.set(rating.key, rating);
      }
    }
    const sets: Mates = {
      capacity: this.#supply.kinds[kind]?.capacity ?? 0,
      same,
      specs: [...specs.values()],
      ratings: [...ratings.values()],
      known: new Map(),
    };
    this.#mates.set(kind, sets);
    return sets;
  }
}

function firstOf(counts: ArrayLike<number>): number {
  for (let at = 0; at < counts.length; at++) if (counts[at]) return at;
  return -1;
}
