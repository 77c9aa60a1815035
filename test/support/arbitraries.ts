import fc from 'fast-check';
import type { Machine, Placement } from '#core/machine';
import { commonCl, generationTraits } from '#core/memory';
import type { Generation, MemoryModule } from '#core/memory';
import { dataRate, gib } from '#core/units';
import { desktop } from './builders.ts';

const CAPACITIES: Partial<Record<Generation, number[]>> = {
  DDR2: [0.5, 1, 2, 4],
  DDR3: [2, 4, 8, 16],
  DDR4: [4, 8, 16, 32, 64],
  DDR5: [8, 16, 24, 32, 48],
};

const socketed = ['DDR2', 'DDR3', 'DDR4', 'DDR5'] as const;

const profileFor = (generation: Generation, rate: number) =>
  fc.record({
    rate: fc.constantFrom(200, 400, 600).map((more) => dataRate(rate + more)),
    timings: fc.record({
      cl: fc.integer({ min: 14, max: 40 }),
      trcd: fc.integer({ min: 14, max: 40 }),
    }),
    voltageMv: fc.constantFrom(1250, 1350, 1400).map((mv) => (generation === 'DDR3' ? 1650 : mv)),
  });

/** Any module of a generation, at any of its standard rates. */
export const anyModuleOf = (generation: Generation): fc.Arbitrary<MemoryModule> =>
  fc
    .constantFrom(...generationTraits(generation).standardRates)
    .chain((rate) => moduleAt(generation, rate));

/** Any socketed module whose every field a label can state. */
export const anyModule: fc.Arbitrary<MemoryModule> = fc
  .constantFrom(...socketed)
  .chain(anyModuleOf);

function moduleAt(generation: Generation, rate: number): fc.Arbitrary<MemoryModule> {
  const common = commonCl(generation, dataRate(rate));
  return fc
    .record({
      capacity: fc.constantFrom(...(CAPACITIES[generation] ?? [8])),
      organisation: fc.constantFrom([1, 8], [2, 8], [1, 16], [2, 4], [
        'unknown',
        'unknown',
      ] as const),
      formFactor: fc.constantFrom('DIMM' as const, 'SODIMM' as const),
      kind: fc.constantFrom(
        { buffering: 'unbuffered' as const, ecc: false },
        { buffering: 'unbuffered' as const, ecc: true },
        { buffering: 'registered' as const, ecc: true },
        { buffering: 'load-reduced' as const, ecc: true },
      ),
      slack: fc.integer({ min: -2, max: 3 }),
      full: fc.boolean(),
      low: fc.boolean(),
      partNumber: fc.option(fc.constantFrom('ORL-24S52', 'PV4-04S', 'A0B1-8I1L.R2'), {
        nil: undefined,
      }),
      profile: fc.option(profileFor(generation, rate), { nil: undefined }),
    })
    .map(
      ({ capacity, organisation: [ranks, chipWidth], formFactor, kind, slack, full, ...rest }) => {
        const cl = Math.max(3, common + slack);
        return {
          ...(rest.partNumber ? { partNumber: rest.partNumber } : {}),
          ...{ generation, formFactor, ...kind, ranks, chipWidth },
          capacity: gib(capacity),
          rate: dataRate(rate),
          timings: full ? { cl, trcd: cl, trp: cl } : { cl },
          voltagesMv:
            generation === 'DDR3' && rest.low
              ? [1350, 1500]
              : [generationTraits(generation).nominalMv],
          ...(rest.profile ? { profile: rest.profile } : {}),
        };
      },
    );
}

/** Unbuffered DDR4 modules for a desktop. */
export const anyDdr4 = anyModuleOf('DDR4').map((module): MemoryModule => ({
  ...module,
  formFactor: 'DIMM',
  buffering: 'unbuffered',
  ecc: false,
}));

const anyRate = fc.constantFrom(1600, 2000, 2133, 2666, 2933, 3200, 3600).map(dataRate);
const anyRow = fc.record({
  modulesPerChannel: fc.integer({ min: 1, max: 2 }),
  ranksPerChannel: fc.integer({ min: 1, max: 4 }),
  rate: anyRate,
});

/** Four channels of two slots, with any mix of limits. */
export const anyFourChannelMachine: fc.Arbitrary<Machine> = fc
  .record({
    controllerLimit: fc.oneof(anyRate, fc.constant('unknown' as const)),
    firmwareCap: fc.oneof(anyRate, fc.constant('none' as const)),
    // One row for a load: two would contradict each other.
    rateTable: fc.uniqueArray(anyRow, {
      maxLength: 6,
      selector: ({ modulesPerChannel, ranksPerChannel }) =>
        `${modulesPerChannel} ${ranksPerChannel}`,
    }),
    unevenChannels: fc.constantFrom('zone', 'single', 'unknown'),
    profiles: fc.record({
      support: fc.constantFrom('yes', 'no', 'unknown'),
      ceiling: fc.oneof(anyRate, fc.constant('none' as const)),
    }),
  })
  .map((traits) => desktop(traits, 4, 2));

/** Modules in any of the slots of {@link anyFourChannelMachine}, one at least. */
export const anyPlacement = (module: fc.Arbitrary<MemoryModule>): fc.Arbitrary<Placement> =>
  fc
    .uniqueArray(
      fc.tuple(fc.constantFrom('a1', 'a2', 'b1', 'b2', 'c1', 'c2', 'd1', 'd2'), module),
      {
        minLength: 1,
        selector: ([id]) => id,
      },
    )
    .map((entries) => Object.fromEntries(entries));
