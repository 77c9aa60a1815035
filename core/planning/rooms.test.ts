import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { desktop, labelled } from '../../test/support/builders.ts';
import { specOf, specsAgree } from '../matching/index.ts';
import type { MemoryModule } from '../memory/index.ts';
import { gib } from '../units/index.ts';
import { assess, runToEnd } from './index.ts';
import type { Offer, PlanQuery } from './index.ts';
import { seatable } from './slotRoom.ts';
import type { SlotRoom } from './slotRoom.ts';
import { specGroups } from './specGroups.ts';
import { blockersAlone } from './supply.ts';

/** Every way to put sizes into rooms. */
function waysOf(rooms: readonly SlotRoom[], sizes: readonly number[]): number[][] {
  const [first, ...rest] = sizes;
  if (first === undefined) return [[]];
  return rooms.flatMap(({ most }, at) =>
    most < first
      ? []
      : waysOf(
          rooms.map((room, one) => (one === at ? { ...room, most: -1 } : room)),
          rest,
        ).map((more) => [at, ...more]),
  );
}

const anyRooms = fc
  .array(fc.constantFrom(4, 8, 16, Infinity), { minLength: 1, maxLength: 5 })
  .chain((most) =>
    fc
      .integer({ min: -1, max: most.length - 1 })
      .map((first): SlotRoom[] => most.map((one, at) => ({ most: one, isFirst: at === first }))),
  );
const anySizes = fc.array(fc.constantFrom(4, 8, 16, 32), { minLength: 1, maxLength: 5 });

describe('modules in slots that take different sizes', () => {
  test.each([true, false])(
    'are seated exactly where trying every way seats them, in order: %s',
    (isOrdered) => {
      let found = 0;
      fc.assert(
        fc.property(anyRooms, anySizes, (rooms, sizes) => {
          const first = rooms.findIndex(({ isFirst }) => isFirst);
          const ways = waysOf(rooms, sizes).filter(
            (way) =>
              (first < 0 || way.includes(first)) &&
              (!isOrdered || way.every((at, one) => one === 0 || at > (way[one - 1] ?? -1))),
          );
          const seats = seatable(rooms, sizes, isOrdered);
          expect(seats !== undefined).toBe(ways.length > 0);
          if (!seats) return;
          found += 1;
          expect(ways).toContainEqual(seats);
        }),
        { numRuns: 600 },
      );
      expect(found).toBeGreaterThan(100);
    },
  );

  const [a1, ...others] = desktop().slots;
  const machine = desktop({
    slots: a1 ? [{ ...a1, maxCapacity: gib(32) }, ...others] : others,
    maxPerSlot: gib(8),
  });
  const sized = (size: number) => labelled(`${size}GB 2Rx8 PC4-2400T-UB1-11`);
  const query = (more: Partial<PlanQuery> = {}): PlanQuery => ({
    ...{ machine, fitted: {}, need: 30, budget: undefined, school: 'lenient', drawer: [] },
    ...{ capacityFirst: true, memoryTestPassed: false, settings: ['standard'], credit: {} },
    ...{ labour: 0 },
    offers: [8, 32].map((size): Offer => ({
      ...{ id: `${size}`, module: sized(size), units: 1, price: size * 100, stock: 4 },
      verified: false,
    })),
    ...more,
  });

  test('a module that fits one slot alone is no module that fits none', () => {
    expect(blockersAlone(machine, sized(32))).toEqual([]);
    expect(blockersAlone(machine, sized(64)).map(({ type }) => type)).toEqual(['slot-capacity']);
  });

  test('are planned into the slot that takes them, and nowhere else', () => {
    const { plans } = runToEnd(query());
    const large = plans.filter(({ units }) => units.some(({ module }) => module.capacity === 32));
    expect(large.length).toBeGreaterThan(0);
    for (const plan of large) {
      expect(plan.units.filter(({ module }) => module.capacity === 32)).toMatchObject([
        { slotId: 'a1' },
      ]);
      expect(assess(query(), plan.units, plan.setting).objections).toEqual([]);
    }
  });
});

describe('groups that agree by spec', () => {
  const timings = [
    { cl: 17 },
    { cl: 17, trcd: 17 },
    { cl: 17, trcd: 18 },
    { cl: 17, tras: 39 },
    { cl: 17, trcd: 17, tras: 42 },
    { cl: 19 },
  ];
  const anyModule = fc
    .record({ timing: fc.constantFrom(...timings), ranks: fc.constantFrom(1, 1, 2) })
    .map(({ timing, ranks }): MemoryModule => ({
      ...labelled('8GB 1Rx8 PC4-2400T-UA1-11'),
      ...{ timings: timing, ranks },
    }));
  const spec = (module: MemoryModule) => specOf(module, false);

  test('agree each with each, and every set that does lies in one of them', () => {
    fc.assert(
      fc.property(
        fc.array(anyModule, { maxLength: 6 }),
        fc.option(anyModule, { nil: undefined, freq: 3 }),
        (modules, onBoard) => {
          const soldered = onBoard ? [spec(onBoard)] : [];
          const all = specGroups(modules, spec, soldered);
          for (const group of all)
            for (const one of group)
              for (const other of [...group.map(spec), ...soldered])
                expect(specsAgree(spec(one), other)).toBe(true);
          for (let mask = 1; mask < 1 << modules.length; mask++) {
            const set = modules.filter((_, at) => (mask >> at) & 1);
            const isOne = set.every((one) =>
              [...set.map(spec), ...soldered].every((other) => specsAgree(spec(one), other)),
            );
            if (isOne)
              expect(all.some((group) => set.every((one) => group.includes(one)))).toBe(true);
          }
        },
      ),
      { numRuns: 300 },
    );
  });

  test('of unknown ranks there is no group, and soldered parts at odds leave none', () => {
    const [plain] = timings;
    const module: MemoryModule = {
      ...labelled('8GB 1Rx8 PC4-2400T-UA1-11'),
      timings: plain ?? { cl: 17 },
    };
    expect(specGroups([{ ...module, ranks: 'unknown' as const }], spec, [])).toEqual([]);
    const other = { ...module, ranks: 2 };
    expect(specGroups([module], spec, [spec(module), spec(other)])).toEqual([]);
    expect(specGroups([module, other], spec, [])).toHaveLength(2);
  });
});
