import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { anyDdr4 } from '../../test/support/arbitraries.ts';
import { desktop, labelled, running } from '../../test/support/builders.ts';
import type { Machine, Placement } from '../machine/index.ts';
import type { MemoryModule } from '../memory/index.ts';
import { dataRate, gib } from '../units/index.ts';
import { operatingPoint } from './index.ts';

const plain = labelled('8GB 1Rx8 PC4-2400T-UA1-11');
const large = labelled('16GB 2Rx8 PC4-2400T-UB1-11');
const soldered = (part: MemoryModule, channel = 'A') => ({
  channel,
  part: { ...part, formFactor: 'soldered' as const },
});
const blockersOf = (machine: Machine, placement: Placement) => {
  const point = operatingPoint(machine, placement, 'standard');
  return point.type === 'blocked' ? point.blockers.map(({ type }) => type) : [];
};
const flagOf = (machine: Machine, placement: Placement, type: string) =>
  running(machine, placement).flags.find((flag) => flag.type === type);

describe('every blocker is told', () => {
  const apart = (cl: number) => ({ ...plain, supportedCls: [cl] });

  test('no CL in common beside another', () => {
    const machine = desktop({ maxPerSlot: gib(4) });
    expect(blockersOf(machine, { a1: apart(17), b1: apart(18) })).toEqual([
      'slot-capacity',
      'slot-capacity',
      'no-common-cl',
    ]);
  });

  test('no rate slow enough beside another, unless the generation is to blame', () => {
    const machine = desktop({ controllerLimit: dataRate(1400), maxPerSlot: gib(4) });
    expect(blockersOf(machine, { a1: plain })).toEqual(['slot-capacity', 'no-standard-rate']);
    const other = labelled('8GB 1Rx8 PC5-5600B-UA0-1010');
    expect(blockersOf(desktop(), { a1: other })).toEqual(['wrong-generation', 'voltage']);
  });

  test('two modules of which each has a rail, and none is shared', () => {
    const machine = desktop({ generations: ['DDR3'], voltagesMv: [1350, 1500] });
    const low = { ...labelled('8GB 2Rx8 PC3L-12800U-11-13-A1'), voltagesMv: [1350] };
    const high = labelled('8GB 2Rx8 PC3-12800U-11-13-A1');
    expect(blockersOf(machine, { a1: low, b1: high })).toEqual(['no-shared-voltage']);
    // One that no rail suits is named by itself; the others still have none in common.
    const neither = { ...high, voltagesMv: [1650] };
    expect(blockersOf(machine, { a1: low, b1: high, b2: neither })).toEqual([
      'voltage',
      'no-shared-voltage',
    ]);
    expect(blockersOf(machine, { a1: low, b2: neither })).toEqual(['voltage']);
  });

  test('soldered parts count in a rail all share; alone they run as the machine was built', () => {
    const low = { ...labelled('8GB 2Rx8 PC3L-12800U-11-13-A1'), voltagesMv: [1350] };
    const machine = desktop({
      generations: ['DDR3'],
      voltagesMv: [1350, 1500],
      soldered: [soldered(low)],
    });
    const high = labelled('8GB 2Rx8 PC3-12800U-11-13-A1');
    expect(blockersOf(machine, { b1: high })).toEqual(['no-shared-voltage']);
    const both = labelled('8GB 2Rx8 PC3L-12800U-11-13-A1');
    expect(running(machine, { b1: both }).voltageMv).toBe(1350);
    expect(running({ ...machine, voltagesMv: [1500] }, {}).voltageMv).toBe(1350);
  });
});

test('slots may differ in what they take, and one may take more than the total', () => {
  const [a1, ...others] = desktop().slots;
  if (!a1) throw new Error('expected a slot');
  const slots = [{ ...a1, maxCapacity: gib(32) }, ...others];
  const machine = desktop({ slots, maxPerSlot: gib(8), maxTotal: gib(24) });
  expect(blockersOf(machine, { a1: large, b1: plain })).toEqual([]);
  const wrong = operatingPoint(machine, { b1: large }, 'standard');
  expect(wrong).toMatchObject({ blockers: [{ type: 'slot-capacity', slotId: 'b1', limit: 8 }] });
});

