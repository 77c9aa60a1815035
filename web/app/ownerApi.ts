import { backup, restoreRoutes } from '#contract/backups';
import type { Backup, RestorePreview, Restored } from '#contract/backups';
import { customerDataRoutes } from '#contract/customerData';
import type { Erased, HeldCustomer } from '#contract/customerData';
import { api } from './api.ts';
import { PRINTS } from '#contract/prints';
import { addRoutes, giveFile } from './baseQuery.ts';

addRoutes({ ...restoreRoutes, ...customerDataRoutes });

/** What only the owner asks of the server: going back, and what is held of customers. */
export const ownerApi = api.injectEndpoints({
  endpoints: (build) => ({
    /** By the newest one's name: another is another answer. */
    keptBackups: build.query<Backup[], string | undefined>({
      query: () => ({ route: 'listBackups' }),
      providesTags: ['backups'],
    }),
    giveBackup: build.mutation<Backup, File>({
      queryFn: (file) => giveFile(PRINTS.backupGiven.path, file, backup),
      invalidatesTags: ['backups'],
    }),
    previewRestore: build.mutation<RestorePreview, string>({
      query: (name) => ({ route: 'previewRestore', body: { name } }),
    }),
    restoreBackup: build.mutation<Restored, string>({
      query: (name) => ({ route: 'restoreBackup', body: { name } }),
    }),
    heldCustomers: build.query<HeldCustomer[], string>({
      query: (search) => ({ route: 'listHeldCustomers', query: { search } }),
      providesTags: ['jobs'],
    }),
    eraseCustomer: build.mutation<Erased, { id: string; name: string }>({
      query: ({ id, name }) => ({ route: 'eraseCustomer', params: { id }, body: { name } }),
      invalidatesTags: ['jobs', 'job', 'quotes', 'evidence'],
    }),
  }),
});
