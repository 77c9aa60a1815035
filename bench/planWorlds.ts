import type { School } from '#core/matching';
import type { Machine, Placement } from '#core/machine';
import { plainMachine } from '#core/machine';
import type { MemoryModule } from '#core/memory';
import type { DrawerModule, Offer, PlanQuery } from '#core/planning';
import { seededRandom } from '#core/units';
import { dataRate, gib } from '#core/units';

const BINS: readonly (readonly [number, number])[] = [
  [2133, 15],
  [2400, 17],
  [2666, 19],
  [2933, 21],
  [3200, 22],
];

/** A made-up market: singles and packs of 2 and 4 in four sizes, five bins, three organisations. */
export function madeUpMarket(
  entries: number,
  drawer: number,
  profiles: boolean,
  sizes: readonly number[] = [4, 8, 16, 32],
): { offers: Offer[]; drawer: DrawerModule[] } {
  const random = seededRandom(entries * 7 + drawer);
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)] as T;
  const parts = new Map<string, MemoryModule>();
  const moduleAt = (part: string): MemoryModule => {
    const known = parts.get(part) ?? anyModule(part);
    parts.set(part, known);
    return known;
  };
  const anyModule = (part: string): MemoryModule => {
    const [rate, cl] = pick(BINS);
    const [ranks, chipWidth] = pick([
      [1, 8],
      [2, 8],
      [1, 16],
    ] as const);
    return {
      partNumber: part,
      generation: 'DDR4',
      formFactor: 'DIMM',
      buffering: 'unbuffered',
      ecc: false,
      capacity: gib(pick(sizes)),
      ...{ ranks, chipWidth },
      rate: dataRate(rate),
      timings: { cl },
      voltagesMv: [1200],
      ...(profiles && random() < 0.4
        ? {
            profile: {
              rate: dataRate(pick([3000, 3200, 3600])),
              timings: { cl: pick([15, 16, 18]) },
              voltageMv: 1350,
            },
          }
        : {}),
    };
  };
  const priceOf = ({ capacity, rate }: MemoryModule, units: number) =>
    Math.round(
      (800 + capacity * 230 + (rate - 2000) * 0.6 + random() * 900) * units * (1 - units * 0.015),
    );
  const offers = Array.from({ length: entries }, (_, at): Offer => {
    const module = moduleAt(`MK-${Math.floor(at / 2)}`);
    const units = pick([1, 1, 2, 2, 4]);
    const price = priceOf(module, units);
    return { id: `offer-${at}`, module, units, price, stock: pick([2, 4, 10]), verified: false };
  });
  const used = Array.from({ length: drawer }, (_, at): DrawerModule => ({
    id: `drawer-${at}`,
    module: moduleAt(`OLD-${at % 25}`),
    state: 'tested',
    price: 500 + Math.floor(random() * 1500),
  }));
  return { offers, drawer: used };
}

/** A desktop with rates that fall as channels fill up. */
export function bigBoard(channels: number, slotsPerChannel: number): Machine {
  const rows = Array.from({ length: slotsPerChannel }, (_, at) => at + 1).flatMap((modules) =>
    [1, 2].map((ranks) => ({
      modulesPerChannel: modules,
      ranksPerChannel: modules * ranks,
      rate: dataRate([3200, 2933, 2666, 2400, 2133][modules - 1 + (ranks - 1)] ?? 2133),
    })),
  );
  return {
    ...plainMachine({
      ...{ name: 'Bench board', kind: 'workstation', generation: 'DDR4', formFactor: 'DIMM' },
      ...{ channels, slotsPerChannel },
    }),
    requiredFirstSlot: 'none',
    nonBinary: 'yes',
    ecc: 'ignored',
    controllerLimit: dataRate(3200),
    firmwareCap: 'none',
    profiles: { support: 'yes', ceiling: dataRate(3600) },
    unevenChannels: 'zone',
    rateTable: rows,
    maxPerSlot: gib(32),
  };
}

/** A search as large as they come. */
export function bigQuery(
  machine: Machine,
  market: { offers: Offer[]; drawer: DrawerModule[] },
  school: School,
): PlanQuery {
  const old = market.drawer[0]?.module;
  const fitted: Placement = old
    ? Object.fromEntries(machine.slots.slice(0, 2).map(({ id }) => [id, { ...old }]))
    : {};
  const listed = market.offers.flatMap(({ module }, at) =>
    at % 3 ? [] : (module.partNumber ?? []),
  );
  return {
    machine: { ...machine, verifiedParts: listed },
    ...{ fitted, school },
    need: 24,
    budget: undefined,
    capacityFirst: false,
    memoryTestPassed: false,
    settings: ['standard', 'profile'],
    ...market,
    credit: Object.fromEntries(Object.keys(fitted).map((slot) => [slot, 300])),
    labour: 3500,
  };
}
