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
    requireSame(content, await readContent(scratch.db));
  } finally {
    await scratch.close();
  }
}

/** @throws ArchiveError naming what differs from what was put somewhere, once it is read there */
export function requireSame(put: BenchContent, read: BenchContent): void {
  const again = manifestOf(read, new Date());
  const first = manifestOf(put, new Date());
  const odd = first.tables.find(
    ({ name, sha256 }) => again.tables.find((one) => one.name === name)?.sha256 !== sha256,
  );
  if (odd || again.files.length !== first.files.length)
    throw new ArchiveError(
      `Restored, ${odd?.name ?? 'a file'} came back otherwise.`,
      'Do not rely on it. Keep the data directory, and the log.',
    );
}

/** Writes a backup of everything as it stands at one moment. */
export async function backUp(db: Database, out: () => Writable): Promise<Manifest> {
  return writeArchive(await readContent(db), out());
}
