import { collected, dump, spd, spdFile, stickerPhoto, systemList } from './documents.ts';
import { agreed, bandwidth, needOf, nightTest, standard, timed } from './job.ts';
import type { DemoJob } from './job.ts';
import { MACHINES } from './machines.ts';
import { moduleOf } from './parts.ts';

const gameModule = moduleOf('8GB 1Rx8 DDR4-3200 CL16-18-18-38 1.35V DIMM TV-8G32', {
  maker: '122-8A',
  kitId: 'pack TV-77',
});
const gamePlacement = { a2: gameModule, b2: gameModule };
const theatreOld = moduleOf('8GB 1Rx16 PC5-4800B-SC0-1010 PV5-08S', { maker: '121-C8' });
const theatreNew = moduleOf('24GB 1Rx8 PC5-5200B-SA0-1010 ORL-24S52');
const postFirst = moduleOf('8GB 1Rx8 PC4-2666V-UA1-11 PV-8U26', { maker: '121-C8' });
const postRelabelled = moduleOf('8GB 2Rx8 PC4-2400T-UB1-11 QL-8U24', { maker: '123-52' });
const postThird = moduleOf('8GB 1Rx8 PC4-2666V-UA1-11 QL-8U26.R2');
const postPlacement = { a1: postFirst, a2: postFirst, b1: postThird };
const POST_SERIALS: Readonly<Record<string, string>> = {
  a1: '5A000011',
  a2: '5A000012',
  b1: '5A000013',
};
const cad = (kitId: string) => moduleOf('16GB 1Rx8 PC5-5600B-UA0-1010 KB-16U56', { kitId });
const lab = moduleOf('16GB 2Rx8 PC4-2933Y-RE2-12 SW-16R29');
const labPlacement = { a1: lab, b1: lab, c1: lab, d1: lab };
const choirOld = moduleOf('8GB 1Rx8 PC4-2400T-SA1-11 PV-8S24');
const choirNew = moduleOf('16GB 2Rx8 PC4-2666V-SE1-11 ORL-16S26', { kitId: 'pack ORL-31' });

