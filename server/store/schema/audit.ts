import { sql } from 'drizzle-orm';
import { bigserial, index, jsonb, pgTable, text } from 'drizzle-orm/pg-core';
import { moment } from './columns.ts';

/**
 * What was changed, from what to what, and by whom. Triggers on the tables write it, in the transaction
 * of the change, so that no way around it is forgotten; a trigger refuses changes and removals.
 */
export const audit = pgTable(
  'audit',
  {
    id: bigserial({ mode: 'number' }).primaryKey(),
    at: moment().notNull().defaultNow(),
    /** Whose session it was; null = the bench itself, or the command line. */
    who: text().default(sql`nullif(current_setting('tembrix.who', true), '')`),
    jobId: text(),
    subject: text().notNull(),
    rowId: text().notNull(),
    /** The row, as people call it. */
    what: text().notNull().default(''),
    field: text().notNull(),
    before: jsonb(),
    after: jsonb(),
  },
  (table) => [index().on(table.jobId), index().on(table.at.desc())],
);
