import { dump, look, screen, spd, spdText, stickerPhoto, systemList } from './documents.ts';
import { agreed, bandwidth, needOf, nightTest, standard, timed } from './job.ts';
import type { DemoJob } from './job.ts';
import { MACHINES } from './machines.ts';
import { moduleOf } from './parts.ts';

const archive = moduleOf('8GB 1Rx8 PC4-2666V-UA1-11 KB-8U26', { maker: '122-13' });
const radio = moduleOf('1GB 2Rx8 PC2-6400U-666-12 TD-1U08');
const chess = moduleOf('4GB 1Rx8 PC3L-12800S-11-13-B2 TD-4L16');
const school = moduleOf('8GB 1Rx8 PC4-2666V-UA1-11 ORL-8U26', { maker: '121-4A' });
const drone = moduleOf('32GB 2Rx8 DDR5-5600 CL46-45-45 compression two-channel ORL-32C56');
const pattern = moduleOf('8GB 1Rx8 PC4-3200AA-SA2-11 ORL-8S32', { maker: '121-4A' });
const ferry4 = moduleOf('4GB 1Rx16 PC4-2400T-SC0-11 PV-4S24', { maker: '121-C8' });
const ferry8 = moduleOf('8GB 1Rx8 PC4-2400T-SA1-11 PV-8S24', { maker: '121-C8' });

/** Five like machines, no two of them filled alike: the drawer will have to share itself out. */
const FERRY_FOUND = [
  { so1: ferry4 },
  { so1: ferry4 },
  { so1: ferry4, so2: ferry4 },
  { so1: ferry8 },
  { so2: ferry4 },
];
const ferryJobs = FERRY_FOUND.map((placement, at): DemoJob => ({
  customer: { name: 'Ferry timetable office', contact: 'pier window, before the first boat' },
  machine: 'ferrySmall',
  complaint: 'Timetable takes minutes to open on all five',
  daysAgo: 6,
  intake: { work: 'Timetable program, mail, a dozen tabs', budget: 25000, consents: agreed },
  batch: { batchId: 'ferry-office', batchPosition: at + 1, batchSize: FERRY_FOUND.length },
  need: needOf([
    ['Office and mail', 0.8, 1.8],
    ['Browser, a dozen tabs', 1.5, 3],
  ]),
  configurations: { 'as-found': standard(placement) },
  measurements: [],
  evidence: [systemList(MACHINES.ferrySmall, placement, 2400)],
}));

