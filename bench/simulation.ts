import { spawnSync } from 'node:child_process';
import { spreadOf } from '#core/promising';
import { resolveTimes, simulate, WORKLOADS } from '#core/timing-simulation';
import type { ControllerChoices, MemorySystem, Workload } from '#core/timing-simulation';
import { anySystem, GIB_LINES } from '../test/support/memorySystems.ts';
import type { Row } from './table.ts';

const DDR4 = { generation: 'DDR4', rate: 3200, cl: 22 } as const;
const DDR5 = { generation: 'DDR5', rate: 5600, cl: 46 } as const;
const uneven = (parts: readonly (readonly [readonly number[], number])[]) =>
  anySystem({ zones: parts.map(([channels, gib]) => ({ channels, lines: gib * GIB_LINES })) });

type Range = readonly [number, number];

/** A change, and within what it was found to lie over fifteen variants of such a model. */
interface Change {
  readonly name: string;
  readonly before: MemorySystem;
  readonly after: MemorySystem;
  readonly stream: Range;
  readonly random: Range;
  readonly graphics: Range;
  readonly desktop: Range;
  readonly chase: Range;
}

const change = (
  name: string,
  before: MemorySystem,
  after: MemorySystem,
  ...ranges: readonly [Range, Range, Range, Range, Range]
): Change => {
  const [stream, random, graphics, desktop, chase] = ranges;
  return { name, before, after, stream, random, graphics, desktop, chase };
};

const CHANGES: readonly Change[] = [
  change(
    'DDR4-3200, one to two channels',
    ...([anySystem({ ...DDR4, channels: 1 }), anySystem(DDR4)] as const),
    ...([
      [1.96, 2.12],
      [1.98, 2],
      [1.92, 2.03],
      [1.13, 1.29],
      [0.97, 1.01],
    ] as const),
  ),
  change(
    'DDR5-5600, one to two channels',
    ...([anySystem({ ...DDR5, channels: 1 }), anySystem(DDR5)] as const),
    ...([
      [1.49, 2.03],
      [1.4, 1.94],
      [1.76, 2.13],
      [1.02, 1.08],
      [0.98, 1.03],
    ] as const),
  ),
  change(
    'DDR4, 2666 to 3200',
    ...([anySystem({ rate: 2666, cl: 19 }), anySystem(DDR4)] as const),
    ...([
      [1.19, 1.23],
      [0.96, 0.97],
      [1.13, 1.19],
      [1.01, 1.02],
      [0.98, 0.98],
    ] as const),
  ),
  change(
    'DDR4-3200, CL22 to CL16',
    ...([anySystem(DDR4), anySystem({ ...DDR4, cl: 16 })] as const),
    ...([
      [1, 1.01],
      [1.03, 1.03],
      [1.01, 1.07],
      [1.06, 1.1],
      [0.9, 0.93],
    ] as const),
  ),
  change(
    'DDR5, 4800 to 5600',
    ...([anySystem({ ...DDR5, rate: 4800, cl: 40 }), anySystem(DDR5)] as const),
    ...([
      [1.05, 1.18],
      [1.04, 1.17],
      [1.08, 1.16],
      [1, 1.01],
      [0.98, 1],
    ] as const),
  ),
  change(
    'DDR4-3200, one to two ranks',
    ...([anySystem(DDR4), anySystem({ ...DDR4, ranks: 2 })] as const),
    ...([
      [0.98, 1.03],
      [1.81, 2.01],
      [1.02, 1.14],
      [1.03, 1.05],
      [0.99, 1.03],
    ] as const),
  ),
  change(
    'DDR4-3200, x16 to x8',
    ...([anySystem({ ...DDR4, chipWidth: 16 }), anySystem(DDR4)] as const),
    ...([
      [1.02, 1.18],
      [1.37, 1.39],
      [1.03, 1.23],
      [1.02, 1.17],
      [0.97, 1],
    ] as const),
  ),
  change(
    'DDR5-5600, x16 to x8',
    ...([anySystem({ ...DDR5, chipWidth: 16 }), anySystem(DDR5)] as const),
    ...([
      [1.04, 1.23],
      [1.23, 1.34],
      [1.11, 1.26],
      [1.03, 1.07],
      [0.98, 1],
    ] as const),
  ),
  change(
    'DDR4-3200, 16 + 16 to 24 + 8, whole',
    uneven([[[0, 1], 32]]),
    uneven([
      [[0, 1], 16],
      [[0], 16],
    ]),
    ...([
      [0.64, 0.74],
      [0.67, 0.68],
      [0.65, 0.71],
      [0.93, 0.99],
      [1, 1.01],
    ] as const),
  ),
];

/** Two models of the same thing agree within this share, more or less. */
const APART = 0.06;

const USED = ['stream', 'random', 'graphics', 'desktop', 'chase'] as const;

function figureOf(system: MemorySystem, workload: Workload): number {
  const served = simulate(system, { workload, seed: 1 });
  return workload === 'chase' ? served.reply : served.bandwidth;
}

function ratioRows(): Row[] {
  return CHANGES.flatMap((one) =>
    USED.map((workload): Row => {
      const ratio = figureOf(one.after, workload) / figureOf(one.before, workload);
      const [low, high] = one[workload];
      return {
        what: `${one.name}: ${workload === 'chase' ? 'reply of a chase' : workload}`,
        measured: ratio.toFixed(2),
        wanted: `${low} to ${high}, ± 6 %`,
        holds: ratio >= low * (1 - APART) && ratio <= high * (1 + APART),
        yardstick: '–',
      };
    }),
  );
}

