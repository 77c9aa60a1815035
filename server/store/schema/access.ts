import { sql } from 'drizzle-orm';
import { boolean, index, integer, pgTable, text, uniqueIndex } from 'drizzle-orm/pg-core';
import type { Role } from '#contract/access';
import { moment } from './columns.ts';
import { jobs } from './jobs.ts';

/** Everybody of the shop. One who leaves is closed, never removed: records keep their name. */
export const accounts = pgTable(
  'accounts',
  {
    id: text().primaryKey(),
    version: integer().notNull().default(1),
    name: text().notNull(),
    role: text().$type<Role>().notNull(),
    /** Argon2id, with its own salt and cost. */
    passwordHash: text().notNull(),
    isActive: boolean().notNull().default(true),
    createdAt: moment().notNull().defaultNow(),
  },
  (table) => [uniqueIndex('accounts_name').on(sql`lower(${table.name})`)],
);

const ofAccount = () =>
  text()
    .notNull()
    .references(() => accounts.id);

/** Devices people are signed in on. Tokens are kept as digests: whoever reads this cannot come in. */
export const sessions = pgTable(
  'sessions',
  {
    id: text().primaryKey(),
    tokenDigest: text().notNull().unique(),
    accountId: ofAccount(),
    /** Of the device’s own cookie; a PIN serves on it alone. */
    deviceDigest: text().notNull(),
    device: text().notNull(),
    createdAt: moment().notNull().defaultNow(),
    seenAt: moment().notNull().defaultNow(),
    /** Since when it waits for a PIN or a password. */
    heldAt: moment(),
    pinHash: text(),
    pinFailures: integer().notNull().default(0),
    /** The one job a tablet was let in for. */
    jobId: text().references(() => jobs.id),
  },
  (table) => [index().on(table.accountId), index().on(table.deviceDigest)],
);

/** Codes that let one tablet in for one job. */
export const tabletLinks = pgTable('tablet_links', {
  tokenDigest: text().primaryKey(),
  accountId: ofAccount(),
  jobId: text()
    .notNull()
    .references(() => jobs.id),
  expiresAt: moment().notNull(),
});

/** Wrong passwords by the name they were tried for, whether anybody has it or not. */
export const failedSignIns = pgTable('failed_sign_ins', {
  name: text().primaryKey(),
  count: integer().notNull(),
  lastAt: moment().notNull(),
});
