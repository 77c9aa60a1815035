import { slotMaximum } from '../machine/index.ts';
import type { Machine, SlotId } from '../machine/index.ts';
import type { School } from '../matching/index.ts';
import { isLowPower, snapDown } from '../memory/index.ts';
import type { Generation } from '../memory/index.ts';
import { exactRate, lowestRate } from '../units/index.ts';
import type { DataRate } from '../units/index.ts';
import { seatable } from './slotRoom.ts';
import type { SlotRoom } from './slotRoom.ts';

/** One channel as the search sees it. */
export interface BoardChannel {
  readonly slots: readonly SlotId[];
  readonly soldered: Load;
  /** What each slot takes; absent where all slots of the machine take the same. */
  readonly rooms: readonly SlotRoom[] | undefined;
  /** Channels of the same number are interchangeable. */
  readonly alike: number;
}

/** What a channel carries. */
export interface Load {
  capacity: number;
  modules: number;
  /** Sum of the ranks that are known. */
  ranks: number;
  /** Modules whose ranks are not. */
  unranked: number;
}

/** What makes a set of loads admissible, and how wide it then runs. */
export interface LoadRules {
  readonly school: School;
  /** GiB, or absent when not stated. */
  readonly need: number | undefined;
  readonly capacityFirst: boolean;
  readonly profiled: boolean;
}

/** A set of modules, as far as its loads do not tell. */
export interface SetTraits {
  /** Not all parts have one size, soldered ones included. */
  readonly isUnlike: boolean;
  /** Some other placement of it runs wider; asked only where it lies in one channel. */
  readonly isNeedless: () => boolean;
}

/**
 * A machine whose every slot feeds one channel, reduced to what the search asks thousands of times.
 * It repeats the rules of the operating point on bare numbers; the tests hold both together.
 */
export class Board {
  readonly channels: readonly BoardChannel[];
  /** The channel whose slot must be filled first, or −1. */
  readonly firstChannel: number;
  readonly slotCount: number;
  /** Most modules that stand in one column, soldered ones included. */
  readonly rows: number;
  readonly ranksMatter: boolean;
  /** Slots differ in what they take, so that it matters which module sits where. */
  readonly hasOwnMaxima: boolean;
  readonly #bestLimits = new Map<number, number>();
  readonly #tableRates = new Map<number, DataRate | undefined>();
  readonly #rates = new Map<Generation, Map<number, number>>();
  readonly #load: number;
  readonly machine: Machine;
  readonly rules: LoadRules;

  constructor(machine: Machine, rules: LoadRules) {
    this.machine = machine;
    this.rules = rules;
    const first = machine.requiredFirstSlot;
    const keys: string[] = [];
    this.hasOwnMaxima = machine.slots.some(({ maxCapacity }) => maxCapacity !== undefined);
    this.channels = machine.channels.map((channel) => {
      const slots = machine.slots.filter((slot) => slot.channels[0] === channel);
      const parts = machine.soldered.filter((part) => part.channel === channel);
      const soldered = { capacity: 0, modules: parts.length, ranks: 0, unranked: 0 };
      for (const { part } of parts) {
        soldered.capacity += part.capacity;
        if (part.ranks === 'unknown') soldered.unranked += 1;
        else soldered.ranks += part.ranks;
      }
      const rooms = slots.map((slot): SlotRoom => {
        const most = slotMaximum(machine, slot);
        return { most: most === 'unknown' ? Infinity : most, isFirst: slot.id === first };
      });
      const key = JSON.stringify([soldered, parts, rooms]);
      const alike = keys.includes(key) ? keys.indexOf(key) : keys.push(key) - 1;
      return {
        ...{ slots: slots.map(({ id }) => id), soldered, alike },
        rooms: this.hasOwnMaxima ? rooms : undefined,
      };
    });
    this.firstChannel = this.channels.findIndex(({ slots }) => slots.includes(first));
    this.slotCount = machine.slots.length;
    this.rows = Math.max(
      1,
      ...this.channels.map(({ slots, soldered }) => slots.length + soldered.modules),
    );
    this.ranksMatter = machine.rateTable.length > 0 || machine.maxRanksPerChannel !== 'unknown';
    this.#load = (rules.need ?? 0) + machine.graphicsCarveOut.high;
  }

