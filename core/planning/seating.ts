import type { Machine, SlotId } from '../machine/index.ts';
import type { Unit } from './arrange.ts';
import type { Board, BoardChannel } from './board.ts';
import { seatable } from './slotRoom.ts';

/** Units by slot, and how far from the manual and from where they were: the lower the better. */
export interface Seating {
  readonly slots: Map<SlotId, Unit>;
  readonly score: number;
}

/**
 * Seats columns in slots; where the order within a column is free, what stays keeps its slot. A slot
 * outside the manual's order weighs more than any number of moves.
 *
 * @returns `undefined` where slots of different maxima do not take a column
 */
export function seat(
  { machine, channels, firstChannel }: Board,
  columns: readonly (readonly Unit[])[],
  total: number,
  isOrdered: boolean,
): Seating | undefined {
  const order = machine.fillOrder === 'unknown' ? undefined : machine.fillOrder[total - 1];
  const slots = new Map<SlotId, Unit>();
  let score = 0;
  for (const [at, column] of columns.entries()) {
    const channel = channels[at];
    if (!channel || column.length === 0) continue;
    const seated = channel.rooms
      ? seatByRoom(channel, column, order, isOrdered)
      : seatFreely(
          channel.slots,
          chooseSlots(machine, channel.slots, column, order, at === firstChannel),
          column,
          isOrdered,
        );
    if (!seated) return undefined;
    for (const [slotId, unit] of seated) slots.set(slotId, unit);
    score += scoreOf(seated, order);
  }
  return { slots, score };
}

function scoreOf(seated: ReadonlyMap<SlotId, Unit>, order: readonly SlotId[] | undefined): number {
  let score = 0;
  for (const [slotId, unit] of seated) {
    if (order && !order.includes(slotId)) score += 100;
    if (unit.kept && unit.kept.slotId !== slotId) score += 1;
  }
  return score;
}

function seatFreely(
  own: readonly SlotId[],
  chosen: readonly SlotId[],
  column: readonly Unit[],
  isOrdered: boolean,
): Map<SlotId, Unit> {
  const inOrder = own.filter((slotId) => chosen.includes(slotId));
  const left = [...column];
  const settled = new Map<SlotId, Unit>();
  for (const slotId of isOrdered ? [] : inOrder) {
    const home = left.findIndex((unit) => unit.kept?.slotId === slotId);
    const [unit] = home < 0 ? [] : left.splice(home, 1);
    if (unit) settled.set(slotId, unit);
  }
  for (const slotId of inOrder) {
    const unit = settled.get(slotId) ?? left.shift();
    if (unit) settled.set(slotId, unit);
  }
  return settled;
}

/** The best of all choices of slots that take the column; few slots of a channel, so all are tried. */
function seatByRoom(
  { slots: own, rooms = [] }: BoardChannel,
  column: readonly Unit[],
  order: readonly SlotId[] | undefined,
  isOrdered: boolean,
): Map<SlotId, Unit> | undefined {
  let best: { seated: Map<SlotId, Unit>; score: number } | undefined;
  for (let mask = 0; mask < 1 << own.length; mask++) {
    const places = own.flatMap((_, at) => (mask & (1 << at) ? [at] : []));
    if (places.length !== column.length) continue;
    // Slots left out may not be the one that must be filled.
    if (rooms.some(({ isFirst }, at) => isFirst && !places.includes(at))) continue;
    const chosen = places.flatMap((at) => rooms[at] ?? []);
    const seated = assign(own, places, column, (units) =>
      seatable(
        chosen.map(({ most }) => ({ most, isFirst: false })),
        units.map(({ keys }) => keys.capacity),
        isOrdered,
      ),
    );
    if (!seated) continue;
    const score = scoreOf(seated, order);
    if (!best || score < best.score) best = { seated, score };
  }
  return best?.seated;
}

function assign(
  own: readonly SlotId[],
  places: readonly number[],
  column: readonly Unit[],
  seatsOf: (units: readonly Unit[]) => number[] | undefined,
): Map<SlotId, Unit> | undefined {
  const seats = seatsOf(column);
  if (!seats) return undefined;
  const seated = new Map<SlotId, Unit>();
  column.forEach((unit, at) => {
    const slotId = own[places[seats[at] ?? 0] ?? 0];
    if (slotId !== undefined) seated.set(slotId, unit);
  });
  return seated;
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
