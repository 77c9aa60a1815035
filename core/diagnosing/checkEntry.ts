import type { CauseKind } from './causes.ts';
import type { Trouble } from './symptoms.ts';

/** What a check may do to machine, data or hands; safer ones are asked for first. */
export const RISKS = [
  'none',
  'opens the machine',
  'changes settings',
  'can lose the board',
] as const;
/** See {@link RISKS}. */
export type Risk = (typeof RISKS)[number];

/** Chance of each outcome, in the order of the check's outcomes; any unit. */
export type Row = readonly number[];

/** For causes at a slot: what a check on that slot brings out, and what one on other slots does. */
export interface Located {
  readonly here: Row;
  readonly elsewhere: Row;
}

/** Stands in a list of outcomes for one outcome per filled slot. */
export const EACH_SLOT = '(each slot)';

/** One check, and what each cause would make of it. */
export interface CheckEntry {
  /**
   * `machine`: done once. `slot`: one for every filled slot. `half`: with half of the modules, so
   * divided that the answers name the slot. `which`: done once, and may point at a slot: the second
   * outcome is {@link EACH_SLOT}, and each row gives two chances for it, the cause's own slot and
   * the other slots together, so that it reads [first, own, others, third, …].
   */
  readonly on: 'machine' | 'slot' | 'half' | 'which';
  readonly outcomes: readonly string[];
  /** Minutes of work. */
  readonly hands: number;
  /** Minutes it runs by itself. */
  readonly waits: number;
  readonly risk: Risk;
  /** Troubles it says something about. */
  readonly for: readonly Trouble[];
  /** Does away with the fault where the first outcome comes up. */
  readonly mends?: true;
  readonly given: Partial<Record<CauseKind, Row | Located>>;
  readonly otherwise: Row;
}
