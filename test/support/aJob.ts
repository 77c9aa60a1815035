import { blankIntake, job as jobSchema } from '#contract/records';
import type { Job } from '#contract/records';
import type { Machine, Placement } from '#core/machine';
import { desktop, labelled } from './builders.ts';

const NOON = '2026-05-04T12:00:00.000Z';

/** A job as the server would give it: 8 GB found in A1, nothing else said. */
export function aJob(more: Partial<Job> = {}, machine: Machine = desktop()): Job {
  const found: Placement = { a1: labelled('8GB 1Rx8 PC4-2400T-UA1-11') };
  return jobSchema.parse({
    ...blankIntake,
    ...{ id: 'job-1', version: 1, number: 7, openedAt: NOON, batch: null },
    ...{ complaint: 'Slow', need: null, needInput: null, margin: 0.25, school: 'balanced' },
    ...{
      drawCap: null,
      promised: null,
      capacityFirst: false,
      deadSlots: [],
      keptPlans: [],
      result: null,
      acceptedQuote: null,
    },
    customer: { id: 'customer-1', version: 1, name: 'Net loft', contact: '' },
    machine: {
      ...{ id: 'machine-1', version: 1, machine, locators: {}, coverMap: null },
      ...{ hasPhoto: false, interleave: null, provenParts: [], knownAs: [] },
    },
    snapshots: [
      { kind: 'as-found', version: 1, placement: found, setting: 'standard', savedAt: NOON },
    ],
    ...{ levelSpread: null, shownRate: null },
    ...{ measurements: [], events: [], memoryTests: [], memoryTestPassed: false, returns: [] },
    ...more,
  });
}
