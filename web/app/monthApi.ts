import { monthRoutes } from '#contract/month';
import type { MonthAnswer } from '#contract/month';
import { api } from './api.ts';
import { addRoutes } from './baseQuery.ts';

addRoutes(monthRoutes);

/** What the owner's month asks of the server. */
export const monthApi = api.injectEndpoints({
  endpoints: (build) => ({
    month: build.query<MonthAnswer, string>({
      query: (month) => ({ route: 'readMonth', params: { month } }),
      providesTags: ['jobs', 'quotes', 'returns', 'drawer'],
      keepUnusedDataFor: 5,
    }),
  }),
});
