import { createReadStream, createWriteStream, readdirSync, statSync } from 'node:fs';
import { mkdir, open, rename, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { Transform } from 'node:stream';
import type { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { Backup } from '#contract/backups';
import { newId } from '../store/operations/library.ts';
import { NotFoundError, StateError } from '../store/operations/errors.ts';
import { newestChange } from '../store/migrate.ts';
import { readArchive } from './archive.ts';
import { ArchiveError } from './format.ts';
import type { BackupKeeper } from './keeper.ts';
import { backupName, backupTime } from './names.ts';

/** Largest file taken in, bytes; a larger one is restored by command, where it lies. */
const MOST_BYTES = 2e9;
/** Given in and kept; whoever gave one in has the file. */
const KEPT = 3;

/**
 * Takes a backup in as a file, so that it can be looked at and gone back to like the bench's own.
 * Nothing of the bench changes. It is read whole before it has its name.
 *
 * @returns the backup as it is listed
 * @throws StateError where it is damaged, cut off, foreign, newer or too large
 */
export async function takeIn(keeper: BackupKeeper, source: Readable): Promise<Backup> {
  const { givenPlace: place } = keeper;
  // A made-up world keeps none.
  if (place === undefined) throw new NotFoundError('A place for backups');
  await mkdir(place, { recursive: true, mode: 0o700 });
  const coming = join(place, `${newId()}.coming`);
  try {
    await pipeline(source, bounded(), createWriteStream(coming, { mode: 0o600 }));
    const { manifest } = await readArchive(createReadStream(coming), newestChange());
    const file = await open(coming, 'r+');
    await file.sync().finally(() => file.close());
    const name = backupName(new Date(manifest.writtenAt));
    await rename(coming, join(place, name));
    await letOlderGo(place, name);
    const found = keeper.list().find((one) => one.isGiven && one.name.endsWith(name));
    if (!found) throw new Error(`expected ${name} to be listed`);
    return found;
  } catch (error) {
    if (error instanceof ArchiveError) throw new StateError(error.message, error.mend);
    throw error;
  } finally {
    await rm(coming, { force: true });
  }
}

function bounded(): Transform {
  let size = 0;
  return new Transform({
    transform(chunk: Buffer, _encoding, next) {
      size += chunk.length;
      if (size <= MOST_BYTES) next(null, chunk);
      else
        next(
          new ArchiveError(
            'The file is larger than 2 GB.',
            'Restore it on the bench’s computer itself: npm run restore -- FILE.',
          ),
        );
    },
  });
}

/** Those given in longest ago go, never the one just given. */
async function letOlderGo(place: string, name: string): Promise<void> {
  const others = readdirSync(place)
    .filter((one) => backupTime(one) !== '' && one !== name)
    .map((one) => ({ one, at: statSync(join(place, one)).mtimeMs }))
    .sort((a, b) => b.at - a.at);
  for (const { one } of others.slice(KEPT - 1)) await rm(join(place, one), { force: true });
}
