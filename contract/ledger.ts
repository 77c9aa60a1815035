import { z } from 'zod';
import { LEDGER_MODES } from '#core/ledger';
import type { ClosedJob, LedgerEntry, RefittedClass } from '#core/ledger';
import { memoryTestState } from '#core/proving';
import type { Proof } from '#core/proving';
import { changeNameOf, jobMachine, snapshotOf } from './jobProof.ts';
import type { Job } from './records.ts';
import { pageQuery } from './route.ts';
import { id, moment } from './text.ts';
import { needWithMargin } from '#core/need';

/** A line of the ledger: what one closed job proved, and how long it has stood. */
export const ledgerLine = z.strictObject({
  jobId: id,
  jobNumber: z.number().int(),
  machineId: id,
  closedAt: moment,
  /** Days it stood: until the same machine came back, or until today. */
  days: z.number().int(),
  cameBack: z.boolean(),
  /** Predictions do not go by it. */
  isLeftOut: z.boolean(),
  entry: z.custom<LedgerEntry>((value) => typeof value === 'object' && value !== null),
});
export const ledger = z.strictObject({
  /** A page of them, the latest first. */
  lines: z.array(ledgerLine),
  /** Of all that were asked for. */
  total: z.number().int(),
});
/** What is asked of the ledger; every word must stand somewhere in the line. */
export const ledgerQuery = z.strictObject({
  ...pageQuery,
  mode: z.enum(['', ...LEDGER_MODES]).default(''),
  isTested: z.stringbool().default(false).describe('Only where a memory test passed'),
});

const jobNamed = z.strictObject({ jobId: id, jobNumber: z.number().int() });

/** What the ledger says about the shares predictions go by. */
export const ledgerShares = z.strictObject({
  /** Refitted where there are jobs enough. */
  shares: z.array(z.custom<RefittedClass>((value) => typeof value === 'object' && value !== null)),
  /** Jobs the others do not bear out, by kind of work. */
  odd: z.array(jobNamed.extend({ activity: z.string(), factor: z.number(), expected: z.number() })),
  /** Jobs somebody left out. */
  leftOut: z.array(jobNamed),
});
export const leftOutInput = z.strictObject({ isLeftOut: z.boolean() });

export type LedgerLine = z.infer<typeof ledgerLine>;
export type Ledger = z.infer<typeof ledger>;
export type LedgerQuery = z.output<typeof ledgerQuery>;
export type LedgerShares = z.infer<typeof ledgerShares>;

/** What a job brings to the ledger; undefined until something was fitted. */
export function closedJobOf(job: Job, proof: Proof): ClosedJob | undefined {
  const fitted = snapshotOf(job, 'as-fitted');
  if (!fitted) return undefined;
  const { placement, setting } = fitted;
  const now = job.measurements.filter(({ kind }) => kind === 'as-fitted');
  const current = job.memoryTestPassed
    ? job.memoryTests.filter(
        (test) => memoryTestState([test], { fingerprint: test.fingerprint, setting }) === 'passed',
      )
    : [];
  return {
    machine: jobMachine(job),
    ...{ placement, setting, proof, passed: current },
    need: needWithMargin(job),
    activityOf: (metric, test) =>
      now.find((one) => one.metric === metric && one.test === test)?.activity ?? null,
    ...(job.promised?.of === changeNameOf(job) && { simulated: job.promised?.simulated?.ratios }),
    isSimulated: job.measurements.some(({ conditions }) => conditions === 'simulated'),
  };
}
