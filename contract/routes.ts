import { z } from 'zod';
import {
  RETURN_STATES,
  benchInput,
  benchLog,
  coverMap,
  interleave,
  memoryTestInput,
  photoInput,
  returnInput,
  returnRecord,
} from './bench.ts';
import { labelInput, labelOutput, operatingPointInput, operatingPointOutput } from './computing.ts';
import { decisionInput, evidenceInput, jobEvidence, makerInput, makerRecord } from './evidence.ts';
import { inventoryInput, inventoryOutput } from './inventory.ts';
import { machine } from './machine.ts';
import {
  customer,
  job,
  jobSummary,
  jobTerms,
  machineRecord,
  measurementInput,
  moduleInput,
  moduleRecord,
  newJob,
  snapshotInput,
  snapshotKind,
} from './records.ts';
import { planSearchInput, planSearchOutput } from './planning.ts';
import {
  drawerInput,
  drawerRecord,
  orderLine,
  quote,
  quoteAnswerInput,
  quoteInput,
  shop,
  shopTerms,
} from './quotes.ts';
import { byId, created, route, search } from './route.ts';
import { measuringRoutes } from './measuringRoutes.ts';
import { id, version } from './text.ts';

export type { Route } from './route.ts';

const page = z.strictObject({
  state: z.enum(['open', 'closed']).default('open'),
  search: z.string().max(200).default(''),
  limit: z.coerce.number().int().min(1).max(200).default(50),
  offset: z.coerce.number().int().min(0).default(0),
});

