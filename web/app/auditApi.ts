import { auditRoutes } from '#contract/audit';
import type { AuditPage } from '#contract/audit';
import type { Routes } from '#contract/routes';
import { api } from './api.ts';
import { addRoutes } from './baseQuery.ts';
import type { In } from './baseQuery.ts';

addRoutes(auditRoutes);

/** What the page of changes asks of the server. */
export const auditApi = api.injectEndpoints({
  endpoints: (build) => ({
    changes: build.infiniteQuery<AuditPage, In<Routes['listChanges']['query']>, number | null>({
      query: ({ queryArg, pageParam }) => ({
        route: 'listChanges',
        query: { ...queryArg, ...(pageParam === null ? {} : { before: pageParam }) },
      }),
      infiniteQueryOptions: {
        initialPageParam: null,
        getNextPageParam: ({ next }) => next ?? undefined,
      },
      keepUnusedDataFor: 5,
    }),
  }),
});
