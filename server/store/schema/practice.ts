import {
  boolean,
  doublePrecision,
  index,
  integer,
  jsonb,
  pgTable,
  text,
} from 'drizzle-orm/pg-core';
import type { Exercise } from '#core/practice';
import { moment } from './columns.ts';

/** The shop’s own exercises; those that came with Tembrix are files. */
export const exercises = pgTable('exercises', {
  id: text().primaryKey(),
  version: integer().notNull().default(1),
  source: text().$type<'file' | 'job'>().notNull(),
  exercise: jsonb().$type<Exercise>().notNull(),
  createdAt: moment().notNull().defaultNow(),
});

/** Exercises gone through to their end. */
export const practiceRuns = pgTable(
  'practice_runs',
  {
    id: text().primaryKey(),
    exerciseId: text().notNull(),
    by: text().notNull(),
    solved: boolean().notNull(),
    minutes: doublePrecision().notNull(),
    parMinutes: doublePrecision().notNull(),
    spent: integer().notNull(),
    acts: integer().notNull(),
    unsafe: integer().notNull(),
    at: moment().notNull().defaultNow(),
  },
  (table) => [index().on(table.by, table.at)],
);
