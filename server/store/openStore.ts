import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { PGlite } from '@electric-sql/pglite';
import type { PgDatabase, PgQueryResultHKT } from 'drizzle-orm/pg-core';
import { drizzle as drizzlePglite } from 'drizzle-orm/pglite';
import { migrate as migratePglite } from 'drizzle-orm/pglite/migrator';
import { packageRoot } from '../packageRoot.ts';
import { lockDirectory } from './lock.ts';
import * as schema from './schema/index.ts';

/** The database, whichever engine runs it; transactions have the same shape. */
export type Database = PgDatabase<PgQueryResultHKT, typeof schema>;

/** An open database with its schema up to date. */
export interface Store {
  readonly db: Database;
  readonly close: () => Promise<void>;
}

/** Where data lives: a directory, a PostgreSQL server, or memory for tests. */
export type StorePlace =
  | { readonly type: 'directory'; readonly path: string }
  | { readonly type: 'server'; readonly url: string }
  | { readonly type: 'memory' };

const options = { schema, casing: 'snake_case' } as const;
const migrationsFolder = () => join(packageRoot(), 'server/store/migrations');

/**
 * Opens the database and applies migrations.
 *
 * @throws StartError when another process holds the data directory
 */
export async function openStore(place: StorePlace): Promise<Store> {
  if (place.type === 'server') return openServer(place.url);
  if (place.type === 'memory') return openPglite(undefined);
  mkdirSync(place.path, { recursive: true });
  const lock = await lockDirectory(place.path);
  try {
    const { db, close } = await openPglite(join(place.path, 'database'));
    return { db, close: () => close().finally(lock.release) };
  } catch (error) {
    await lock.release();
    throw error;
  }
}

/** A PostgreSQL server; its driver is loaded only where one is used. */
async function openServer(connectionString: string): Promise<Store> {
  const [{ default: pg }, { drizzle }, { migrate }] = await Promise.all([
    import('pg'),
    import('drizzle-orm/node-postgres'),
    import('drizzle-orm/node-postgres/migrator'),
  ]);
  const pool = new pg.Pool({ connectionString });
  const db = drizzle(pool, options);
  await migrate(db, { migrationsFolder: migrationsFolder() });
  return { db, close: () => pool.end() };
}

async function openPglite(directory: string | undefined): Promise<Store> {
  const client = await PGlite.create(directory);
  const db = drizzlePglite(client, options);
  await migratePglite(db, { migrationsFolder: migrationsFolder() });
  await refreshStatistics(client);
  return { db, close: () => client.close() };
}

/**
 * Embedded, nothing gathers statistics in the background, and without them lists are sorted whole.
 * Gathering takes half a second at 5,000 jobs, so it is done only when the last count is far off.
 */
async function refreshStatistics(client: PGlite): Promise<void> {
  const { rows } = await client.query<{ counted: number; known: number }>(
    `select (select count(*)::int from jobs) as counted, reltuples as known
     from pg_class where relname = 'jobs'`,
  );
  const { counted = 0, known = 0 } = rows[0] ?? {};
  if (counted > 2 * Math.max(known, 50)) await client.exec('ANALYZE');
}
