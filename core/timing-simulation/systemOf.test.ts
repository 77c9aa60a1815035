import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { anyDdr4, anyFourChannelMachine, anyPlacement } from '../../test/support/arbitraries.ts';
import { desktop, labelled, running } from '../../test/support/builders.ts';
import { GIB_LINES, anySystem } from '../../test/support/memorySystems.ts';
import { readInventory, writeSpd } from '../inventory/index.ts';
import type { CommandTimesPs, MemoryModule } from '../memory/index.ts';
import { operatingPoint } from '../operating-point/index.ts';
import {
  AddressMap,
  Comparison,
  USUAL_CHOICES,
  compareSystems,
  ratiosOf,
  resolveTimes,
  simulate,
  systemOf,
} from './index.ts';
import type { Memo, MemorySystem } from './index.ts';
import { often } from '../../test/support/draws.ts';

const eight = labelled('8GB 1Rx8 PC4-3200AA-UA2-11');
const sixteen = labelled('16GB 2Rx8 PC4-3200AA-UB1-11');
const board = desktop();
const made = (placement: Parameters<typeof running>[1], machine = board) =>
  systemOf(machine, placement, running(machine, placement));

describe('a machine as a memory system', () => {
  test('two like modules on two channels are one zone over both', () => {
    expect(made({ a1: eight, b1: eight })).toEqual({
      ...{ type: 'system', supposed: [], isMixed: false },
      system: {
        ...{ generation: 'DDR4', rate: 3200, cl: 22, rcd: 22, rp: 22, ras: undefined },
        ...{ chipWidth: 8, density: 8, ranks: [1, 1] },
        zones: [{ channels: [0, 1], lines: 16 * GIB_LINES }],
      },
    });
  });

  test('three modules in two channels: a paired zone and the rest on the fuller one', () => {
    const found = made({ a1: eight, a2: eight, b1: eight });
    expect(found).toMatchObject({
      system: {
        ranks: [2, 1],
        zones: [
          { channels: [0, 1], lines: 16 * GIB_LINES },
          { channels: [0], lines: 8 * GIB_LINES },
        ],
      },
    });
  });

  test('an empty channel takes no part; ranks of a channel add up', () => {
    expect(made({ b1: sixteen, b2: eight })).toMatchObject({
      isMixed: true,
      system: { ranks: [3], zones: [{ channels: [0], lines: 24 * GIB_LINES }] },
    });
  });

  test('what nobody states is supposed, and said', () => {
    const vague = labelled('8GB DDR4-3200');
    expect(made({ a1: vague })).toMatchObject({
      supposed: expect.arrayContaining(['chip width', 'ranks']) as unknown,
      system: { chipWidth: 8, ranks: [1] },
    });
  });

  describe('times between commands', () => {
    const spd = (module: MemoryModule) => {
      const written = writeSpd(module, {});
      if (!written.ok) throw new Error(written.error.type);
      return readInventory(written.value).devices[0]?.module;
    };
    const quick = { ...eight, commandTimesPs: { faw: 21_000, rfc: 350_000, wr: 15_000 } };
    const slow = { ...eight, commandTimesPs: { faw: 34_000, rfc: 550_000 } };

    test('come from the modules’ images: the longest of each, where all state it', () => {
      const [a1, b1] = [spd(quick), spd(slow)];
      expect(a1?.commandTimesPs).toEqual(quick.commandTimesPs);
      const found = made({ a1, b1 });
      expect(found).toMatchObject({ system: { stated: { faw: 34_000, rfc: 550_000 } } });
      if (found.type !== 'system') throw new Error(found.type);
      const { sources, cycles } = resolveTimes(found.system);
      expect(sources).toMatchObject({ faw: 'stated', rfc: 'stated', wr: 'usual' });
      // 34 ns and 550 ns at 0.625 ns a cycle.
      expect([cycles.faw, cycles.rfc]).toEqual([55, 880]);
      expect(made({ a1, b1: eight })).not.toHaveProperty('system.stated');
    });

    test('make what fetches single lines slower, and a chase no different', () => {
      const system = anySystem({ channels: 1 });
      const rate = (of: MemorySystem, workload: 'random' | 'chase') =>
        simulate(of, { workload, seed: 1, requests: workload === 'chase' ? 2000 : 8000 }).bandwidth;
      const late = { ...system, stated: { faw: 60_000 } };
      expect(rate(late, 'random') / rate(system, 'random')).toBeLessThan(0.6);
      expect(rate(late, 'chase') / rate(system, 'chase')).toBeCloseTo(1, 2);
    });

    test('that no part has are set aside, and none goes below what the standard asks in cycles', () => {
      const timed = (stated: CommandTimesPs) => resolveTimes({ ...anySystem(), stated });
      const usual = resolveTimes(anySystem());
      for (const absurd of [0, -5, 400_000, Number.NaN])
        expect(timed({ faw: absurd, wtrLong: absurd, rrdShort: absurd })).toEqual(usual);
      expect(timed({ rfc: 9_000_000 })).toEqual(usual);
      expect(timed({ faw: 1, ccdLong: 1 }).cycles).toMatchObject({ faw: 20, ccdLong: 5 });
    });
  });

  test('a kind without a model, and times that cannot be, make none', () => {
    const old = desktop({ generations: ['DDR2'] });
    const module = labelled('2GB 2Rx8 PC2-6400U-666-12');
    expect(made({ a1: module }, old)).toEqual({ type: 'no-model', generation: 'DDR2' });
    const point = running(board, { a1: eight });
    const timed = (cycles: object) =>
      systemOf(
        board,
        { a1: eight },
        {
          ...point,
          timings: { ...point.timings, cycles: { ...point.timings.cycles, ...cycles } },
        },
      );
    for (const cycles of [{ cl: 0 }, { cl: -3 }, { trcd: 9999 }, { trp: 0.5 }, { tras: 3 }])
      expect(timed(cycles)).toEqual({ type: 'implausible' });
  });

  test('whatever runs makes a system that serves', { timeout: 120_000 }, () => {
    fc.assert(
      fc.property(anyFourChannelMachine, anyPlacement(anyDdr4), (machine, placement) => {
        const point = operatingPoint(machine, placement, 'standard');
        if (point.type !== 'runs') return;
        for (const layout of point.layouts) {
          const found = systemOf(machine, placement, point, layout);
          if (found.type !== 'system') return;
          const { system } = found;
          const map = new AddressMap(system, USUAL_CHOICES);
          expect(map.lines / GIB_LINES).toBeCloseTo(point.installed, 3);
          const served = simulate(system, { workload: 'random', seed: 1, requests: 400 });
          expect(served.bandwidth).toBeGreaterThan(0);
          const peak = (system.rate * 8 * system.ranks.length) / 1000;
          expect(served.bandwidth).toBeLessThanOrEqual(peak);
        }
      }),
      { numRuns: often(10, 80) },
    );
  });
});

