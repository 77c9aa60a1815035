import { bigserial, index, jsonb, pgTable, text, timestamp } from 'drizzle-orm/pg-core';
import type { ClaimField, DocumentKind } from '#core/reconciling';
import { bytes } from './bytes.ts';
import { jobs } from './jobs.ts';

/** Files and what was typed, as they came. A trigger refuses any change of their content. */
export const evidence = pgTable(
  'evidence',
  {
    id: text().primaryKey(),
    jobId: text()
      .notNull()
      .references(() => jobs.id),
    kind: text().$type<DocumentKind>().notNull(),
    name: text().notNull(),
    content: bytes().notNull(),
    /** What a label was read off; null where there was no photo. */
    photo: bytes(),
    /** Slots its devices were said to be from, by position; null = nobody said. */
    slotIds: jsonb().$type<(string | null)[]>().notNull(),
    by: text().notNull(),
    addedAt: timestamp({ withTimezone: true }).notNull().defaultNow(),
  },
  (table) => [index().on(table.jobId, table.addedAt)],
);

/** Which evidence a person chose to believe. Append-only; the last one of a field counts. */
export const decisions = pgTable(
  'decisions',
  {
    id: bigserial({ mode: 'number' }).primaryKey(),
    jobId: text()
      .notNull()
      .references(() => jobs.id),
    slotId: text().notNull(),
    field: text().$type<ClaimField>().notNull(),
    evidenceId: text()
      .notNull()
      .references(() => evidence.id),
    by: text().notNull(),
    at: timestamp({ withTimezone: true }).notNull().defaultNow(),
  },
  (table) => [index().on(table.jobId)],
);
