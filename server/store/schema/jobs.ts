import { sql } from 'drizzle-orm';
import {
  bigserial,
  boolean,
  date,
  doublePrecision,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  serial,
  text,
  timestamp,
  uniqueIndex,
} from 'drizzle-orm/pg-core';
import type { Consents, JobResult, KeptPlan, SnapshotKind } from '#contract/records';
import type { School } from '#core/matching';
import type { Placement, Setting } from '#core/machine';
import type { NeedInput } from '#core/need';
import type { Doubt, Metric, PowerMode } from '#core/proving';
import type { LedgerEntry } from '#core/ledger';
import { customers, machines, wordIndex } from './library.ts';

const moment = () => timestamp({ withTimezone: true });

export const jobs = pgTable(
  'jobs',
  {
    id: text().primaryKey(),
    version: integer().notNull().default(1),
    number: serial().notNull().unique(),
    customerId: text()
      .notNull()
      .references(() => customers.id),
    machineId: text()
      .notNull()
      .references(() => machines.id),
    complaint: text().notNull(),
    /** GiB; null = not stated. */
    need: doublePrecision(),
    needInput: jsonb().$type<NeedInput>(),
    work: text().notNull().default(''),
    /** Minor units of the shop's money. */
    budget: integer(),
    deadline: date({ mode: 'string' }),
    consents: jsonb()
      .$type<Consents>()
      .notNull()
      .default({ dataBackedUp: 'not asked', openCase: 'not asked', warrantySeal: 'not asked' }),
    condition: text().notNull().default(''),
    swollenBattery: boolean().notNull().default(false),
    /** Jobs taken in together share it; position counts from 1. */
    batchId: text(),
    batchPosition: integer(),
    batchSize: integer(),
    margin: doublePrecision().notNull().default(0.25),
    school: text().$type<School>().notNull().default('balanced'),
    capacityFirst: boolean().notNull().default(false),
    /** GB/s. */
    drawCap: doublePrecision(),
    deadSlots: jsonb().$type<string[]>().notNull().default([]),
    keptPlans: jsonb().$type<KeptPlan[]>().notNull().default([]),
    result: jsonb().$type<JobResult>(),
    openedAt: moment().notNull().defaultNow(),
    changedAt: moment().notNull().defaultNow(),
    closedAt: moment(),
  },
  (table) => [
    // The two orders of the bench list, each read from its index a page at a time.
    index()
      .on(table.openedAt, table.number)
      .where(sql`closed_at is null`),
    index()
      .on(table.closedAt.desc(), table.number)
      .where(sql`closed_at is not null`),
    index().on(table.customerId),
    index().on(table.machineId),
    wordIndex('jobs_complaint_words', table.complaint),
    wordIndex('jobs_number_words', sql`(${table.number}::text)`),
  ],
);

/** A configuration of a job: as found, planned, as fitted. One of each at most. */
export const snapshots = pgTable(
  'snapshots',
  {
    jobId: text()
      .notNull()
      .references(() => jobs.id),
    kind: text().$type<SnapshotKind>().notNull(),
    version: integer().notNull().default(1),
    placement: jsonb().$type<Placement>().notNull(),
    setting: text().$type<Setting>().notNull(),
    savedAt: moment().notNull().defaultNow(),
  },
  (table) => [primaryKey({ columns: [table.jobId, table.kind] })],
);

/** Runs of one test on one configuration, with the modules they were taken on. */
export const measurements = pgTable(
  'measurements',
  {
    id: text().primaryKey(),
    version: integer().notNull().default(1),
    jobId: text()
      .notNull()
      .references(() => jobs.id),
    kind: text().$type<'as-found' | 'as-fitted'>().notNull(),
    metric: text().$type<Metric>().notNull(),
    /** The kind of work it stands for, an activity class of planning. */
    activity: text(),
    /** Declared for scores alone. */
    sense: text().$type<'higher' | 'lower'>(),
    isLowerBound: boolean().notNull().default(false),
    /** Runs of each sitting; empty where all are of one. */
    sittings: integer().array().notNull().default([]),
    /** What figures were rounded to; null = as their digits show. */
    step: doublePrecision(),
    doubts: text().array().$type<Doubt[]>().notNull().default([]),
    test: text().notNull(),
    runs: doublePrecision().array().notNull(),
    warmUp: integer().notNull().default(0),
    power: text().$type<PowerMode>().notNull().default('unknown'),
    resolution: text().notNull().default(''),
    tool: text().notNull().default(''),
    conditions: text().notNull().default(''),
    fingerprint: text().notNull(),
    takenAt: moment().notNull().defaultNow(),
  },
  (table) => [
    uniqueIndex().on(table.jobId, table.kind, table.metric, table.test),
    // The few with more than one sitting tell the shop's own spread.
    index()
      .on(table.takenAt)
      .where(sql`cardinality(sittings) > 1`),
  ],
);

/** What happened to a job, in order. A trigger refuses changes and removals. */
export const jobEvents = pgTable(
  'job_events',
  {
    id: bigserial({ mode: 'number' }).primaryKey(),
    jobId: text()
      .notNull()
      .references(() => jobs.id),
    at: moment().notNull().defaultNow(),
    type: text().notNull(),
    text: text().notNull(),
    /** Whose session it was; null = the bench itself, or before there were accounts. */
    who: text().default(sql`nullif(current_setting('tembrix.who', true), '')`),
  },
  (table) => [index().on(table.jobId)],
);

/** What closed jobs proved; a job opened again is taken out. */
export const ledger = pgTable(
  'ledger',
  {
    jobId: text()
      .primaryKey()
      .references(() => jobs.id),
    machineId: text()
      .notNull()
      .references(() => machines.id),
    closedAt: moment().notNull(),
    /** Parts it vouches for in its machine. */
    proven: jsonb().$type<string[]>().notNull(),
    entry: jsonb().$type<LedgerEntry>().notNull(),
    /** Somebody found it odd: predictions do not go by it. */
    isLeftOut: boolean().notNull().default(false),
  },
  (table) => [index().on(table.machineId), index().on(table.closedAt.desc())],
);
