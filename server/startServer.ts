import { existsSync, readFileSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import type { Logger } from 'pino';
import { makeLocalKey } from './access/localKey.ts';
import { BackupKeeper } from './backup/keeper.ts';
import { LanDoor } from './door/lanDoor.ts';
import { BENCH_BOUNDS, boundedServer, shut } from './http/boundedServer.ts';
import { createApp } from './http/createApp.ts';
import type { DoorTerms } from '#contract/measuring';
import { ShopLine } from './net/shopLine.ts';
import { LiveHub } from './live/hub.ts';
import { packageRoot } from './packageRoot.ts';
import { StartError } from './startError.ts';
import { openStore } from './store/openStore.ts';
import { forgetOldDeeds } from './store/operations/deeds.ts';
import { fillLedger, simulateLedger } from './store/operations/ledger.ts';
import type { Database, StorePlace } from './store/openStore.ts';

/** How to start. Port 0 takes any free one. */
export interface StartOptions {
  readonly place: StorePlace;
  readonly port: number;
  readonly log: Logger;
  readonly webDirectory?: string | undefined;
  /** Where else than on loopback the bench is reached. */
  readonly addresses?: readonly URL[] | undefined;
  /** Where it listens beside loopback, in place of what the owner chose. */
  readonly listen?: DoorTerms | undefined;
  /** Where backups lie, one made a day; none are made where it is not given. */
  readonly backups?: string | undefined;
  /** A made-up world: machines can be simulated. */
  readonly isDemo?: boolean | undefined;
  /** The measuring page as one file; where it is not given, the one that was built. */
  readonly measuringPage?: string | undefined;
}

/** A listening server. */
export interface RunningServer {
  readonly url: string;
  readonly db: Database;
  readonly stop: () => Promise<void>;
  /** Told when the database has stopped by itself; nothing more is read or saved then. */
  readonly stopped?: Promise<Error>;
}

const LISTEN_FAULTS: Readonly<Record<string, (port: number) => [string, string]>> = {
  EADDRINUSE: (port) => [
    `Port ${port} is taken.`,
    'Stop what uses it, or set TEMBRIX_PORT to another.',
  ],
  EACCES: (port) => [
    `This account may not use port ${port}.`,
    'Set TEMBRIX_PORT to one above 1023.',
  ],
};

/**
 * Opens the store and listens, on loopback only.
 *
 * @throws StartError when the data directory or the port is taken
 */
export async function startServer({
  place,
  port,
  log,
  webDirectory,
  isDemo,
  backups: directory,
  addresses = [],
  listen,
  measuringPage = readMeasuringPage(),
}: StartOptions): Promise<RunningServer> {
  const reachedAt = [...addresses];
  const store = await openStore(place);
  const door = new LanDoor(store.db, log, measuringPage);
  const backups = new BackupKeeper(isDemo ? undefined : directory, log);
  const localKey = makeLocalKey(place.type === 'directory' ? place.path : undefined);
  const live = new LiveHub(store, log);
  await live.start();
  const line = new ShopLine(store.db, log, reachedAt, listen);
  const app = createApp({
    ...{
      store,
      log,
      localKey,
      live,
      line,
      webDirectory,
      door,
      backups,
      measuringPage,
      isDemo,
      addresses: reachedAt,
    },
  });
  const server = boundedServer(app, BENCH_BOUNDS);
  await new Promise<void>((resolve, reject) => {
    server.once('error', ({ code, message }: NodeJS.ErrnoException) => {
      const known = LISTEN_FAULTS[code ?? ''];
      reject(known ? new StartError(...known(port)) : new Error(message));
    });
    server.listen(port, '127.0.0.1', resolve);
  }).catch(async (error: unknown) => {
    await store.close();
    throw error;
  });
  await door.start(place.type === 'server');
  await line.start(app);
  await forgetOldDeeds(store.db);
  // Nobody waits for it; a server stopped meanwhile goes on with it at its next start.
  let isStopped = false;
  void fillLedger(store.db)
    .then(() => simulateLedger(store.db, () => isStopped))
    .catch((error: unknown) => {
      log.warn({ err: error }, 'the ledger was not filled');
    });
  const stop = async () => {
    isStopped = true;
    backups.stop();
    await live.stop();
    await Promise.all([line.stop(), door.stop(), shut(server)]);
    await store.close();
  };
  const { port: actual } = server.address() as AddressInfo;
  backups.start(actual, localKey);
  return {
    url: `http://127.0.0.1:${actual}`,
    db: store.db,
    stop,
    ...(store.stopped && { stopped: store.stopped }),
  };
}

/** The measuring page as built; `undefined` where it is not. */
function readMeasuringPage(): string | undefined {
  const file = join(packageRoot(), 'dist/probe/index.html');
  return existsSync(file) ? readFileSync(file, 'utf8') : undefined;
}
