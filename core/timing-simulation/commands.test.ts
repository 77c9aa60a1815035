import { describe, expect, test } from 'vitest';
import { checked } from '../../test/support/checkedRun.ts';
import { CommandChecker, limitsOf } from '../../test/support/commandChecker.ts';
import { anySystem } from '../../test/support/memorySystems.ts';
import { WORKLOADS, resolveTimes, simulate } from './index.ts';
import type { Cycles, MemorySystem, Workload } from './index.ts';

const SYSTEMS: Readonly<Record<string, MemorySystem>> = {
  'DDR3-1600, one channel': anySystem({ generation: 'DDR3', rate: 1600, cl: 11, channels: 1 }),
  'DDR4-2400, one rank': anySystem({ rate: 2400, cl: 17, channels: 1 }),
  'DDR4-3200, two ranks, two channels': anySystem({ ranks: 2 }),
  'DDR4-3200, wide chips': anySystem({ chipWidth: 16 }),
  'DDR4-3200, three channels': anySystem({ channels: 3 }),
  'DDR5-4800, one rank': anySystem({ generation: 'DDR5', rate: 4800, cl: 40, channels: 1 }),
  'DDR5-5600, two ranks, wide chips': anySystem({
    ...{ generation: 'DDR5', rate: 5600, cl: 46, ranks: 2, chipWidth: 16 },
  }),
};

describe('every command keeps every limit of its standard', () => {
  let commands = 0;
  test.each(Object.entries(SYSTEMS))('%s', (_name, system) => {
    for (const workload of WORKLOADS) {
      const seen = checked(system, workload);
      expect([workload, seen.rules]).toEqual([workload, []]);
      // Each request is served once, and nothing moves that nobody asked for.
      expect(seen.served).toBe(seen.requests);
      commands += seen.commands;
    }
  });

  test.each(['DDR4', 'DDR5'] as const)('%s modules that state longer times', (generation) => {
    const plain = anySystem({ generation, rate: generation === 'DDR5' ? 4800 : 3200, ranks: 2 });
    const stated = {
      ...{ rrdShort: 6_000, rrdLong: 9_000, faw: 45_000, ccdLong: 6_500, wr: 41_000 },
      ...{ wtrShort: 5_000, wtrLong: 14_000, rtp: 11_000, rfc: 600_000 },
    };
    // Rows of four and groups have no time of their own to be longer on these parts.
    const { rrdShort, ...fitting } = stated;
    const slow = { ...plain, stated: generation === 'DDR5' ? fitting : { rrdShort, ...fitting } };
    for (const workload of WORKLOADS) {
      expect([workload, checked(slow, workload).rules]).toEqual([workload, []]);
      // Timed as usual, the same modules would be driven too fast.
      const { cycles } = resolveTimes(plain);
      if (workload === 'random') {
        const hasty = { faw: cycles.faw, rfc: cycles.rfc };
        expect(checked(slow, workload, { times: hasty }).rules.sort()).toEqual(['tFAW', 'tRFC']);
      }
    }
  });

  test('over enough commands to tell', () => expect(commands).toBeGreaterThan(300_000));
});

describe('a controller that is a cycle too hasty is found out', () => {
  const plain = anySystem({ ranks: 2 });
  const five = anySystem({ generation: 'DDR5', rate: 4800, cl: 40 });
  const shorter = (system: MemorySystem, ...names: (keyof Cycles)[]): Partial<Cycles> =>
    Object.fromEntries(names.map((name) => [name, resolveTimes(system).cycles[name] - 1]));
  test.each<[keyof Cycles | (keyof Cycles)[], string, MemorySystem, Workload]>([
    ['rcd', 'tRCD', plain, 'random'],
    ['rp', 'tRP', plain, 'random'],
    ['ras', 'tRAS', plain, 'desktop'],
    ['rtp', 'tRTP or tWR', plain, 'random'],
    ['wr', 'tRTP or tWR', plain, 'desktop'],
    ['rrdShort', 'tRRD_S', anySystem({ rate: 3200, chipWidth: 16 }), 'random'],
    ['rrdLong', 'tRRD_L', plain, 'random'],
    ['faw', 'tFAW', anySystem({ channels: 1 }), 'random'],
    // Four cycles of data make the shortest gap by themselves: the two are shortened together.
    [['ccdShort', 'burst'], 'tCCD_S', plain, 'stream'],
    ['ccdLong', 'tCCD_L', plain, 'stream'],
    ['ccdLongWrite', 'tCCD_L_WR', five, 'triad'],
    ['wtrShort', 'tWTR_S', plain, 'triad'],
    ['wtrLong', 'tWTR_L', plain, 'triad'],
    ['rfc', 'tRFC', plain, 'stream'],
    [['ccdShort', 'burst'], 'data bus', anySystem(), 'stream'],
    ['rankGap', 'rank gap', plain, 'random'],
    ['readWriteGap', 'read to write', plain, 'triad'],
    ['commandSlots', 'command bus', five, 'random'],
  ])('%s: %s', (name, rule, system, workload) => {
    const { rules } = checked(system, workload, { times: shorter(system, ...[name].flat()) });
    expect(rules).toContain(rule);
  });

  test('tRC, where it is longer than its two parts', () => {
    const cycles = resolveTimes(plain).cycles;
    const limits = limitsOf(plain, 2);
    const longer = { ...limits, rc: (cycles.rc + 9) * limits.clock };
    const rulesWith = (rc: number) => {
      const checkers = plain.ranks.map(() => new CommandChecker(longer));
      simulate(plain, {
        ...{ workload: 'random', seed: 1, requests: 4000, times: { rc } },
        listener: (at, channel, command, bank, row, request) =>
          checkers[channel]?.hear(at, command, bank, row, request),
      });
      return checkers.flatMap(({ violations }) => [...violations.keys()]);
    };
    expect(rulesWith(cycles.rc + 9)).toEqual([]);
    expect(rulesWith(cycles.rc + 8)).toContain('tRC');
  });

  test('refresh that comes too late, or not at all', () => {
    const late = resolveTimes(plain).cycles.refi * 1.6;
    expect(checked(plain, 'stream', { times: { refi: Math.round(late) } }).rules).toContain(
      'refresh on time',
    );
  });
});
