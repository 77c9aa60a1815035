import { z } from 'zod';
import { SCHOOLS } from '#core/matching';
import { SETTINGS } from '#core/machine';
import { KINDS_OF_WORK } from '#core/promising';
import { DOUBTS, METRICS, POWER_MODES, RUNS, findRunFaults } from '#core/proving';
import { explainRunFault } from '#core/explaining';
import { STEPS } from '#core/walk';
import { evidenceInput } from './evidence.ts';
import { coverMap, interleave, memoryTest, returnRecord } from './bench.ts';
import { machine, placement } from './machine.ts';
import { memoryModule } from './memory.ts';
import { needInput } from './need.ts';
import { planChoice, price } from './planning.ts';
import { id, line, moment, note, version } from './text.ts';

/** A customer as typed at the counter. */
export const customerInput = z.strictObject({
  name: line('the customer’s name'),
  contact: note('the contact', 200),
});
export const customer = customerInput.extend({ id, version });

export const machineRecord = z.strictObject({
  ...{ id, version, machine },
  /** Where the shop said firmware's names for places belong. */
  locators: z.record(z.string(), z.string()),
  /** How its cover opens; null until someone draws it. */
  coverMap: coverMap.nullable(),
  /** There is a photo of the cover. */
  hasPhoto: z.boolean(),
  /** How its controller spreads addresses; null where nobody knows. */
  interleave: interleave.nullable(),
  /** Parts that passed a memory test in it here: they count as listed. */
  provenParts: z.array(z.string()),
  /** What firmware calls machines the shop took for this one; by this they are known again. */
  knownAs: z.array(z.string()),
});

/** A machine of the library with how many jobs it has had here. */
export const listedMachine = machineRecord.extend({ jobs: z.number().int() });

/** A module of the catalogue: its label as typed, what was read from it, and how it can be had. */
export const moduleInput = z.strictObject({
  label: line('the label', 400),
  module: memoryModule,
  supplier: note('the supplier', 80).default(''),
  /** The supplier's own number for it. */
  article: note('the article number', 80).default(''),
  /** Modules in the pack; 1 = sold singly. */
  units: z
    .number()
    .int()
    .min(1, 'A pack holds one module or more.')
    .max(16, 'A pack holds 16 modules at most.')
    .default(1),
  /** Of the whole pack, tax included; null = not for sale. */
  price: price.nullable().default(null),
  /** Packs to be had; null = not known. */
  stock: z.number().int().min(0).max(100_000).nullable().default(null),
  leadDays: z.number().int().min(0).max(365).nullable().default(null),
  /** What the pack costs the shop, without tax; null = not known. */
  cost: price.nullable().default(null),
  /** Machines of the library the shop has proven it in. */
  verifiedOn: z.array(id).max(500).default([]),
});
export const moduleRecord = moduleInput.extend({
  ...{ id, version },
  /** When its price, cost or stock was last heard of. */
  pricedAt: moment,
});

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
    /** Which way a score counts; null for what has a sense of its own. */
    sense: z.enum(['higher', 'lower']).nullable().default(null),
    test: line('the name of the test', 80),
    /** The kind of work it stands for; null where nobody said. */
    activity: z
      .enum(KINDS_OF_WORK.map(({ id: one }) => one))
      .nullable()
      .default(null),
    runs: z.array(z.number()).max(RUNS.most * 2),
    warmUp: z.number().int().min(0).max(20),
    /** Memory was perhaps not what limited the test: at least this. */
    isLowerBound: z.boolean().default(false),
    /** Runs of each sitting, in order; empty where all are of one. */
    sittings: z.array(z.number().int().min(1)).max(RUNS.most).default([]),
    /** What figures were rounded to; null = as their digits show. */
    step: z.number().positive().max(1_000_000).nullable().default(null),
    doubts: z.array(z.enum(DOUBTS)).max(DOUBTS.length).default([]),
    power: z.enum(POWER_MODES).default('unknown'),
    resolution: note('the resolution', 80).default(''),
    tool: note('the tool', 80).default(''),
    conditions: note('the conditions', 300),
  })
  .superRefine(({ metric, sense, runs, warmUp, sittings }, context) => {
    if (sittings.length > 0 && sittings.reduce((sum, one) => sum + one, 0) !== runs.length)
      context.addIssue({
        code: 'custom',
        path: ['sittings'],
        message: 'The sittings do not add up to the runs. Say for each how many runs it has.',
      });
    if (metric === 'score' && sense === null)
      context.addIssue({
        code: 'custom',
        path: ['sense'],
        message: 'Say whether a higher or a lower score is better.',
      });
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
  /** Whose session it was; null = the bench itself, or before there were accounts. */
  who: z.string().nullable(),
});

