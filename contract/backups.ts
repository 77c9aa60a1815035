import { z } from 'zod';
import { route, storesNothing } from './route.ts';
import { moment } from './text.ts';

/** How the bench's backups stand. Each was restored for a trial before it got its name. */
export const backupState = z.strictObject({
  isKept: z.boolean().describe('Made by themselves, one a day'),
  isRunning: z.boolean(),
  problem: z.string().nullable().describe('Why the last try came to nothing'),
  newest: z
    .strictObject({ name: z.string(), at: moment, size: z.number().int().describe('Bytes') })
    .nullable(),
});
export type BackupState = z.infer<typeof backupState>;

/** Backups of everything. */
export const backupRoutes = {
  readBackups: route('get', '/backups', 'staff', 'How backups stand', backupState),
  makeBackup: route('post', '/backups', 'owner', 'Make a backup now', backupState, storesNothing),
};
