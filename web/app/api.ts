import { createApi } from '@reduxjs/toolkit/query/react';
import type { BackupState } from '#contract/backups';
import type { BenchLog } from '#contract/bench';
import type { EvidenceContent, JobEvidence } from '#contract/evidence';
import type { Job } from '#contract/records';
import type { RouteName, Routes } from '#contract/routes';
import { baseQuery } from './baseQuery.ts';
import type { Body, Call, In, Output } from './baseQuery.ts';

export type { ApiFailure } from './baseQuery.ts';

/** What answers are of: a change says what it makes old. */
export const TAGS = [
  'session',
  'jobs',
  'job',
  'machines',
  'modules',
  'makers',
  'evidence',
  'drawer',
  'orders',
  'suppliers',
  'shop',
  'quotes',
  'bench',
  'returns',
  'tickets',
  'results',
  'door',
  'backups',
  'ledger',
] as const;

/** Everything the interface asks of the server. */
export const api = createApi({
  baseQuery,
  tagTypes: TAGS,
  refetchOnReconnect: true,
  endpoints: (build) => {
    /** A change that answers with the whole job, which then stands in the cache. */
    const jobChange = <Name extends RouteName, Arg extends { id?: string; body?: unknown }>(
      route: Name,
      callOf: (arg: Arg) => Omit<Call, 'route'>,
    ) =>
      build.mutation<Job, Arg>({
        query: (arg) => ({ route, ...callOf(arg) }),
        invalidatesTags: ['jobs'],
        onQueryStarted: async (_arg, { dispatch, queryFulfilled }) => {
          const done = await queryFulfilled.catch(() => undefined);
          if (done) await dispatch(api.util.upsertQueryData('job', done.data.id, done.data));
        },
      });
    /** A change that answers with all evidence of a job. */
    const evidenceChange = <Name extends RouteName>(route: Name) =>
      build.mutation<JobEvidence, { id: string; evidenceId?: string; body: Body<Name> }>({
        query: ({ id, evidenceId, body }) => ({ route, params: { id, evidenceId }, body }),
        // The history of the job has grown too.
        invalidatesTags: ['job'],
        onQueryStarted: async ({ id }, { dispatch, queryFulfilled }) => {
          const done = await queryFulfilled.catch(() => undefined);
          if (done) await dispatch(api.util.upsertQueryData('evidence', id, done.data));
        },
      });
    const onJob = <Name extends RouteName>(route: Name) =>
      jobChange<Name, { id: string; body: Body<Name> }>(route, ({ id, body }) => ({
        params: { id },
        body,
      }));
    return {
      jobs: build.query<Output<'listJobs'>, In<Routes['listJobs']['query']>>({
        query: (query) => ({ route: 'listJobs', query }),
        providesTags: ['jobs'],
        keepUnusedDataFor: 5,
      }),
      job: build.query<Job, string>({
        query: (id) => ({ route: 'readJob', params: { id } }),
        providesTags: ['job'],
      }),
      createJob: jobChange<'createJob', { body: Body<'createJob'> }>('createJob', ({ body }) => ({
        body,
      })),
      importJob: jobChange<'importJob', { body: Body<'importJob'> }>('importJob', ({ body }) => ({
        body,
      })),
      changeJob: onJob('changeJob'),
      closeJob: onJob('closeJob'),
      reopenJob: onJob('reopenJob'),
      addMeasurement: onJob('addMeasurement'),
      saveSnapshot: jobChange<
        'saveSnapshot',
        { id: string; kind: string; body: Body<'saveSnapshot'> }
      >('saveSnapshot', ({ id, kind, body }) => ({ params: { id, kind }, body })),
      changeMeasurement: jobChange<
        'changeMeasurement',
        { id: string; measurementId: string; body: Body<'changeMeasurement'> }
      >('changeMeasurement', ({ id, measurementId, body }) => ({
        params: { id, measurementId },
        body,
      })),
      removeMeasurement: jobChange<'removeMeasurement', { id: string; measurementId: string }>(
        'removeMeasurement',
        (params) => ({ params }),
      ),
      bench: build.query<BenchLog, string>({
        query: (id) => ({ route: 'readBench', params: { id } }),
        providesTags: ['bench'],
      }),
      addBenchNote: build.mutation<BenchLog, { id: string; body: Body<'addBenchNote'> }>({
        query: ({ id, body }) => ({ route: 'addBenchNote', params: { id }, body }),
        invalidatesTags: ['job', 'jobs', 'drawer'],
        onQueryStarted: async ({ id }, { dispatch, queryFulfilled }) => {
          const done = await queryFulfilled.catch(() => undefined);
          if (done) await dispatch(api.util.upsertQueryData('bench', id, done.data));
        },
      }),
      addMemoryTest: onJob('addMemoryTest'),
      removeMemoryTest: jobChange<'removeMemoryTest', { id: string; testId: string }>(
        'removeMemoryTest',
        (params) => ({ params }),
      ),
      addReturn: build.mutation<Job, { id: string; body: Body<'addReturn'> }>({
        query: ({ id, body }) => ({ route: 'addReturn', params: { id }, body }),
        invalidatesTags: ['job', 'jobs', 'returns'],
      }),
      backups: build.query<BackupState, void>({
        query: () => ({ route: 'readBackups' }),
        providesTags: ['backups'],
        keepUnusedDataFor: 5,
      }),
      makeBackup: build.mutation<BackupState, void>({
        query: () => ({ route: 'makeBackup' }),
        invalidatesTags: ['backups'],
      }),
      returns: build.query<Output<'listReturns'>, void>({
        query: () => ({ route: 'listReturns' }),
        providesTags: ['returns'],
      }),
      changeReturn: build.mutation<
        Output<'changeReturn'>,
        { id: string; body: Body<'changeReturn'> }
      >({
        query: ({ id, body }) => ({ route: 'changeReturn', params: { id }, body }),
        invalidatesTags: ['returns', 'job'],
      }),
      saveCover: build.mutation<Output<'saveCover'>, { id: string; body: Body<'saveCover'> }>({
        query: ({ id, body }) => ({ route: 'saveCover', params: { id }, body }),
        invalidatesTags: ['machines', 'job'],
      }),
      savePhoto: build.mutation<Output<'savePhoto'>, { id: string; body: Body<'savePhoto'> }>({
        query: ({ id, body }) => ({ route: 'savePhoto', params: { id }, body }),
        invalidatesTags: ['machines', 'job'],
      }),
      removePhoto: build.mutation<Output<'removePhoto'>, string>({
        query: (id) => ({ route: 'removePhoto', params: { id } }),
        invalidatesTags: ['machines', 'job'],
      }),
      evidence: build.query<JobEvidence, string>({
        query: (id) => ({ route: 'readEvidence', params: { id } }),
        providesTags: ['evidence'],
      }),
      evidenceContent: build.query<EvidenceContent, { id: string; evidenceId: string }>({
        query: (params) => ({ route: 'readEvidenceContent', params }),
        keepUnusedDataFor: 0, // what was read of it is kept; the browser keeps the bytes
      }),
      addEvidence: evidenceChange('addEvidence'),
      placeEvidence: evidenceChange('placeEvidence'),
      decideEvidence: evidenceChange('decideEvidence'),
      rememberLocator: build.mutation<
        Output<'rememberLocator'>,
        { id: string; body: Body<'rememberLocator'> }
      >({
        query: ({ id, body }) => ({ route: 'rememberLocator', params: { id }, body }),
        invalidatesTags: ['machines', 'job'],
      }),
      makers: build.query<Output<'listMakers'>, void>({
        query: () => ({ route: 'listMakers' }),
        providesTags: ['makers'],
      }),
      nameMaker: build.mutation<Output<'nameMaker'>, { key: string; body: Body<'nameMaker'> }>({
        query: ({ key, body }) => ({ route: 'nameMaker', params: { key }, body }),
        invalidatesTags: ['makers'],
      }),
      forgetMaker: build.mutation<Output<'forgetMaker'>, string>({
        query: (key) => ({ route: 'forgetMaker', params: { key } }),
        invalidatesTags: ['makers'],
      }),
      machines: build.query<Output<'listMachines'>, string>({
        query: (search) => ({ route: 'listMachines', query: { search } }),
        providesTags: ['machines'],
      }),
      /** Those of the library a firmware's name is known to be. */
      machinesKnownAs: build.query<Output<'listMachines'>, string>({
        query: (knownAs) => ({ route: 'listMachines', query: { search: '', knownAs } }),
        providesTags: ['machines'],
      }),
      machine: build.query<Output<'readMachine'>, string>({
        query: (id) => ({ route: 'readMachine', params: { id } }),
        providesTags: ['machines'],
      }),
      createMachine: build.mutation<Output<'createMachine'>, Body<'createMachine'>>({
        query: (body) => ({ route: 'createMachine', body }),
        invalidatesTags: ['machines'],
      }),
      changeMachine: build.mutation<
        Output<'changeMachine'>,
        { id: string; body: Body<'changeMachine'> }
      >({
        query: ({ id, body }) => ({ route: 'changeMachine', params: { id }, body }),
        invalidatesTags: ['machines', 'job', 'jobs'],
      }),
      customers: build.query<Output<'listCustomers'>, string>({
        query: (search) => ({ route: 'listCustomers', query: { search } }),
      }),
      modules: build.query<Output<'listModules'>, string>({
        query: (search) => ({ route: 'listModules', query: { search } }),
        providesTags: ['modules'],
      }),
      createModule: build.mutation<Output<'createModule'>, Body<'createModule'>>({
        query: (body) => ({ route: 'createModule', body }),
        invalidatesTags: ['modules'],
      }),
      changeModule: build.mutation<
        Output<'changeModule'>,
        { id: string; body: Body<'changeModule'> }
      >({
        query: ({ id, body }) => ({ route: 'changeModule', params: { id }, body }),
        invalidatesTags: ['modules'],
      }),
      removeModule: build.mutation<Output<'removeModule'>, string>({
        query: (id) => ({ route: 'removeModule', params: { id } }),
        invalidatesTags: ['modules'],
      }),
      importModules: build.mutation<Output<'importModules'>, Body<'importModules'>>({
        query: (body) => ({ route: 'importModules', body }),
        invalidatesTags: ['modules'],
      }),
      /** Modules in stock of some generations, separated by commas. */
      drawer: build.query<Output<'listDrawer'>, string>({
        query: (generations) => ({ route: 'listDrawer', query: { generations } }),
        providesTags: ['drawer'],
      }),
      shop: build.query<Output<'readShop'>, void>({
        query: () => ({ route: 'readShop' }),
        providesTags: ['shop'],
      }),
      changeShop: build.mutation<Output<'changeShop'>, Body<'changeShop'>>({
        query: (body) => ({ route: 'changeShop', body }),
        invalidatesTags: ['shop', 'session'], // how days and numbers are written
      }),
      quotes: build.query<Output<'listQuotes'>, string>({
        query: (id) => ({ route: 'listQuotes', params: { id } }),
        providesTags: ['quotes'],
      }),
      issueQuote: build.mutation<Output<'issueQuote'>, { id: string; body: Body<'issueQuote'> }>({
        query: ({ id, body }) => ({ route: 'issueQuote', params: { id }, body }),
        invalidatesTags: ['quotes', 'job', 'jobs'],
      }),
      answerQuote: build.mutation<
        Output<'answerQuote'>,
        { id: string; quoteId: string; body: Body<'answerQuote'> }
      >({
        query: ({ id, quoteId, body }) => ({ route: 'answerQuote', params: { id, quoteId }, body }),
        invalidatesTags: ['quotes', 'job', 'jobs', 'drawer', 'orders'],
      }),
      orders: build.query<Output<'listOrders'>, void>({
        query: () => ({ route: 'listOrders' }),
        providesTags: ['orders'],
      }),
      batch: build.query<Output<'listBatch'>, string>({
        query: (id) => ({ route: 'listBatch', params: { id } }),
        providesTags: ['job'],
      }),
      session: build.query<Output<'readSession'>, void>({
        query: () => ({ route: 'readSession' }),
        providesTags: ['session'],
      }),
      health: build.query<Output<'health'>, void>({ query: () => ({ route: 'health' }) }),
    };
  },
});
