import type { HeldExercise, ListedExercise, PracticeRun } from '#contract/practice';
import { practiceRoutes } from '#contract/practiceRoutes';
import { api } from './api.ts';
import { addRoutes } from './baseQuery.ts';
import type { Body } from './baseQuery.ts';

addRoutes(practiceRoutes);

/** What the practice pages ask of the server; its routes come with them. */
export const practiceApi = api
  .enhanceEndpoints({ addTagTypes: ['exercises', 'practiceRuns'] })
  .injectEndpoints({
    endpoints: (build) => ({
      exercises: build.query<ListedExercise[], void>({
        query: () => ({ route: 'listExercises' }),
        providesTags: ['exercises'],
      }),
      exercise: build.query<HeldExercise, string>({
        query: (id) => ({ route: 'readExercise', params: { id } }),
        providesTags: ['exercises'],
      }),
      importExercise: build.mutation<HeldExercise, { body: Body<'importExercise'> }>({
        query: ({ body }) => ({ route: 'importExercise', body }),
        invalidatesTags: ['exercises'],
      }),
      exerciseFromJob: build.mutation<HeldExercise, { id: string }>({
        query: (params) => ({ route: 'exerciseFromJob', params, body: {} }),
        invalidatesTags: ['exercises'],
      }),
      changeExercise: build.mutation<HeldExercise, { id: string; body: Body<'changeExercise'> }>({
        query: ({ id, body }) => ({ route: 'changeExercise', params: { id }, body }),
        invalidatesTags: ['exercises'],
      }),
      removeExercise: build.mutation<ListedExercise[], { id: string }>({
        query: (params) => ({ route: 'removeExercise', params }),
        invalidatesTags: ['exercises'],
      }),
      practiceRuns: build.query<PracticeRun[], string>({
        query: (by) => ({ route: 'listPracticeRuns', query: { by } }),
        providesTags: ['practiceRuns'],
      }),
      recordPracticeRun: build.mutation<PracticeRun, { body: Body<'recordPracticeRun'> }>({
        query: ({ body }) => ({ route: 'recordPracticeRun', body }),
        invalidatesTags: ['practiceRuns'],
      }),
    }),
  });
