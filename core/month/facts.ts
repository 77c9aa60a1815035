import type { Minor } from '../planning/index.ts';
import type { QuoteAnswer } from '../quoting/index.ts';
import type { Step } from '../walk/index.ts';

/** A job as lists name it. */
export interface JobRef {
  readonly id: string;
  readonly number: number;
  readonly customerName: string;
}

/** A module that went into a machine, as far as returns are told by it. */
export interface SoldModule {
  /** Its own number, or what its label says. */
  readonly part: string;
  /** The shop's name for its maker, or the code; empty = not known. */
  readonly maker: string;
  /** Who sold it; empty = not known. */
  readonly supplier: string;
  readonly machine: string;
}

/** When something first happened to a job; ms since 1970. Absent where it did not. */
export interface Marks {
  readonly opened: number;
  readonly found?: number | undefined;
  readonly quoted?: number | undefined;
  readonly accepted?: number | undefined;
  /** The last of its parts came. */
  readonly received?: number | undefined;
  readonly fitted?: number | undefined;
  readonly closed?: number | undefined;
}

/** A quote as the month counts it. */
export interface QuoteFact {
  readonly issuedAt: number;
  /** The last day it holds, YYYY-MM-DD. */
  readonly validUntil: string;
  readonly isLatest: boolean;
  readonly answer?: QuoteAnswer | undefined;
  readonly reason: string;
}

/** What a customer paid for, of a job handed over. Minor units. */
export interface MoneyFact {
  readonly parts: Minor;
  readonly labour: Minor;
  /** Given for pulled modules, 0 or more. */
  readonly credit: Minor;
  /** Contained in the parts. */
  readonly taxPercent: number;
  /** What the parts cost the shop; `null` where some cost is not known. */
  readonly cost: Minor | null;
}

/** A job as far as a month depends on it. */
export interface JobFact extends JobRef {
  readonly marks: Marks;
  /** Ready by this day, YYYY-MM-DD. */
  readonly deadline: string | null;
  /** What comes next; `null` once it is handed over. */
  readonly next: Step | null;
  readonly quotes: readonly QuoteFact[];
  readonly sold: readonly SoldModule[];
  readonly money: MoneyFact | null;
}

/** A module that came back. */
export interface ReturnFact extends SoldModule {
  readonly job: JobRef;
  readonly at: number;
  readonly fault: string;
}
