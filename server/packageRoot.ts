import { existsSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

/** The folder with package.json, found from source as well as from the built server. */
export function packageRoot(): string {
  let folder = dirname(fileURLToPath(import.meta.url));
  while (!existsSync(join(folder, 'package.json'))) {
    const parent = dirname(folder);
    if (parent === folder) throw new Error('expected a package.json above the server');
    folder = parent;
  }
  return folder;
}
