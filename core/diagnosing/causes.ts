import type { SlotId } from '../machine/index.ts';

interface CauseEntry {
  /** Whether there is one such cause for every filled slot. */
  readonly at: 'slot' | 'machine';
  /** How often it is behind a fault at this bench, against the others; any unit. */
  readonly weight: number;
  /** How often it shows as each symptom, in the order of `SYMPTOMS`; any unit. */
  readonly shows: readonly [number, number, number, number, number, number, number, number];
}

/**
 * Causes the bench knows, each with how common it is and how it shows.
 *
 * The figures are judgements of practice, written down so that they can be argued with; none is
 * measured yet. Weights of causes "at a slot" are for one slot.
 *
 *                                      no start
 *                                      |   restarts
 *                                      |   |   less than fitted
 *                                      |   |   |   reserved
 *                                      |   |   |   |   one channel
 *                                      |   |   |   |   |   another rate
 *                                      |   |   |   |   |   |   test errors
 *                                      |   |   |   |   |   |   |   crashes
 */
export const CAUSES = {
  'not seated': { at: 'slot', weight: 12, shows: [32, 6, 44, 0, 12, 0, 2, 4] },
  'dirty contacts': { at: 'slot', weight: 4, shows: [22, 8, 30, 0, 4, 0, 16, 20] },
  'bad module': { at: 'slot', weight: 5, shows: [20, 8, 15, 0, 1, 0, 36, 20] },
  'dead slot': { at: 'slot', weight: 2, shows: [26, 6, 48, 0, 8, 0, 6, 6] },
  'wrong slot': { at: 'machine', weight: 14, shows: [8, 2, 4, 0, 70, 14, 1, 1] },
  'first slot empty': { at: 'machine', weight: 6, shows: [85, 10, 5, 0, 0, 0, 0, 0] },
  'wrong type': { at: 'machine', weight: 4, shows: [80, 12, 6, 0, 0, 2, 0, 0] },
  'density not supported': { at: 'machine', weight: 4, shows: [35, 10, 50, 0, 0, 0, 2, 3] },
  'training unfinished': { at: 'machine', weight: 6, shows: [70, 30, 0, 0, 0, 0, 0, 0] },
  'lead left off': { at: 'machine', weight: 6, shows: [92, 4, 0, 0, 0, 0, 0, 4] },
  'stale settings': { at: 'machine', weight: 5, shows: [34, 30, 6, 2, 2, 22, 1, 3] },
  'firmware outdated': { at: 'machine', weight: 4, shows: [14, 10, 28, 1, 1, 20, 11, 15] },
  'profile off': { at: 'machine', weight: 8, shows: [0, 0, 0, 0, 0, 100, 0, 0] },
  'profile unstable': { at: 'machine', weight: 7, shows: [6, 14, 0, 0, 0, 4, 40, 36] },
  'mixed timings': { at: 'machine', weight: 3, shows: [4, 4, 0, 0, 0, 2, 44, 46] },
  'slower by design': { at: 'machine', weight: 6, shows: [0, 0, 0, 0, 8, 92, 0, 0] },
  'reading mistaken': { at: 'machine', weight: 6, shows: [0, 0, 4, 4, 12, 80, 0, 0] },
  'uneven channels': { at: 'machine', weight: 3, shows: [0, 0, 0, 0, 96, 4, 0, 0] },
  'system limit': { at: 'machine', weight: 3, shows: [0, 0, 30, 70, 0, 0, 0, 0] },
  'start option': { at: 'machine', weight: 3, shows: [0, 0, 35, 65, 0, 0, 0, 0] },
  'graphics share': { at: 'machine', weight: 4, shows: [0, 0, 20, 80, 0, 0, 0, 0] },
  heat: { at: 'machine', weight: 3, shows: [0, 1, 0, 0, 0, 2, 12, 85] },
  'not the memory': { at: 'machine', weight: 6, shows: [30, 18, 0, 0, 0, 0, 2, 50] },
} as const satisfies Readonly<Record<string, CauseEntry>>;

