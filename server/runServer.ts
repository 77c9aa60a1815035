import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { pino } from 'pino';
import { packageRoot } from './packageRoot.ts';
import { addressesIn, backupsDirectory, levelIn, listenIn, portIn } from './settings.ts';
import { StartError } from './startError.ts';
import { startServer } from './startServer.ts';
import type { RunningServer } from './startServer.ts';
import type { StorePlace } from './store/openStore.ts';

/**
 * Runs a server as a command: with the built interface where there is one, on TEMBRIX_PORT, until a
 * signal ends it. What the person at the command line can mend is said without a stack.
 *
 * @param onReady - what is still to be done; its answer is printed
 * @param isDemo - a made-up world, where machines can be simulated
 */
export async function runServer(
  place: StorePlace,
  onReady: (server: RunningServer) => Promise<string> | string,
  isDemo = false,
): Promise<void> {
  const {
    TEMBRIX_PORT = '4870',
    TEMBRIX_LOG = 'warn',
    TEMBRIX_ADDRESSES = '',
    TEMBRIX_LISTEN = '',
  } = process.env;
  process.umask(0o077); // what is written here is the owner's alone
  const built = join(packageRoot(), 'dist/web');
  try {
    const server = await startServer({
      place,
      port: portIn(TEMBRIX_PORT),
      addresses: addressesIn(TEMBRIX_ADDRESSES),
      listen: listenIn(TEMBRIX_LISTEN),
      isDemo,
      backups: backupsDirectory(),
      log: pino({ level: levelIn(TEMBRIX_LOG) }),
      webDirectory: existsSync(join(built, 'index.html')) ? built : undefined,
    });
    void server.stopped?.then(giveUp);
    console.log(await onReady(server));
    for (const signal of ['SIGINT', 'SIGTERM'] as const)
      process.once(signal, () => void server.stop().then(() => process.exit(0)));
  } catch (error) {
    if (!(error instanceof StartError)) throw error;
    console.error(`${error.message} ${error.mend}`);
    if (TEMBRIX_LOG === 'debug' && error.cause) console.error(error.cause);
    process.exitCode = 1;
  }
}

/** Those who wait hear of it before the process ends. */
const LAST_WORDS_MS = 1000;

/** As a database server does: only a new start finds out what is really on the disk. */
function giveUp(): void {
  console.error(
    `The database stopped in the middle of its work; most often the disk is full or failing. ` +
      'What was answered as saved is kept. Look at the disk, then start Tembrix again.',
  );
  setTimeout(() => process.exit(1), LAST_WORDS_MS);
}
