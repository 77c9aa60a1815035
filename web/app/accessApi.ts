import type { Session } from '#contract/access';
import { accessRoutes } from '#contract/accessRoutes';
import type { Account, OpenSession, TabletLink } from '#contract/accounts';
import type { RouteName } from '#contract/routes';
import { api } from './api.ts';
import { addRoutes } from './baseQuery.ts';
import type { Body } from './baseQuery.ts';

addRoutes(accessRoutes);

/** What coming in, and who may, ask of the server; its routes come with the pages. */
export const accessApi = api
  .enhanceEndpoints({ addTagTypes: ['sessions', 'accounts'] })
  .injectEndpoints({
    endpoints: (build) => {
      /** A change of who is here: it answers with where one stands, which then stands in the cache. */
      const coming = <Name extends RouteName>(route: Name) =>
        build.mutation<Session, Body<Name>>({
          query: (body) => ({ route, body }),
          invalidatesTags: ['sessions'],
          onQueryStarted: async (_arg, { dispatch, queryFulfilled }) => {
            const done = await queryFulfilled.catch(() => undefined);
            if (done) await dispatch(api.util.upsertQueryData('session', undefined, done.data));
          },
        });
      const ofAccount = <Name extends RouteName>(route: Name) =>
        build.mutation<Account[], { id?: string; body: Body<Name> }>({
          query: ({ id, body }) => ({ route, params: { id }, body }),
          invalidatesTags: ['accounts'],
        });
      return {
        setUp: coming('setUp'),
        signIn: coming('signIn'),
        takeOver: coming('takeOver'),
        joinJob: coming('joinJob'),
        signOut: coming('signOut'),
        hold: coming('holdBench'),
        setPin: coming('setPin'),
        changePassword: coming('changePassword'),
        sessions: build.query<OpenSession[], void>({
          query: () => ({ route: 'listSessions' }),
          providesTags: ['sessions'],
          keepUnusedDataFor: 5,
        }),
        endSession: build.mutation<OpenSession[], string>({
          query: (id) => ({ route: 'endSession', params: { id } }),
          invalidatesTags: ['sessions'],
        }),
        letTabletIn: build.mutation<TabletLink, string>({
          query: (id) => ({ route: 'letTabletIn', params: { id }, body: {} }),
        }),
        accounts: build.query<Account[], void>({
          query: () => ({ route: 'listAccounts' }),
          providesTags: ['accounts'],
          keepUnusedDataFor: 5,
        }),
        addAccount: ofAccount('addAccount'),
        changeAccount: ofAccount('changeAccount'),
        setPassword: ofAccount('setPassword'),
      };
    },
  });
