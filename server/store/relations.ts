import { relations } from 'drizzle-orm';
import {
  benchLog,
  coverPhotos,
  customers,
  jobEvents,
  jobs,
  ledger,
  machines,
  measurements,
  memoryTests,
  quotes,
  returns,
  snapshots,
} from './schema/index.ts';

/**
 * What belongs to a job, so that one question brings it all: asking table by table costs the embedded
 * engine more than the answers do.
 */
export const jobRelations = relations(jobs, ({ one, many }) => ({
  customer: one(customers, { fields: [jobs.customerId], references: [customers.id] }),
  machine: one(machines, { fields: [jobs.machineId], references: [machines.id] }),
  snapshots: many(snapshots),
  measurements: many(measurements),
  events: many(jobEvents),
  quotes: many(quotes),
  memoryTests: many(memoryTests),
  returns: many(returns),
  notes: many(benchLog),
}));

export const machineRelations = relations(machines, ({ one, many }) => ({
  photo: one(coverPhotos, { fields: [machines.id], references: [coverPhotos.machineId] }),
  ledger: many(ledger),
}));
export const ledgerRelations = relations(ledger, ({ one }) => ({
  machine: one(machines, { fields: [ledger.machineId], references: [machines.id] }),
}));
export const measurementRelations = relations(measurements, ({ one }) => ({
  job: one(jobs, { fields: [measurements.jobId], references: [jobs.id] }),
}));
export const eventRelations = relations(jobEvents, ({ one }) => ({
  job: one(jobs, { fields: [jobEvents.jobId], references: [jobs.id] }),
}));
export const quoteRelations = relations(quotes, ({ one }) => ({
  job: one(jobs, { fields: [quotes.jobId], references: [jobs.id] }),
}));
export const memoryTestRelations = relations(memoryTests, ({ one }) => ({
  job: one(jobs, { fields: [memoryTests.jobId], references: [jobs.id] }),
}));
export const returnRelations = relations(returns, ({ one }) => ({
  job: one(jobs, { fields: [returns.jobId], references: [jobs.id] }),
}));
export const noteRelations = relations(benchLog, ({ one }) => ({
  job: one(jobs, { fields: [benchLog.jobId], references: [jobs.id] }),
}));
export const snapshotRelations = relations(snapshots, ({ one }) => ({
  job: one(jobs, { fields: [snapshots.jobId], references: [jobs.id] }),
}));
