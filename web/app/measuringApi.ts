import { measuringRoutes } from '#contract/measuringRoutes';
import type { Job } from '#contract/records';
import type { Routes } from '#contract/routes';
import { api } from './api.ts';
import { addRoutes } from './baseQuery.ts';
import type { Body, In, Output } from './baseQuery.ts';

addRoutes(measuringRoutes);

/** What measuring and its ledger ask of the server; its routes come with the pages. */
export const measuringApi = api.injectEndpoints({
  endpoints: (build) => ({
    leaveOut: build.mutation<Output<'leaveOut'>, { id: string; body: Body<'leaveOut'> }>({
      query: ({ id, body }) => ({ route: 'leaveOut', params: { id }, body }),
      invalidatesTags: ['ledger'],
    }),
    ledger: build.query<Output<'readLedger'>, In<Routes['readLedger']['query']>>({
      query: (query) => ({ route: 'readLedger', query }),
      providesTags: ['ledger'],
      keepUnusedDataFor: 5,
    }),
    shares: build.query<Output<'readShares'>, void>({
      query: () => ({ route: 'readShares' }),
      providesTags: ['ledger'],
      keepUnusedDataFor: 5,
    }),
    tickets: build.query<Output<'listTickets'>, string>({
      query: (id) => ({ route: 'listTickets', params: { id } }),
      providesTags: ['tickets'],
    }),
    makeTicket: build.mutation<Output<'makeTicket'>, { id: string; body: Body<'makeTicket'> }>({
      query: ({ id, body }) => ({ route: 'makeTicket', params: { id }, body }),
      invalidatesTags: ['tickets'],
    }),
    withdrawTicket: build.mutation<Output<'withdrawTicket'>, { id: string; ticketId: string }>({
      query: (params) => ({ route: 'withdrawTicket', params }),
      invalidatesTags: ['tickets'],
    }),
    addCarried: build.mutation<Job, { id: string; body: Body<'addCarried'> }>({
      query: ({ id, body }) => ({ route: 'addCarried', params: { id }, body }),
      invalidatesTags: ['job', 'jobs', 'results'],
    }),
    simulateResult: build.mutation<Job, { id: string; body: Body<'simulateResult'> }>({
      query: ({ id, body }) => ({ route: 'simulateResult', params: { id }, body }),
      invalidatesTags: ['job', 'jobs', 'results', 'tickets'],
    }),
    results: build.query<Output<'listResults'>, string>({
      query: (id) => ({ route: 'listResults', params: { id } }),
      providesTags: ['results'],
    }),
    door: build.query<Output<'readDoor'>, void>({
      query: () => ({ route: 'readDoor' }),
      providesTags: ['door'],
    }),
    changeDoor: build.mutation<Output<'changeDoor'>, Body<'changeDoor'>>({
      query: (body) => ({ route: 'changeDoor', body }),
      invalidatesTags: ['door'],
    }),
  }),
});
