import type { Machine, Slot } from '../machine/index.ts';

/** The part of a firmware key that names the board; see {@link firmwareKey}. */
const boardOf = (key: string): string => key.slice(key.indexOf(' | ') + 3);

/** A shorter board name is a filler, not a name. */
const SHORTEST_NAME = 3;

/** Whether two firmware keys name the same board in machines of other names. */
export function isSameBoard(key: string, other: string): boolean {
  const board = boardOf(key);
  return key !== other && board.length >= SHORTEST_NAME && board === boardOf(other);
}

/**
 * A machine with what no table tells of it taken over from another on the same board: rates, ranks,
 * voltages, profiles, how channels pair; the order of the slots where they bear the same names. Its
 * own name, kind, slots and maxima stay, and its cover is its own.
 */
export function inheritTraits(machine: Machine, from: Machine): Machine {
  const { maxRanksPerModule, maxRanksPerChannel, voltagesMv, nonBinary, rateTable } = from;
  const { controllerLimit, firmwareCap, profiles, unevenChannels, sync, graphicsCarveOut } = from;
  const isListed = machine.maxTotal !== 'unknown';
  const renamed = sameSlots(machine.slots, from.slots);
  const idOf = (id: string) => renamed?.get(id) ?? id;
  return {
    ...machine,
    ...{ maxRanksPerModule, maxRanksPerChannel, voltagesMv, nonBinary, rateTable },
    ...{ controllerLimit, firmwareCap, profiles, unevenChannels, sync, graphicsCarveOut },
    maxPerSlot: machine.maxPerSlot === 'unknown' ? from.maxPerSlot : machine.maxPerSlot,
    ...(isListed ? {} : { maxTotal: from.maxTotal, maximaFrom: from.maximaFrom }),
    ...(renamed
      ? {
          fillOrder:
            from.fillOrder === 'unknown'
              ? machine.fillOrder
              : from.fillOrder.map((slots) => slots.map(idOf)),
          requiredFirstSlot:
            from.requiredFirstSlot === 'unknown' || from.requiredFirstSlot === 'none'
              ? from.requiredFirstSlot
              : idOf(from.requiredFirstSlot),
        }
      : {}),
  };
}

/** Ids of the slots by those of the other machine, where both print the same names. */
function sameSlots(
  slots: readonly Slot[],
  others: readonly Slot[],
): ReadonlyMap<string, string> | undefined {
  const byName = new Map(slots.map(({ id, printedName }) => [printedName.toLowerCase(), id]));
  const pairs = others.flatMap(({ id, printedName }) => {
    const own = byName.get(printedName.toLowerCase());
    return own === undefined ? [] : [[id, own] as const];
  });
  return pairs.length === slots.length && slots.length === others.length
    ? new Map(pairs)
    : undefined;
}
