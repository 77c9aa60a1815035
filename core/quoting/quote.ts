import type { School } from '../matching/index.ts';
import { USUAL_ACTIVITIES } from '../need/index.ts';
import type { Activity } from '../need/index.ts';
import type { MachineKind, SlotId } from '../machine/index.ts';
import { MACHINE_KINDS } from '../machine/index.ts';
import type { Minor, Plan, PlanQuery } from '../planning/index.ts';
import { DEFAULT_WRITING } from '../units/index.ts';
import type { Writing } from '../units/index.ts';

/** What the shop charges and promises by default; the owner sets it once. */
export interface ShopTerms extends Writing {
  /** As it stands at the head of what customers get. */
  readonly name: string;
  readonly address: string;
  /** ISO 4217 code. */
  readonly currency: string;
  /** Contained in every price, %. */
  readonly taxPercent: number;
  /** For opening a machine of a kind and fitting memory, tax included. */
  readonly labour: Readonly<Record<MachineKind, Minor>>;
  /** Paid for a pulled module, per GB; 0 = pulled modules stay the customer's. */
  readonly creditPerGb: Minor;
  /** Days a quote holds. */
  readonly validDays: number;
  /** What the shop gives on parts it fitted, as reports say it; empty = the law's. */
  readonly warranty: string;
  /** What quotes and reports are printed on. */
  readonly paper: Paper;
  /** On what a part costs, %, to make its price; `null` = prices are typed. */
  readonly marginPercent: number | null;
  /** Prices made of costs are whole multiples of it, minor units. */
  readonly roundPricesTo: Minor;
  /** What labels of modules are printed on, by its id. */
  readonly labelSheet: string;
  /** What new jobs start with: how strictly modules have to match … */
  readonly school: School;
  /** … and how much is added to the need, 0.25 = a quarter. */
  readonly needMargin: number;
  /** Work the shop's customers do, offered wherever a need is stated, with where its ranges start. */
  readonly activities: readonly Activity[];
}

/** Sizes of paper shops print on. */
export const PAPERS = ['A4', 'Letter'] as const;
/** See {@link PAPERS}. */
export type Paper = (typeof PAPERS)[number];

/** Something a quote charges or gives back. */
export interface QuoteLine {
  readonly kind: 'part' | 'drawer' | 'labour' | 'credit';
  readonly text: string;
  readonly quantity: number;
  /** Price of one, tax included; negative for a credit. */
  readonly each: Minor;
}

/** What a part's catalogue entry says that a quote repeats. */
export interface PricedPart {
  readonly id: string;
  readonly text: string;
  readonly price: Minor;
  readonly leadDays: number | undefined;
}

/** Money and dates of a quote, frozen when it is issued. */
export interface QuoteSum {
  readonly lines: readonly QuoteLine[];
  readonly total: Minor;
  /** Part of the total. */
  readonly tax: Minor;
  /** Longest lead time of a part; absent where one is not known, 0 where all is in the house. */
  readonly leadDays: number | undefined;
}

/** Tax included in a price that includes it, rounded to a whole minor unit. */
export function taxWithin(total: Minor, percent: number): Minor {
  return Math.round((total * percent) / (100 + percent));
}

/** What the lines of a quote are called. */
export interface QuoteWords {
  readonly labour: string;
  readonly pulled: (slotId: SlotId) => string;
}

/**
 * What a plan costs, line by line, at the prices given.
 *
 * @param credit - paid for a pulled module by the slot it leaves, as the plan was weighed with
 */
export function sumQuote(
  plan: Plan,
  parts: readonly PricedPart[],
  credit: PlanQuery['credit'],
  terms: ShopTerms,
  words: QuoteWords,
): QuoteSum {
  const partOf = (id: string) => {
    const part = parts.find((one) => one.id === id);
    if (!part)
      throw new Error(`expected a price for every part of a plan, received none for ${id}`);
    return part;
  };
  const lines: QuoteLine[] = [
    ...plan.purchases.map(({ offerId, packs }): QuoteLine => {
      const { text, price } = partOf(offerId);
      return { kind: 'part', text, quantity: packs, each: price };
    }),
    ...plan.drawer.map((id): QuoteLine => {
      const { text, price } = partOf(id);
      return { kind: 'drawer', text, quantity: 1, each: price };
    }),
  ];
  if (plan.cost.labour > 0)
    lines.push({ kind: 'labour', text: words.labour, quantity: 1, each: plan.cost.labour });
  for (const slotId of plan.pulled) {
    const each = -(credit[slotId] ?? 0);
    if (each < 0) lines.push({ kind: 'credit', text: words.pulled(slotId), quantity: 1, each });
  }
  const total = plan.cost.net;
  const leads = plan.purchases.map(({ offerId }) => partOf(offerId).leadDays);
  const leadDays = leads.some((days) => days === undefined)
    ? undefined
    : Math.max(0, ...leads.map((days) => days ?? 0));
  return { lines, total, tax: taxWithin(total, terms.taxPercent), leadDays };
}

/**
 * Lines in whole minor units that still add up to their total: earlier quotes shared a credit out
 * evenly and left thirds of a cent.
 */
export function wholeLines(lines: readonly QuoteLine[], total: Minor): QuoteLine[] {
  if (lines.every(({ each }) => Number.isInteger(each))) return [...lines];
  const rounded = lines.map((line) => ({ ...line, each: Math.round(line.each) }));
  let left = total - rounded.reduce((sum, { each, quantity }) => sum + each * quantity, 0);
  return rounded.map((line, at) => {
    const isShare = line.quantity === 1 && !Number.isInteger(lines[at]?.each);
    const step = isShare ? Math.sign(left) : 0;
    left -= step;
    return { ...line, each: line.each + step };
  });
}

/** Before the owner has set anything. */
export const DEFAULT_TERMS: ShopTerms = {
  name: 'The bench',
  address: '',
  currency: 'EUR',
  taxPercent: 20,
  labour: Object.fromEntries(MACHINE_KINDS.map((kind) => [kind, 3000])) as ShopTerms['labour'],
  creditPerGb: 0,
  validDays: 14,
  warranty: '',
  paper: 'A4',
  marginPercent: null,
  roundPricesTo: 1,
  labelSheet: 'roll-90-50',
  school: 'balanced',
  needMargin: 0.25,
  activities: USUAL_ACTIVITIES,
  ...DEFAULT_WRITING,
};

/** How a quote was answered. */
export const QUOTE_ANSWERS = ['accepted', 'declined', 'change asked'] as const;
/** See {@link QUOTE_ANSWERS}. */
export type QuoteAnswer = (typeof QUOTE_ANSWERS)[number];

/** Where a quote stands on a day. `replaced`: a later version was issued. */
export function quoteState(
  quote: {
    readonly validUntil: string;
    readonly answer: QuoteAnswer | undefined;
    readonly isLatest: boolean;
  },
  today: string,
): QuoteAnswer | 'open' | 'expired' | 'replaced' {
  if (quote.answer) return quote.answer;
  if (!quote.isLatest) return 'replaced';
  return today > quote.validUntil ? 'expired' : 'open';
}
