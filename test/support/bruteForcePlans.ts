import type { Setting } from '#core/machine';
import type { MemoryModule } from '#core/memory';
import { assess, covers, vectorOf, withVerified } from '#core/planning';
import type { Assessment, PlanQuery, PlannedUnit, UnitSource } from '#core/planning';

/** Every admitted plan there is: everything tried in every slot, copy by copy, without a shortcut. */
export function allAdmitted(query: PlanQuery): Assessment[] {
  const machine = withVerified(query.machine, query.offers);
  const full = { ...query, machine };
  const found: Assessment[] = [];
  const chosen: PlannedUnit[] = [];
  const taken = new Map<string, number>();
  const bump = (key: string, by: number) => taken.set(key, (taken.get(key) ?? 0) + by);
  const fill = (at: number): void => {
    const slot = machine.slots[at];
    if (!slot) {
      for (const setting of query.settings as readonly Setting[]) {
        const assessed = assess(full, [...chosen], setting);
        if (assessed.objections.length === 0) found.push(assessed);
      }
      return;
    }
    fill(at + 1);
    const put = (key: string, limit: number, module: MemoryModule, source: UnitSource) => {
      if ((taken.get(key) ?? 0) >= limit) return;
      bump(key, 1);
      chosen.push({ slotId: slot.id, module: { ...module }, source });
      fill(at + 1);
      chosen.pop();
      bump(key, -1);
    };
    for (const { id } of machine.slots) {
      const module = query.fitted[id];
      if (module) put(`kept ${id}`, 1, module, { type: 'kept', from: id });
    }
    for (const { id, module, state } of query.drawer)
      if (state === 'tested' || state === 'untested')
        put(`drawer ${id}`, 1, module, { type: 'drawer', drawerId: id });
    for (const { id: offerId, module, units, price, stock } of query.offers) {
      if (price === 'unknown') continue;
      const copies = stock === 'unknown' ? machine.slots.length : stock;
      for (let copy = 0; copy < Math.min(copies, machine.slots.length); copy++) {
        if (copy > 0 && !taken.get(`${offerId} ${copy - 1}`)) break;
        const kitId = units > 1 ? `${offerId}#${copy + 1}` : undefined;
        const source = { type: 'offer', offerId, copy } as const;
        put(`${offerId} ${copy}`, units, { ...module, kitId }, source);
      }
    }
  };
  fill(0);
  return found;
}

/** The vectors no admitted plan beats, as sorted text. */
export function bruteForceFront(query: PlanQuery): string[] {
  const vectors = new Map<string, ReturnType<typeof vectorOf>>();
  for (const { plan } of allAdmitted(query)) {
    const vector = vectorOf(plan.worth);
    vectors.set(vector.join(' '), vector);
  }
  const all = [...vectors.values()];
  return all
    .filter((one) => !all.some((other) => other !== one && covers(other, one)))
    .map((one) => one.join(' '))
    .sort();
}
