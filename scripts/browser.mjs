import { existsSync } from 'node:fs';
import { join } from 'node:path';

/** Chromium without a window and what goes round one: a page opens in a quarter of the time. */
export const LIGHT = 'chromium-headless-shell';

/**
 * Debian's Chromium, wherever the PATH has it, the light one first.
 *
 * @param {readonly string[]} [names]
 * @returns {string | undefined}
 */
export function findBrowser(names = [LIGHT, 'chromium', 'chromium-browser']) {
  const folders = (process.env.PATH ?? '').split(':');
  return names.flatMap((name) => folders.map((folder) => join(folder, name))).find(existsSync);
}
