import { agreed, bandwidth, needOf, nightTest, standard, timed } from './job.ts';
import type { DemoJob } from './job.ts';
import { moduleOf } from './parts.ts';

const kept = moduleOf('8GB 1Rx8 PC4-2400T-SA1-11 PV-8S24', { maker: '121-C8' });

/** Seconds to pack the same film, three runs before and three with the second channel. */
const PACKING = [
  [
    [212, 214, 213],
    [187, 186, 188],
  ],
  [
    [208, 209, 211],
    [186, 185, 185],
  ],
  [
    [215, 213, 214],
    [190, 192, 191],
  ],
  [
    [211, 212, 210],
    [183, 184, 183],
  ],
  [
    [219, 217, 218],
    [192, 191, 193],
  ],
  [
    [209, 211, 210],
    [188, 187, 187],
  ],
] as const;

/**
 * Six like laptops, long handed over, whose need fitted before: what the second channel alone does to
 * one kind of work. Enough for the shop's own figures to take over from the assumed ones.
 */
export const FILM_CLUB_JOBS: readonly DemoJob[] = PACKING.map(([before, after], at) => ({
  customer: { name: 'Film club of the outer isle', contact: 'boathouse loft, Fridays' },
  machine: 'choirLaptop',
  complaint: 'Packing the week’s films takes all evening',
  daysAgo: 34,
  intake: { work: 'Packing films, mail', consents: agreed },
  batch: { batchId: 'film-club', batchPosition: at + 1, batchSize: PACKING.length },
  need: needOf([['Packing films', 1, 1.8]]),
  memoryTests: [nightTest],
  configurations: {
    'as-found': standard({ so1: kept }),
    planned: standard({ so1: kept, so2: kept }),
    'as-fitted': standard({ so1: kept, so2: kept }),
  },
  measurements: [
    bandwidth('as-found', [13.2, 14.5 + at / 20, 14.7, 14.6]),
    bandwidth('as-fitted', [25.1, 28.4, 28.7 + at / 20, 28.5]),
    { ...timed('as-found', 'pack one film', [...before]), activity: 'compression' },
    { ...timed('as-fitted', 'pack one film', [...after]), activity: 'compression' },
  ],
  isClosed: true,
}));
