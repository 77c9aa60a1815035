import type { MeasurementInput, SnapshotKind } from '#contract/records';
import type { Placement, Setting } from '#core/machine';
import type { MACHINES } from './machines.ts';
import { moduleOf } from './machines.ts';

/** One job of the demo world, as far as it has come. */
export interface DemoJob {
  readonly customer: { readonly name: string; readonly contact: string };
  readonly machine: keyof typeof MACHINES;
  readonly complaint: string;
  readonly daysAgo: number;
  readonly need?: number;
  readonly memoryTestPassed?: boolean;
  readonly configurations: Partial<
    Record<SnapshotKind, { placement: Placement; setting: Setting }>
  >;
  readonly measurements: readonly MeasurementInput[];
  readonly isClosed?: boolean;
}

const standard = (placement: Placement) => ({ placement, setting: 'standard' }) as const;

const bandwidth = (
  kind: 'as-found' | 'as-fitted',
  runs: number[],
  warmUp = 1,
): MeasurementInput => ({
  ...{ kind, metric: 'bandwidth', test: 'memory copy', runs, warmUp },
  ...{ power: 'mains, full power', resolution: '1 GB blocks', tool: 'bench page' },
  conditions: 'other programs closed',
});

const timed = (kind: 'as-found' | 'as-fitted', test: string, runs: number[]): MeasurementInput => ({
  ...{ kind, metric: 'duration', test, runs, warmUp: 0 },
  ...{ power: 'mains, full power', resolution: '', tool: 'stop watch' },
  conditions: 'same project file, second start',
});

const gameModule = moduleOf('8GB 1Rx8 DDR4-3200 CL16-18-18-38 1.35V DIMM VT-8G32', {
  kitId: 'pack VT-77',
});
const theatreNew = moduleOf('24GB 1Rx8 PC5-5200B-SA0-1010 ORL-24S52');
const post = (part: string) => moduleOf(`8GB 1Rx8 PC4-2666V-UA1-11 ${part}`);
const cad = (kitId: string) => moduleOf('16GB 1Rx8 PC5-5600B-UA0-1010 KB-16U56', { kitId });
const lab = moduleOf('16GB 2Rx8 PC4-2933Y-RE2-12 SW-16R29');
const choirOld = moduleOf('8GB 1Rx8 PC4-2400T-SA1-11 PV-8S24');
const choirNew = moduleOf('16GB 2Rx8 PC4-2666V-SE1-11 ORL-16S26', { kitId: 'pack ORL-31' });

