import type { Machine, SlotId } from './machine.ts';

/** A machine as it plans when some of its slots cannot be used. */
export function withoutSlots(machine: Machine, dead: readonly SlotId[]): Machine {
  if (dead.length === 0) return machine;
  const works = (id: SlotId) => !dead.includes(id);
  const { fillOrder, requiredFirstSlot } = machine;
  return {
    ...machine,
    slots: machine.slots.filter(({ id }) => works(id)),
    fillOrder:
      fillOrder === 'unknown' ? fillOrder : fillOrder.filter((slotIds) => slotIds.every(works)),
    // A board that insists on a slot that is dead does not start at all; then planning is no help.
    requiredFirstSlot: works(requiredFirstSlot) ? requiredFirstSlot : 'unknown',
  };
}
