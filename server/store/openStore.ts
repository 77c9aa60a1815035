import type { PgDatabase, PgQueryResultHKT } from 'drizzle-orm/pg-core';
import { listenOnServer, tellThrough } from '../live/listen.ts';
import type { OnMessage } from '../live/listen.ts';
import { openDirectory, openMemory } from './embedded.ts';
import type { EngineStopped } from './engine.ts';
import { HAS_CHANGES, NEWEST_CHANGE, refuseNewerData } from './migrate.ts';
import { serverAddress, serverProblem } from './opening.ts';
import { migrationsFolder, storeOptions } from './options.ts';
import { signedWrite } from './who.ts';
import type { Writer } from './who.ts';

/** The database, whichever engine runs it; transactions have the same shape. */
export type Database = PgDatabase<PgQueryResultHKT, (typeof storeOptions)['schema']>;

/** An open database with its schema up to date. */
export interface Store {
  readonly db: Database;
  /** Runs a transaction; once it resolves, what was written survives whatever happens. */
  readonly write: Write;
  /** Tells all who listen on a channel, in whatever process, once it is committed. */
  readonly tell: (channel: string, payload: string) => Promise<void>;
  /** Listens on a channel until the function it answers with is called. */
  readonly listen: (channel: string, onMessage: OnMessage) => Promise<() => Promise<void>>;
  readonly close: () => Promise<void>;
  /** Told when the embedded engine has stopped in the middle of its work, see {@link EngineStopped}. */
  readonly stopped?: Promise<EngineStopped>;
}

/** See {@link Store.write}; what is noted meanwhile is signed with the writer. */
export type Write = <T>(run: (tx: Database) => Promise<T>, by?: Writer) => Promise<T>;

/** Where data lives: a directory, a PostgreSQL server, or memory for tests; or a store that is open already. */
export type StorePlace =
  | {
      readonly type: 'directory';
      readonly path: string;
      /** See {@link openDirectory}. */
      readonly onSync?: () => void;
    }
  | { readonly type: 'server'; readonly url: string }
  | { readonly type: 'memory'; readonly image?: Blob }
  | { readonly type: 'open'; readonly store: Store };

/**
 * Opens the database and applies migrations.
 *
 * @throws StartError when another process holds the data directory
 */
export async function openStore(place: StorePlace): Promise<Store> {
  switch (place.type) {
    case 'server':
      return openServer(place.url);
    case 'memory':
      return openMemory(place.image);
    case 'directory':
      return openDirectory(place.path, place.onSync);
    case 'open':
      return place.store;
  }
}

/** Any number, the same in every process. */
const MIGRATION_LOCK = 4_870_001;

/** A PostgreSQL server; its driver is loaded only where one is used. */
async function openServer(connectionString: string): Promise<Store> {
  const [{ default: pg }, { drizzle }, { migrate }] = await Promise.all([
    import('pg'),
    import('drizzle-orm/node-postgres'),
    import('drizzle-orm/node-postgres/migrator'),
  ]);
  const pool = new pg.Pool({ connectionString: serverAddress(connectionString) });
  // A server that restarts ends its idle connections; the pool makes new ones when they are needed.
  pool.on('error', () => undefined);
  const db = drizzle(pool, storeOptions);
  try {
    const client = await pool.connect();
    try {
      // Two that start on one empty database would both make its tables.
      await client.query('select pg_advisory_lock($1)', [MIGRATION_LOCK]);
      const { rows: has } = await client.query<{ found: boolean }>(HAS_CHANGES);
      if (has[0]?.found) {
        const { rows } = await client.query<{ newest: string }>(NEWEST_CHANGE);
        refuseNewerData(rows[0] && Number(rows[0].newest));
      }
      await migrate(drizzle(client, storeOptions), { migrationsFolder: migrationsFolder() });
      await client.query('select pg_advisory_unlock($1)', [MIGRATION_LOCK]);
    } finally {
      client.release();
    }
  } catch (error) {
    await pool.end();
    throw serverProblem(error);
  }
  return {
    db,
    write: signedWrite(db),
    tell: tellThrough(db),
    listen: (channel, onMessage) => {
      const connect = async () => {
        const client = new pg.Client({ connectionString: serverAddress(connectionString) });
        await client.connect();
        return client;
      };
      return Promise.resolve(listenOnServer(connect, channel, onMessage));
    },
    close: () => pool.end(),
  };
}
