import { sql } from 'drizzle-orm';
import { boolean, date, index, integer, jsonb, pgTable, serial, text } from 'drizzle-orm/pg-core';
import type { WayOut } from '#contract/drawer';
import type { MemoryModule } from '#core/memory';
import type { DrawerState } from '#core/planning';
import type { ListColumns } from '#core/stock';
import { moment } from './columns.ts';
import { jobs } from './jobs.ts';
import { wordIndex } from './library.ts';
import { quotes } from './quotes.ts';

const jobIfAny = () => text().references(() => jobs.id);

/** Who sells to the shop. Offers name them; a new name is a new record. */
export const suppliers = pgTable('suppliers', {
  id: text().primaryKey(),
  version: integer().notNull().default(1),
  name: text().notNull().unique(),
  contact: text().notNull().default(''),
  serviceUrl: text().notNull().default(''),
  /** Sent with every request to its service; read by nobody else. */
  serviceKey: text().notNull().default(''),
  /** As its last price list had them. */
  columns: jsonb().$type<ListColumns>(),
  createdAt: moment().notNull().defaultNow(),
});

/** What was ordered of a supplier at once. */
export const orders = pgTable('orders', {
  id: text().primaryKey(),
  number: serial().notNull().unique(),
  supplierId: text()
    .notNull()
    .references(() => suppliers.id),
  placedAt: moment().notNull().defaultNow(),
  by: text().notNull(),
  reference: text().notNull().default(''),
  isSent: boolean().notNull().default(false),
});

/** A part of an order: for a job, by the quote that was accepted. */
export const orderLines = pgTable(
  'order_lines',
  {
    id: text().primaryKey(),
    orderId: text()
      .notNull()
      .references(() => orders.id),
    quoteId: text()
      .notNull()
      .references(() => quotes.id),
    /** Its place among the parts of the quote. */
    quotePart: integer().notNull(),
    forJob: jobIfAny(),
    article: text().notNull().default(''),
    text: text().notNull(),
    module: jsonb().$type<MemoryModule>().notNull(),
    units: integer().notNull(),
    packs: integer().notNull(),
    received: integer().notNull().default(0),
    /** Of a pack, without tax. */
    cost: integer(),
    /** Of a pack, as the customer pays it. */
    price: integer().notNull(),
    expectedOn: date({ mode: 'string' }),
    cancelledAt: moment(),
  },
  (table) => [index().on(table.orderId), index().on(table.forJob), index().on(table.quoteId)],
);

/**
 * Modules in stock, pulled or bought. One held for a job stays here until it is fitted or let go;
 * one that left keeps its row, with how it left.
 */
export const drawer = pgTable(
  'drawer',
  {
    id: text().primaryKey(),
    version: integer().notNull().default(1),
    label: text().notNull(),
    module: jsonb().$type<MemoryModule>().notNull(),
    state: text().$type<DrawerState>().notNull(),
    price: integer().notNull().default(0),
    cost: integer(),
    origin: text().notNull().default(''),
    /** As its sticker has it; empty = nobody noted it. */
    serial: text().notNull().default(''),
    place: text().notNull().default(''),
    isNew: boolean().notNull().default(false),
    supplier: text().notNull().default(''),
    pulledIn: jobIfAny(),
    reservedFor: jobIfAny(),
    orderLineId: text().references(() => orderLines.id),
    gone: text().$type<WayOut>(),
    goneAt: moment(),
    goneJob: jobIfAny(),
    goneNote: text().notNull().default(''),
    /** The entry of the bench log that took it; taken back with it. */
    goneBy: text(),
    createdAt: moment().notNull().defaultNow(),
  },
  (table) => [
    index().on(table.reservedFor),
    index('drawer_in_house')
      .on(table.label, table.id)
      .where(sql`gone is null`),
    index('drawer_gone')
      .on(table.goneAt.desc(), table.id)
      .where(sql`gone is not null`),
    wordIndex('drawer_label_words', table.label),
  ],
);

/** Counts by scanning, with what they found. */
export const stockCounts = pgTable('stock_counts', {
  id: text().primaryKey(),
  at: moment().notNull().defaultNow(),
  by: text().notNull(),
  /** null = everything. */
  place: text(),
  expected: integer().notNull(),
  found: integer().notNull(),
  missing: integer().notNull(),
  moved: integer().notNull(),
  back: integer().notNull(),
});
