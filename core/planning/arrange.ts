import type { Machine, SlotId } from '../machine/index.ts';
import { settleTimings } from '../operating-point/index.ts';
import { exactRate, lowestRate } from '../units/index.ts';
import type { DataRate } from '../units/index.ts';
import type { Bought } from './bills.ts';
import type { Board, Load } from './board.ts';
import { agree, agreementOf } from './supply.ts';
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
  readonly #reach = new Map<string, number>();
  readonly #widths = new Map<number, number>();
  readonly #sizes: readonly number[];
  readonly #digits: readonly number[];
  readonly #steps = new Map<string, number>();
  readonly #paired = new Map<string, number>();
  readonly #patterns = new Map<string, number>();
  readonly #mates = new Map<number, Mates>();
  readonly #solderedMates: readonly { readonly channel: number; readonly token: Token }[];
  readonly #soldered: readonly { readonly channel: number; readonly keys: Agreement }[];
  readonly #solderedOwn: DataRate | undefined;

  constructor(board: Board, supply: Supply) {
    this.#board = board;
    this.#supply = supply;
    const { machine } = board;
    this.#sizes = supply.kinds.map(({ capacity }) => capacity);
    const distinct = [...new Set(this.#sizes)];
    this.#digits = this.#sizes.map((size) => (board.slotCount + 1) ** distinct.indexOf(size));
    this.#soldered = machine.soldered.map(({ channel, part }) => ({
      channel: machine.channels.indexOf(channel),
      keys: agreementOf(part, supply.profiled),
    }));
    this.#solderedMates = this.#soldered.map(({ channel, keys }) => {
      const same = [keys.spec && `spec ${keys.spec}`, keys.part && `part ${keys.part}`];
      const mates = {
        capacity: keys.capacity,
        same: new Set(same.filter((key) => key !== undefined)),
        ratings: new Set([keys.rating]),
      };
      return { channel, token: { kind: -1, mates, left: 0 } };
    });
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
    const key = `${own} ${Array.prototype.join.call(counts, ',')}`;
    const known = this.#reach.get(key);
    if (known !== undefined) return known;
    let best = 0;
    this.#distribute(this.#itemsOf(counts), (loads, socketed) => {
      best = Math.max(best, this.#reachOf(loads, socketed, counts, own));
    });
    this.#reach.set(key, best);
    return best;
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
    this.#distribute(items, (loads, socketed) => {
      best = Math.max(best, this.#board.width(loads, socketed, true));
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
      const { slots, score } = seat(this.#board, columns, units.length, pairs);
      if (best && score >= best.score) return true;
      if (verify(slots)) best = { reach, slots, score };
      return best?.score !== 0;
    };
    if (pairs) this.#stackUnits(units, consider);
    else
      this.#distribute(this.#itemsOf(counts), (loads, _, spread) => {
        consider(this.#columnsOf(units, spread), loads);
      });
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
    const names = [new Map(), new Map(), new Map(), new Map()] as Map<string, number>[];
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
      pattern += ` ${label(0, rating)},${label(1, spec)}`;
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
    this.#stack(tokens, this.#solderedBunches, bunchesAgree, (_, loads) => {
      best = Math.max(best, this.#reachOf(loads, units.length, counts, own));
      return best < most;
    });
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
    this.#stack(tokens, this.#solderedBunches, bunchesAgree, (columns, loads) => {
      const taken = new Map<Bunch, number>();
      const seated = columns.map((column) =>
        column.flatMap((bunch) => {
          const at = taken.get(bunch) ?? 0;
          taken.set(bunch, at + 1);
          return bunch.units[at] ?? [];
        }),
      );
      return consider(seated, loads);
    });
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
    const width = board.width(loads, socketed);
    if (width === 0) return 0;
    const { kinds } = this.#supply;
    const first = board.machine.soldered[0]?.part ?? kinds[firstOf(counts)]?.example;
    if (!first) return 0;
    const slowest =
      this.#solderedOwn && exactRate(this.#solderedOwn) < exactRate(own) ? this.#solderedOwn : own;
    const rate = board.rate(first.generation, slowest, board.tableLimit(loads));
    return rate === 0 ? 0 : this.#withCommonCl(counts, rate) * width;
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

  /** Every spread of items over channels, interchangeable channels taken once. */
  #distribute(
    items: readonly Item[],
    visit: (loads: readonly Load[], socketed: number, spread: readonly Uint8Array[]) => void,
  ): void {
    const { channels } = this.#board;
    const loads = channels.map(({ soldered }) => ({ ...soldered }));
    const free = channels.map(({ slots }) => slots.length);
    const spread = channels.map(() => new Uint8Array(items.length));
    const history = channels.map(({ alike }) => alike);
    const socketed = items.reduce((sum, { count }) => sum + count, 0);
    const place = (at: number, channel: number, left: number, before: readonly number[]): void => {
      const item = items[at];
      if (!item) return visit(loads, socketed, spread);
      if (channel === channels.length) {
        if (left > 0) return;
        for (let one = 0; one < channels.length; one++)
          history[one] = (before[one] ?? 0) * 32 + (spread[one]?.[at] ?? 0);
        place(at + 1, 0, items[at + 1]?.count ?? 0, [...history]);
        return;
      }
      // Of channels with the same past the earlier takes at least as many.
      let most = Math.min(left, free[channel] ?? 0);
      for (let one = channel - 1; one >= 0; one--)
        if (before[one] === before[channel]) {
          most = Math.min(most, spread[one]?.[at] ?? 0);
          break;
        }
      const load = loads[channel];
      const mine = spread[channel];
      if (!load || !mine) return;
      const saved = { ...load };
      for (let count = 0; count <= most; count++) {
        mine[at] = count;
        load.capacity = saved.capacity + count * item.capacity;
        load.modules = saved.modules + count;
        if (Number.isNaN(item.ranks)) load.unranked = saved.unranked + count;
        else load.ranks = saved.ranks + count * item.ranks;
        free[channel] = (free[channel] ?? 0) - count;
        place(at, channel + 1, left - count, before);
        free[channel] = (free[channel] ?? 0) + count;
      }
      mine[at] = 0;
      Object.assign(load, saved);
    };
    place(0, 0, items[0]?.count ?? 0, [...history]);
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
    this.#stack(tokens, this.#solderedMates, matesAgree, (_, loads) => {
      best = Math.max(best, this.#reachOf(loads, total, counts, own));
      return best < most;
    });
    this.#paired.set(key, best);
    return best;
  }

  /** What modules of a kind can agree by. */
  #matesOf(kind: number): Mates {
    const known = this.#mates.get(kind);
    if (known) return known;
    const sets: Mates = {
      capacity: this.#supply.kinds[kind]?.capacity ?? 0,
      same: new Set(),
      ratings: new Set(),
    };
    for (const one of this.#supply.classes) {
      if (one.kind !== kind) continue;
      for (const source of [...one.sources, ...one.fitted]) {
        const { spec, part, kit, rating } = this.#supply.keysOf.get(source) ?? one.keys;
        if (spec) sets.same.add(`spec ${spec}`);
        if (part) sets.same.add(`part ${part}`);
        if (kit) sets.same.add(`kit ${kit}`);
        if ('units' in source && source.units > 1) sets.same.add(`pack ${source.id}`);
        sets.ratings.add(rating);
      }
    }
    this.#mates.set(kind, sets);
    return sets;
  }

  /** Every stacking of tokens into ordered columns whose rows agree with the row's first. */
  #stack<T extends { readonly kind: number; left: number }>(
    tokens: readonly T[],
    soldered: readonly { readonly channel: number; readonly token: T }[],
    agrees: (a: T, b: T) => boolean,
    visit: (columns: readonly (readonly T[])[], loads: readonly Load[]) => boolean,
  ): void {
    const { channels } = this.#board;
    const { kinds } = this.#supply;
    const loads = channels.map(({ soldered: load }) => ({ ...load }));
    const columns: T[][] = channels.map(() => []);
    const base = channels.map((_, at) =>
      soldered.filter(({ channel }) => channel === at).map(({ token }) => token),
    );
    let left = tokens.reduce((sum, token) => sum + token.left, 0);
    const rowFirst = (row: number, before: number): T | undefined => {
      for (let at = 0; at < before; at++) {
        const under = base[at] ?? [];
        const found = under[row] ?? columns[at]?.[row - under.length];
        if (found) return found;
      }
      return undefined;
    };
    const room = channels.map((_, at) =>
      channels.slice(at).reduce((sum, { slots }) => sum + slots.length, 0),
    );
    /** False ends everything. */
    const fill = (channel: number): boolean => {
      if (channel === channels.length) return left > 0 || visit(columns, loads);
      const column = columns[channel];
      const load = loads[channel];
      const under = base[channel] ?? [];
      if (!column || !load || left > (room[channel] ?? 0) - column.length) return true;
      // Soldered parts have to agree with what already stands in their rows.
      for (let row = 0; row < under.length && column.length === 0; row++) {
        const first = rowFirst(row, channel);
        const own = under[row];
        if (first && own && !agrees(first, own)) return true;
      }
      if (column.length < (channels[channel]?.slots.length ?? 0)) {
        const first = rowFirst(under.length + column.length, channel);
        for (const token of tokens) {
          if (token.left === 0 || (first && !agrees(first, token))) continue;
          const saved = { ...load };
          const kind = kinds[token.kind];
          token.left -= 1;
          left -= 1;
          column.push(token);
          load.capacity += kind?.capacity ?? 0;
          load.modules += 1;
          if (Number.isNaN(kind?.ranks)) load.unranked += 1;
          else load.ranks += kind?.ranks ?? 0;
          const goOn = fill(channel);
          Object.assign(load, saved);
          column.pop();
          left += 1;
          token.left += 1;
          if (!goOn) return false;
        }
      }
      return fill(channel + 1);
    };
    fill(0);
  }
}

