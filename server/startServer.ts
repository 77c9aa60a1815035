import type { AddressInfo } from 'node:net';
import type { Logger } from 'pino';
import { createApp } from './http/createApp.ts';
import { StartError } from './startError.ts';
import { openStore } from './store/openStore.ts';
import type { Database, StorePlace } from './store/openStore.ts';

/** How to start. Port 0 takes any free one. */
export interface StartOptions {
  readonly place: StorePlace;
  readonly port: number;
  readonly log: Logger;
  readonly webDirectory?: string | undefined;
}

/** A listening server. */
export interface RunningServer {
  readonly url: string;
  readonly db: Database;
  readonly stop: () => Promise<void>;
}

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
}: StartOptions): Promise<RunningServer> {
  const store = await openStore(place);
  const app = createApp({ db: store.db, log, webDirectory });
  const server = await new Promise<ReturnType<typeof app.listen>>((resolve, reject) => {
    const listening = app.listen(port, '127.0.0.1', (error?: NodeJS.ErrnoException) => {
      if (!error) resolve(listening);
      else if (error.code === 'EADDRINUSE')
        reject(
          new StartError(
            `Port ${port} is taken.`,
            'Stop what uses it, or set TEMBRIX_PORT to another.',
          ),
        );
      else reject(error);
    });
  }).catch(async (error: unknown) => {
    await store.close();
    throw error;
  });
  const stop = async () => {
    server.closeAllConnections();
    await new Promise((done) => server.close(done));
    await store.close();
  };
  const { port: actual } = server.address() as AddressInfo;
  return { url: `http://127.0.0.1:${actual}`, db: store.db, stop };
}
