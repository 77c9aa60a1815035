import { createHash } from 'node:crypto';
import { createReadStream, existsSync, openAsBlob, readFileSync, readdirSync } from 'node:fs';
import { mkdir, writeFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { drizzle } from 'drizzle-orm/pglite';
import { migrate } from 'drizzle-orm/pglite/migrator';
import { extract } from 'tar-stream';
import { keep, keptFile } from '../kept.ts';
import { Engine } from './engine.ts';
import { engineOptions, migrationsFolder, storeOptions } from './options.ts';

/**
 * Where an empty database with its schema up to date is kept, as a tar file: the engine takes seconds to
 * make one, in which nobody is answered, and every new one is alike. Its name tells the engine and every
 * change of schema, so that an older one is never taken.
 */
function imageFile(): string {
  const hash = createHash('sha256');
  hash.update(readFileSync(createRequire(import.meta.url).resolve('@electric-sql/pglite')));
  const migrations = readdirSync(migrationsFolder(), { recursive: true, withFileTypes: true });
  for (const one of migrations.filter((entry) => entry.isFile()))
    hash.update(readFileSync(join(one.parentPath, one.name)));
  return keptFile(`empty-${hash.digest('hex').slice(0, 16)}.tar`);
}

/** Makes one, and keeps it where that is allowed; where it is not, the next one is made anew. */
async function make(file: string): Promise<Blob> {
  const engine = await Engine.open(engineOptions);
  await migrate(drizzle(engine, storeOptions), { migrationsFolder: migrationsFolder() });
  const image = await engine.dumpDataDir('none');
  await engine.close();
  await keep(file, Buffer.from(await image.arrayBuffer()));
  return image;
}

/** An empty database with its schema up to date, to start an engine in memory from. */
export async function emptyDatabase(): Promise<Blob> {
  const file = imageFile();
  return existsSync(file) ? openAsBlob(file) : make(file);
}

/** The engine leaves this behind when it ends without notice, and a copy is taken while it runs. */
const PROCESS_FILE = 'postmaster.pid';

/** Unpacks an empty database with its schema up to date into a directory: the owner's alone. */
export async function unpackEmptyDatabase(directory: string): Promise<void> {
  const file = imageFile();
  const image = existsSync(file) ? createReadStream(file) : (await make(file)).stream();
  const tar = extract();
  const write = async () => {
    for await (const entry of tar) {
      const { name, type } = entry.header;
      const path = join(directory, name);
      if (type === 'directory') await mkdir(path, { recursive: true, mode: 0o700 });
      else {
        await mkdir(dirname(path), { recursive: true, mode: 0o700 });
        const parts: Buffer[] = [];
        for await (const part of entry as AsyncIterable<Buffer>) parts.push(part);
        if (!name.endsWith(PROCESS_FILE)) await writeFile(path, parts, { mode: 0o600 });
      }
      entry.resume();
    }
  };
  await Promise.all([pipeline(image, tar), write()]);
}
