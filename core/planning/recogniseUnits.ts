import type { Placement } from '../machine/index.ts';
import type { MemoryModule } from '../memory/index.ts';
import type { PlanQuery, PlannedUnit, UnitSource } from './query.ts';

/** Where a module that is neither fitted nor on offer is said to come from. */
export const NOT_ON_OFFER = 'not on offer';

/** Equal for modules nobody could tell apart by label or data; the pack is not asked about. */
const likeness = (module: MemoryModule): string => {
  const { kitId: _kit, assumed: _assumed, ...rest } = module;
  return JSON.stringify(
    Object.entries(rest)
      .filter(([, value]) => value !== undefined)
      .sort(([a], [b]) => a.localeCompare(b)),
  );
};

/**
 * Says for every module of a placement where it would come from: what was found stays, and stays
 * put where it can; then a pack named on the module, the drawer, and the cheapest offer of its like.
 */
export function recogniseUnits(query: PlanQuery, placement: Placement): PlannedUnit[] {
  const { machine, fitted, drawer, offers } = query;
  const open = new Map(
    machine.slots.flatMap(({ id }) => (fitted[id] ? [[id, likeness(fitted[id])] as const] : [])),
  );
  const unused = new Map(drawer.map((one) => [one.id, likeness(one.module)]));
  const taken = new Map<string, number>();
  const filled = machine.slots.flatMap(({ id }) => {
    const module = placement[id];
    return module ? [{ slotId: id, module, like: likeness(module) }] : [];
  });
  const sources = new Map<string, UnitSource>();
  for (const { slotId, like } of filled)
    if (open.get(slotId) === like) {
      sources.set(slotId, { type: 'kept', from: slotId });
      open.delete(slotId);
    }
  for (const { slotId, like, module } of filled) {
    if (sources.has(slotId)) continue;
    const from = [...open].find(([, other]) => other === like)?.[0];
    if (from !== undefined) {
      open.delete(from);
      sources.set(slotId, { type: 'kept', from });
      continue;
    }
    const named = /^(.+)#(\d+)$/.exec(module.kitId ?? '');
    if (named?.[1] !== undefined && offers.some(({ id }) => id === named[1])) {
      const copy = Number(named[2]) - 1;
      sources.set(slotId, { type: 'offer', offerId: named[1], copy });
      continue;
    }
    const used =
      module.kitId === undefined ? [...unused].find(([, other]) => other === like) : undefined;
    if (used) {
      unused.delete(used[0]);
      sources.set(slotId, { type: 'drawer', drawerId: used[0] });
      continue;
    }
    const priceOf = (price: number | 'unknown', units: number) =>
      price === 'unknown' ? Infinity : price / units;
    // A module that names no pack was sold singly, if it is sold so at all.
    const offer = offers
      .filter((one) => likeness(one.module) === like)
      .sort(
        (a, b) =>
          Number(a.units > 1) - Number(b.units > 1) ||
          priceOf(a.price, a.units) - priceOf(b.price, b.units),
      )[0];
    const offerId = offer?.id ?? NOT_ON_OFFER;
    const count = taken.get(offerId) ?? 0;
    taken.set(offerId, count + 1);
    sources.set(slotId, { type: 'offer', offerId, copy: Math.floor(count / (offer?.units ?? 1)) });
  }
  return filled.map(({ slotId, module }) => ({
    slotId,
    module,
    source: sources.get(slotId) ?? { type: 'offer', offerId: NOT_ON_OFFER, copy: 0 },
  }));
}
