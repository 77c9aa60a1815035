import { join } from 'node:path';
import { packageRoot } from './packageRoot.ts';
import { runServer } from './runServer.ts';

const { DATABASE_URL, TEMBRIX_DATA } = process.env;

await runServer(
  DATABASE_URL
    ? { type: 'server', url: DATABASE_URL }
    : { type: 'directory', path: TEMBRIX_DATA ?? join(packageRoot(), 'data') },
  ({ url }) => `Tembrix answers at ${url}`,
);
