import { z } from 'zod';
import { route, storesNothing } from './route.ts';
import { id, moment } from './text.ts';

export const backup = z.strictObject({
  name: z.string(),
  at: moment,
  size: z.number().int().describe('Bytes'),
  isGiven: z.boolean().describe('Given in as a file, from elsewhere or from where copies are kept'),
});

/** How the bench's backups stand. Each was restored for a trial before it got its name. */
export const backupState = z.strictObject({
  isKept: z.boolean().describe('Made by themselves, one a day'),
  isRunning: z.boolean(),
  problem: z.string().nullable().describe('Why the last try came to nothing'),
  newest: backup.nullable(),
});

/** What restoring a backup would change: what is newer here than there. */
export const restorePreview = z.strictObject({
  ...{ name: z.string(), at: moment },
  tables: z.array(
    z.strictObject({
      name: z.string().describe('As people call its rows'),
      here: z.number().int(),
      there: z.number().int(),
      lost: z.number().int().describe('Here, and not there'),
      back: z.number().int().describe('There, and not here'),
      changed: z.number().int(),
    }),
  ),
  /** Jobs that are new or changed since, the latest first. */
  jobs: z.strictObject({
    named: z.array(
      z.strictObject({
        ...{ id, number: z.number().int(), customerName: z.string() },
        ...{ changedAt: moment, isLost: z.boolean() },
      }),
    ),
    more: z.number().int(),
  }),
});
export const restored = z.strictObject({
  name: z.string(),
  kept: z.string().describe('The backup that was made of what was here'),
});

export type BackupState = z.infer<typeof backupState>;
export type Backup = z.infer<typeof backup>;
export type RestorePreview = z.infer<typeof restorePreview>;
export type Restored = z.infer<typeof restored>;

const byName = z.strictObject({ name: z.string().max(60) });

/** Backups of everything. */
export const backupRoutes = {
  readBackups: route('get', '/backups', 'staff', 'How backups stand', backupState),
  makeBackup: route('post', '/backups', 'owner', 'Make a backup now', backupState, storesNothing),
};

/** Going back to a backup. */
export const restoreRoutes = {
  listBackups: route('get', '/backups/kept', 'owner', 'Backups kept', z.array(backup)),
  previewRestore: route(
    'post',
    '/backups/preview',
    'owner',
    'What restoring a backup would change',
    restorePreview,
    { body: byName, ...storesNothing },
  ),
  restoreBackup: route(
    'post',
    '/backups/restore',
    'owner',
    'Put a backup in the place of what is here; what is here is backed up first',
    restored,
    { body: byName, ...storesNothing },
  ),
} as const;