describe('what a limit or flag is about', () => {
  test('soldered memory among the slowest is named by null, and JSON keeps it', () => {
    const machine = desktop({ soldered: [soldered(plain)] });
    const point = running(machine, { b1: { ...plain } });
    const [rung] = point.rungs;
    expect(rung?.slotIds).toEqual([null, 'b1']);
    expect((JSON.parse(JSON.stringify(point)) as typeof point).rungs[0]?.slotIds).toEqual(
      rung?.slotIds,
    );
  });

  test('what the slowest module would lift to is not promised where that is soldered', () => {
    const fast = labelled('8GB 1Rx8 PC4-3200AA-UA1-11');
    const lifted = (point: ReturnType<typeof running>) =>
      point.rungs.find(({ rule }) => rule === 'slowest-module')?.liftsTo;
    expect(lifted(running(desktop(), { a1: plain, b1: fast }))).toBe(3200);
    expect(lifted(running(desktop({ soldered: [soldered(plain)] }), { b1: fast }))).toBeUndefined();
  });

  test('mixed ECC is a caution, ECC the machine ignores a note', () => {
    const ecc = labelled('8GB 1Rx8 PC4-2400T-EA1-11');
    expect(flagOf(desktop(), { a1: ecc, b1: plain }, 'ecc-off')?.severity).toBe('caution');
    expect(flagOf(desktop(), { a1: ecc, b1: ecc }, 'ecc-off')?.severity).toBe('note');
    expect(flagOf(desktop({ ecc: 'works' }), { a1: ecc, b1: ecc }, 'ecc-off')).toBeUndefined();
  });
});

describe('beyond what the maker states', () => {
  const kit = labelled('8GB 1Rx8 PC4-2133P-UA1-11 profile 3600MT/s CL18 1.35V');
  const beyond = (ceiling: number) => {
    const machine = desktop({ profiles: { support: 'yes', ceiling: dataRate(ceiling) } });
    const point = running(machine, { a1: kit, b1: kit }, 'profile');
    const isWarned = point.rungs.some(({ role }) => role === 'warning');
    return [point.rate, isWarned, point.flags.some(({ type }) => type === 'beyond-stated-limit')];
  };

  test('is above the limit, not at it: the rate that runs in the end counts', () => {
    expect(beyond(3300)).toEqual([3200, false, false]);
    expect(beyond(3600)).toEqual([3600, true, true]);
  });
});

describe('CAS latency', () => {
  test('standard DDR5 latencies are even, a label’s own figure stands as printed', () => {
    const machine = desktop({ generations: ['DDR5'], controllerLimit: dataRate(4400) });
    const odd = labelled('16GB DDR5-4800 CL37');
    // 37 clocks at 4800 are 15,416 ps: 33.9 clocks of 454 ps, 34 as they stand, and even already.
    const at4000 = { ...machine, controllerLimit: dataRate(4000) };
    expect(running(machine, { a1: { ...odd, timesPs: { cl: 15_000 } } }).timings.cycles.cl).toBe(
      34,
    );
    expect(running(at4000, { a1: { ...odd, timesPs: { cl: 14_600 } } }).timings.cycles.cl).toBe(30);
    const own = desktop({ generations: ['DDR5'], controllerLimit: dataRate(6400) });
    const printed = labelled('16GB DDR5-4800 standard CL37');
    expect(running(own, { a1: printed }).timings.cycles.cl).toBe(37);
  });

  test('raised to one that all support, it is a caution that says what the times ask for', () => {
    const listed = { ...plain, supportedCls: [15, 18, 20] };
    expect(flagOf(desktop(), { a1: listed }, 'cl-raised')).toMatchObject({
      severity: 'caution',
      needed: 17,
      runs: 18,
    });
    const met = { ...plain, supportedCls: [15, 17, 20] };
    expect(flagOf(desktop(), { a1: met }, 'cl-raised')).toBeUndefined();
  });

  test('an even figure in a list of even ones is not called raised', () => {
    const machine = desktop({ generations: ['DDR5'], controllerLimit: dataRate(4400) });
    const module = {
      ...labelled('16GB 1Rx8 PC5-5600B-UA0-1010'),
      supportedCls: [30, 32, 36, 38, 40, 46],
    };
    const point = running(machine, { a1: module });
    expect(point.timings.cycles.cl).toBe(38); // 36.1 clocks, 37, and 38 is the next even
    expect(point.flags.some(({ type }) => type === 'cl-raised')).toBe(false);
  });
});

