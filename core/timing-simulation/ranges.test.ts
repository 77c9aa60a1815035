import { describe, expect, test } from 'vitest';
import { GIB_LINES, anySystem, runOf } from '../../test/support/memorySystems.ts';
import { WORKLOADS, simulate } from './index.ts';
import type { MemorySystem, Run, Served, Workload } from './index.ts';
import { isAnew } from '../../test/support/draws.ts';

/** Runs that several tests weigh one against another; each is made once. */
const made = new Map<string, Served>();
function served(system: MemorySystem, workload: Workload, more: Partial<Run> = {}): Served {
  const key = JSON.stringify([system, workload, more]);
  const found = made.get(key) ?? simulate(system, runOf(workload, more));
  made.set(key, found);
  return found;
}
const bandwidth = (...run: Parameters<typeof served>) => served(...run).bandwidth;
const reply = (...run: Parameters<typeof served>) => served(...run).reply;

describe('within ranges', () => {
  const ddr4 = { generation: 'DDR4', rate: 3200, cl: 22 } as const;
  const ddr5 = { generation: 'DDR5', rate: 5600, cl: 46 } as const;

  // DDR5 has twice as many channels to simulate: by night.
  test.each([ddr4, ddr5].filter(({ generation }) => isAnew || generation === 'DDR4'))(
    '$generation: a second channel doubles what streams and leaves a chase alone',
    (kind) => {
      const [one, two] = [1, 2].map((channels) => anySystem({ ...kind, channels })) as [
        MemorySystem,
        MemorySystem,
      ];
      const gain = (workload: Workload) => bandwidth(two, workload) / bandwidth(one, workload);
      expect(gain('stream')).toBeGreaterThan(1.8);
      expect(gain('stream')).toBeLessThan(2.15);
      expect(gain('random')).toBeGreaterThan(1.6);
      for (const workload of WORKLOADS) expect(gain(workload)).toBeGreaterThan(0.98);
      const chase = reply(two, 'chase') / reply(one, 'chase');
      expect(Math.abs(chase - 1)).toBeLessThan(0.04);
    },
  );

  test('a chase takes little more than the memory alone', () => {
    for (const kind of [ddr4, ddr5]) {
      const system = anySystem(kind);
      const with_ = reply(system, 'chase');
      const without = reply(system, 'chase', { choices: { refreshes: false } });
      expect(with_ / without).toBeGreaterThanOrEqual(1);
      expect(with_ / without).toBeLessThan(1.17);
    }
  });

  test('another seed gives nearly the same figure, so that a run is long enough', () => {
    for (const workload of WORKLOADS) {
      const figures = [1, 2, 3, 4].map((seed) => {
        const run = served(anySystem(), workload, { seed });
        return workload === 'chase' ? run.reply : run.bandwidth;
      });
      const apart = Math.max(...figures) / Math.min(...figures) - 1;
      expect(apart, workload).toBeLessThan(workload === 'chase' ? 0.006 : 0.03);
    }
  });

  test('refresh never helps', () => {
    for (const workload of ['stream', 'random'] as const) {
      const system = anySystem();
      const off = bandwidth(system, workload, { choices: { refreshes: false } });
      expect(off).toBeGreaterThanOrEqual(bandwidth(system, workload));
    }
  });

  test('a higher rate at the same times, or a lower CL, loses nothing to speak of', () => {
    for (const workload of ['stream', 'random', 'graphics', 'desktop'] as const) {
      const slow = bandwidth(anySystem({ rate: 2400, cl: 17 }), workload);
      const fast = bandwidth(anySystem({ rate: 3200, cl: 22 }), workload);
      expect(fast / slow).toBeGreaterThan(0.95);
      const tight = bandwidth(anySystem({ rate: 3200, cl: 16 }), workload);
      expect(tight / fast).toBeGreaterThan(0.97);
    }
  });

  test('a chase under load waits longer the more there is, and less over two channels', () => {
    const replies = (channels: number) =>
      [0.5, 8, 15].map((background) => reply(anySystem({ channels }), 'chase', { background }));
    const [one, two] = [replies(1), replies(2)];
    expect(one[1]).toBeGreaterThan(one[0] ?? 0);
    expect(one[2]).toBeGreaterThan(one[1] ?? 0);
    one.forEach((ns, at) => expect((two[at] ?? 0) / ns).toBeLessThan(1.02));
    expect((two[2] ?? 0) / (one[2] ?? 1)).toBeLessThan(0.95);
  });

  test('24 + 8 GB, used whole: a third more than a single channel', () => {
    const whole = anySystem({
      zones: [
        { channels: [0, 1], lines: 16 * GIB_LINES },
        { channels: [0], lines: 16 * GIB_LINES },
      ],
    });
    const single = anySystem({ channels: 1, zones: [{ channels: [0], lines: 32 * GIB_LINES }] });
    const ratio = bandwidth(whole, 'random') / bandwidth(single, 'random');
    expect(Math.abs(ratio - 4 / 3)).toBeLessThan(0.04);
  });

  test('wide chips lose where rows change often; a second rank of DDR4 gains there', () => {
    const plain = bandwidth(anySystem(), 'random');
    expect(bandwidth(anySystem({ chipWidth: 16 }), 'random') / plain).toBeLessThan(0.8);
    expect(bandwidth(anySystem({ ranks: 2 }), 'random') / plain).toBeGreaterThan(1.7);
  });
});