/** Jobs of the demo world. The oldest open one leads the bench list. */
export const JOBS: readonly DemoJob[] = [
  {
    customer: { name: 'Jorunn Vesk, islander', contact: 'lane above the slip, afternoons' },
    machine: 'gameBoard',
    complaint: 'Games stutter; was sold as “3200 memory”',
    daysAgo: 4,
    need: 11,
    configurations: { 'as-found': standard({ a2: gameModule, b2: gameModule }) },
    measurements: [bandwidth('as-found', [24.1, 26.9, 27.2, 27.0])],
  },
  {
    customer: { name: 'Gannet Puppet Theatre', contact: 'Mirela Osk, stage door' },
    machine: 'cueLaptop',
    complaint: 'Cues stutter when the second projector is on',
    daysAgo: 3,
    need: 17.6,
    configurations: {
      'as-found': standard({ so1: moduleOf('8GB 1Rx16 PC5-4800B-SC0-1010 PV5-08S') }),
      planned: standard({ so1: theatreNew }),
      'as-fitted': standard({ so1: theatreNew }),
    },
    measurements: [
      bandwidth('as-found', [51.0, 56.2, 56.6, 56.1]),
      timed('as-found', 'cue switch', [4.1, 4.4, 4.2]),
    ],
  },
  {
    customer: { name: 'Island post office', contact: 'counter 2' },
    machine: 'counterDesktop',
    complaint: 'Crashes weekly; somebody added a third module',
    daysAgo: 2,
    configurations: {
      'as-found': standard({ a1: post('PV-8U26'), a2: post('PV-8U26'), b1: post('QL-8U26.R2') }),
    },
    measurements: [],
  },
  {
    customer: { name: 'Tide-model student', contact: 'library desk, evenings' },
    machine: 'tideLaptop',
    complaint: 'The model of the whole strait runs out of memory',
    daysAgo: 1,
    need: 26,
    configurations: { 'as-found': standard({}) },
    measurements: [bandwidth('as-found', [68, 71.3, 71.8, 71.1])],
  },
  {
    customer: {
      name: 'Seaweed laboratory of the northern shallows',
      contact: 'Dr Ailo, wet bench',
    },
    machine: 'stackingStation',
    complaint: 'Focus stacks of 400 frames page to disk',
    daysAgo: 1,
    need: 84,
    configurations: {
      'as-found': standard({ a1: lab, b1: lab, c1: lab, d1: lab }),
      planned: standard({ a1: lab, b1: lab, c1: lab, d1: lab, a2: lab, b2: lab, c2: lab, d2: lab }),
    },
    measurements: [bandwidth('as-found', [70.2, 74.5, 74.9, 74.3])],
  },
  {
    customer: { name: 'Boatyard drawing office', contact: 'Ketil, upstairs' },
    machine: 'cadBoard',
    complaint: 'Large hull assemblies take forever to open',
    daysAgo: 9,
    need: 44,
    memoryTestPassed: true,
    configurations: {
      'as-found': standard({ a2: cad('pack KB-04'), b2: cad('pack KB-04') }),
      planned: standard({
        a1: cad('pack KB-19'),
        a2: cad('pack KB-04'),
        b1: cad('pack KB-19'),
        b2: cad('pack KB-04'),
      }),
      'as-fitted': standard({
        a1: cad('pack KB-19'),
        a2: cad('pack KB-04'),
        b1: cad('pack KB-19'),
        b2: cad('pack KB-04'),
      }),
    },
    measurements: [
      bandwidth('as-found', [66, 70.4, 70.9, 70.1]),
      bandwidth('as-fitted', [46, 50.3, 50.8, 50.1]),
      timed('as-found', 'open hull assembly', [41.2, 40.1, 42.0]),
      timed('as-fitted', 'open hull assembly', [17.8, 18.4, 18.1]),
    ],
    isClosed: true,
  },
  {
    customer: { name: 'Breakwater choir', contact: 'rehearsal room, Thursdays' },
    machine: 'choirLaptop',
    complaint: 'Sample library loads for minutes and drops notes',
    daysAgo: 12,
    need: 19,
    memoryTestPassed: true,
    configurations: {
      'as-found': standard({ so1: choirOld }),
      planned: standard({ so1: choirNew, so2: choirNew }),
      'as-fitted': standard({ so1: choirNew, so2: choirNew }),
    },
    measurements: [
      bandwidth('as-found', [13.1, 14.6, 14.8, 14.7]),
      bandwidth('as-fitted', [28.4, 32.3, 32.6, 32.1]),
      { ...timed('as-found', 'pointer walk', [84.1, 85.0, 84.4, 83.9]), metric: 'latency' },
      { ...timed('as-fitted', 'pointer walk', [83.6, 84.6, 83.2, 84.3]), metric: 'latency' },
      timed('as-found', 'load sample library', [96, 104, 99]),
      timed('as-fitted', 'load sample library', [31, 30, 33]),
    ],
    isClosed: true,
  },
];

/** Labels of the demo catalogue. */
export const CATALOGUE: readonly string[] = [
  '8GB 1Rx8 PC4-2666V-SA1-11 PV-8S26',
  '16GB 2Rx8 PC4-2666V-SE1-11 ORL-16S26',
  '2x16GB DDR4-3200 CL22 SODIMM ORL-16S32',
  '2x8GB DDR4-3600 CL18-22-22-42 1.35V DIMM VT-8G36',
  '24GB 1Rx8 PC5-5200B-SA0-1010 ORL-24S52',
  '16GB 1Rx8 PC5-5600B-UA0-1010 KB-16U56',
  '16GB 2Rx8 PC4-2933Y-RE2-12 SW-16R29',
  '8GB 2Rx8 PC3L-12800S-11-13-F3 TD-8L16',
];
