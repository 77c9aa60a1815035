import { chmodSync, existsSync, mkdtempSync, statfsSync } from 'node:fs';
import { join } from 'node:path';

const MEMORY = '/dev/shm';
const ENOUGH = 1e9;

/** A directory that needs no disk, where the system has room for one: a database is a thousand files, and tests make many. */
export function inMemory(name: string): string | undefined {
  if (!existsSync(MEMORY)) return undefined;
  const { bavail, bsize } = statfsSync(MEMORY);
  if (bavail * bsize < ENOUGH) return undefined;
  const directory = mkdtempSync(join(MEMORY, `tembrix-${name}-`));
  // A PostgreSQL server of a test is another account's, and looks through it for its own.
  chmodSync(directory, 0o711);
  return directory;
}
