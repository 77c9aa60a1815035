import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { StartError } from '../startError.ts';
import { migrationsFolder } from './options.ts';

interface Journal {
  readonly entries: readonly { readonly when: number }[];
}

/** When the newest change of schema was made that this program knows, ms. */
export function newestChange(): number {
  const file = join(migrationsFolder(), 'meta/_journal.json');
  const { entries } = JSON.parse(readFileSync(file, 'utf8')) as Journal;
  return entries.at(-1)?.when ?? 0;
}

/**
 * Refuses data that a newer version has written: an older one would not know what it must keep.
 *
 * @param newest - when the newest change of schema in the database was made; none in an empty one
 * @throws StartError when this version does not know it
 */
export function refuseNewerData(newest: number | undefined): void {
  if (newest === undefined || newest <= newestChange()) return;
  throw new StartError(
    'These data were written by a newer Tembrix.',
    'Start the newer one; this one changed nothing.',
  );
}

/** When the newest change of schema was made; no row where there has been none. */
export const NEWEST_CHANGE = `select created_at as newest from drizzle.__drizzle_migrations order by created_at desc limit 1`;
/** Whether there is a list of changes at all. */
export const HAS_CHANGES = `select to_regclass('drizzle.__drizzle_migrations') is not null as found`;
