import { timingSafeEqual } from 'node:crypto';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { newToken } from './secrets.ts';

/** The header programs of this machine show the key in. */
export const LOCAL_KEY_HEADER = 'x-local-key';

const fileIn = (directory: string) => join(directory, 'local-key');

/**
 * A key for programs of this machine, such as the backup: new at every start, and readable for the
 * account the bench runs under alone.
 *
 * @param directory - the data directory, where the key is left for others of that account
 */
export function makeLocalKey(directory: string | undefined): string {
  const key = newToken();
  if (directory !== undefined) writeFileSync(fileIn(directory), key, { mode: 0o600 });
  return key;
}

/** The key of the bench that runs on a directory: as it was handed over, or as it was left. */
export function readLocalKey(directory: string | undefined): string {
  const { TEMBRIX_LOCAL_KEY = '' } = process.env;
  if (TEMBRIX_LOCAL_KEY !== '' || directory === undefined) return TEMBRIX_LOCAL_KEY;
  try {
    return readFileSync(fileIn(directory), 'utf8');
  } catch {
    return '';
  }
}

/** Whether a key shown is the one; takes as long for every wrong one. */
export function isLocalKey(key: string, shown: string | undefined): boolean {
  const [a, b] = [Buffer.from(key), Buffer.from(shown ?? '')];
  return a.length === b.length && timingSafeEqual(a, b);
}
