import { z } from 'zod';
import { MACHINE_KINDS } from '#core/machine';
import { PAPERS, QUOTE_ANSWERS, isCurrency } from '#core/quoting';
import { SCHOOLS } from '#core/matching';
import { USUAL_ACTIVITIES } from '#core/need';
import { LABEL_SHEETS } from '#core/stock';
import { DEFAULT_WRITING } from '#core/units';
import { writingStyle } from './access.ts';
import { usualActivities } from './need.ts';
import { minor, planChoice, price } from './planning.ts';
import { promiseFigures } from './records.ts';
import { id, line, moment, note, versionOrNone } from './text.ts';

/** What the shop charges and promises. */
export const shopTerms = z.strictObject({
  name: line('the name of the shop', 80),
  address: note('the address', 300),
  currency: z
    .string()
    .regex(/^[A-Z]{3}$/, 'A currency is three letters, such as EUR.')
    .refine(isCurrency, 'That is no currency in use; write its three letters, such as EUR.'),
  taxPercent: z.number().min(0, 'A tax is 0 % or more.').max(60, 'A tax is 60 % or less.'),
  labour: z.strictObject(
    Object.fromEntries(MACHINE_KINDS.map((kind) => [kind, price])) as Record<
      (typeof MACHINE_KINDS)[number],
      typeof price
    >,
  ),
  creditPerGb: price,
  validDays: z
    .number()
    .int('A quote holds for whole days, such as 14.')
    .min(1, 'A quote holds for a day or more.')
    .max(365, 'A quote holds for a year or less.'),
  /** On parts the shop fitted, as reports say it; empty = the law's. */
  warranty: note('the warranty', 300).default(''),
  paper: z.enum(PAPERS).default('A4'),
  marginPercent: z
    .number()
    .min(0, 'A margin is 0 % or more.')
    .max(400, 'A margin is 400 % or less.')
    .nullable()
    .default(null)
    .describe('On what a part costs; null = prices are typed'),
  roundPricesTo: price.min(1, 'Prices are rounded to one or more.').max(100_000).default(1),
  labelSheet: z.enum(LABEL_SHEETS.map((sheet) => sheet.id)).default('roll-90-50'),
  school: z.enum(SCHOOLS).default('balanced').describe('New jobs start with it'),
  needMargin: z
    .number()
    .min(0, 'A margin is 0 % or more.')
    .max(3, 'A margin is 300 % or less.')
    .default(0.25)
    .describe('New jobs start with it'),
  activities: usualActivities.default([...USUAL_ACTIVITIES]),
  dates: writingStyle.shape.dates.default(DEFAULT_WRITING.dates),
  numbers: writingStyle.shape.numbers.default(DEFAULT_WRITING.numbers),
});
export const shop = z.strictObject({
  ...{ terms: shopTerms, version: versionOrNone },
  /** There is a sign for the head of what customers get. */
  hasLogo: z.boolean().default(false),
});

const quoteLine = z.strictObject({
  kind: z.enum(['part', 'drawer', 'labour', 'credit']),
  text: z.string(),
  quantity: z.number().int(),
  each: minor,
});

/** What is promised and what is not, in the customer's words, as it stood when issued. */
export const quotePromise = z.strictObject({
  now: z.string(),
  then: z.string(),
  /** What the new size means for the work; empty where it changes nothing. */
  room: z.string(),
  gains: z.array(z.string()),
  not: z.array(z.string()),
  /** Which model the gains come from; absent on quotes issued before there were two. */
  basis: z.string().optional(),
  /** What limits the machine, line by line, where the shop wanted it said. */
  limits: z.array(z.string()).optional(),
  /** What a proof is held against; absent likewise. */
  figures: promiseFigures.optional(),
});

export const quote = z.strictObject({
  ...{ id, jobId: id },
  /** Counts the versions of one job's quote. */
  number: z.number().int().min(1),
  issuedAt: moment,
  validUntil: z.iso.date(),
  choice: planChoice,
  lines: z.array(quoteLine),
  ...{ total: minor, tax: minor, taxPercent: z.number(), currency: z.string() },
  leadDays: z.number().int().nullable().describe('null = not known'),
  promise: quotePromise,
  note: note('the note', 500),
  answer: z
    .strictObject({ what: z.enum(QUOTE_ANSWERS), by: z.string(), at: moment, note: z.string() })
    .nullable(),
});

export const quoteInput = planChoice.extend({
  note: note('the note', 500).default(''),
  /** The total the customer was shown: if it no longer holds, nothing is issued. */
  expected: minor,
  /** Says what limits the machine, each thing changed alone. */
  withLimits: z.boolean().default(false),
});
export const quoteAnswerInput = z.strictObject({
  what: z.enum(QUOTE_ANSWERS),
  by: line('who answered', 80),
  note: note('the note', 500).default(''),
});

/** A part to be ordered for an accepted quote. */
export const orderLine = z.strictObject({
  quoteId: id,
  /** Its place among the parts of the quote, from 0. */
  at: z.number().int().min(0).max(100),
  jobId: id,
  jobNumber: z.number().int(),
  customerName: z.string(),
  supplier: z.string(),
  article: z.string(),
  text: z.string(),
  packs: z.number().int(),
  each: minor,
  /** Of a pack, without tax, as the catalogue has it; null = not known. */
  cost: minor.nullable(),
  leadDays: z.number().int().nullable(),
  acceptedAt: moment,
});

export type Shop = z.infer<typeof shop>;
export type Quote = z.infer<typeof quote>;
export type QuoteInput = z.infer<typeof quoteInput>;
export type QuoteAnswerInput = z.infer<typeof quoteAnswerInput>;
export type QuotePromise = z.infer<typeof quotePromise>;
export type OrderLine = z.infer<typeof orderLine>;
