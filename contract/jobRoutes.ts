import { z } from 'zod';
import {
  RETURN_STATES,
  benchInput,
  benchLog,
  memoryTestInput,
  returnInput,
  returnRecord,
} from './bench.ts';
import {
  job,
  jobSummary,
  jobTerms,
  measurementInput,
  newJob,
  snapshotInput,
  snapshotKind,
} from './records.ts';
import { orderLine, quote, quoteAnswerInput, quoteInput } from './quotes.ts';
import { byId, created, pageQuery, route } from './route.ts';
import { id, serial, version, versionOrNone } from './text.ts';

const page = z.strictObject({
  state: z.enum(['open', 'closed']).default('open'),
  ...pageQuery,
});

/** Jobs are counted so far and no farther: counting tens of thousands takes longer than showing a page. */
export const JOBS_COUNTED = 1000;

/** Jobs, and what happens to them between intake and handing over. */
export const jobRoutes = {
  listJobs: route(
    'get',
    '/jobs',
    'staff',
    'Jobs, the longest waiting first',
    z.strictObject({
      jobs: z.array(jobSummary),
      total: z.number().int().describe(`${JOBS_COUNTED} = that many or more`),
    }),
    { query: page },
  ),
  createJob: route('post', '/jobs', 'staff', 'Open a job', job, { body: newJob, ...created }),
  importJob: route('post', '/jobs/import', 'bench', 'Take a job in from another bench', job, {
    body: z.strictObject({
      base64: z
        .base64('The content is not base64.')
        .max(30_000_000, 'A job in a file has 22 MB at most.'),
    }),
    ...created,
  }),
  readJob: route('get', '/jobs/{id}', 'staff', 'A job with all that belongs to it', job, {
    params: byId,
  }),
  changeJob: route('patch', '/jobs/{id}', 'staff', 'Change the terms of a job', job, {
    params: byId,
    body: jobTerms.partial().extend({ version, machineId: id.optional() }),
  }),
  saveSnapshot: route('put', '/jobs/{id}/snapshots/{kind}', 'bench', 'Save a configuration', job, {
    params: byId.extend({ kind: snapshotKind }),
    body: snapshotInput.extend({
      version: versionOrNone.describe('0 for the first save'),
    }),
  }),
  addMeasurement: route('post', '/jobs/{id}/measurements', 'bench', 'Record runs of a test', job, {
    params: byId,
    body: measurementInput,
    ...created,
  }),
  changeMeasurement: route(
    'put',
    '/jobs/{id}/measurements/{measurementId}',
    'bench',
    'Correct runs of a test',
    job,
    {
      params: byId.extend({ measurementId: id }),
      body: measurementInput.safeExtend({ version }),
    },
  ),
  removeMeasurement: route(
    'delete',
    '/jobs/{id}/measurements/{measurementId}',
    'bench',
    'Remove runs of a test',
    job,
    {
      params: byId.extend({ measurementId: id }),
    },
  ),
  closeJob: route(
    'post',
    '/jobs/{id}/close',
    'staff',
    'Hand over: the server computes the verdict and stores it',
    job,
    { params: byId, body: z.strictObject({ version }) },
  ),
  reopenJob: route('post', '/jobs/{id}/reopen', 'bench', 'Open a closed job again', job, {
    params: byId,
    body: z.strictObject({ version }),
  }),
  readBench: route('get', '/jobs/{id}/bench', 'staff', 'The bench log of a job', benchLog, {
    params: byId,
  }),
  addBenchNote: route(
    'post',
    '/jobs/{id}/bench',
    'bench',
    'Add to the bench log: a step done, what sits where, a reading, a check, or one taken back',
    benchLog,
    { params: byId, body: benchInput, ...created },
  ),
  addMemoryTest: route('post', '/jobs/{id}/memory-tests', 'bench', 'Record a memory test', job, {
    params: byId,
    body: memoryTestInput,
    ...created,
  }),
  removeMemoryTest: route(
    'delete',
    '/jobs/{id}/memory-tests/{testId}',
    'bench',
    'Remove a memory test recorded by mistake',
    job,
    { params: byId.extend({ testId: id }) },
  ),
  addReturn: route(
    'post',
    '/jobs/{id}/returns',
    'bench',
    'Put a module on the list of returns',
    job,
    {
      params: byId,
      body: returnInput,
      ...created,
    },
  ),
  listReturns: route(
    'get',
    '/returns',
    'staff',
    'Modules sent back, the latest first',
    z.array(returnRecord),
  ),
  changeReturn: route(
    'put',
    '/returns/{id}',
    'staff',
    'Say where a return stands',
    z.array(returnRecord),
    {
      params: byId,
      body: z.strictObject({
        state: z.enum(RETURN_STATES),
        serial: serial.optional().describe('As it was where absent'),
        version,
      }),
    },
  ),
  listQuotes: route(
    'get',
    '/jobs/{id}/quotes',
    'staff',
    'Quotes of a job, the latest first',
    z.array(quote),
    {
      params: byId,
    },
  ),
  issueQuote: route(
    'post',
    '/jobs/{id}/quotes',
    'staff',
    'Issue a quote for a plan; prices are frozen as the catalogue has them',
    z.array(quote),
    { params: byId, body: quoteInput, ...created },
  ),
  answerQuote: route(
    'post',
    '/jobs/{id}/quotes/{quoteId}/answer',
    'staff',
    'Record the answer; an accepted quote becomes the plan and holds its drawer modules',
    z.array(quote),
    { params: byId.extend({ quoteId: id }), body: quoteAnswerInput },
  ),
  listOrders: route(
    'get',
    '/orders',
    'staff',
    'Parts to order for accepted quotes, by supplier',
    z.array(orderLine),
  ),
  listBatch: route('get', '/batches/{id}', 'staff', 'The open jobs of a batch', z.array(job), {
    params: byId,
  }),
} as const;
