import { EARLY_JOBS } from './earlyJobs.ts';
import type { DemoJob } from './job.ts';
import { LATER_JOBS } from './laterJobs.ts';

/** Jobs of the demo world. The oldest open one leads the bench list. */
export const JOBS: readonly DemoJob[] = [...EARLY_JOBS, ...LATER_JOBS];

/** Labels of the demo catalogue. */
export const CATALOGUE: readonly string[] = [
  '8GB 1Rx8 PC4-2666V-SA1-11 PV-8S26',
  '16GB 2Rx8 PC4-2666V-SE1-11 ORL-16S26',
  '2x16GB DDR4-3200 CL22 SODIMM ORL-16S32',
  '2x8GB DDR4-3600 CL18-22-22-42 1.35V DIMM TV-8G36',
  '24GB 1Rx8 PC5-5200B-SA0-1010 ORL-24S52',
  '16GB 1Rx8 PC5-5600B-UA0-1010 KB-16U56',
  '16GB 2Rx8 PC4-2933Y-RE2-12 SW-16R29',
  '8GB 2Rx8 PC3L-12800S-11-13-F3 TD-8L16',
];