  /**
   * How many channels serve the slowest region the need reaches, under the worse reading; 0 where
   * the school refuses such loads.
   *
   * @param set - what the loads do not tell of it
   */
  width(loads: readonly Load[], { isUnlike, isNeedless }: SetTraits): number {
    let least = Infinity;
    let most = 0;
    let populated = 0;
    for (const { capacity } of loads) {
      if (capacity === 0) continue;
      populated += 1;
      least = Math.min(least, capacity);
      most = Math.max(most, capacity);
    }
    const { school, capacityFirst, need } = this.rules;
    const isStacked = populated === 1 && loads.length > 1;
    if (isStacked && school !== 'lenient' && isNeedless()) return 0;
    if (least === most && !(isStacked && isUnlike)) return populated;
    const isZone = this.machine.unevenChannels === 'zone';
    if (school === 'strict') return 0;
    if (school === 'balanced' && !capacityFirst) {
      if (need === undefined) return 0;
      const paired = isZone && populated > 1 ? least * populated : 0;
      if (this.#load > paired) return 0;
    }
    return isZone ? this.#widthAtLoad(loads) : 1;
  }

  /** Whether such loads are truly wider than one channel, under the worse reading of the trait. */
  isWide(loads: readonly Load[]): boolean {
    const filled = loads.filter(({ capacity }) => capacity > 0);
    const isEven = filled.every(({ capacity }) => capacity === filled[0]?.capacity);
    return filled.length > 1 && (isEven || this.machine.unevenChannels === 'zone');
  }

  /** Whether a channel's slots take modules of such sizes, in this order of slots or in any. */
  readonly fits = (channel: number, sizes: readonly number[], isOrdered: boolean): boolean => {
    const rooms = this.channels[channel]?.rooms;
    return !rooms || sizes.length === 0 || seatable(rooms, sizes, isOrdered) !== undefined;
  };

  #widthAtLoad(loads: readonly Load[]): number {
    let left = this.#load;
    let level = 0;
    let width = 0;
    // Level by level, lowest first; few channels, so nothing is sorted.
    for (;;) {
      let [next, above] = [Infinity, 0];
      for (const { capacity } of loads) {
        if (capacity <= level) continue;
        above += 1;
        if (capacity < next) next = capacity;
      }
      if (above === 0 || (width > 0 && left <= 0)) return width;
      width = above;
      left -= (next - level) * width;
      level = next;
    }
  }

  /** Whether every channel keeps within its ranks, and the slot to be filled first can be. */
  admits(loads: readonly Load[], socketed: number): boolean {
    const limit = this.machine.maxRanksPerChannel;
    if (limit !== 'unknown' && loads.some((load) => load.unranked === 0 && load.ranks > limit))
      return false;
    if (this.firstChannel < 0 || socketed === 0) return true;
    const { modules } = loads[this.firstChannel] ?? { modules: 0 };
    return modules > (this.channels[this.firstChannel]?.soldered.modules ?? 0);
  }

  /** The rate table's limit for the worst channel; absent where it sets none. */
  tableLimit(loads: readonly Load[]): DataRate | undefined {
    if (this.machine.rateTable.length === 0) return undefined;
    let worst: DataRate | undefined;
    for (const { modules, ranks, unranked } of loads) {
      if (modules === 0) continue;
      const rate = this.#tableRate(modules, unranked > 0 ? NaN : ranks);
      if (rate !== undefined && (worst === undefined || exactRate(rate) < exactRate(worst)))
        worst = rate;
    }
    return worst;
  }

