import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { GIB_LINES, anySystem, runOf } from '../../test/support/memorySystems.ts';
import {
  AddressMap,
  Simulation,
  USUAL_CHOICES,
  WORKLOADS,
  resolveTimes,
  simulate,
} from './index.ts';
import type { MemorySystem, Run } from './index.ts';
import { often } from '../../test/support/draws.ts';

const someSystem = fc
  .record({
    kind: fc.constantFrom(
      { generation: 'DDR3', rate: 1600, cl: 11 } as const,
      { generation: 'DDR4', rate: 2400, cl: 17 } as const,
      { generation: 'DDR4', rate: 3200, cl: 22 } as const,
      { generation: 'DDR5', rate: 4800, cl: 40 } as const,
      { generation: 'DDR5', rate: 5600, cl: 46 } as const,
    ),
    channels: fc.integer({ min: 1, max: 4 }),
    ranks: fc.integer({ min: 1, max: 2 }),
    chipWidth: fc.constantFrom(8, 16),
  })
  .map(({ kind, ...more }) => anySystem({ ...kind, ...more }));
const someWorkload = fc.constantFrom(...WORKLOADS);
const few = { numRuns: often(4) } as const;

const logOf = (system: MemorySystem, run: Omit<Run, 'listener'>) => {
  const log: string[] = [];
  const served = simulate(system, {
    ...{ requests: 1500, ...run },
    listener: (...command) => log.push(command.join(' ')),
  });
  return { log, served };
};

/** The most the data pins carry, GB/s. */
const peakOf = ({ rate, ranks }: MemorySystem) => (rate * 8 * ranks.length) / 1000;
test('a channel that nobody asks for at first is refreshed all the same, and serves', () => {
  // One request at a time over sixteen halves: some wait for their first longer than a refresh takes to fall due.
  const wide = anySystem({ generation: 'DDR5', rate: 4800, cl: 40, channels: 8, ranks: 2 });
  for (const seed of [1, 2, 3]) {
    const simulation = new Simulation(wide, { workload: 'chase', seed, requests: 600 });
    let pieces = 0;
    while (!simulation.advance(20) && pieces < 1000) pieces++;
    expect(simulation.share).toBe(1);
    expect(simulation.result().reply).toBeLessThan(120);
  }
});