/** A kind as something to be stacked, with all its modules could agree by. */
interface Token {
  readonly kind: number;
  readonly mates: Mates;
  left: number;
}

interface Mates {
  readonly capacity: number;
  readonly same: Set<string>;
  readonly ratings: Set<string>;
}

function matesAgree({ mates: a }: Token, { mates: b }: Token): boolean {
  const [one, other] = a.capacity === b.capacity ? [a.same, b.same] : [a.ratings, b.ratings];
  for (const key of one) if (other.has(key)) return true;
  return false;
}

/** Units that may stand for each other, as something to be stacked. */
interface Bunch {
  readonly kind: number;
  readonly keys: Agreement;
  readonly units: readonly Unit[];
  left: number;
}

function bunch(units: readonly Unit[], finely: boolean): Bunch[] {
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

const bunchesAgree = (a: Bunch, b: Bunch): boolean => agree(a.keys, b.keys);

interface Item {
  readonly kind: number;
  readonly capacity: number;
  readonly ranks: number;
  readonly count: number;
}

function firstOf(counts: ArrayLike<number>): number {
  for (let at = 0; at < counts.length; at++) if (counts[at]) return at;
  return -1;
}

/**
 * Seats columns in slots; where the order within a column is free, what stays keeps its slot. The lower score is the better: a slot outside the manual's order weighs
 * more than any number of moves.
 */
function seat(
  { machine, channels, firstChannel }: Board,
  columns: readonly (readonly Unit[])[],
  total: number,
  isOrdered: boolean,
): { slots: Map<SlotId, Unit>; score: number } {
  const order = machine.fillOrder === 'unknown' ? undefined : machine.fillOrder[total - 1];
  const slots = new Map<SlotId, Unit>();
  let score = 0;
  columns.forEach((column, at) => {
    const own = channels[at]?.slots ?? [];
    const chosen = chooseSlots(machine, own, column, order, at === firstChannel);
    const inOrder = own.filter((slotId) => chosen.includes(slotId));
    const left = [...column];
    const atHome = (slotId: SlotId) => left.findIndex((unit) => unit.kept?.slotId === slotId);
    const settled = new Map<SlotId, Unit>();
    for (const slotId of isOrdered ? [] : inOrder) {
      const [unit] = atHome(slotId) < 0 ? [] : left.splice(atHome(slotId), 1);
      if (unit) settled.set(slotId, unit);
    }
    for (const slotId of inOrder) {
      const unit = settled.get(slotId) ?? left.shift();
      if (!unit) continue;
      slots.set(slotId, unit);
      if (order && !order.includes(slotId)) score += 100;
      if (unit.kept && unit.kept.slotId !== slotId) score += 1;
    }
  });
  return { slots, score };
}

function chooseSlots(
  machine: Machine,
  own: readonly SlotId[],
  column: readonly Unit[],
  order: readonly SlotId[] | undefined,
  holdsFirst: boolean,
): SlotId[] {
  const chosen: SlotId[] = [];
  const take = (slotId: SlotId | undefined) => {
    if (slotId && chosen.length < column.length && own.includes(slotId) && !chosen.includes(slotId))
      chosen.push(slotId);
  };
  if (holdsFirst) take(machine.requiredFirstSlot);
  order?.forEach(take);
  for (const { kept } of column) take(kept?.slotId);
  // Rule of thumb where no manual says otherwise: the far slot of a channel first.
  [...own].reverse().forEach(take);
  return chosen;
}
