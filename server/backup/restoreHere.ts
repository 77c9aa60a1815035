import { createReadStream, createWriteStream, existsSync } from 'node:fs';
import { rename, rm } from 'node:fs/promises';
import { basename, join } from 'node:path';
import { sql } from 'drizzle-orm';
import type { Backup, RestorePreview, Restored } from '#contract/backups';
import { newestChange } from '../store/migrate.ts';
import { NotFoundError, StateError } from '../store/operations/errors.ts';
import type { Database, Write } from '../store/openStore.ts';
import { withoutGuards } from '../store/standing.ts';
import { readArchive, writeArchive } from './archive.ts';
import { prove } from './backup.ts';
import { putContent, readContent, tablesOf } from './content.ts';
import { ArchiveError } from './format.ts';
import type { BenchContent } from './format.ts';
import type { BackupKeeper } from './keeper.ts';
import { backupName, backupTime } from './names.ts';
import { previewOf } from './preview.ts';

/** Not part of what a backup holds: the shop's own certificate stays as it is. */
const STAYS = new Set(['certificates']);

async function contentOf(keeper: BackupKeeper, name: string): Promise<BenchContent> {
  // By the list, not by the name: no path goes anywhere else.
  const known = keeper.list().find((one) => one.name === name);
  if (!known || keeper.place === undefined) throw new NotFoundError('This backup');
  try {
    return (await readArchive(createReadStream(join(keeper.place, known.name)), newestChange()))
      .content;
  } catch (error) {
    throw error instanceof ArchiveError ? new StateError(error.message, error.mend) : error;
  }
}

/** What restoring a backup would change here. Changes nothing. */
export async function previewRestore(
  db: Database,
  keeper: BackupKeeper,
  name: string,
): Promise<RestorePreview> {
  const there = await contentOf(keeper, name);
  const at = backupTime(basename(name));
  return { name, at, ...previewOf(await readContent(db), there) };
}

/** A backup of what is here, proven, before something else takes its place. */
async function keepFirst(content: BenchContent, place: string): Promise<Backup['name']> {
  await prove(content);
  let name = backupName(new Date());
  // Another of this second: the next one's name is free.
  while (existsSync(join(place, name)))
    name = backupName(new Date(Date.parse(backupTime(name)) + 1000));
  const making = join(place, `${name}.part`);
  try {
    await writeArchive(content, createWriteStream(making, { mode: 0o600 }));
    await rename(making, join(place, name));
  } catch (error) {
    await rm(making, { force: true });
    throw error;
  }
  return name;
}

/**
 * Puts a backup in the place of what is here: all of it or nothing. What is here is backed up first,
 * and everybody has to sign in again.
 */
export async function restoreHere(
  db: Database,
  write: Write,
  keeper: BackupKeeper,
  name: string,
): Promise<Restored> {
  const there = await contentOf(keeper, name);
  if (keeper.place === undefined) throw new NotFoundError('This backup');
  const kept = await keepFirst(await readContent(db), keeper.place);
  await write(async (tx) => {
    const tables = [...(await tablesOf(tx)).keys()].filter((table) => !STAYS.has(table));
    await withoutGuards(tx, tables, async () => {
      const list = sql.join(
        tables.map((table) => sql.identifier(table)),
        sql`, `,
      );
      await tx.execute(sql`truncate ${list} restart identity`);
      await putContent(tx, there);
    });
  });
  return { name, kept };
}
