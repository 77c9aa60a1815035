import {
  date,
  doublePrecision,
  integer,
  jsonb,
  pgTable,
  text,
  timestamp,
  uniqueIndex,
} from 'drizzle-orm/pg-core';
import type { PlanChoice } from '#contract/planning';
import type { QuotePromise } from '#contract/quotes';
import type { MemoryModule } from '#core/memory';
import type { QuoteAnswer, QuoteLine } from '#core/quoting';
import { jobs } from './jobs.ts';

const moment = () => timestamp({ withTimezone: true });

/** A quote as issued. Only its answer is ever added; a trigger refuses any other change. */
export const quotes = pgTable(
  'quotes',
  {
    id: text().primaryKey(),
    jobId: text()
      .notNull()
      .references(() => jobs.id),
    number: integer().notNull(),
    issuedAt: moment().notNull().defaultNow(),
    validUntil: date({ mode: 'string' }).notNull(),
    choice: jsonb().$type<PlanChoice>().notNull(),
    lines: jsonb().$type<QuoteLine[]>().notNull(),
    total: integer().notNull(),
    tax: integer().notNull(),
    taxPercent: doublePrecision().notNull(),
    currency: text().notNull(),
    leadDays: integer(),
    promise: jsonb().$type<QuotePromise>().notNull(),
    note: text().notNull().default(''),
    /** What is to be ordered, as the catalogue had it. */
    orders: jsonb().$type<OrderPart[]>().notNull().default([]),
    answer: text().$type<QuoteAnswer>(),
    answeredBy: text(),
    answeredAt: moment(),
    answerNote: text(),
  },
  (table) => [uniqueIndex().on(table.jobId, table.number)],
);

/** A part of a quote to be ordered. */
export interface OrderPart {
  readonly supplier: string;
  readonly article: string;
  readonly text: string;
  readonly packs: number;
  readonly each: number;
  readonly leadDays: number | null;
  /** What is in the pack, and what it costs; earlier quotes kept neither. */
  readonly module?: MemoryModule;
  readonly units?: number;
  readonly cost?: number | null;
}

export type QuoteRow = typeof quotes.$inferSelect;
