import type { Shop } from '#contract/quotes';
import { api } from './api.ts';

/** The shop's sign. */
export const logoApi = api.injectEndpoints({
  endpoints: (build) => ({
    saveLogo: build.mutation<Shop, { base64: string }>({
      query: (body) => ({ route: 'saveLogo', body }),
      invalidatesTags: ['shop'],
    }),
    removeLogo: build.mutation<Shop, void>({
      query: () => ({ route: 'removeLogo' }),
      invalidatesTags: ['shop'],
    }),
  }),
});