/** Every resource of the API. */
export const routes = {
  health: route(
    'get',
    '/health',
    'Whether the server answers',
    z.strictObject({
      ok: z.literal(true),
      isDemo: z.boolean().describe('A made-up world: machines can be simulated'),
    }),
  ),
  listJobs: route(
    'get',
    '/jobs',
    'Jobs, the longest waiting first',
    z.strictObject({ jobs: z.array(jobSummary), total: z.number().int() }),
    { query: page },
  ),
  createJob: route('post', '/jobs', 'Open a job', job, { body: newJob, ...created }),
  readJob: route('get', '/jobs/{id}', 'A job with all that belongs to it', job, { params: byId }),
  changeJob: route('patch', '/jobs/{id}', 'Change the terms of a job', job, {
    params: byId,
    body: jobTerms.partial().extend({ version, machineId: id.optional() }),
  }),
  saveSnapshot: route('put', '/jobs/{id}/snapshots/{kind}', 'Save a configuration', job, {
    params: byId.extend({ kind: snapshotKind }),
    body: snapshotInput.extend({
      version: z.number().int().min(0).describe('0 for the first save'),
    }),
  }),
  addMeasurement: route('post', '/jobs/{id}/measurements', 'Record runs of a test', job, {
    params: byId,
    body: measurementInput,
    ...created,
  }),
  changeMeasurement: route(
    'put',
    '/jobs/{id}/measurements/{measurementId}',
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
    'Remove runs of a test',
    job,
    {
      params: byId.extend({ measurementId: id }),
    },
  ),
  closeJob: route(
    'post',
    '/jobs/{id}/close',
    'Hand over: the server computes the verdict and stores it',
    job,
    { params: byId, body: z.strictObject({ version }) },
  ),
  reopenJob: route('post', '/jobs/{id}/reopen', 'Open a closed job again', job, {
    params: byId,
    body: z.strictObject({ version }),
  }),
  readBench: route('get', '/jobs/{id}/bench', 'The bench log of a job', benchLog, { params: byId }),
  addBenchNote: route(
    'post',
    '/jobs/{id}/bench',
    'Add to the bench log: a step done, what sits where, a reading, a check, or one taken back',
    benchLog,
    { params: byId, body: benchInput, ...created },
  ),
  addMemoryTest: route('post', '/jobs/{id}/memory-tests', 'Record a memory test', job, {
    params: byId,
    body: memoryTestInput,
    ...created,
  }),
  removeMemoryTest: route(
    'delete',
    '/jobs/{id}/memory-tests/{testId}',
    'Remove a memory test recorded by mistake',
    job,
    { params: byId.extend({ testId: id }) },
  ),
  addReturn: route('post', '/jobs/{id}/returns', 'Put a module on the list of returns', job, {
    params: byId,
    body: returnInput,
    ...created,
  }),
  listReturns: route(
    'get',
    '/returns',
    'Modules sent back, the latest first',
    z.array(returnRecord),
  ),
  changeReturn: route('put', '/returns/{id}', 'Say where a return stands', z.array(returnRecord), {
    params: byId,
    body: z.strictObject({ state: z.enum(RETURN_STATES), version }),
  }),
  ...measuringRoutes,
  readEvidence: route('get', '/jobs/{id}/evidence', 'All evidence of a job', jobEvidence, {
    params: byId,
  }),
  addEvidence: route(
    'post',
    '/jobs/{id}/evidence',
    'Add evidence: files as they are, labels and screens as typed',
    jobEvidence,
    {
      params: byId,
      body: z.strictObject({ documents: z.array(evidenceInput).min(1).max(100) }),
      ...created,
    },
  ),
  placeEvidence: route(
    'put',
    '/jobs/{id}/evidence/{evidenceId}/slots',
    'Say which slots evidence belongs to; its content stays as it is',
    jobEvidence,
    {
      params: byId.extend({ evidenceId: id }),
      body: evidenceInput.pick({ slotIds: true, by: true }),
    },
  ),
  decideEvidence: route(
    'post',
    '/jobs/{id}/decisions',
    'Decide which evidence to believe',
    jobEvidence,
    {
      params: byId,
      body: z.strictObject({ decisions: z.array(decisionInput).min(1).max(50) }),
      ...created,
    },
  ),
  listMakers: route('get', '/makers', 'The maker register', z.array(makerRecord)),
  nameMaker: route('put', '/makers/{key}', 'Name a maker code', z.array(makerRecord), {
    params: makerRecord.pick({ key: true }),
    body: makerInput,
  }),
  forgetMaker: route('delete', '/makers/{key}', 'Take a name back', z.array(makerRecord), {
    params: makerRecord.pick({ key: true }),
  }),
  listCustomers: route('get', '/customers', 'Customers by name', z.array(customer), {
    query: search,
  }),
  listMachines: route('get', '/machines', 'The machine library', z.array(machineRecord), {
    query: search,
  }),
  createMachine: route('post', '/machines', 'Add a machine', machineRecord, {
    body: z.strictObject({ machine }),
    ...created,
  }),
  readMachine: route('get', '/machines/{id}', 'One machine', machineRecord, { params: byId }),
  changeMachine: route('put', '/machines/{id}', 'Change a machine', machineRecord, {
    params: byId,
    body: z.strictObject({ machine, version }),
  }),
  saveCover: route(
    'put',
    '/machines/{id}/cover',
    'Save how a machine’s cover opens, and how its addresses interleave; null forgets',
    machineRecord,
    {
      params: byId,
      body: z.strictObject({
        coverMap: coverMap.nullable().optional(),
        interleave: interleave.nullable().optional(),
        version,
      }),
    },
  ),
  savePhoto: route(
    'put',
    '/machines/{id}/photo',
    'Save a photo of a machine’s cover',
    machineRecord,
    {
      params: byId,
      body: photoInput,
    },
  ),
  removePhoto: route('delete', '/machines/{id}/photo', 'Remove the photo', machineRecord, {
    params: byId,
  }),
  rememberLocator: route(
    'put',
    '/machines/{id}/locators',
    'Remember where a firmware’s name for a place belongs; null forgets',
    machineRecord,
    {
      params: byId,
      body: z.strictObject({
        key: z.string().min(1).max(120),
        slotId: z.string().min(1).max(40).nullable().describe('"none" = no such slot'),
      }),
    },
  ),
  listModules: route('get', '/modules', 'The module catalogue', z.array(moduleRecord), {
    query: search,
  }),
  createModule: route('post', '/modules', 'Add a module', moduleRecord, {
    body: moduleInput,
    ...created,
  }),
  changeModule: route('put', '/modules/{id}', 'Change a module', moduleRecord, {
    params: byId,
    body: moduleInput.extend({ version }),
  }),
  removeModule: route(
    'delete',
    '/modules/{id}',
    'Take a module out of the catalogue',
    z.array(moduleRecord),
    {
      params: byId,
    },
  ),
  importModules: route(
    'post',
    '/modules/import',
    'Add and change many modules at once, all or none',
    z.array(moduleRecord),
    {
      body: z.strictObject({
        modules: z
          .array(moduleInput.extend({ id: id.optional() }))
          .min(1)
          .max(10_000),
      }),
    },
  ),
  listDrawer: route('get', '/drawer', 'Used modules in the drawer', z.array(drawerRecord)),
  addToDrawer: route('post', '/drawer', 'Put a module into the drawer', z.array(drawerRecord), {
    body: drawerInput,
    ...created,
  }),
  changeInDrawer: route(
    'put',
    '/drawer/{id}',
    'Change a module in the drawer',
    z.array(drawerRecord),
    {
      params: byId,
      body: drawerInput.extend({ version }),
    },
  ),
  takeFromDrawer: route(
    'delete',
    '/drawer/{id}',
    'Take a module out of the drawer',
    z.array(drawerRecord),
    {
      params: byId,
    },
  ),
  readShop: route('get', '/shop', 'What the shop charges and promises', shop),
  changeShop: route('put', '/shop', 'Change what the shop charges and promises', shop, {
    body: z.strictObject({ terms: shopTerms, version: z.number().int().min(0) }),
  }),
  listQuotes: route(
    'get',
    '/jobs/{id}/quotes',
    'Quotes of a job, the latest first',
    z.array(quote),
    {
      params: byId,
    },
  ),
  issueQuote: route(
    'post',
    '/jobs/{id}/quotes',
    'Issue a quote for a plan; prices are frozen as the catalogue has them',
    z.array(quote),
    { params: byId, body: quoteInput, ...created },
  ),
  answerQuote: route(
    'post',
    '/jobs/{id}/quotes/{quoteId}/answer',
    'Record the answer; an accepted quote becomes the plan and holds its drawer modules',
    z.array(quote),
    { params: byId.extend({ quoteId: id }), body: quoteAnswerInput },
  ),
  listOrders: route(
    'get',
    '/orders',
    'Parts to order for accepted quotes, by supplier',
    z.array(orderLine),
  ),
  listBatch: route('get', '/batches/{id}', 'The open jobs of a batch', z.array(job), {
    params: byId,
  }),
  searchPlans: route(
    'post',
    '/plans/search',
    'Every sensible way to upgrade a machine; stores nothing',
    planSearchOutput,
    { body: planSearchInput },
  ),
  operatingPoint: route(
    'post',
    '/operating-point',
    'What a placement does in a machine; stores nothing',
    operatingPointOutput,
    { body: operatingPointInput },
  ),
  readLabel: route('post', '/labels/read', 'Read a module label; stores nothing', labelOutput, {
    body: labelInput,
  }),
  readInventory: route(
    'post',
    '/inventory/read',
    'Read inventory files of a machine; stores nothing',
    inventoryOutput,
    { body: inventoryInput },
  ),
} as const;

export type Routes = typeof routes;
export type RouteName = keyof Routes;