  #tableRate(modules: number, ranks: number): DataRate | undefined {
    const key = modules * 1000 + (Number.isNaN(ranks) ? 999 : ranks);
    if (this.#tableRates.has(key)) return this.#tableRates.get(key);
    const rows = this.machine.rateTable.filter((row) => row.modulesPerChannel === modules);
    const rate = Number.isNaN(ranks)
      ? lowestRate(rows.map((row) => row.rate))
      : rows
          .filter((row) => row.ranksPerChannel >= ranks)
          .sort((a, b) => a.ranksPerChannel - b.ranksPerChannel)[0]?.rate;
    this.#tableRates.set(key, rate);
    return rate;
  }

  /**
   * The highest table limit a placement can have whose fullest channel holds at least so many modules
   * and whose most ranked one at least so many ranks; Infinity where the table may set none.
   *
   * @param ranksEach - the most any module has
   */
  bestTableLimit(modules: number, ranks = 0, ranksEach = 64): number {
    const { rateTable, maxRanksPerChannel } = this.machine;
    if (rateTable.length === 0) return Infinity;
    const key = (modules * 1000 + ranks) * 1000 + ranksEach;
    const known = this.#bestLimits.get(key);
    if (known !== undefined) return known;
    const mostRanks = maxRanksPerChannel === 'unknown' ? 64 : maxRanksPerChannel;
    const bestOf = (least: number, atLeastRanks: number) => {
      let best = 0;
      for (let count = least; count <= this.rows; count++) {
        const rows = rateTable.filter((row) => row.modulesPerChannel === count);
        const covered = Math.max(0, ...rows.map((row) => row.ranksPerChannel));
        // Neither a count without rows nor ranks beyond the last row are limited.
        if (rows.length === 0 || covered < Math.min(mostRanks, count * ranksEach)) return Infinity;
        for (const row of rows)
          if (row.ranksPerChannel >= atLeastRanks) best = Math.max(best, exactRate(row.rate));
      }
      return best;
    };
    const best = Math.min(bestOf(modules, 0), bestOf(1, ranks));
    this.#bestLimits.set(key, best);
    return best;
  }

  /**
   * The rate a set runs at, exact MT/s, before a missing CL is looked at; 0 where nothing can be
   * snapped to or the school refuses to go beyond a stated limit.
   *
   * @param own - slowest bin, or with profiles the lowest profile rate
   * @param table - see {@link Board.tableLimit}
   * @param anySchool - what runs at all, whatever the school says
   */
  rate(
    generation: Generation,
    own: DataRate,
    table: DataRate | undefined,
    anySchool = false,
  ): number {
    // Asked for every spread there is: numbers as keys, one map for each generation.
    let known = this.#rates.get(generation);
    if (!known) this.#rates.set(generation, (known = new Map<number, number>()));
    const key = (own * 65_536 + (table ?? 0)) * 2 + (anySchool ? 1 : 0);
    let rate = known.get(key);
    if (rate === undefined)
      known.set(key, (rate = this.#settle(generation, own, table, anySchool)));
    return rate;
  }

  #settle(
    generation: Generation,
    own: DataRate,
    table: DataRate | undefined,
    anySchool: boolean,
  ): number {
    const { controllerLimit, firmwareCap, profiles } = this.machine;
    const { profiled, school } = this.rules;
    const stated = [controllerLimit, table].filter((limit) => typeof limit === 'number');
    const held: (DataRate | 'none' | 'unknown')[] = profiled
      ? [own, firmwareCap, profiles.ceiling]
      : [own, firmwareCap, ...stated];
    const lowest = lowestRate(held.filter((limit) => typeof limit === 'number')) ?? own;
    const stands = isLowPower(generation) || (profiled && own === lowest);
    const rate = stands ? lowest : snapDown(generation, lowest);
    if (rate === undefined) return 0;
    const isBeyond = stated.some((limit) => exactRate(limit) < exactRate(rate));
    return profiled && school === 'strict' && isBeyond && !anySchool ? 0 : exactRate(rate);
  }
}

/** Whether every slot feeds exactly one channel, so that {@link Board} describes the machine. */
export function isPlainBoard({ slots, channels }: Machine): boolean {
  return slots.every(
    (slot) => slot.channels.length === 1 && channels.includes(slot.channels[0] ?? ''),
  );
}
