import type { Machine, Placement, Setting, Slot, SlotId } from '../machine/index.ts';
import type { MemoryModule } from '../memory/index.ts';
import { findBlockers } from './blockers.ts';
import { channelLoads, fittedParts } from './load.ts';
import { settleRate } from './settleRate.ts';
import type { Fitted } from './types.ts';

/** A module taken from one slot to another. */
export interface Move {
  readonly from: SlotId;
  readonly to: SlotId;
}

interface Seated {
  readonly module: MemoryModule;
  readonly home: Slot;
  /** Equal for modules that may stand for each other in slots that may. */
  readonly mark: string;
}

/**
 * The fewest moves that bring a set standing in one channel into more than one.
 *
 * Only a placement that runs counts, and only one that is truly wider under the machine's trait:
 * `single` runs an uneven spread one channel wide, and of `unknown` the worse is reckoned with.
 *
 * @param fitted - the parts of `placement`, all in one channel
 * @returns `undefined` where no placement of the same modules is wider
 */
export function widerPlacement(
  machine: Machine,
  placement: Placement,
  fitted: readonly Fitted[],
  setting: Setting,
): Move[] | undefined {
  if (fitted.length < 2 || machine.channels.length < 2) return undefined;
  const seated = machine.slots.flatMap((home): Seated[] => {
    const module = placement[home.id];
    return module
      ? [{ module, home, mark: JSON.stringify([module, slotClass(machine, home)]) }]
      : [];
  });
  for (let moves = 1; moves <= seated.length; moves++) {
    const found = seatAgain(machine, placement, seated, setting, moves);
    if (found) return found;
  }
  return undefined;
}

/** Slots of one class are interchangeable to every rule. */
const slotClass = (machine: Machine, { id, channels, maxCapacity }: Slot): string =>
  JSON.stringify([channels, maxCapacity, id === machine.requiredFirstSlot]);

function seatAgain(
  machine: Machine,
  placement: Placement,
  seated: readonly Seated[],
  setting: Setting,
  moves: number,
): Move[] | undefined {
  const next: Record<SlotId, MemoryModule> = {};
  const made: Move[] = [];
  const stayed = new Set<string>();

  const choose = (at: number, left: number): Move[] | undefined => {
    const one = seated[at];
    if (!one) return left === 0 && isWider(machine, next, setting) ? [...made] : undefined;
    if (left > seated.length - at) return undefined;
    const put = (to: Slot, cost: number): Move[] | undefined => {
      if (next[to.id]) return undefined;
      next[to.id] = one.module;
      if (cost > 0) made.push({ from: one.home.id, to: to.id });
      const found = choose(at + 1, left - cost);
      delete next[to.id];
      if (cost > 0) made.pop();
      return found;
    };
    // Of like modules in like slots the earlier ones move.
    if (left > 0 && !stayed.has(one.mark)) {
      const tried = new Set<string>();
      for (const slot of machine.slots) {
        if (slot === one.home) continue;
        const kind = slotClass(machine, slot);
        if (!placement[slot.id] && !next[slot.id]) {
          if (tried.has(kind)) continue;
          tried.add(kind);
        }
        const found = put(slot, 1);
        if (found) return found;
      }
    }
    const isFirstToStay = !stayed.has(one.mark);
    stayed.add(one.mark);
    const found = put(one.home, 0);
    if (isFirstToStay) stayed.delete(one.mark);
    return found;
  };
  return choose(0, moves);
}

function isWider(machine: Machine, placement: Placement, setting: Setting): boolean {
  const parts = fittedParts(machine, placement);
  const loads = channelLoads(machine, parts);
  const filled = loads.filter(({ capacity }) => capacity > 0);
  const isEven = filled.every(({ capacity }) => capacity === filled[0]?.capacity);
  if (filled.length < 2 || !(isEven || machine.unevenChannels === 'zone')) return false;
  return (
    findBlockers(machine, placement, parts, loads).length === 0 &&
    settleRate(machine, parts, loads, setting)?.type === 'settled'
  );
}
