import { EACH_SLOT } from './checkEntry.ts';
import type { CheckEntry } from './checkEntry.ts';
import { HANDS_IN } from './checksHandsIn.ts';

const ASIDE = { risk: 'none', waits: 0 } as const;
const GONE = ['gone', 'still there'] as const;

/**
 * Checks with the machine closed. Chances are judgements of practice, written down to be argued
 * with. One look takes in all that one place shows: a screen is read once. Where a fault shows only
 * now and then, a check that tries something includes a short test.
 */
const HANDS_OUT = {
  'wait and listen': {
    on: 'machine',
    outcomes: ['starts now', 'memory code', 'other code', 'nothing'],
    ...{ hands: 2, waits: 10, risk: 'none' },
    for: ['stopped'],
    given: {
      'training unfinished': [96, 1, 1, 2],
      'not seated': [1, 72, 4, 23],
      'dirty contacts': [3, 68, 4, 25],
      'bad module': [2, 66, 4, 28],
      'dead slot': [1, 66, 4, 29],
      'first slot empty': [1, 78, 3, 18],
      'wrong type': [1, 74, 4, 21],
      'density not supported': [1, 68, 4, 27],
      'stale settings': [8, 20, 20, 52],
      'firmware outdated': [2, 40, 14, 44],
      'profile unstable': [4, 40, 16, 40],
      'mixed timings': [4, 45, 14, 37],
      'lead left off': [0, 2, 48, 50],
      'not the memory': [2, 3, 52, 43],
      heat: [20, 5, 25, 50],
    },
    otherwise: [2, 30, 16, 52],
  },
  'firmware’s page': {
    on: 'which',
    outcomes: ['all show', EACH_SLOT, 'several are missing', 'a large share is reserved'],
    ...{ ...ASIDE, hands: 3 },
    for: ['less'],
    given: {
      'not seated': [2, 95, 1, 1, 1],
      'dirty contacts': [5, 90, 1, 3, 1],
      'bad module': [5, 90, 1, 3, 1],
      'dead slot': [2, 94, 1, 2, 1],
      'density not supported': [16, 0, 42, 40, 2],
      'firmware outdated': [40, 0, 30, 28, 2],
      'stale settings': [45, 0, 25, 25, 5],
      'graphics share': [5, 0, 0, 0, 95],
    },
    otherwise: [96, 0, 1, 1, 2],
  },
  'system’s page': {
    on: 'machine',
    outcomes: ['as the firmware says', '32-bit or limited', 'a start option limits it'],
    ...{ ...ASIDE, hands: 3 },
    for: ['less'],
    given: { 'system limit': [2, 97, 1], 'start option': [2, 1, 97] },
    otherwise: [98, 1, 1],
  },
  'firmware’s rate': {
    on: 'which',
    outcomes: [
      ...['as planned', EACH_SLOT, 'several are missing', 'half the figure'],
      ...['lower, profile off', 'lower, not by the profile'],
    ],
    ...{ ...ASIDE, hands: 3 },
    for: ['slow'],
    given: {
      'not seated': [2, 94, 1, 1, 1, 1, 1],
      'dirty contacts': [8, 86, 1, 3, 1, 1, 1],
      'bad module': [8, 86, 1, 3, 1, 1, 1],
      'dead slot': [2, 94, 1, 1, 1, 1, 1],
      'reading mistaken': [14, 0, 0, 1, 82, 1, 2],
      'profile off': [2, 0, 0, 0, 3, 93, 2],
      'wrong slot': [70, 0, 1, 1, 6, 2, 20],
      'uneven channels': [92, 0, 1, 1, 3, 1, 2],
      heat: [58, 0, 1, 1, 3, 1, 36],
    },
    otherwise: [16, 0, 1, 1, 3, 6, 73],
  },
  'measure again': {
    on: 'machine',
    outcomes: ['as promised', 'one channel’s worth', 'a little low'],
    ...{ hands: 3, waits: 2, risk: 'none' },
    for: ['slow'],
    given: {
      'reading mistaken': [92, 2, 6],
      'wrong slot': [2, 95, 3],
      'not seated': [1, 97, 2],
      'dead slot': [1, 97, 2],
      'dirty contacts': [2, 95, 3],
      'bad module': [2, 95, 3],
      'uneven channels': [3, 62, 35],
      heat: [25, 2, 73],
    },
    otherwise: [3, 2, 95],
  },
  'firmware’s age': {
    on: 'machine',
    outcomes: ['a newer one names memory', 'newest, or says nothing of it'],
    ...{ ...ASIDE, hands: 4 },
    for: ['stopped', 'less', 'slow', 'unstable'],
    given: { 'firmware outdated': [97, 3], 'density not supported': [15, 85] },
    otherwise: [3, 97],
  },
  'log and warmth': {
    on: 'machine',
    outcomes: ['memory errors', 'far too warm', 'lost power', 'drive or program', 'nothing'],
    ...{ hands: 6, waits: 10, risk: 'none' },
    for: ['unstable'],
    given: {
      'bad module': [66, 1, 3, 4, 26],
      'dirty contacts': [58, 1, 3, 4, 34],
      'not seated': [55, 1, 4, 4, 36],
      'dead slot': [58, 1, 3, 4, 34],
      'mixed timings': [42, 1, 3, 6, 48],
      'profile unstable': [42, 2, 4, 6, 46],
      heat: [2, 95, 1, 1, 1],
      'not the memory': [2, 2, 36, 52, 8],
    },
    otherwise: [25, 2, 4, 8, 61],
  },
  'test with addresses': {
    on: 'which',
    outcomes: ['passes', EACH_SLOT, 'all over'],
    ...{ hands: 4, waits: 40, risk: 'none' },
    for: ['unstable'],
    given: {
      'bad module': [6, 86, 3, 5],
      'dirty contacts': [26, 60, 4, 10],
      'not seated': [26, 60, 4, 10],
      'dead slot': [10, 80, 4, 6],
      'mixed timings': [18, 0, 10, 72],
      'profile unstable': [14, 0, 10, 76],
      'firmware outdated': [32, 0, 10, 58],
      'stale settings': [28, 0, 10, 62],
      heat: [40, 0, 8, 52],
    },
    otherwise: [97, 0, 1, 2],
  },
  'standard setting': {
    on: 'machine',
    outcomes: GONE,
    ...{ hands: 3, waits: 20, risk: 'changes settings', mends: true },
    for: ['unstable'],
    given: {
      'profile unstable': [97, 3],
      'stale settings': [40, 60],
      'mixed timings': [8, 92],
      heat: [5, 95],
    },
    otherwise: [2, 98],
  },
  'clear settings': {
    on: 'machine',
    outcomes: GONE,
    ...{ hands: 6, waits: 3, risk: 'changes settings', mends: true },
    for: ['stopped', 'less', 'slow', 'unstable'],
    given: {
      'stale settings': [97, 3],
      'profile unstable': [90, 10],
      'training unfinished': [35, 65],
      'graphics share': [50, 50],
      'mixed timings': [6, 94],
    },
    otherwise: [1, 99],
  },
  'update firmware': {
    on: 'machine',
    outcomes: GONE,
    ...{ hands: 12, waits: 10, risk: 'can lose the board', mends: true },
    for: ['less', 'slow', 'unstable'],
    given: {
      'firmware outdated': [96, 4],
      'density not supported': [15, 85],
      'stale settings': [55, 45],
      'mixed timings': [6, 94],
    },
    otherwise: [1, 99],
  },
} as const satisfies Readonly<Record<string, CheckEntry>>;

/** Checks the bench knows: looking first, then settings, then hands in. */
export const CHECKS = { ...HANDS_OUT, ...HANDS_IN };

/** See {@link CHECKS}. */
export type CheckKind = keyof typeof CHECKS;