/** What the standard alone allows, beside what is served of it. */
function boundRows(): Row[] {
  return [anySystem({ ...DDR4, channels: 1 }), anySystem(DDR4), anySystem(DDR5)].map(
    (system): Row => {
      const { cycles } = resolveTimes(system);
      const peak = (system.rate * 8 * system.ranks.length) / 1000;
      const bound = peak * (1 - cycles.rfc / cycles.refi);
      const stream = figureOf(system, 'stream');
      const { generation, rate, ranks } = system;
      return {
        what: `${generation}-${rate} on ${ranks.length}: stream, GB/s`,
        measured: stream.toFixed(1),
        wanted: `≤ ${bound.toFixed(1)}, the peak less refresh`,
        holds: stream <= bound * 1.005,
        yardstick: `peak ${peak.toFixed(1)}`,
      };
    },
  );
}

function speedRows(): Row[] {
  return [anySystem(DDR4), anySystem(DDR5)].flatMap((system) =>
    WORKLOADS.map((workload): Row => {
      simulate(system, { workload, seed: 1 });
      const before = process.cpuUsage().user;
      const { requests } = simulate(system, { workload, seed: 2 });
      const each = requests / ((process.cpuUsage().user - before) / 1e6);
      return {
        what: `${system.generation} ${workload}: requests a second, warm`,
        measured: `${Math.round(each / 1000)} thousand`,
        wanted: '≥ 300 thousand',
        holds: each >= 300_000,
        yardstick: '–',
      };
    }),
  );
}

/** Controllers other than the usual one: what a promise must leave room for. */
const VARIANTS: readonly Partial<ControllerChoices>[] = [
  {},
  { queue: 32, drainFrom: 24, drainTo: 8 },
  { queue: 128, drainFrom: 96, drainTo: 32 },
  { pageTimeout: 50 },
  { pageTimeout: 1000 },
  { channelGranule: 128 },
  { channelGranule: 4096, subchannelGranule: 2048 },
  { subchannelGranule: 64 },
  { perCore: 10 },
  { perCore: 48 },
  { cores: 4 },
  { overhead: 20 },
  { overhead: 80 },
  { drainFrom: 32, drainTo: 24 },
  { ageCap: 3000 },
];

/** Of the variants’ ratios how many lie in the band that a promise draws round the usual one. */
function spreadRows(): Row[] {
  return (['stream', 'graphics'] as const).map((workload): Row => {
    let [inside, all] = [0, 0];
    for (const { before, after } of CHANGES) {
      const ratioOf = (choices: Partial<ControllerChoices>) => {
        const figure = (system: MemorySystem) =>
          simulate(system, { workload, seed: 1, choices, requests: 15_000 }).bandwidth;
        return figure(after) / figure(before);
      };
      const { low, high } = spreadOf(ratioOf({}));
      for (const choices of VARIANTS) {
        const ratio = ratioOf(choices);
        all++;
        // A change nobody could tell is no matter of the model.
        if (ratio >= Math.min(low, 0.98) && ratio <= Math.max(high, 1.02)) inside++;
      }
    }
    return {
      what: `${workload}: of ${VARIANTS.length} controllers × ${CHANGES.length} changes inside the band`,
      measured: `${((100 * inside) / all).toFixed(0)} %`,
      wanted: '≥ 75 %',
      holds: inside / all >= 0.75,
      yardstick: '–',
    };
  });
}

/** A comparison in a process that has run nothing before, and the heap it needs. */
function coldRows(): Row[] {
  const code = `
    const { Comparison } = await import('#core/timing-simulation');
    const { anySystem } = await import('./test/support/memorySystems.ts');
    globalThis.gc();
    const heap = process.memoryUsage().heapUsed;
    const start = performance.now();
    const comparison = new Comparison(anySystem({ channels: 1 }), anySystem());
    let [longest, turn] = [0, performance.now()];
    while (!comparison.advance(500)) {
      longest = Math.max(longest, performance.now() - turn);
      turn = performance.now();
    }
    const took = performance.now() - start;
    globalThis.gc();
    console.log(JSON.stringify({ took, longest, heap: process.memoryUsage().heapUsed - heap }));`;
  const { stdout } = spawnSync(
    process.execPath,
    ['--expose-gc', '--import', 'tsx', '--input-type=module', '-e', code],
    { encoding: 'utf8' },
  );
  const { took, longest, heap } = JSON.parse(stdout) as Record<string, number>;
  const row = (what: string, value = NaN, most: number, unit: string): Row => ({
    ...{
      what,
      measured: `${value.toFixed(value < 10 ? 1 : 0)} ${unit}`,
      wanted: `≤ ${most} ${unit}`,
    },
    ...{ holds: value <= most, yardstick: '–' },
  });
  return [
    row('before and after compared, cold', took, 2000, 'ms'),
    row('longest piece before a cancel is heard', longest, 100, 'ms'),
    row('heap a comparison keeps', (heap ?? NaN) / 2 ** 20, 20, 'MB'),
  ];
}

/** The timing simulation: what it says of known changes, its bounds, and how fast it is. */
export function benchSimulation(): Row[] {
  return [...ratioRows(), ...boundRows(), ...spreadRows(), ...coldRows(), ...speedRows()];
}
