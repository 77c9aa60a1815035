import type { Setting } from '../machine/index.ts';
import type { MemoryModule } from '../memory/index.ts';
import { assess } from './assess.ts';
import type { Assessment } from './assess.ts';
import type { PlanQuery, PlannedUnit, UnitSource } from './query.ts';
import { kitOf } from './supply.ts';
import type { Fitted, Source } from './supply.ts';

/**
 * Tries everything in every slot. For machines whose sockets feed two channels at once: they have
 * one or two of them, and the shortcuts of the sweep do not hold there.
 *
 * @param isIdle - whether so much money for so many modules cannot add anything
 */
export function* slotBySlot(
  query: PlanQuery,
  sources: readonly Source[],
  fitted: readonly Fitted[],
  setting: Setting,
  isIdle: (cost: number, installed: number, modules: number, displaced: number) => boolean,
): Generator<Assessment> {
  const { slots, soldered } = query.machine;
  const used = new Map<Source, number>();
  const chosen: PlannedUnit[] = [];
  const onBoard = soldered.reduce((sum, { part }) => sum + part.capacity, 0);
  const credits = fitted.reduce((sum, { credit }) => sum + credit, 0);

  function* fill(at: number, cost: number, installed: number, kept: number): Generator<Assessment> {
    const slot = slots[at];
    if (!slot) {
      const displaced = fitted.length - kept;
      if (!isIdle(cost, installed, chosen.length, displaced))
        yield assess(query, [...chosen], setting);
      return;
    }
    yield* fill(at + 1, cost, installed, kept);
    const put = function* (
      module: MemoryModule,
      source: UnitSource,
      price: number,
      more: number,
    ): Generator<Assessment> {
      chosen.push({ slotId: slot.id, module, source });
      yield* fill(at + 1, cost + price, installed + module.capacity, kept + more);
      chosen.pop();
    };
    for (const { slotId, module, credit } of fitted) {
      if (chosen.some(({ source }) => source.type === 'kept' && source.from === slotId)) continue;
      yield* put(module, { type: 'kept', from: slotId }, credit, 1);
    }
    for (const source of sources) {
      const count = used.get(source) ?? 0;
      const copy = Math.floor(count / source.units);
      if (copy >= source.copies) continue;
      const price = count % source.units === 0 ? source.price : 0;
      used.set(source, count + 1);
      yield* put(boughtModule(source, copy), sourceOf(source, copy), price, 0);
      used.set(source, count);
    }
  }
  yield* fill(0, query.labour - credits, onBoard, 0);
}

/** The module as it comes out of its pack: packs share a kit name, singles and used ones have none. */
export function boughtModule({ id, module, units }: Source, copy: number): MemoryModule {
  return { ...module, kitId: units > 1 ? kitOf(id, copy) : undefined };
}

export function sourceOf({ type, id }: Source, copy: number): UnitSource {
  return type === 'offer' ? { type, offerId: id, copy } : { type, drawerId: id };
}