describe('exactly', () => {
  test('the same seed gives the same commands, however the run is cut into pieces', () => {
    fc.assert(
      fc.property(
        someSystem,
        someWorkload,
        fc.integer({ min: 1, max: 9999 }),
        (system, workload, seed) => {
          const run = { workload, seed, requests: 1500 };
          const whole = logOf(system, run).log;
          const log: string[] = [];
          const pieces = new Simulation(system, {
            ...run,
            listener: (...command) => log.push(command.join(' ')),
          });
          while (!pieces.advance((seed % 97) + 1));
          expect(log.join('\n')).toBe(whole.join('\n'));
        },
      ),
      few,
    );
  });

  test('weighing each request alone gives the commands that weighing all of them gives', () => {
    fc.assert(
      fc.property(
        someSystem,
        someWorkload,
        fc.integer({ min: 1, max: 9999 }),
        (system, workload, seed) => {
          const run = { workload, seed, requests: 3000 };
          const full = logOf(system, { ...run, rescans: true });
          const { log, served: result } = logOf(system, run);
          expect(result).toEqual(full.served);
          expect(log.join('\n')).toBe(full.log.join('\n'));
        },
      ),
      few,
    );
  });

  test.each([
    ['DDR4-3200', anySystem()],
    ['DDR5-5600', anySystem({ generation: 'DDR5', rate: 5600, cl: 46 })],
    ['DDR3-1600', anySystem({ generation: 'DDR3', rate: 1600, cl: 11 })],
  ])(
    '%s: without refresh a chase takes the overhead, the row, the column and the burst',
    (_name, system) => {
      const choices = { refreshes: false };
      const { cycles } = resolveTimes(system);
      const ns = (count: number) => (count * cycles.clock) / 1000;
      const overhead = Math.round(40_000 / cycles.clock);
      const chase = (more: Partial<Run>) => simulate(system, runOf('chase', more)).reply;
      const closed = chase({ choices: { ...choices, pageTimeout: 0 } });
      const wanted = ns(overhead + cycles.rcd + cycles.cl + cycles.burst);
      // A row may still be closing when the next request lands on it: rare over all banks.
      expect(closed).toBeGreaterThanOrEqual(wanted - 1e-6);
      expect(closed).toBeLessThan(wanted * 1.01);
      const inOneRow = { from: 0, lines: 1 };
      const open = chase({
        choices: { ...choices, pageTimeout: 1e6 },
        within: inOneRow,
      });
      expect(open).toBeCloseTo(ns(overhead + cycles.cl + cycles.burst), 6);
    },
  );

  const uneven = (first: number, second: number) =>
    anySystem({
      zones: [
        { channels: [0, 1], lines: 2 * Math.min(first, second) * GIB_LINES },
        ...(first === second
          ? []
          : [{ channels: [first > second ? 0 : 1], lines: Math.abs(first - second) * GIB_LINES }]),
      ],
    });

  test('inside the paired zone it makes no difference what lies beyond', () => {
    const within = { from: 0, lines: 16 * GIB_LINES };
    for (const workload of ['stream', 'random', 'chase'] as const) {
      const logs = [uneven(24, 8), uneven(8, 24), uneven(16, 16)].map((system) =>
        logOf(system, runOf(workload, { within })).log.join('\n'),
      );
      expect(logs[1]).toBe(logs[0]);
      expect(logs[2]).toBe(logs[0]);
    }
  });

  test('beyond the paired zone it is a single channel', () => {
    const beyond = { from: 16 * GIB_LINES, lines: 8 * GIB_LINES };
    const single = anySystem({
      channels: 1,
      zones: [{ channels: [0], lines: 24 * GIB_LINES }],
    });
    for (const workload of ['stream', 'random', 'chase'] as const) {
      const two = simulate(uneven(24, 8), runOf(workload, { within: beyond }));
      const one = simulate(single, runOf(workload, { within: { ...beyond } }));
      expect(two.bandwidth / one.bandwidth).toBeCloseTo(1, 1);
      expect(two.reply / one.reply).toBeCloseTo(1, 1);
    }
  });

  test('half the clock with the same cycles is half the bandwidth and twice the reply', () => {
    const fast = anySystem({ rate: 3200, cl: 22 });
    const { cycles } = resolveTimes(fast);
    const slow = { ...fast, rate: 1600 };
    const times = { ...cycles, clock: cycles.clock * 2 };
    const choices = {
      overhead: USUAL_CHOICES.overhead * 2,
      pageTimeout: USUAL_CHOICES.pageTimeout * 2,
      ageCap: USUAL_CHOICES.ageCap * 2,
    };
    for (const workload of ['stream', 'triad', 'random', 'chase'] as const) {
      const own = simulate(fast, runOf(workload));
      const half = simulate(slow, runOf(workload, { times, choices }));
      expect(half.bandwidth / own.bandwidth).toBeCloseTo(0.5, 9);
      expect(half.reply / own.reply).toBeCloseTo(2, 9);
    }
  });

  test('every line has a place of its own, in every zone', () => {
    fc.assert(
      fc.property(
        someSystem,
        fc.integer({ min: 0, max: 2 ** 20 }),
        fc.boolean(),
        (base, start, isUneven) => {
          const system = isUneven
            ? {
                ...base,
                zones: [...base.zones, { channels: [base.ranks.length - 1], lines: 4 * GIB_LINES }],
              }
            : base;
          const map = new AddressMap(system, USUAL_CHOICES);
          const first = isUneven ? (base.zones[0]?.lines ?? 0) - 2048 : start * 64;
          const rows = new Map<string, number>();
          for (let line = first; line < first + 4096 && line < map.lines; line++) {
            map.decode(line);
            const banks = map.banks[map.channel] ?? 0;
            expect(map.bank >= 0 && map.bank < banks).toBe(true);
            const row = `${map.channel} ${map.bank} ${map.row}`;
            rows.set(row, (rows.get(row) ?? 0) + 1);
          }
          // A row holds as many lines as it has columns, and no more.
          const columns = system.generation === 'DDR5' ? 64 : 128;
          expect(Math.max(...rows.values())).toBeLessThanOrEqual(columns);
        },
      ),
      { numRuns: often(10) },
    );
  });

  test('nothing is faster than its pins, its refreshes and its rows allow', () => {
    fc.assert(
      fc.property(someSystem, someWorkload, (system, workload) => {
        const acts = new Map<number, number[]>();
        const { cycles } = resolveTimes(system);
        const served = simulate(system, {
          ...runOf(workload, { requests: 8000 }),
          listener: (at, channel, command) => {
            if (command === 'ACT') acts.set(channel, [...(acts.get(channel) ?? []), at]);
          },
        });
        const peak = peakOf(system);
        expect(served.bandwidth).toBeLessThanOrEqual(peak * 1.0001);
        const { rfc, refi, faw } = cycles;
        if (system.ranks.every((ranks) => ranks === 1)) {
          // One refresh more or less may lie in the time that was looked at.
          const slack = (rfc * cycles.clock) / 1000 / served.time;
          expect(served.bandwidth).toBeLessThanOrEqual(peak * (1 - rfc / refi + slack));
        }
        for (const list of acts.values()) {
          const [span = 0] = [(list.at(-1) ?? 0) - (list[0] ?? 0)];
          const ranks = system.ranks[0] ?? 1;
          expect(list.length).toBeLessThanOrEqual(ranks * (4 * (span / faw) + 8));
        }
      }),
      few,
    );
  });

  test('what is under way is what arrives times how long it stays (Little)', () => {
    fc.assert(
      fc.property(someSystem, fc.constantFrom('stream', 'random'), (system, workload) => {
        const { bandwidth: read, reply: ns } = simulate(system, runOf(workload));
        const { cores, perCore } = USUAL_CHOICES;
        expect(read * ns).toBeLessThanOrEqual(64 * cores * (perCore + 1) * 1.01);
      }),
      few,
    );
  });
});
