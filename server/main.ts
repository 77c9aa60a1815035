import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { pino } from 'pino';
import { packageRoot } from './packageRoot.ts';
import { StartError } from './startError.ts';
import { startServer } from './startServer.ts';
import type { StorePlace } from './store/openStore.ts';

const { DATABASE_URL, TEMBRIX_DATA, TEMBRIX_PORT = '4870', TEMBRIX_LOG = 'warn' } = process.env;

const place: StorePlace = DATABASE_URL
  ? { type: 'server', url: DATABASE_URL }
  : { type: 'directory', path: TEMBRIX_DATA ?? join(packageRoot(), 'data') };
const built = join(packageRoot(), 'dist/web');

try {
  const server = await startServer({
    place,
    port: Number(TEMBRIX_PORT),
    log: pino({ level: TEMBRIX_LOG }),
    webDirectory: existsSync(join(built, 'index.html')) ? built : undefined,
  });
  console.log(`Tembrix answers at ${server.url}`);
  for (const signal of ['SIGINT', 'SIGTERM'] as const)
    process.once(signal, () => void server.stop().then(() => process.exit(0)));
} catch (error) {
  if (!(error instanceof StartError)) throw error;
  console.error(`${error.message} ${error.mend}`);
  process.exitCode = 1;
}