describe('two systems compared', () => {
  // What one of them simulated need not be simulated again for the next.
  const memo: Memo = new Map();

  test(
    'a second channel: what streams doubles, a chase stays as it was',
    { timeout: 120_000 },
    () => {
      const { bandwidth, reply } = ratiosOf(
        compareSystems(anySystem({ channels: 1 }), anySystem(), memo),
      );
      expect(bandwidth.stream).toBeGreaterThan(1.85);
      expect(bandwidth.stream).toBeLessThan(2.1);
      expect(Math.abs(reply.idle - 1)).toBeLessThan(0.04);
      // Under the same load there is less to wait for.
      expect(reply.loaded).toBeLessThan(0.97);
    },
  );

  test('the same twice is no change at all', { timeout: 120_000 }, () => {
    const { bandwidth, reply } = ratiosOf(compareSystems(anySystem(), anySystem(), memo));
    expect(Object.values(bandwidth)).toEqual([1, 1, 1, 1, 1]);
    expect(reply).toEqual({ idle: 1, loaded: 1 });
  });

  test(
    'CL22 to CL16: a chase gains a tenth at most, and nothing that streams',
    { timeout: 120_000 },
    () => {
      const { bandwidth, reply } = ratiosOf(
        compareSystems(anySystem(), anySystem({ cl: 16 }), memo),
      );
      expect(reply.idle).toBeGreaterThan(0.88);
      expect(reply.idle).toBeLessThan(0.94);
      expect(Math.abs(bandwidth.stream - 1)).toBeLessThan(0.02);
    },
  );

  test('is taken on in pieces, and says how far it is', { timeout: 120_000 }, () => {
    const comparison = new Comparison(anySystem({ channels: 1 }), anySystem());
    const shares = [comparison.share];
    while (!comparison.advance(5000)) shares.push(comparison.share);
    expect(shares.length).toBeGreaterThan(40);
    expect(shares.every((one, at) => at === 0 || one >= (shares[at - 1] ?? 0) - 1e-9)).toBe(true);
    expect(comparison.share).toBe(1);
    expect(comparison.profiles()).toEqual(
      compareSystems(anySystem({ channels: 1 }), anySystem(), memo),
    );
  });
});
