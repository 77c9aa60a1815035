import { z } from 'zod';
import { SCHOOLS } from '#core/matching';
import { SETTINGS } from '#core/machine';
import { METRICS, RUNS, findRunFaults } from '#core/proving';
import { explainRunFault } from '#core/explaining';
import { STEPS } from '#core/walk';
import { machine, placement } from './machine.ts';
import { memoryModule } from './memory.ts';
import { id, line, moment, note, version } from './text.ts';

/** A customer as typed at the counter. */
export const customerInput = z.strictObject({
  name: line('the customer’s name'),
  contact: note('the contact', 200),
});
export const customer = customerInput.extend({ id, version });

export const machineRecord = z.strictObject({ id, version, machine });

/** A module of the catalogue: its label as typed, and what was read from it. */
export const moduleInput = z.strictObject({ label: line('the label', 400), module: memoryModule });
export const moduleRecord = moduleInput.extend({ id, version });

/** Configurations a job knows. Measurements belong to one of them. */
export const SNAPSHOT_KINDS = ['as-found', 'planned', 'as-fitted'] as const;
export const snapshotKind = z.enum(SNAPSHOT_KINDS);
export const snapshotInput = z.strictObject({ placement, setting: z.enum(SETTINGS) });
export const snapshot = snapshotInput.extend({ kind: snapshotKind, version, savedAt: moment });

/** Runs of one test. Faults are reported at the runs. */
export const measurementInput = z
  .strictObject({
    kind: z.enum(['as-found', 'as-fitted']),
    metric: z.enum(METRICS),
    test: line('the name of the test', 80),
    runs: z.array(z.number()).max(RUNS.most * 2),
    warmUp: z.number().int().min(0).max(20),
    conditions: note('the conditions', 300),
  })
  .superRefine(({ metric, runs, warmUp }, context) => {
    for (const fault of findRunFaults(metric, runs, warmUp)) {
      const { title, mend = '' } = explainRunFault(fault);
      context.addIssue({ code: 'custom', path: ['runs'], message: `${title}. ${mend}` });
    }
  });
export const measurement = z.strictObject({
  ...measurementInput.shape,
  id,
  version,
  fingerprint: z.string(),
  takenAt: moment,
});

export const jobEvent = z.strictObject({
  id: z.number().int(),
  at: moment,
  type: z.string(),
  text: z.string(),
});

const gibibytes = z.number().min(0).max(4096, 'A need is 4096 GB or less.');

/** What a job says that plans and schools ask about. */
export const jobTerms = z.strictObject({
  complaint: line('the complaint', 300),
  /** GiB in use at the same time, margin not included; null = not stated. */
  need: gibibytes.nullable(),
  /** Share added to the need. */
  margin: z.number().min(0, 'A margin is 0 % or more.').max(3, 'A margin is 300 % or less.'),
  school: z.enum(SCHOOLS),
  capacityFirst: z.boolean(),
  memoryTestPassed: z.boolean(),
});

/** What the server found when the job was closed; the report of a closed job never changes. */
export const jobResult = z.strictObject({
  closedAt: moment,
  headline: z.string(),
  machine,
});

export const job = jobTerms.extend({
  id,
  version,
  number: z.number().int(),
  openedAt: moment,
  customer,
  machine: machineRecord,
  snapshots: z.array(snapshot),
  measurements: z.array(measurement),
  events: z.array(jobEvent),
  result: jobResult.nullable(),
});

/** A line of the bench list. */
export const jobSummary = z.strictObject({
  id,
  number: z.number().int(),
  customerName: z.string(),
  machineName: z.string(),
  complaint: z.string(),
  openedAt: moment,
  changedAt: moment,
  next: z.strictObject({ step: z.enum(STEPS), action: z.string() }).nullable(),
  /** Today's state in one line, computed by the server; the result for a closed job. */
  headline: z.string().nullable(),
});

export const newJob = z.strictObject({
  customer: z.union([z.strictObject({ id }), customerInput]),
  machineId: id,
  complaint: jobTerms.shape.complaint,
});

export type Customer = z.infer<typeof customer>;
export type MachineRecord = z.infer<typeof machineRecord>;
export type ModuleRecord = z.infer<typeof moduleRecord>;
export type ModuleInput = z.infer<typeof moduleInput>;
export type SnapshotKind = z.infer<typeof snapshotKind>;
export type Snapshot = z.infer<typeof snapshot>;
export type SnapshotInput = z.infer<typeof snapshotInput>;
export type MeasurementInput = z.infer<typeof measurementInput>;
export type MeasurementRecord = z.infer<typeof measurement>;
export type Job = z.infer<typeof job>;
export type JobTerms = z.infer<typeof jobTerms>;
export type JobResult = z.infer<typeof jobResult>;
export type JobSummary = z.infer<typeof jobSummary>;
export type NewJob = z.infer<typeof newJob>;
