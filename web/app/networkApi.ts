import { networkRoutes } from '#contract/network';
import type { Network } from '#contract/network';
import { api } from './api.ts';
import { addRoutes } from './baseQuery.ts';
import type { Body } from './baseQuery.ts';

addRoutes(networkRoutes);

/** What the page of the bench’s own line asks of the server. */
export const networkApi = api.enhanceEndpoints({ addTagTypes: ['network'] }).injectEndpoints({
  endpoints: (build) => ({
    network: build.query<Network, void>({
      query: () => ({ route: 'readNetwork' }),
      providesTags: ['network'],
    }),
    changeNetwork: build.mutation<Network, Body<'changeNetwork'>>({
      query: (body) => ({ route: 'changeNetwork', body }),
      invalidatesTags: ['network'],
    }),
  }),
});
