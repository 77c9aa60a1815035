import fc from 'fast-check';
import { SCHOOLS } from '#core/matching';
import type { MemoryModule } from '#core/memory';
import type { DrawerModule, Offer, PlanQuery } from '#core/planning';
import { dataRate, gib } from '#core/units';
import { desktop } from './builders.ts';

const rates = [1866, 2400, 2666, 3200].map(dataRate);
const CL = { 1866: 13, 2400: 17, 2666: 19, 3200: 22 } as Record<number, number>;
const profile = (rate: number, cl: number) => ({
  rate: dataRate(rate),
  timings: { cl },
  voltageMv: 1350,
});

/** DDR4 modules out of few sizes, rates and parts, so that they often match. */
export const anyPlannable: fc.Arbitrary<MemoryModule> = fc
  .record({
    capacity: fc.constantFrom(4, 8, 16).map(gib),
    rate: fc.constantFrom(...rates),
    organisation: fc.constantFrom([1, 8], [2, 8], [1, 16], ['unknown', 'unknown'] as const),
    partNumber: fc.constantFrom(undefined, undefined, 'OR-1', 'OR-2', 'PV-3'),
    profile: fc.constantFrom(undefined, undefined, profile(3000, 15), profile(3600, 18)),
    channels: fc.constantFrom(undefined, undefined, 2),
    mask: fc.constantFrom(undefined, undefined, undefined, [17, 19, 22], [13, 15, 18]),
    ecc: fc.constantFrom(false, false, false, true),
    // Labels state tRCD or leave it out, and two that state it may differ.
    trcd: fc.constantFrom(undefined, undefined, 20, 22),
  })
  .map(({ capacity, rate, organisation, partNumber, profile: oc, mask, ecc, channels, trcd }) => ({
    generation: 'DDR4',
    formFactor: 'DIMM',
    buffering: 'unbuffered',
    ...{ ecc, capacity, rate },
    ranks: organisation[0],
    chipWidth: organisation[1],
    timings: { cl: CL[rate] ?? 22, ...(trcd ? { trcd } : {}) },
    voltagesMv: [1200],
    ...(partNumber ? { partNumber } : {}),
    ...(oc ? { profile: oc } : {}),
    ...(mask ? { supportedCls: mask } : {}),
    ...(channels ? { channels } : {}),
  }));

const anyRow = fc.record({
  modulesPerChannel: fc.integer({ min: 1, max: 2 }),
  ranksPerChannel: fc.integer({ min: 1, max: 4 }),
  rate: fc.constantFrom(...rates),
});

