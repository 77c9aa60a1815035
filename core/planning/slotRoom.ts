/** What one slot of a channel takes. */
export interface SlotRoom {
  /** GiB; infinite where nobody has said. */
  readonly most: number;
  /** The machine does not start with it empty. */
  readonly isFirst: boolean;
}

/**
 * Slots of one channel that modules of such sizes can sit in, each in a slot that takes it, the slot
 * that must be filled first among them.
 *
 * @param sizes - GiB, in the order of slots where `isOrdered`
 * @returns for each module the place of its slot, or `undefined` where they do not fit
 */
export function seatable(
  rooms: readonly SlotRoom[],
  sizes: readonly number[],
  isOrdered: boolean,
): number[] | undefined {
  const first = rooms.findIndex(({ isFirst }) => isFirst);
  return isOrdered ? inOrder(rooms, sizes, first) : inAnyOrder(rooms, sizes, first);
}

/** Each as early as it fits; the slot to be filled first is given to each module in turn. */
function inOrder(
  rooms: readonly SlotRoom[],
  sizes: readonly number[],
  first: number,
): number[] | undefined {
  const early = (list: readonly number[], from: number, to: number): number[] | undefined => {
    const places: number[] = [];
    let slot = from;
    for (const size of list) {
      while (slot < to && (rooms[slot]?.most ?? 0) < size) slot += 1;
      if (slot >= to) return undefined;
      places.push(slot);
      slot += 1;
    }
    return places;
  };
  if (first < 0) return early(sizes, 0, rooms.length);
  for (let at = 0; at < sizes.length; at++) {
    if ((rooms[first]?.most ?? 0) < (sizes[at] ?? 0)) continue;
    const before = early(sizes.slice(0, at), 0, first);
    const behind = early(sizes.slice(at + 1), first + 1, rooms.length);
    if (before && behind) return [...before, first, ...behind];
  }
  return undefined;
}

/** Largest modules to the roomiest slots; the slot to be filled first takes the largest it can. */
function inAnyOrder(
  rooms: readonly SlotRoom[],
  sizes: readonly number[],
  first: number,
): number[] | undefined {
  const places: number[] = sizes.map(() => -1);
  const modules = sizes.map((size, at) => ({ size, at })).sort((a, b) => b.size - a.size);
  const slots = rooms.map(({ most }, at) => ({ most, at })).sort((a, b) => b.most - a.most);
  if (first >= 0) {
    const place = modules.findIndex(({ size }) => size <= (rooms[first]?.most ?? 0));
    const [module] = place < 0 ? [] : modules.splice(place, 1);
    if (!module) return undefined;
    places[module.at] = first;
    slots.splice(
      slots.findIndex(({ at }) => at === first),
      1,
    );
  }
  for (const [at, module] of modules.entries()) {
    const slot = slots[at];
    if (!slot || slot.most < module.size) return undefined;
    places[module.at] = slot.at;
  }
  return places;
}
