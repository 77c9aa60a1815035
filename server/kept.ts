import { mkdir, rename, writeFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { packageRoot } from './packageRoot.ts';

/** Where what takes long to make is kept; its name tells all it is made of. */
export const keptFile = (name: string): string =>
  join(packageRoot(), 'node_modules/.cache/tembrix', name);

/**
 * Keeps a file, whole or not at all.
 *
 * @returns whether it is there; the program may lie where it must not write
 */
export async function keep(file: string, content: Uint8Array): Promise<boolean> {
  try {
    await mkdir(dirname(file), { recursive: true });
    // Under another name first: a second process may be looking.
    const draft = `${file}.${process.pid}`;
    await writeFile(draft, content);
    await rename(draft, file);
    return true;
  } catch {
    return false;
  }
}
