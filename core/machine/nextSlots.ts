import type { Machine, Placement, SlotId } from './machine.ts';

/**
 * Empty slots that modules to be added should go to, best first: the manual's order where it is
 * known; otherwise the slot that must be filled first, then always the emptiest channel.
 *
 * @param count - modules to be added; fewer slots come back when fewer are empty
 */
export function nextSlots(machine: Machine, placement: Placement, count: number): SlotId[] {
  const isEmpty = (id: SlotId, taken: readonly SlotId[]) => !placement[id] && !taken.includes(id);
  const filled = machine.slots.filter(({ id }) => placement[id]).length;
  const order = machine.fillOrder === 'unknown' ? undefined : machine.fillOrder[filled + count - 1];
  const chosen: SlotId[] = [];
  const take = (id: SlotId | undefined) => {
    if (id !== undefined && chosen.length < count && isEmpty(id, chosen)) chosen.push(id);
  };
  order?.forEach(take);
  take(machine.slots.find(({ id }) => id === machine.requiredFirstSlot)?.id);
  while (chosen.length < count) {
    const free = machine.slots.filter(({ id }) => isEmpty(id, chosen));
    if (free.length === 0) break;
    const loadOf = (channels: readonly string[]) =>
      machine.soldered.filter(({ channel }) => channels.includes(channel)).length +
      machine.slots.filter(
        ({ id, channels: own }) =>
          !isEmpty(id, chosen) && own.some((one) => channels.includes(one)),
      ).length;
    const [best] = [...free].sort((a, b) => loadOf(a.channels) - loadOf(b.channels));
    take(best?.id);
  }
  return chosen;
}
