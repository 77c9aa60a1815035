import type { Machine, SlotId } from '../machine/index.ts';
import type { Unit } from './arrange.ts';
import type { Board } from './board.ts';

/**
 * Seats columns in slots; where the order within a column is free, what stays keeps its slot. The lower score is the better: a slot outside the manual's order weighs
 * more than any number of moves.
 */
export function seat(
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
