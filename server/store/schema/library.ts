import { sql } from 'drizzle-orm';
import type { SQL } from 'drizzle-orm';
import { index, integer, jsonb, pgTable, text, timestamp } from 'drizzle-orm/pg-core';
import type { PgColumn } from 'drizzle-orm/pg-core';
import type { Interleave } from '#contract/bench';
import type { CoverMap } from '#core/fitting';
import type { Machine } from '#core/machine';
import type { MemoryModule } from '#core/memory';
import type { ShopTerms } from '#core/quoting';
import { bytes } from './bytes.ts';

/** Finds words inside a text without reading every row; letter triples are what it is made of. */
export const wordIndex = (name: string, text: PgColumn | SQL) =>
  index(name).using('gin', sql`${text} gin_trgm_ops`);

/** Every row carries its version: a save states the one it started from. */
const row = {
  id: text().primaryKey(),
  version: integer().notNull().default(1),
  createdAt: timestamp({ withTimezone: true }).notNull().defaultNow(),
};

export const customers = pgTable(
  'customers',
  { ...row, name: text().notNull(), contact: text().notNull().default('') },
  ({ name }) => [wordIndex('customers_name_words', name)],
);

/** A machine's description travels whole; its name is drawn out for lists and search. */
export const machines = pgTable(
  'machines',
  {
    ...row,
    name: text().notNull(),
    machine: jsonb().$type<Machine>().notNull(),
    /** Where firmware's names for places belong: a slot's id, or `none`. */
    locators: jsonb().$type<Record<string, string>>().notNull().default({}),
    coverMap: jsonb().$type<CoverMap>(),
    interleave: jsonb().$type<Interleave>(),
    /** What firmware calls machines the shop took for this one. */
    knownAs: jsonb().$type<string[]>().notNull().default([]),
  },
  ({ name }) => [wordIndex('machines_name_words', name)],
);

export const modules = pgTable('modules', {
  ...row,
  label: text().notNull(),
  module: jsonb().$type<MemoryModule>().notNull(),
  supplier: text().notNull().default(''),
  article: text().notNull().default(''),
  units: integer().notNull().default(1),
  /** Of the whole pack, minor units; null = not for sale. */
  price: integer(),
  stock: integer(),
  leadDays: integer(),
  /** Of the pack, without tax, minor units. */
  cost: integer(),
  pricedAt: timestamp({ withTimezone: true }).notNull().defaultNow(),
  verifiedOn: jsonb().$type<string[]>().notNull().default([]),
});

/** What the shop charges and promises; one row, or none until the owner sets it. */
export const shopTerms = pgTable('shop_terms', {
  id: text().primaryKey(),
  version: integer().notNull().default(1),
  terms: jsonb().$type<ShopTerms>().notNull(),
});

/** The shop's own names for standard maker codes. */
export const makers = pgTable('makers', {
  key: text().primaryKey(),
  name: text().notNull(),
});

/** The shop's sign, at the head of what customers get; one row, or none. */
export const shopLogos = pgTable('shop_logos', {
  id: text().primaryKey(),
  type: text().$type<'image/jpeg' | 'image/png'>().notNull(),
  content: bytes().notNull(),
});