/** Jobs that came after. */
export const LATER_JOBS: readonly DemoJob[] = [
  {
    customer: { name: 'Lighthouse archive', contact: 'keeper’s house, first floor' },
    machine: 'archiveDesktop',
    readyInDays: -1,
    complaint: 'Scans of the large charts stop halfway',
    daysAgo: 2,
    intake: {
      work: 'Scanning charts of two metres, cataloguing',
      budget: 9000,
      consents: agreed,
      condition: 'Dust in the fan; one screw of the side panel missing',
    },
    need: needOf([
      ['Scanning large formats', 5, 9],
      ['Office and mail', 0.8, 1.8],
    ]),
    // Both in the black slots, which on this board is one channel.
    configurations: { 'as-found': standard({ a1: archive, a2: archive }) },
    measurements: [bandwidth('as-found', [13.9, 15.1, 15.3, 15.0])],
    evidence: [
      dump(
        'archive-table.dmp',
        MACHINES.archiveDesktop,
        { a1: archive, a2: archive },
        {
          locatorOf: (id) =>
            `Channel${id === 'a1' || id === 'a2' ? 'A' : 'B'}-DIMM${id.endsWith('1') ? 0 : 1}`,
          phantoms: ['ChannelC-DIMM0', 'ChannelC-DIMM1'],
          ...{ configuredRate: 2666, printsClock: true },
        },
      ),
      stickerPhoto('8GB 1Rx8 PC4-2666V-UA1-11 KB-8U26', 'a1', 'glare'),
    ],
  },
  {
    customer: { name: 'Harbour radio', contact: 'watch room, any hour' },
    machine: 'radioDesktop',
    complaint: 'The log program says out of memory',
    daysAgo: 2,
    intake: {
      work: 'Logging two channels round the clock',
      consents: { ...agreed, openCase: 'not asked' },
    },
    need: {
      ...needOf([['Logging and control', 0.3, 0.6]], {
        drive: 'spinning',
        peak: { gib: 3.1, paging: true },
      }),
      idle: { low: 0.6, high: 1.2 },
    },
    configurations: { 'as-found': standard({ a1: radio, a2: radio, b1: radio, b2: radio }) },
    measurements: [],
    evidence: [
      spdText('dimm1.txt', radio, '5A000041'),
      screen(
        'DIMM1 1024 MB 400 MHz\nDIMM2 1024 MB 400 MHz\nDIMM3 1024 MB 400 MHz\nDIMM4 1024 MB 400 MHz',
      ),
    ],
  },
  ...ferryJobs,
  {
    customer: { name: 'Knitwear pattern studio', contact: 'above the wool shed' },
    machine: 'patternSmall',
    complaint: 'Patterns of many colours redraw slowly',
    daysAgo: 1,
    intake: { work: 'Pattern program, scanned swatches', budget: 7000, consents: agreed },
    configurations: {},
    measurements: [],
    evidence: [
      dump(
        's5.dmp',
        MACHINES.patternSmall,
        { a1: pattern, b2: pattern },
        {
          locatorOf: (id) => `DIMM ${id.endsWith('1') ? 0 : 1}`,
          bankOf: (id) => `P0 CHANNEL ${id[0]?.toUpperCase() ?? ''}`,
          configuredRate: 3200,
        },
      ),
      spd('spd-50.bin', pattern, '5A000051'),
      spd('spd-53.bin', pattern, '5A000052'),
    ],
  },
  {
    customer: { name: 'School library', contact: 'reading room, ask for the caretaker' },
    machine: 'schoolDesktop',
    complaint: 'Came back: shows half the memory since the upgrade',
    daysAgo: 0,
    intake: { work: 'Catalogue, browser, homework', consents: agreed },
    need: needOf([
      ['Office and mail', 0.8, 1.8],
      ['Browser, a dozen tabs', 1.5, 3],
    ]),
    // By the stickers; the firmware sees one.
    configurations: { 'as-found': standard({ a1: school, b1: school }) },
    measurements: [],
    bench: [{ type: 'symptom', symptom: 'less memory than fitted', handsIn: true }],
    // The firmware sees one module; two are in the slots: in, and not seated.
    evidence: [
      dump('r7.dmp', MACHINES.schoolDesktop, { a1: school }, { configuredRate: 2666 }),
      stickerPhoto('8GB 1Rx8 PC4-2666V-UA1-11 ORL-8U26', 'a1', 'blurred'),
      stickerPhoto('8GB 1Rx8 PC4-2666V-UA1-11 ORL-8U26', 'b1', 'half-hidden'),
      look('module', 'b1'),
    ],
  },
  {
    customer: { name: 'Ferry drone crew', contact: 'hut on the upper deck' },
    machine: 'droneLaptop',
    complaint: 'Maps of the whole coast fail at two thirds',
    daysAgo: 0,
    intake: { work: 'Mapping from 900 aerial pictures', budget: 40000, consents: agreed },
    need: needOf([['Mapping from aerial pictures', 24, 44]]),
    configurations: { 'as-found': standard({ c1: drone }) },
    measurements: [bandwidth('as-found', [62.1, 66.0, 66.4, 65.9])],
    evidence: [spd('CM1.bin', drone, '5A000061')],
  },
  {
    customer: { name: 'Chess club', contact: 'back room, Tuesdays' },
    machine: 'chessLaptop',
    complaint: 'Engine analysis swaps all the time',
    daysAgo: 14,
    intake: { work: 'Analysis engine, a browser', consents: agreed },
    need: needOf([
      ['Analysis engine', 2, 4],
      ['Browser, a dozen tabs', 1.5, 3],
    ]),
    memoryTests: [nightTest],
    configurations: {
      'as-found': standard({ so1: chess }),
      planned: standard({ so1: chess, so2: chess }),
      'as-fitted': standard({ so1: chess, so2: chess }),
    },
    measurements: [
      bandwidth('as-found', [8.2, 8.9, 9.0, 8.9]),
      bandwidth('as-fitted', [15.8, 17.2, 17.4, 17.1]),
      timed('as-found', 'analyse one game', [61, 63, 62]),
      timed('as-fitted', 'analyse one game', [48, 47, 49]),
    ],
    evidence: [spd('SODIMM 1.bin', chess, '5A000071')],
    isClosed: true,
  },
  {
    // Capacity against rate: four modules hold more and run slower than two larger ones.
    customer: { name: 'Boatyard drawing office', contact: 'Ketil, upstairs' },
    machine: 'cadBoard',
    complaint: 'Second drawing desk: whole-ship assemblies, four plans open at once',
    intake: { budget: 38_000, work: 'assemblies of whole hulls', consents: agreed },
    daysAgo: 1,
    readyInDays: 5,
    need: needOf([['Large drawings and assemblies', 30, 44]]),
    configurations: {
      'as-found': standard({
        a2: moduleOf('16GB 1Rx8 PC5-5600B-UA0-1010 KB-16U56', {
          maker: '122-13',
          kitId: 'pack KB-31',
        }),
        b2: moduleOf('16GB 1Rx8 PC5-5600B-UA0-1010 KB-16U56', {
          maker: '122-13',
          kitId: 'pack KB-31',
        }),
      }),
    },
    measurements: [bandwidth('as-found', [44, 66.8, 67.1, 66.9])],
  },
];
