import {
  bigserial,
  doublePrecision,
  index,
  integer,
  jsonb,
  pgTable,
  text,
} from 'drizzle-orm/pg-core';
import type { ReturnState } from '#contract/bench';
import type { Note } from '#core/fitting';
import type { Setting } from '#core/machine';
import type { MemoryModule } from '#core/memory';
import type { TestKind } from '#core/proving';
import { bytes } from './bytes.ts';
import { moment, ofJob } from './columns.ts';
import { machines } from './library.ts';

/** What was done at the bench, in order. A trigger refuses changes and removals. */
export const benchLog = pgTable(
  'bench_log',
  {
    seq: bigserial({ mode: 'number' }).primaryKey(),
    /** Made by the client: the same note sent twice stands once. */
    id: text().notNull().unique(),
    jobId: ofJob(),
    by: text().notNull(),
    at: moment().notNull().defaultNow(),
    note: jsonb().$type<Note>().notNull(),
  },
  (table) => [index().on(table.jobId, table.seq)],
);

/** Memory tests, each with the modules, slots and setting it ran on. */
export const memoryTests = pgTable(
  'memory_tests',
  {
    id: text().primaryKey(),
    jobId: ofJob(),
    kind: text().$type<TestKind>().notNull(),
    minutes: doublePrecision().notNull(),
    passes: integer().notNull(),
    errors: integer().notNull(),
    tool: text().notNull().default(''),
    conditions: text().notNull().default(''),
    fingerprint: text().notNull(),
    setting: text().$type<Setting>().notNull(),
    by: text().notNull(),
    at: moment().notNull().defaultNow(),
  },
  (table) => [index().on(table.jobId, table.at)],
);

/** Modules found bad, on their way back to whoever sold them. */
export const returns = pgTable(
  'returns',
  {
    id: text().primaryKey(),
    version: integer().notNull().default(1),
    jobId: ofJob(),
    slotId: text().notNull(),
    module: jsonb().$type<MemoryModule>().notNull(),
    supplier: text().notNull().default(''),
    /** As its sticker has it; empty = nobody noted it. */
    serial: text().notNull().default(''),
    reason: text().notNull(),
    state: text().$type<ReturnState>().notNull().default('to send'),
    by: text().notNull(),
    at: moment().notNull().defaultNow(),
  },
  (table) => [index().on(table.jobId)],
);

/** A photo of a machine's cover, to draw the map on. */
export const coverPhotos = pgTable('cover_photos', {
  machineId: text()
    .primaryKey()
    .references(() => machines.id),
  type: text().$type<'image/jpeg' | 'image/png' | 'image/webp'>().notNull(),
  content: bytes().notNull(),
});
