import type { Machine, SlotId } from '../machine/index.ts';
import type { School } from '../matching/index.ts';
import { isLowPower, snapDown } from '../memory/index.ts';
import type { Generation } from '../memory/index.ts';
import { exactRate, lowestRate } from '../units/index.ts';
import type { DataRate } from '../units/index.ts';

/** One channel as the search sees it. */
export interface BoardChannel {
  readonly slots: readonly SlotId[];
  readonly soldered: Load;
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
  readonly #tableRates = new Map<number, DataRate | undefined>();
  readonly #rates = new Map<string, number>();
  readonly #load: number;
  readonly machine: Machine;
  readonly rules: LoadRules;

  constructor(machine: Machine, rules: LoadRules) {
    this.machine = machine;
    this.rules = rules;
    const first = machine.requiredFirstSlot;
    const keys: string[] = [];
    this.channels = machine.channels.map((channel) => {
      const slots = machine.slots.filter((slot) => slot.channels[0] === channel);
      const parts = machine.soldered.filter((part) => part.channel === channel);
      const soldered = { capacity: 0, modules: parts.length, ranks: 0, unranked: 0 };
      for (const { part } of parts) {
        soldered.capacity += part.capacity;
        if (part.ranks === 'unknown') soldered.unranked += 1;
        else soldered.ranks += part.ranks;
      }
      const key = JSON.stringify([
        slots.length,
        soldered,
        parts,
        slots.some(({ id }) => id === first),
      ]);
      const alike = keys.includes(key) ? keys.indexOf(key) : keys.push(key) - 1;
      return { slots: slots.map(({ id }) => id), soldered, alike };
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
   * @param socketed - modules in slots, over all channels
   * @param anyRanks - ranks are not filled in: leave out what turns on them
   */
  width(loads: readonly Load[], socketed: number, anyRanks = false): number {
    let least = Infinity;
    let most = 0;
    let populated = 0;
    let parts = 0;
    for (const { capacity, modules } of loads) {
      parts += modules;
      if (capacity === 0) continue;
      populated += 1;
      least = Math.min(least, capacity);
      most = Math.max(most, capacity);
    }
    const canTell = !anyRanks || this.machine.maxRanksPerChannel === 'unknown';
    if (populated === 1 && canTell && this.#isNeedless(loads, socketed, parts)) return 0;
    if (least === most) return populated;
    const { school, capacityFirst, need } = this.rules;
    const isZone = this.machine.unevenChannels === 'zone';
    if (school === 'strict') return 0;
    if (school === 'balanced' && !capacityFirst && need !== undefined) {
      const paired = isZone && populated > 1 ? least * populated : 0;
      if (this.#load > paired) return 0;
    }
    return isZone ? this.#widthAtLoad(loads) : 1;
  }

  /** One channel in use though a single move would bring in another. Lenient does not mind. */
  #isNeedless(loads: readonly Load[], socketed: number, parts: number): boolean {
    if (this.rules.school === 'lenient' || loads.length < 2 || parts < 2) return false;
    const used = loads.findIndex(({ capacity }) => capacity > 0);
    // The module in the slot that must be filled first cannot move away.
    const movable = socketed - (this.firstChannel === used ? 1 : 0);
    const limit = this.machine.maxRanksPerChannel;
    const load = loads[used];
    const isHidden = load?.unranked === 1 && this.channels[used]?.soldered.unranked === 0;
    // Nor can one of unknown ranks whose leaving would show that the rest has too many.
    if (movable === 1 && limit !== 'unknown' && isHidden && load.ranks > limit) return false;
    return movable > 0 && this.channels.some(({ slots }, at) => at !== used && slots.length > 0);
  }

  #widthAtLoad(loads: readonly Load[]): number {
    const heights = loads.map(({ capacity }) => capacity).sort((a, b) => a - b);
    let left = this.#load;
    let level = 0;
    let width = 0;
    for (let at = 0; at < heights.length; at++) {
      const height = heights[at] ?? 0;
      if (height === level) continue;
      if (width > 0 && left <= 0) break;
      width = heights.length - at;
      left -= (height - level) * width;
      level = height;
    }
    return width;
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

  /** The highest table limit any load of at least so many modules can have. */
  bestTableLimit(modules: number): number {
    const { rateTable, maxRanksPerChannel } = this.machine;
    if (rateTable.length === 0) return Infinity;
    const mostRanks = maxRanksPerChannel === 'unknown' ? 64 : maxRanksPerChannel;
    let best = 0;
    for (let count = modules; count <= this.rows; count++) {
      const rows = rateTable.filter((row) => row.modulesPerChannel === count);
      const covered = Math.max(0, ...rows.map((row) => row.ranksPerChannel));
      if (covered < mostRanks) return Infinity; // ranks beyond the last row are not limited
      for (const row of rows) best = Math.max(best, exactRate(row.rate));
    }
    return best;
  }

  /**
   * The rate a set runs at, exact MT/s, before a missing CL is looked at; 0 where nothing can be
   * snapped to or the school refuses to go beyond a stated limit.
   *
   * @param own - slowest bin, or with profiles the lowest profile rate
   * @param table - see {@link Board.tableLimit}
   */
  rate(generation: Generation, own: DataRate, table: DataRate | undefined): number {
    const key = `${generation} ${own} ${table ?? ''}`;
    let rate = this.#rates.get(key);
    if (rate === undefined) this.#rates.set(key, (rate = this.#settle(generation, own, table)));
    return rate;
  }

  #settle(generation: Generation, own: DataRate, table: DataRate | undefined): number {
    const { controllerLimit, firmwareCap, profiles } = this.machine;
    const { profiled, school } = this.rules;
    const stated = [controllerLimit, table].filter((limit) => typeof limit === 'number');
    const held: (DataRate | 'none' | 'unknown')[] = profiled
      ? [own, firmwareCap, profiles.ceiling]
      : [own, firmwareCap, ...stated];
    const lowest = lowestRate(held.filter((limit) => typeof limit === 'number')) ?? own;
    if (
      profiled &&
      school === 'strict' &&
      stated.some((limit) => exactRate(limit) < exactRate(lowest))
    )
      return 0;
    const stands = isLowPower(generation) || (profiled && own === lowest);
    const rate = stands ? lowest : snapDown(generation, lowest);
    return rate === undefined ? 0 : exactRate(rate);
  }
}

/** Whether every slot feeds exactly one channel, so that {@link Board} describes the machine. */
export function isPlainBoard({ slots, channels }: Machine): boolean {
  return slots.every(
    (slot) => slot.channels.length === 1 && channels.includes(slot.channels[0] ?? ''),
  );
}
