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
  readonly #widths = new Map<string, number>();
  readonly #steps = new Map<string, number>();
  readonly #soldered: readonly { readonly channel: number; readonly keys: Agreement }[];
  readonly #solderedOwn: DataRate | undefined;

  constructor(board: Board, supply: Supply) {
    this.#board = board;
    this.#supply = supply;
    const { machine } = board;
    this.#soldered = machine.soldered.map(({ channel, part }) => ({
      channel: machine.channels.indexOf(channel),
      keys: agreementOf(part, supply.profiled),
    }));
    this.#solderedOwn = lowestRate(
      machine.soldered.map(({ part }) => (supply.profiled ? part.profile?.rate : part.rate) ?? part.rate),
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
    const sizes = new Map<number, number>();
    for (let kind = 0; kind < counts.length; kind++) {
      const size = this.#supply.kinds[kind]?.capacity ?? 0;
      if (counts[kind]) sizes.set(size, (sizes.get(size) ?? 0) + (counts[kind] ?? 0));
    }
    const list = [...sizes].sort(([a], [b]) => a - b);
    const key = list.join(';');
    const known = this.#widths.get(key);
    if (known !== undefined) return known;
    let best = 0;
    const items = list.map(([capacity, count]) => ({ kind: 0, capacity, ranks: 0, count }));
    this.#distribute(items, (loads, socketed) => {
      best = Math.max(best, this.#board.width(loads, socketed, true));
    });
    this.#widths.set(key, best);
    return best;
  }

  /**
   * Puts units into slots: the best reach first, then the manual's fill order, then fewest moves.
   *
   * @param pairs - the n-th modules of all channels have to agree
   * @param verify - asked of the chosen slots; given, it is also tried which of several alike
   *   modules goes where
   * @returns `undefined` where no placement is admitted
   */
  place(
    units: readonly Unit[],
    own: DataRate,
    pairs: boolean,
    verify?: (slots: ReadonlyMap<SlotId, Unit>) => boolean,
  ): Arrangement | undefined {
    const counts = new Uint8Array(this.#supply.kinds.length);
    for (const { of } of units) counts[of.kind] = (counts[of.kind] ?? 0) + 1;
    let best: (Arrangement & { score: number }) | undefined;
    const consider = (columns: readonly (readonly Unit[])[], loads: readonly Load[]) => {
      const reach = this.#reachOf(loads, units.length, counts, own);
      if (reach === 0 || (best && reach < best.reach)) return;
      const { slots, score } = seat(this.#board, columns, units.length);
      if (best && reach === best.reach && score >= best.score) return;
      if (!verify || verify(slots)) best = { reach, slots, score };
    };
    if (pairs) this.#stack(units, verify !== undefined, consider);
    else
      this.#distribute(this.#itemsOf(counts), (loads, _, spread) => {
        consider(this.#columnsOf(units, spread), loads);
      });
    return best;
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
      this.#solderedOwn && exactRate(this.#solderedOwn) < exactRate(own)
        ? this.#solderedOwn
        : own;
    const rate = board.rate(first.generation, slowest, board.tableLimit(loads));
    return rate === 0 ? 0 : this.#withCommonCl(counts, rate) * width;
  }

  /** The rate after stepping down to where every module has a CL in common. */
  #withCommonCl(counts: ArrayLike<number>, rate: number): number {
    if (this.#supply.profiled) return rate;
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

  /** Every stacking of units into ordered columns whose rows agree with the row's first. */
  #stack(
    units: readonly Unit[],
    finely: boolean,
    visit: (columns: readonly (readonly Unit[])[], loads: readonly Load[]) => void,
  ): void {
    const { channels } = this.#board;
    const { kinds } = this.#supply;
    const loads = channels.map(({ soldered }) => ({ ...soldered }));
    const columns: Unit[][] = channels.map(() => []);
    const base = channels.map((_, at) =>
      this.#soldered.filter(({ channel }) => channel === at).map(({ keys }) => keys),
    );
    const left = new Set(units);
    const rowFirst = (row: number, before: number): Agreement | undefined => {
      for (let at = 0; at < before; at++) {
        const soldered = base[at] ?? [];
        const found = soldered[row] ?? columns[at]?.[row - soldered.length]?.keys;
        if (found) return found;
      }
      return undefined;
    };
    const fill = (channel: number): void => {
      if (channel === channels.length) {
        if (left.size === 0) visit(columns, loads);
        return;
      }
      const column = columns[channel];
      const load = loads[channel];
      const soldered = base[channel] ?? [];
      if (!column || !load) return;
      // Soldered parts have to agree with what already stands in their rows.
      for (let row = 0; row < soldered.length && column.length === 0; row++) {
        const first = rowFirst(row, channel);
        const own = soldered[row];
        if (first && own && !agree(first, own)) return;
      }
      fill(channel + 1);
      if (column.length === (channels[channel]?.slots.length ?? 0)) return;
      const first = rowFirst(soldered.length + column.length, channel);
      const tried = new Set<string>();
      for (const unit of [...left]) {
        if (first && !agree(first, unit.keys)) continue;
        const home = finely && unit.kept && channels[channel]?.slots.includes(unit.kept.slotId);
        const mark = `${unit.mark} ${home ? unit.kept.slotId : ''}`;
        if (tried.has(mark)) continue;
        tried.add(mark);
        const saved = { ...load };
        const kind = kinds[unit.of.kind];
        left.delete(unit);
        column.push(unit);
        load.capacity += kind?.capacity ?? 0;
        load.modules += 1;
        if (Number.isNaN(kind?.ranks)) load.unranked += 1;
        else load.ranks += kind?.ranks ?? 0;
        fill(channel);
        Object.assign(load, saved);
        column.pop();
        left.add(unit);
      }
    };
    fill(0);
  }
}

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
 * Seats columns in slots. The lower score is the better: a slot outside the manual's order weighs
 * more than any number of moves.
 */
function seat(
  { machine, channels, firstChannel }: Board,
  columns: readonly (readonly Unit[])[],
  total: number,
): { slots: Map<SlotId, Unit>; score: number } {
  const order = machine.fillOrder === 'unknown' ? undefined : machine.fillOrder[total - 1];
  const slots = new Map<SlotId, Unit>();
  let score = 0;
  columns.forEach((column, at) => {
    const own = channels[at]?.slots ?? [];
    const chosen = chooseSlots(machine, own, column, order, at === firstChannel);
    const inOrder = own.filter((slotId) => chosen.includes(slotId));
    inOrder.forEach((slotId, row) => {
      const unit = column[row];
      if (!unit) return;
      slots.set(slotId, unit);
      if (order && !order.includes(slotId)) score += 100;
      if (unit.kept && unit.kept.slotId !== slotId) score += 1;
    });
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
