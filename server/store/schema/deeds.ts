import { index, integer, jsonb, pgTable, text } from 'drizzle-orm/pg-core';
import { moment } from './columns.ts';

/** Writes that were done under a key of the client's, with what was answered, for some days. */
export const deeds = pgTable(
  'deeds',
  {
    key: text().primaryKey(),
    /** Digest of the method, the address and the body: a key stands for one request. */
    request: text().notNull(),
    status: integer(),
    answer: jsonb(),
    at: moment().notNull().defaultNow(),
  },
  (table) => [index().on(table.at)],
);