/** Jobs that were on the bench first. */
export const EARLY_JOBS: readonly DemoJob[] = [
  {
    customer: { name: 'Jorunn Vesk, islander', contact: 'lane above the slip, afternoons' },
    machine: 'gameBoard',
    complaint: 'Games stutter; was sold as “3200 memory”',
    daysAgo: 4,
    need: needOf([['Games', 6, 9]], { graphicsShort: true }),
    configurations: { 'as-found': standard(gamePlacement) },
    intake: { work: 'Games in the evening, a film now and then', budget: 12000, consents: agreed },
    evidence: [
      spd('DIMM_A2.spd', gameModule, '5A000001'),
      spd('DIMM_B2.spd', gameModule, '5A000002'),
      dump('firmware-table.dmp', MACHINES.gameBoard, gamePlacement, { configuredRate: 2133 }),
    ],
    measurements: [bandwidth('as-found', [24.1, 26.9, 27.2, 27.0])],
  },
  {
    customer: { name: 'Gannet Puppet Theatre', contact: 'Mirela Osk, stage door' },
    machine: 'cueLaptop',
    complaint: 'Cues stutter when the second projector is on',
    daysAgo: 3,
    need: needOf([
      ['Light and video cues', 8, 12.2],
      ['Office and mail', 0.8, 1.6],
    ]),
    configurations: {
      'as-found': standard({ so1: theatreOld }),
      planned: standard({ so1: theatreNew }),
    },
    isAgreed: true,
    // Open on the bench, the cover just off.
    bench: [
      ...['ask about the seal', 'shut down', 'unplug', 'drain', 'cool down', 'ground yourself'],
      ...['uncover p1', 'uncover p2'],
      ...Array.from({ length: 8 }, (_, at) => `undo p${at + 1}`),
      ...['pry p9', 'pry p10', 'unplug p11', 'lift the cover', 'battery off'],
    ].map((stepId) => ({ type: 'tick', stepId })),
    intake: { work: 'Cue program, two projectors, mail', consents: agreed },
    readyInDays: 3,
    evidence: [
      dump('cue-laptop.dmp', MACHINES.cueLaptop, { so1: theatreOld }, { configuredRate: 4800 }),
    ],
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
      'as-found': standard(postPlacement),
    },
    memoryTests: [
      {
        ...{ kind: 'before the system starts', minutes: 190, passes: 2, errors: 3 },
        ...{ tool: 'pre-boot test', conditions: 'cold start' },
      },
    ],
    bench: [{ type: 'symptom', symptom: 'crashes at times', handsIn: false }],
    intake: { work: 'Parcel labels, mail, browser', consents: agreed },
    evidence: [
      dump(
        'p2-table.dmp',
        MACHINES.counterDesktop,
        { ...postPlacement, b1: postRelabelled },
        {
          configuredRate: 2400,
          locatorOf: (id) =>
            `ChannelX-DIMM1`.replace('X', id[0]?.toUpperCase() ?? '').replace('1', id[1] ?? ''),
          serialOf: (id) => POST_SERIALS[id],
        },
      ),
      spd('first.bin', postFirst, '5A000011'),
      spd('second.bin', postFirst, '5A000012'),
      // The third module was relabelled: its EEPROM names another part and a lower rate.
      spd('third.bin', postRelabelled, '5A000013'),
      stickerPhoto('8GB 1Rx8 PC4-2666V-UA1-11 QL-8U26.R2', 'b1', 'bent'),
    ],
    measurements: [],
  },
  {
    customer: { name: 'Tide-model student', contact: 'library desk, evenings' },
    machine: 'tideLaptop',
    complaint: 'The model of the whole strait runs out of memory',
    daysAgo: 1,
    need: needOf([['Numeric models', 18, 22.2]], { peak: { gib: 15.1, paging: true } }),
    configurations: { 'as-found': standard({}) },
    evidence: [
      collected(
        'cim',
        [
          {
            ...{ kind: 'smbios-table', from: 'root/wmi' },
            bytes: dump('', MACHINES.tideLaptop, {}, { configuredRate: 6400 }).content,
          },
        ],
        { visible: 15.6, peak: 15.1, pagedIn: 900, power: 'mains' },
      ),
    ],
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
    need: needOf([['Stacking microscope pictures', 50, 80.2]]),
    configurations: {
      'as-found': standard(labPlacement),
      planned: standard({ a1: lab, b1: lab, c1: lab, d1: lab, a2: lab, b2: lab, c2: lab, d2: lab }),
    },
    intake: { work: 'Focus stacks of 400 frames, all night', budget: 60000, consents: agreed },
    evidence: [
      dump('w8-table.dmp', MACHINES.stackingStation, labPlacement, {
        configuredRate: 2933,
        mapsAddresses: true,
        interleaves: true,
      }),
      spdFile(
        'all-slots.bin',
        ['21', '22', '23', '24'].map((serial) => spd('slot', lab, `5A0000${serial}`)),
      ),
    ],
    measurements: [bandwidth('as-found', [70.2, 74.5, 74.9, 74.3])],
  },
  {
    customer: { name: 'Boatyard drawing office', contact: 'Ketil, upstairs' },
    machine: 'cadBoard',
    complaint: 'Large hull assemblies take forever to open',
    daysAgo: 9,
    need: needOf([['Large drawings and assemblies', 24, 40.2]]),
    memoryTests: [nightTest],
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
    evidence: [
      spd('A2.spd', cad('pack KB-04'), '5A000031'),
      spd('B2.spd', cad('pack KB-04'), '5A000032'),
    ],
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
    need: needOf([['Music with sample libraries', 10, 15.2]]),
    memoryTests: [nightTest],
    configurations: {
      'as-found': standard({ so1: choirOld }),
      planned: standard({ so1: choirNew, so2: choirNew }),
      'as-fitted': standard({ so1: choirNew, so2: choirNew }),
    },
    evidence: [
      collected(
        'cim',
        [
          {
            ...{ kind: 'memory-instances', from: 'CIM_PhysicalMemory' },
            bytes: systemList(MACHINES.choirLaptop, { so1: choirOld }, 2400).content,
          },
        ],
        { visible: 7.8, peak: 7.6, pagedIn: 400, power: 'mains' },
      ),
    ],
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
