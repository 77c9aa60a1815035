import type { Writable } from 'node:stream';
import { openMemory } from '../store/embedded.ts';
import type { Database } from '../store/openStore.ts';
import { writeArchive } from './archive.ts';
import { putContent, readContent } from './content.ts';
import { ArchiveError, manifestOf } from './format.ts';
import type { BenchContent, Manifest } from './format.ts';

/**
 * Restores content into a scratch database and reads it out again: a backup that was never restored is
 * only a hope. Takes some seconds of the whole processor, so a bench at work leaves it to the command.
 *
 * @throws ArchiveError naming what came back otherwise
 */
export async function prove(content: BenchContent): Promise<void> {
  const scratch = await openMemory();
  try {
    await putContent(scratch.db, content);
    const again = manifestOf(await readContent(scratch.db), new Date());
    const first = manifestOf(content, new Date());
    const odd = first.tables.find(
      ({ name, sha256 }) => again.tables.find((one) => one.name === name)?.sha256 !== sha256,
    );
    if (odd || again.files.length !== first.files.length)
      throw new ArchiveError(
        `Restored for a trial, ${odd?.name ?? 'a file'} came back otherwise.`,
        'The backup was not kept. Keep the data directory, and the log.',
      );
  } finally {
    await scratch.close();
  }
}

/** Writes a backup of everything as it stands at one moment. */
export async function backUp(db: Database, out: () => Writable): Promise<Manifest> {
  return writeArchive(await readContent(db), out());
}

/** What a backup is called: in order of time. */
export const backupName = (at: Date): string =>
  `tembrix-${at.toISOString().slice(0, 19).replaceAll(/[-:]/g, '').replace('T', '-')}.tar.gz`;