const gibibytes = z.number().min(0).max(4096, 'A need is 4096 GB or less.');

/** What the customer agreed to, each with its own word. */
export const CONSENTS = ['dataBackedUp', 'openCase', 'warrantySeal'] as const;
const answer = z.enum(['yes', 'no', 'not asked']);
export const consents = z.strictObject({
  dataBackedUp: answer,
  openCase: answer,
  warrantySeal: answer,
});

/** What intake asks besides who and what. */
export const intakeTerms = z.strictObject({
  /** What they do with the machine. */
  work: note('the work', 500),
  /** The most to spend, in minor units of the shop's money; null = not said. */
  budget: z.number().int().min(0).max(100_000_000, 'That is no budget for memory.').nullable(),
  /** The day it must be ready. */
  deadline: z.iso
    .date('Enter a date.')
    .refine((text) => /^(?:19|20|21)/.test(text), 'Enter a date of these years.')
    .nullable(),
  consents,
  condition: note('the condition', 1000),
  /** A swollen pack stops all work on the machine. */
  swollenBattery: z.boolean(),
});
export const blankIntake: z.infer<typeof intakeTerms> = {
  ...{ work: '', budget: null, deadline: null, condition: '', swollenBattery: false },
  consents: { dataBackedUp: 'not asked', openCase: 'not asked', warrantySeal: 'not asked' },
};

/** What a job says that plans and schools ask about. */
export const jobTerms = z.strictObject({
  ...intakeTerms.shape,
  complaint: line('the complaint', 300),
  /** GiB in use at the same time, margin not included; null = not stated. */
  need: gibibytes.nullable(),
  /** What the need was made of; the server computes the need from it. */
  needInput: needInput.nullable(),
  /** Share added to the need. */
  margin: z.number().min(0, 'A margin is 0 % or more.').max(3, 'A margin is 300 % or less.'),
  school: z.enum(SCHOOLS),
  capacityFirst: z.boolean(),
  /** GB/s that the processor or its fabric draws at most, as somebody measured; null = nobody said. */
  drawCap: z
    .number()
    .min(1, 'What a processor draws is 1 GB/s or more.')
    .max(2000, 'What a processor draws is 2,000 GB/s or less.')
    .nullable(),
  /** Slots found dead: plans leave them out. */
  deadSlots: z.array(id).max(64),
  /** Plans put aside to compare. */
  keptPlans: z
    .array(planChoice.extend({ name: line('the name', 60), note: note('the note', 300) }))
    .max(12, 'Twelve plans can be kept; drop one first.'),
});

/** One of several like machines taken in together. */
const batchPlace = z.strictObject({ id, position: z.number().int(), size: z.number().int() });

/** How far levels differ from sitting to sitting, by the shop's own repeated ones. */
const levelSpread = z.strictObject({
  sd: z.number(),
  degrees: z.number(),
  from: z.enum(['assumed', 'shop']),
});

/** What the server found when the job was closed; the report of a closed job never changes. */
export const jobResult = z.strictObject({
  closedAt: moment,
  headline: z.string(),
  machine,
  /** What the figures were judged by; absent on jobs closed before it was asked. */
  level: levelSpread.nullish(),
});

