import { slotMaximum } from '../machine/index.ts';
import type { Machine } from '../machine/index.ts';
import type { Running } from '../operating-point/index.ts';
import { sumGib } from '../units/index.ts';
import type { NeedInput, WorkingSet } from './workingSet.ts';
import { needWithMargin } from './workingSet.ts';

/** An honest answer to "more memory?", of which more memory is only one. */
export type Advice =
  | {
      readonly type: 'short';
      readonly usable: number;
      readonly wanted: number;
      readonly paging: boolean;
      /** More modules alone would not help: the system or the machine stands in the way. */
      readonly isCapped: boolean;
    }
  | {
      readonly type: 'tight';
      readonly usable: number;
      readonly need: number;
      readonly wanted: number;
    }
  | { readonly type: 'enough'; readonly usable: number; readonly wanted: number }
  | { readonly type: 'drive-first' }
  | { readonly type: 'drive-hurts' }
  | { readonly type: 'graphics-memory' }
  | { readonly type: 'system-first'; readonly limit: number; readonly wanted: number }
  | {
      readonly type: 'beyond-machine';
      readonly most: number;
      readonly wanted: number;
      readonly soldered: boolean;
    }
  | { readonly type: 'measure-peak' };

/**
 * What the need says, the most telling first.
 *
 * @param margin - share added to the need
 * @param point - what runs now; absent where nothing is on record or it does not run
 */
export function adviseNeed(
  machine: Machine,
  input: NeedInput,
  work: WorkingSet,
  margin: number,
  point: Running | undefined,
): Advice[] {
  const wanted = needWithMargin({ need: work.need, margin });
  const usable = point?.usable.low;
  const isEnough = usable !== undefined && usable >= wanted;
  const paging = input.peak?.paging === true;
  const advice: Advice[] = [];
  const most = mostPossible(machine);
  const limit = machine.osLimit === 'none' ? undefined : machine.osLimit.high;
  if (most !== undefined && most < wanted)
    advice.push({ type: 'beyond-machine', most, wanted, soldered: machine.slots.length === 0 });
  // Addresses run out before slots do: modules above the limit would lie idle.
  if (limit !== undefined && limit < wanted) advice.push({ type: 'system-first', limit, wanted });
  if (usable !== undefined) {
    // Paging seen proves a shortage, whatever the estimate says.
    if (usable < work.need || (paging && isEnough))
      advice.push({ type: 'short', usable, wanted, paging, isCapped: advice.length > 0 });
    else if (!isEnough) advice.push({ type: 'tight', usable, need: work.need, wanted });
    else advice.push({ type: 'enough', usable, wanted });
  }
  if (input.drive === 'spinning')
    advice.push({ type: isEnough && !paging ? 'drive-first' : 'drive-hurts' });
  if (input.graphicsShort) advice.push({ type: 'graphics-memory' });
  if (!input.peak) advice.push({ type: 'measure-peak' });
  return advice;
}

/** The most a machine can hold, GiB, where it is known. */
function mostPossible(machine: Machine): number | undefined {
  const { slots, soldered, maxTotal } = machine;
  const onBoard = sumGib(soldered.map(({ part }) => part.capacity));
  if (slots.length === 0) return onBoard;
  let bySlots: number | undefined = onBoard;
  for (const slot of slots) {
    const most = slotMaximum(machine, slot);
    bySlots = most === 'unknown' || bySlots === undefined ? undefined : bySlots + most;
  }
  if (maxTotal === 'unknown') return bySlots;
  return bySlots === undefined ? maxTotal : Math.min(maxTotal, bySlots);
}
