import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { pino } from 'pino';
import { packageRoot } from '../server/packageRoot.ts';
import { StartError } from '../server/startError.ts';
import { startServer } from '../server/startServer.ts';
import { listJobs } from '../server/store/operations/readJobs.ts';
import { seedDemo } from './seed.ts';

const { TEMBRIX_DATA = '', TEMBRIX_PORT = '4870' } = process.env;
const web = join(packageRoot(), 'dist/web');

try {
  const server = await startServer({
    place: TEMBRIX_DATA === '' ? { type: 'memory' } : { type: 'directory', path: TEMBRIX_DATA },
    port: Number(TEMBRIX_PORT),
    log: pino({ level: 'warn' }),
    webDirectory: existsSync(join(web, 'index.html')) ? web : undefined,
  });
  const { total } = await listJobs(server.db, { state: 'open', search: '', limit: 1, offset: 0 });
  if (total === 0) await seedDemo(server.db, new Date());
  console.log(
    `\nTolvarra Ferry Repairs, a made-up bench, is open at ${server.url}\nStop it with Ctrl C.`,
  );
  for (const signal of ['SIGINT', 'SIGTERM'] as const)
    process.once(signal, () => void server.stop().then(() => process.exit(0)));
} catch (error) {
  if (!(error instanceof StartError)) throw error;
  console.error(`${error.message} ${error.mend}`);
  process.exitCode = 1;
}