const ratio = z.number().positive();
/** A promise in figures, for the change it was given for. */
export const promiseFigures = z.strictObject({
  /** The change, by its two configurations. */
  of: z.string(),
  /** New over old of both sides simulated, and how far a reply at rest moves, ns; null where only reckoned. */
  simulated: z
    .strictObject({
      ratios: z.strictObject({
        bandwidth: z.strictObject({
          ...{ stream: ratio, triad: ratio, random: ratio, graphics: ratio, desktop: ratio },
        }),
        reply: z.strictObject({ idle: ratio, loaded: ratio }),
      }),
      reply: z.number(),
    })
    .nullable(),
  /** Percent of speed by kind of work; none where memory was short before. */
  gains: z.array(z.strictObject({ kind: z.string(), low: z.number(), high: z.number() })),
});

export const job = jobTerms.extend({
  id,
  version,
  number: z.number().int(),
  openedAt: moment,
  batch: batchPlace.nullable(),
  customer,
  machine: machineRecord,
  snapshots: z.array(snapshot),
  measurements: z.array(measurement),
  events: z.array(jobEvent),
  memoryTests: z.array(memoryTest),
  /** Whether a memory test passed on what sits in the machine now, at this setting. */
  memoryTestPassed: z.boolean(),
  returns: z.array(returnRecord),
  result: jobResult.nullable(),
  /** By the shop's own repeated sittings; null while there are too few. */
  levelSpread: levelSpread.nullable(),
  /** The rate a screen showed after the last start, as shown; null where nobody looked. */
  shownRate: z.number().nullable(),
  /** The number of the quote the customer said yes to. */
  acceptedQuote: z.number().int().nullable(),
  /** What the quote they said yes to promises, or the latest one; null where none was issued. */
  promised: promiseFigures.nullable(),
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
  deadline: z.string().nullable(),
  /** Work is stopped: the battery is swollen. */
  isStopped: z.boolean(),
  batch: batchPlace.nullable(),
});

/** Files that come with a machine weigh no more than this together; the rest is added to the job. */
export const INTAKE_FILES_LIMIT = 16 * 2 ** 20;

/** What a firmware calls a machine, plain. */
export const firmwareName = z.string().min(1).max(260);

export const newJob = z
  .strictObject({
    customer: z.union([z.strictObject({ id }), customerInput]),
    /** A machine of the library; or else a new one, which goes into it. */
    machineId: id.optional(),
    newMachine: machine.optional(),
    /** What its firmware calls it, so that it is known when the next one comes. */
    knownAs: firmwareName.optional(),
    complaint: jobTerms.shape.complaint,
    ...intakeTerms.partial().shape,
    needInput: needInput.optional(),
    /** Files of the machine, kept as evidence; of several like machines with the first job. */
    documents: z.array(evidenceInput).max(50, 'Add the rest once the job is open.').default([]),
    /** What the files say is fitted, where nothing about it is open: saved as found. */
    found: snapshotInput.optional(),
    /** How many like machines; each becomes a job. */
    count: z.number().int().min(1).max(50, 'A batch has 50 machines at most.').default(1),
  })
  .superRefine(({ machineId, newMachine, documents }, context) => {
    const fail = (path: string, message: string) =>
      context.addIssue({ code: 'custom', path: [path], message });
    if (machineId === undefined && newMachine === undefined)
      fail('machineId', 'Choose the machine, or describe it first.');
    if (machineId !== undefined && newMachine !== undefined)
      fail('newMachine', 'A job is for one machine: one of the library, or a new one.');
    const size = documents.reduce((sum, { base64 }) => sum + (base64.length * 3) / 4, 0);
    if (size > INTAKE_FILES_LIMIT)
      fail(
        'documents',
        'The files have 16 MB together at most. Add the rest once the job is open.',
      );
  });

export type Customer = z.infer<typeof customer>;
export type ListedMachine = z.infer<typeof listedMachine>;
export type MachineRecord = z.infer<typeof machineRecord>;
export type ModuleRecord = z.infer<typeof moduleRecord>;
export type ModuleInput = z.infer<typeof moduleInput>;
export type KeptPlan = Job['keptPlans'][number];
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
export type IntakeTerms = z.infer<typeof intakeTerms>;
export type Consents = z.infer<typeof consents>;
