import { EACH_SLOT } from './checkEntry.ts';
import type { CheckEntry } from './checkEntry.ts';

const OPENED = { risk: 'opens the machine' } as const;
const GONE = ['gone', 'still there'] as const;

/** Checks that need the machine opened, unplugged first. A machine is opened once for all it shows. */
export const HANDS_IN = {
  'look it over': {
    on: 'which',
    outcomes: [
      ...['all as it should be', EACH_SLOT, 'several are not level', 'a lead is off'],
      ...['other slots than planned', 'other modules than on record'],
    ],
    ...{ ...OPENED, hands: 6, waits: 0 },
    for: ['stopped', 'less', 'slow', 'unstable'],
    given: {
      'not seated': [4, 94, 1, 1, 0, 0, 0],
      'dead slot': [97, 1.5, 0.5, 0.5, 0, 0, 0.5],
      'lead left off': [2, 0, 0, 0, 97, 1, 0],
      'wrong slot': [2, 0, 0, 0, 0, 97, 1],
      'first slot empty': [2, 0, 0, 0, 0, 97, 1],
      'wrong type': [2, 0, 0, 0, 0, 1, 97],
      'density not supported': [5, 0, 0, 0, 0, 1, 94],
      'slower by design': [72, 0, 0, 0, 0, 2, 26],
      'mixed timings': [84, 0, 0, 0, 0, 1, 15],
    },
    // What is seen with one's own eyes is seldom wrong.
    otherwise: [98, 0, 0.5, 0.25, 0.25, 0.5, 0.5],
  },
  'reseat and clean': {
    on: 'machine',
    outcomes: GONE,
    ...{ ...OPENED, hands: 10, waits: 3, mends: true },
    for: ['stopped', 'less', 'slow', 'unstable'],
    given: {
      'not seated': [98, 2],
      'dirty contacts': [96, 4],
      'dead slot': [2, 98],
      'lead left off': [20, 80],
    },
    otherwise: [1, 99],
  },
  'only these modules': {
    on: 'half',
    outcomes: ['works', 'fault is there'],
    ...{ ...OPENED, hands: 6, waits: 3 },
    for: ['stopped', 'unstable'],
    given: {
      'bad module': { here: [4, 96], elsewhere: [97, 3] },
      'dead slot': { here: [4, 96], elsewhere: [97, 3] },
      'dirty contacts': { here: [8, 92], elsewhere: [96, 4] },
      'not seated': { here: [12, 88], elsewhere: [97, 3] },
      'mixed timings': [70, 30],
      'profile unstable': [35, 65],
      'density not supported': [35, 65],
      'wrong slot': [50, 50],
      'first slot empty': [50, 50],
      heat: [45, 55],
    },
    otherwise: [3, 97],
  },
  'only this module': {
    // In a slot that is known to work.
    on: 'slot',
    outcomes: ['works', 'fault is there'],
    ...{ ...OPENED, hands: 6, waits: 3 },
    for: ['stopped', 'unstable'],
    given: {
      'bad module': { here: [4, 96], elsewhere: [97, 3] },
      'dirty contacts': { here: [40, 60], elsewhere: [96, 4] },
      'not seated': { here: [88, 12], elsewhere: [97, 3] },
      'dead slot': [96, 4],
      'mixed timings': [96, 4],
      'profile unstable': [40, 60],
      'density not supported': [35, 65],
      'wrong slot': [92, 8],
      'first slot empty': [97, 3],
      'wrong type': [12, 88],
      'training unfinished': [20, 80],
      heat: [45, 55],
    },
    otherwise: [3, 97],
  },
  'change places': {
    on: 'slot',
    outcomes: ['goes with the module', 'stays with the slot', 'gone', 'no change'],
    ...{ ...OPENED, hands: 8, waits: 3 },
    for: ['stopped', 'less', 'unstable'],
    given: {
      'bad module': { here: [96, 1, 1, 2], elsewhere: [1, 1, 1, 97] },
      'dead slot': { here: [1, 96, 1, 2], elsewhere: [1, 1, 1, 97] },
      'dirty contacts': { here: [22, 22, 52, 4], elsewhere: [1, 1, 4, 94] },
      'not seated': { here: [4, 4, 90, 2], elsewhere: [1, 1, 4, 94] },
      'wrong slot': [2, 2, 40, 56],
      'first slot empty': [2, 2, 40, 56],
    },
    otherwise: [1, 1, 2, 96],
  },
  'known good module': {
    on: 'slot',
    outcomes: ['works', 'fault is there'],
    ...{ ...OPENED, hands: 7, waits: 3 },
    for: ['stopped', 'less', 'unstable'],
    given: {
      'bad module': { here: [96, 4], elsewhere: [5, 95] },
      'dirty contacts': { here: [72, 28], elsewhere: [6, 94] },
      'not seated': { here: [93, 7], elsewhere: [5, 95] },
      'dead slot': { here: [3, 97], elsewhere: [4, 96] },
      'wrong type': [75, 25],
      'density not supported': [80, 20],
      'mixed timings': [45, 55],
      'profile unstable': [25, 75],
    },
    otherwise: [3, 97],
  },
  'other supply or drive': {
    on: 'machine',
    outcomes: GONE,
    ...{ ...OPENED, hands: 12, waits: 20, mends: true },
    for: ['stopped', 'unstable'],
    given: { 'not the memory': [90, 10], 'lead left off': [60, 40] },
    otherwise: [2, 98],
  },
} as const satisfies Readonly<Record<string, CheckEntry>>;
