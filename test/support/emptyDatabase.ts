import { createHash } from 'node:crypto';
import {
  existsSync,
  mkdirSync,
  readFileSync,
  readdirSync,
  renameSync,
  writeFileSync,
} from 'node:fs';
import { createRequire } from 'node:module';
import { join } from 'node:path';
import { PGlite } from '@electric-sql/pglite';
import { drizzle } from 'drizzle-orm/pglite';
import { migrate } from 'drizzle-orm/pglite/migrator';
import { engineOptions, migrationsFolder, storeOptions } from '#server/store/options';

const FOLDER = join(import.meta.dirname, '../../node_modules/.cache/tembrix');

/**
 * An empty database with its schema up to date, to start an engine in memory from: making one takes
 * seconds, and most tests want theirs as anybody else's. Kept under a name that tells the engine and
 * every migration, so that an older one is never taken.
 */
export async function emptyDatabase(): Promise<Blob> {
  const file = join(FOLDER, `empty-${fingerprint()}.tar`);
  if (!existsSync(file)) await make(file);
  return new Blob([readFileSync(file)]);
}

function fingerprint(): string {
  const hash = createHash('sha256');
  hash.update(readFileSync(createRequire(import.meta.url).resolve('@electric-sql/pglite')));
  const migrations = readdirSync(migrationsFolder(), { recursive: true, withFileTypes: true });
  for (const one of migrations.filter((entry) => entry.isFile()))
    hash.update(readFileSync(join(one.parentPath, one.name)));
  return hash.digest('hex').slice(0, 16);
}

async function make(file: string): Promise<void> {
  const client = await PGlite.create(engineOptions);
  await migrate(drizzle(client, storeOptions), { migrationsFolder: migrationsFolder() });
  const image = await client.dumpDataDir('none');
  await client.close();
  mkdirSync(FOLDER, { recursive: true });
  // Under another name first: a second test process may be looking.
  const draft = `${file}.${String(process.pid)}`;
  writeFileSync(draft, Buffer.from(await image.arrayBuffer()));
  renameSync(draft, file);
}