describe('a needless single channel', () => {
  const needless = (machine: Machine, placement: Placement) => {
    const flag = flagOf(machine, placement, 'one-channel-needless');
    return flag?.type === 'one-channel-needless' ? flag.moves : undefined;
  };

  test('counts only where another placement is truly wider under the trait', () => {
    const unequal = { a1: plain, a2: large };
    expect(needless(desktop({ unevenChannels: 'zone' }), unequal)).toHaveLength(1);
    expect(needless(desktop({ unevenChannels: 'single' }), unequal)).toBeUndefined();
    expect(needless(desktop({ unevenChannels: 'unknown' }), unequal)).toBeUndefined();
    expect(needless(desktop({ unevenChannels: 'unknown' }), { a1: plain, a2: plain })).toEqual([
      { from: 'a1', to: 'b1' },
    ]);
  });

  test('is seen more than one move away', () => {
    const machine = desktop({ unevenChannels: 'single' }, 2, 4);
    const four = { a1: plain, a2: plain, a3: plain, a4: plain };
    expect(needless(machine, four)).toHaveLength(2);
    // The module in the slot that must be filled stays, or another takes its place.
    const first = desktop({ requiredFirstSlot: 'a2', unevenChannels: 'single' });
    expect(needless(first, { a1: plain, a2: plain })).toEqual([{ from: 'a1', to: 'b1' }]);
    const swap = desktop({ requiredFirstSlot: 'b2', unevenChannels: 'single' });
    expect(blockersOf(swap, { a1: plain, a2: plain })).toEqual(['first-slot-empty']);
  });

  test('does not count a placement that would not run', () => {
    const slots = desktop().slots.map((slot) =>
      slot.channels[0] === 'B' ? { ...slot, maxCapacity: gib(4) } : slot,
    );
    expect(needless(desktop({ slots }), { a1: plain, a2: plain })).toBeUndefined();
    const onBoard = desktop({ soldered: [soldered(plain)], unevenChannels: 'single' });
    expect(needless(onBoard, { a1: plain })).toEqual([{ from: 'a1', to: 'b1' }]);
    expect(needless(onBoard, { a1: large })).toBeUndefined();
  });

  test('agrees with trying every placement of the same modules', () => {
    const machines = fc.record({
      unevenChannels: fc.constantFrom('zone' as const, 'single' as const, 'unknown' as const),
      requiredFirstSlot: fc.constantFrom('none', 'a1', 'a2'),
      maxRanksPerChannel: fc.constantFrom('unknown' as const, 2),
    });
    const sets = fc.array(anyDdr4, { minLength: 1, maxLength: 2 });
    let seen = 0;
    fc.assert(
      fc.property(machines, sets, fc.boolean(), (traits, modules, isOnBoard) => {
        const machine = desktop({ ...traits, soldered: isOnBoard ? [soldered(plain)] : [] }, 2, 2);
        const ids = machine.slots.map(({ id }) => id);
        const stacked = Object.fromEntries(modules.map((module, at) => [ids[at] ?? '', module]));
        const point = operatingPoint(machine, stacked, 'standard');
        if (point.type === 'blocked') return;
        const isWider = placementsOf(modules, ids).some((placement) => {
          const other = operatingPoint(machine, placement, 'standard');
          return other.type === 'runs' && (other.layouts[0].regions[0]?.channels.length ?? 0) > 1;
        });
        const flag = point.flags.find(({ type }) => type === 'one-channel-needless');
        if (flag) seen++;
        expect(flag !== undefined).toBe(isWider);
        if (flag?.type !== 'one-channel-needless') return;
        const moved: Record<string, MemoryModule> = {};
        for (const [id, module] of Object.entries(stacked))
          moved[flag.moves.find(({ from }) => from === id)?.to ?? id] = module;
        const better = running(machine, moved);
        expect(better.layouts[0].regions[0]?.channels.length).toBeGreaterThan(1);
      }),
      { numRuns: 400, interruptAfterTimeLimit: 120_000 },
    );
    expect(seen).toBeGreaterThan(40);
  });
});

/** Every way to put some modules into some slots. */
function placementsOf(modules: readonly MemoryModule[], ids: readonly string[]): Placement[] {
  const [first, ...rest] = modules;
  if (!first) return [{}];
  return ids.flatMap((id) =>
    placementsOf(
      rest,
      ids.filter((other) => other !== id),
    ).map((placement) => ({ ...placement, [id]: first })),
  );
}