const anySmallMachine = fc
  .record({
    // Channels × slots: few enough to try everything.
    shape: fc.constantFrom([2, 1], [1, 2], [3, 1], [1, 3], [2, 2], [2, 2], [4, 1]),
    controllerLimit: fc.constantFrom(dataRate(2400), dataRate(3200), 'unknown' as const),
    firmwareCap: fc.constantFrom('none' as const, dataRate(2666), dataRate(3100)),
    rateTable: fc.uniqueArray(anyRow, {
      maxLength: 4,
      selector: ({ modulesPerChannel, ranksPerChannel }) =>
        `${modulesPerChannel} ${ranksPerChannel}`,
    }),
    unevenChannels: fc.constantFrom('zone', 'zone', 'single', 'unknown'),
    requiredFirstSlot: fc.constantFrom('none', 'none', 'a1'),
    maxTotal: fc.constantFrom('unknown' as const, gib(24), gib(48)),
    maxPerSlot: fc.constantFrom('unknown' as const, 'unknown' as const, gib(8)),
    ecc: fc.constantFrom('ignored', 'ignored', 'works', 'refused', 'required'),
    maxRanksPerModule: fc.constantFrom('unknown' as const, 'unknown' as const, 1),
    maxRanksPerChannel: fc.constantFrom('unknown' as const, 2, 3),
    support: fc.constantFrom('yes', 'yes', 'no', 'unknown'),
    ceiling: fc.constantFrom('none' as const, dataRate(3200), dataRate(3500)),
    osLimit: fc.constantFrom('none' as const, { low: gib(12), high: gib(13) }),
    carveOut: fc.constantFrom({ low: gib(0), high: gib(0) }, { low: gib(0.5), high: gib(2) }),
    soldered: fc.option(anyPlannable, { nil: undefined, freq: 4 }),
    wide: fc.constantFrom(false, false, false, false, false, true),
    // What single slots take, where it differs.
    rooms: fc.option(fc.array(fc.constantFrom(undefined, 4, 8, 16), { maxLength: 4 }), {
      nil: [],
      freq: 3,
    }),
  })
  .map(({ shape, support, ceiling, carveOut, soldered, wide, rooms, ...traits }) => {
    const [channels = 2, slots = 1] = shape;
    const profiles = { support, ceiling };
    const part = soldered && { ...soldered, formFactor: 'soldered' as const };
    const onBoard = part ? [{ channel: 'A', part }] : [];
    const more = { ...traits, profiles, graphicsCarveOut: carveOut, soldered: onBoard };
    if (!wide) {
      const plain = desktop(more, channels, slots);
      const own = plain.slots.map((slot, at) => {
        const most = rooms[at];
        return most === undefined ? slot : { ...slot, maxCapacity: gib(most) };
      });
      return { ...plain, slots: own };
    }
    // Two sockets that wire two channels each, as compression modules have them.
    const sockets = [
      { id: 'a1', printedName: 'A1', channels: ['A', 'B'] },
      { id: 'c1', printedName: 'C1', channels: ['C', 'D'] },
    ];
    return desktop({ ...more, channels: ['A', 'B', 'C', 'D'], slots: sockets });
  });

const anyOffer = fc
  .record({
    module: anyPlannable,
    units: fc.constantFrom(1, 1, 2, 3),
    price: fc.integer({ min: 1, max: 12 }).map((tens) => tens * 1000),
    stock: fc.constantFrom('unknown' as const, 1, 2),
    verified: fc.boolean(),
  })
  .map((offer) => ({ ...offer, id: '' }));

const numbered = <T extends { id: string }>(prefix: string, list: readonly T[]): T[] =>
  list.map((one, at) => ({ ...one, id: `${prefix}${at}` }));

/** A search small enough for trying everything. */
export const anySmallQuery: fc.Arbitrary<PlanQuery> = anySmallMachine.chain((machine) => {
  const slots = machine.slots.map(({ id }) => id);
  const few = slots.length > 3 ? 2 : 3;
  return fc
    .record({
      fitted: fc.uniqueArray(
        fc.tuple(
          fc.constantFrom(...slots),
          anyPlannable,
          fc.constantFrom(undefined, undefined, 'old kit'),
        ),
        { maxLength: 2, selector: ([slot]) => slot },
      ),
      need: fc.constantFrom(undefined, 0, 6, 12, 20),
      budget: fc.constantFrom(undefined, undefined, 50_000, 150_000),
      school: fc.constantFrom(...SCHOOLS),
      capacityFirst: fc.boolean(),
      memoryTestPassed: fc.boolean(),
      settings: fc.constantFrom<PlanQuery['settings']>(
        ['standard', 'profile'],
        ['standard'],
        ['profile'],
      ),
      offers: fc.array(anyOffer, { minLength: 1, maxLength: few }),
      drawer: fc.array(
        fc.record({
          id: fc.constant(''),
          module: anyPlannable,
          state: fc.constantFrom<DrawerModule['state']>('tested', 'untested', 'suspect', 'faulty'),
          price: fc.constantFrom(0, 3000),
        }),
        { maxLength: 2 },
      ),
      worth: fc.constantFrom(0, 500),
      labour: fc.constantFrom(0, 4000),
    })
    .map(({ fitted, offers, drawer, worth, ...rest }): PlanQuery => ({
      ...rest,
      machine,
      fitted: Object.fromEntries(
        fitted.map(([slot, module, kitId]) => [slot, kitId ? { ...module, kitId } : module]),
      ),
      offers: numbered<Offer>('offer', offers),
      drawer: numbered('drawer', drawer),
      credit: Object.fromEntries(fitted.map(([slot]) => [slot, worth])),
    }));
});