/** See {@link CAUSES}. */
export type CauseKind = keyof typeof CAUSES;

/** A cause, at its slot where it has one. */
export interface Cause {
  /** `bad module@a2`, `profile off`. */
  readonly id: string;
  readonly kind: CauseKind;
  readonly slotId?: SlotId | undefined;
}

/** Facts about the machine, its modules and the work that make causes likelier or rule them out. */
export const TRAITS = [
  'nothing moved',
  'just fitted',
  'mixed set',
  'same part bought apart',
  'profile in use',
  'profile planned',
  'no profile in play',
  'first slot empty',
  'first slot filled',
  'not where planned',
  'where planned',
  'refused by the rules',
  'unknown limits',
  'uneven',
  'even',
  'not fit to pair',
  'system limit reached',
  'no system limit',
  'graphics share',
  'no graphics share',
  'slower than its label',
  'at its label',
  'long training',
  'three or more modules',
] as const;
/** See {@link TRAITS}. */
export type Trait = (typeof TRAITS)[number];

/** How a trait changes a cause's weight; 0 rules it out. */
export const SHAPED: readonly {
  readonly trait: Trait;
  readonly cause: CauseKind;
  readonly times: number;
}[] = [
  // Hands have not been in it: nothing can have been seated badly, put elsewhere or left off.
  { trait: 'nothing moved', cause: 'not seated', times: 0 },
  { trait: 'nothing moved', cause: 'wrong type', times: 0 },
  { trait: 'nothing moved', cause: 'density not supported', times: 0 },
  { trait: 'nothing moved', cause: 'lead left off', times: 0 },
  { trait: 'nothing moved', cause: 'training unfinished', times: 0 },
  { trait: 'nothing moved', cause: 'wrong slot', times: 0.4 },
  { trait: 'nothing moved', cause: 'bad module', times: 1.5 },
  { trait: 'nothing moved', cause: 'heat', times: 2 },
  { trait: 'nothing moved', cause: 'not the memory', times: 2 },
  { trait: 'just fitted', cause: 'heat', times: 0.5 },
  { trait: 'mixed set', cause: 'mixed timings', times: 6 },
  { trait: 'same part bought apart', cause: 'mixed timings', times: 1 },
  { trait: 'profile in use', cause: 'profile unstable', times: 2 },
  { trait: 'profile in use', cause: 'profile off', times: 0 },
  { trait: 'profile planned', cause: 'profile off', times: 2 },
  { trait: 'no profile in play', cause: 'profile off', times: 0 },
  { trait: 'no profile in play', cause: 'profile unstable', times: 0 },
  { trait: 'first slot empty', cause: 'first slot empty', times: 5 },
  { trait: 'first slot filled', cause: 'first slot empty', times: 0 },
  { trait: 'not where planned', cause: 'wrong slot', times: 5 },
  { trait: 'where planned', cause: 'wrong slot', times: 0.5 },
  { trait: 'refused by the rules', cause: 'wrong type', times: 8 },
  { trait: 'refused by the rules', cause: 'density not supported', times: 4 },
  { trait: 'unknown limits', cause: 'density not supported', times: 2 },
  { trait: 'uneven', cause: 'uneven channels', times: 4 },
  { trait: 'even', cause: 'uneven channels', times: 0 },
  { trait: 'not fit to pair', cause: 'wrong slot', times: 4 },
  { trait: 'system limit reached', cause: 'system limit', times: 8 },
  { trait: 'no system limit', cause: 'system limit', times: 0.4 },
  { trait: 'graphics share', cause: 'graphics share', times: 2 },
  { trait: 'no graphics share', cause: 'graphics share', times: 0.3 },
  { trait: 'slower than its label', cause: 'slower by design', times: 4 },
  { trait: 'at its label', cause: 'slower by design', times: 0.2 },
  { trait: 'long training', cause: 'training unfinished', times: 2 },
  { trait: 'three or more modules', cause: 'profile unstable', times: 1.5 },
];
