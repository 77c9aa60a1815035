import {
  accessSync,
  chmodSync,
  constants,
  existsSync,
  mkdirSync,
  readdirSync,
  renameSync,
  rmSync,
} from 'node:fs';
import { open, readdir } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { setImmediate as comeRound } from 'node:timers/promises';
import { drizzle } from 'drizzle-orm/pglite';
import { migrate } from 'drizzle-orm/pglite/migrator';
import { DURABLE_SETTINGS, DurableFiles, syncDirectory } from './durableFiles.ts';
import { emptyDatabase, unpackEmptyDatabase } from './emptyDatabase.ts';
import { Engine } from './engine.ts';
import { Housekeeping } from './housekeeping.ts';
import { lockDirectory } from './lock.ts';
import { HAS_CHANGES, NEWEST_CHANGE, refuseNewerData } from './migrate.ts';
import { directoryProblem } from './opening.ts';
import { engineOptions, migrationsFolder, storeOptions } from './options.ts';
import { tellThrough } from '../live/listen.ts';
import type { Database, Store } from './openStore.ts';
import { shared } from './shared.ts';
import { sayWho, signedWrite } from './who.ts';

/**
 * The engine in memory: gone when it is closed.
 *
 * @param image - a dumped database to start from; an empty one where none is given
 */
export async function openMemory(image?: Blob): Promise<Store> {
  const loadDataDir = image ?? (await emptyDatabase());
  const client = await Engine.open({ ...engineOptions, loadDataDir });
  const db = await prepared(client);
  return {
    db,
    write: signedWrite(db),
    ...lineOf(client, db),
    close: () => client.close(),
  };
}

/**
 * The engine on a directory, for this process alone. What {@link Store.write} has answered survives
 * a power cut: it waits for the disk, and all who wait at one time share one wait.
 *
 * @param onSync - told of every wait for the disk, so that tests can count them, or have one fail
 * @throws StartError when another process holds the directory
 */
export async function openDirectory(path: string, onSync?: () => void): Promise<Store> {
  // Customers' names and machines: the owner's alone, whatever the system's habit.
  try {
    mkdirSync(path, { recursive: true, mode: 0o700 });
    chmodSync(path, 0o700);
    accessSync(path, constants.R_OK | constants.W_OK);
  } catch (error) {
    throw directoryProblem(error, path);
  }
  const lock = await lockDirectory(path);
  try {
    const store = await openLocked(join(path, 'database'), onSync);
    return { ...store, close: () => store.close().finally(lock.release) };
  } catch (error) {
    await lock.release();
    throw directoryProblem(error, path);
  }
}

/** The engine’s own notifications; it is in this process, so that nothing is ever missed. */
const lineOf = (client: Engine, db: Database): Pick<Store, 'tell' | 'listen' | 'stopped'> => ({
  stopped: client.stopped,
  tell: tellThrough(db),
  listen: (channel, onMessage) => client.listen(channel, onMessage),
});

/** A new database in a directory, whole or not at all: cut off half-way, the next start makes it anew. */
async function makeDatabase(directory: string): Promise<void> {
  if (existsSync(directory) && readdirSync(directory).length > 0)
    throw new Error('expected a database where there are files');
  const draft = `${directory}.new`;
  rmSync(draft, { recursive: true, force: true });
  await unpackEmptyDatabase(draft);
  await syncTree(draft);
  renameSync(draft, directory);
  syncDirectory(dirname(directory));
}

async function openLocked(directory: string, onSync?: () => void): Promise<Store> {
  if (!existsSync(join(directory, 'PG_VERSION'))) await makeDatabase(directory);
  // The engine leaves its process file behind when it is killed, and then refuses to start. Whoever
  // holds the lock knows that nobody else runs on it.
  rmSync(join(directory, 'postmaster.pid'), { force: true });
  const client = await Engine.open({
    ...engineOptions,
    fs: new DurableFiles(directory, onSync),
    startParams: [...DURABLE_SETTINGS],
  });
  const db = await prepared(client);
  const keeping = new Housekeeping(client);
  const flush = shared(async (begin) => {
    // The engine answers within a turn of the process, so that one request is through before the next is
    // read. Those that have come by now are let in first: they are stored in a moment, the disk takes longer.
    await comeRound();
    await client.ask("select pg_logical_emit_message(false, '', '', true)", begin);
  });
  return {
    db,
    ...lineOf(client, db),
    write: async (run, by) => {
      const result = await db.transaction(async (tx) => {
        await sayWho(tx, by, { synchronous_commit: 'off' });
        return run(tx);
      });
      await flush();
      keeping.noteWrite();
      return result;
    },
    close: async () => {
      await keeping.stop();
      await client.close();
    },
  };
}

async function prepared(client: Engine): Promise<Database> {
  const db = drizzle(client, storeOptions);
  const [has] = (await client.query<{ found: boolean }>(HAS_CHANGES)).rows;
  if (has?.found) {
    const [row] = (await client.query<{ newest: number }>(NEWEST_CHANGE)).rows;
    refuseNewerData(row && Number(row.newest));
  }
  await migrate(db, { migrationsFolder: migrationsFolder() });
  await refreshStatistics(client);
  return db;
}

/**
 * Embedded, nothing gathers statistics in the background, and without them lists are sorted whole and
 * every row is read to count them. It takes a second at 10,000 jobs, so it is done only when the last
 * count is far off.
 */
async function refreshStatistics(client: Engine): Promise<void> {
  const { rows } = await client.query<{ counted: number; known: number }>(
    `select (select count(*)::int from jobs) as counted, reltuples as known
     from pg_class where relname = 'jobs'`,
  );
  const { counted = 0, known = 0 } = rows[0] ?? {};
  if (counted > 2 * Math.max(known, 50)) await client.exec('VACUUM ANALYZE');
}

/** Waits until everything in a directory is on the disk; several at a time, which disks do far faster. */
async function syncTree(directory: string): Promise<void> {
  const entries = await readdir(directory, { withFileTypes: true, recursive: true });
  const paths = entries.map((one) => ({ one, path: join(one.parentPath, one.name) }));
  const files = paths.filter(({ one }) => one.isFile());
  const syncRest = async () => {
    for (let next = files.pop(); next; next = files.pop()) {
      const file = await open(next.path, 'r+');
      await file.sync().finally(() => file.close());
    }
  };
  await Promise.all(Array.from({ length: 16 }, syncRest));
  for (const { one, path } of paths) if (one.isDirectory()) syncDirectory(path);
  syncDirectory(directory);
}
