import type { SlotId } from '../machine/index.ts';
import type { Rating, Spec } from '../matching/index.ts';
import type { DataRate } from '../units/index.ts';
import type { Bought } from './bills.ts';
import type { Board, Load } from './board.ts';
import { bunch, bunchesAgree, matesAgree } from './bunches.ts';
import type { Bunch, Mates, Token } from './bunches.ts';
import { SetReach } from './reach.ts';
import { seat } from './seating.ts';
import { spreadOver } from './spreading.ts';
import { stackColumns } from './stacking.ts';
import { agreementOf, specText } from './supply.ts';
import type { Agreement, Fitted, ModuleClass, Supply } from './supply.ts';

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
  /** What sets reach, whatever lies where. */
  readonly sets: SetReach;
  readonly #paired = new Map<string, number>();
  readonly #patterns = new Map<string, number>();
  readonly #mates = new Map<number, Mates>();
  /** Marks for ratings, specs, parts and kits, by their text. */
  readonly #marks = [new Map(), new Map(), new Map(), new Map()] as Map<string, number>[];
  readonly #solderedMates: readonly { readonly channel: number; readonly token: Token }[];
  readonly #soldered: readonly { readonly channel: number; readonly keys: Agreement }[];

  constructor(board: Board, supply: Supply) {
    this.#board = board;
    this.#supply = supply;
    const { machine } = board;
    this.sets = new SetReach(board, supply);
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
  }

  /** What soldered parts agree by. */
  get soldered(): Agreement[] {
    return this.#soldered.map(({ keys }) => keys);
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
      const reach = this.sets.reachOf(loads, units.length, counts, own);
      if (reach < target) return true;
      const seated = seat(this.#board, columns, units.length, pairs);
      if (!seated || (best && seated.score >= best.score)) return true;
      const { slots, score } = seated;
      if (verify(slots)) best = { reach, slots, score };
      return best?.score !== 0;
    };
    if (pairs) this.#stackUnits(units, consider);
    else
      spreadOver(this.#board, this.sets.itemsOf(counts), (loads, _, spread) =>
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
        best = Math.max(best, this.sets.reachOf(loads, units.length, counts, own));
        return best < most;
      },
      true,
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
   * modules of these kinds has more. Remembered, like {@link SetReach.bestReach}.
   */
  bestPairedReach(counts: ArrayLike<number>, own: DataRate): number {
    const key = `${own} ${Array.prototype.join.call(counts, ',')}`;
    const known = this.#paired.get(key);
    if (known !== undefined) return known;
    let best = 0;
    const most = this.sets.bestReach(counts, own);
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
        best = Math.max(best, this.sets.reachOf(loads, total, counts, own));
        return best < most;
      },
      true,
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
