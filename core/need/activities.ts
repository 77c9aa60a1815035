import type { Machine } from '../machine/index.ts';

/** Memory something keeps in use, GiB, as a range. */
export interface UseRange {
  readonly low: number;
  readonly high: number;
}

/** Work done at the same time as the rest, with what it keeps in use. */
export interface Activity extends UseRange {
  readonly name: string;
}

/**
 * Where ranges start: what benches see, rounded; every figure is meant to be edited. Not taken from
 * any maker's statement.
 */
export const USUAL_ACTIVITIES: readonly Activity[] = [
  { name: 'Office and mail', low: 0.8, high: 1.8 },
  { name: 'Browser, a dozen tabs', low: 1.5, high: 3 },
  { name: 'Browser, fifty tabs', low: 4, high: 8 },
  { name: 'Video calls', low: 0.8, high: 1.6 },
  { name: 'Photo editing', low: 4, high: 10 },
  { name: 'Scanning large formats', low: 4, high: 9 },
  { name: 'Video editing', low: 8, high: 20 },
  { name: 'Music with sample libraries', low: 8, high: 20 },
  { name: 'Large drawings and assemblies', low: 8, high: 24 },
  { name: 'Mapping from aerial pictures', low: 16, high: 40 },
  { name: 'Stacking microscope pictures', low: 24, high: 64 },
  { name: 'Numeric models', low: 8, high: 32 },
  { name: 'A virtual machine', low: 4, high: 8 },
  { name: 'Games', low: 6, high: 12 },
  { name: 'Compiling programs', low: 4, high: 12 },
  { name: 'Packing and unpacking', low: 1, high: 4 },
  { name: 'Logging and control', low: 0.2, high: 0.6 },
];

/** An idle desktop system of 64 bits; one of 32 bits keeps about a third of it. */
export const IDLE_SYSTEM: UseRange = { low: 2.2, high: 3.8 };

/** Of 32 bits. */
const IDLE_SMALL_SYSTEM: UseRange = { low: 0.6, high: 1.2 };

/** What the system of a machine keeps for itself. */
export const idleSystem = ({ osLimit }: Pick<Machine, 'osLimit'>): UseRange =>
  osLimit === 'none' ? IDLE_SYSTEM : IDLE_SMALL_SYSTEM;

/** Largest figure that is not a slip, GiB. */
export const USE_LIMIT = 4096;
