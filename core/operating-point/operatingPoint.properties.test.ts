import fc from 'fast-check';
import { expect, test } from 'vitest';
import type { Machine, Placement, Setting } from '../machine/index.ts';
import type { MemoryModule } from '../memory/index.ts';
import { desktop } from '../../test/support/builders.ts';
import { anyDdr4, anyFourChannelMachine, anyPlacement } from '../../test/support/arbitraries.ts';
import { compareRates, dataRate, exactRate, sumGib } from '../units/index.ts';
import { operatingPoint } from './index.ts';
import type { Running } from './index.ts';

const anySetting = fc.constantFrom<Setting>('standard', 'profile');

const whenRunning = (
  check: (point: Running, machine: Machine, placement: Placement, setting: Setting) => void,
) =>
  fc.assert(
    fc.property(
      anyFourChannelMachine,
      anyPlacement(anyDdr4),
      anySetting,
      (machine, placement, setting) => {
        const point = operatingPoint(machine, placement, setting);
        if (point.type === 'runs') check(point, machine, placement, setting);
      },
    ),
    { numRuns: 400 },
  );

test('the rate is never above any rung that is not a mere warning, and something binds', () => {
  whenRunning(({ rungs, rate }) => {
    for (const { limit, role } of rungs)
      if (typeof limit === 'number' && role !== 'warning')
        expect(exactRate(rate)).toBeLessThanOrEqual(exactRate(limit) + 1e-9);
    expect(rungs.some(({ role }) => role === 'binds')).toBe(true);
    for (const { liftsTo } of rungs)
      if (liftsTo) expect(compareRates(liftsTo, rate)).toBeGreaterThan(0);
  });
});

test('regions conserve capacity and narrow from one to the next', () => {
  whenRunning(({ layouts, installed }, _machine, placement) => {
    expect(installed).toBe(sumGib(Object.values(placement).map((module) => module?.capacity ?? 0)));
    for (const { regions } of layouts) {
      expect(sumGib(regions.map(({ capacity }) => capacity))).toBe(installed);
      regions.slice(1).forEach(({ channels }, at) => {
        expect(channels.length).toBeLessThan(regions[at]?.channels.length ?? 0);
      });
    }
  });
});

test('swapping the modules of a channel between its slots changes nothing that runs', () => {
  whenRunning((point, machine, placement, setting) => {
    const swapped = { ...placement, a1: placement.a2, a2: placement.a1 };
    const { rungs: _r, flags: _f, ...rest } = operatingPoint(machine, swapped, setting) as Running;
    const { rungs: _rungs, flags: _flags, ...before } = point;
    expect(rest).toEqual(before);
  });
});

test('exchanging whole channels changes no figure', () => {
  whenRunning((point, machine, placement, setting) => {
    const { a1, a2, d1, d2 } = placement;
    const mirrored = { ...placement, a1: d1, a2: d2, d1: a1, d2: a2 };
    const other = operatingPoint(machine, mirrored, setting) as Running;
    const figures = ({ rate, timings, peak, paired, usable }: Running) => ({
      rate,
      timings,
      peak,
      paired,
      usable,
    });
    expect(figures(other)).toEqual(figures(point));
  });
});

test('an identical module in the emptiest channel never shrinks the paired zone', () => {
  fc.assert(
    fc.property(anyDdr4, fc.integer({ min: 1, max: 7 }), (module, count) => {
      const machine = desktop({}, 4, 2);
      // Channels in turn: a1 b1 c1 d1 a2 b2 …, so the next one always goes to the emptiest.
      const inTurn = ['a1', 'b1', 'c1', 'd1', 'a2', 'b2', 'c2', 'd2'];
      const placed = (n: number) =>
        Object.fromEntries(inTurn.slice(0, n).map((id) => [id, module]));
      const paired = (n: number) =>
        (operatingPoint(machine, placed(n), 'standard') as Running).paired;
      expect(paired(count + 1)).toBeGreaterThanOrEqual(paired(count));
    }),
  );
});

test('a slower module never raises the rate, nor a slower-timed one the latency', () => {
  const slower = (module: MemoryModule): MemoryModule => {
    const { profile: _profile, ...plain } = module;
    return { ...plain, rate: dataRate(1600), timings: { cl: 13 } };
  };
  fc.assert(
    fc.property(anyFourChannelMachine, anyPlacement(anyDdr4), (machine, placement) => {
      const point = operatingPoint(machine, placement, 'standard');
      const at = Object.keys(placement)[0] ?? 'a1';
      const module = placement[at];
      if (point.type !== 'runs' || !module) return;
      const worse = operatingPoint(machine, { ...placement, [at]: slower(module) }, 'standard');
      if (worse.type !== 'runs') return;
      expect(compareRates(worse.rate, point.rate)).toBeLessThanOrEqual(0);
      expect(worse.peak).toBeLessThanOrEqual(point.peak + 1e-9);
    }),
  );
});
