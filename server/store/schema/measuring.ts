import { boolean, index, integer, jsonb, pgTable, primaryKey, text } from 'drizzle-orm/pg-core';
import type { ResultWay, Ticket } from '#contract/measuring';
import type { PowerMode, ProbeEssence, ProbeResult } from '#core/proving';
import { moment, ofJob } from './columns.ts';

const side = () => text().$type<'as-found' | 'as-fitted'>().notNull();

/** Links to the measuring page: each is good for one result. Only the token's digest is kept. */
export const tickets = pgTable(
  'tickets',
  {
    id: text().primaryKey(),
    jobId: ofJob(),
    brings: text().$type<Ticket['brings']>().notNull().default('result'),
    kind: side(),
    power: text().$type<PowerMode>().notNull(),
    by: text().notNull(),
    digest: text().notNull().unique(),
    createdAt: moment().notNull().defaultNow(),
    expiresAt: moment().notNull(),
    /** The result it brought; null until then. */
    resultId: text(),
  },
  (table) => [index().on(table.jobId)],
);

/** Results of the measuring page as they came, each on the modules it was taken on. */
export const probeResults = pgTable(
  'probe_results',
  {
    jobId: ofJob(),
    id: text().notNull(),
    kind: side(),
    way: text().$type<ResultWay>().notNull(),
    by: text().notNull(),
    at: moment().notNull().defaultNow(),
    fingerprint: text().notNull(),
    result: jsonb().$type<ProbeResult | ProbeEssence>().notNull(),
  },
  (table) => [primaryKey({ columns: [table.jobId, table.id] })],
);

/** Where other machines reach the measuring page; one row, or none until the owner opens it. */
/** What the shop made to be reached by TLS; of this machine, and in no backup. */
export const certificates = pgTable('certificates', {
  id: text().primaryKey(),
  authority: text().notNull(),
  authorityKey: text().notNull(),
  certificate: text().notNull(),
  key: text().notNull(),
});

export const doorTerms = pgTable('door_terms', {
  id: text().primaryKey(),
  version: integer().notNull().default(1),
  isOpen: boolean().notNull(),
  address: text().notNull(),
  port: integer().notNull(),
});
