import { join } from 'node:path';
import type { ResourceLimits } from 'node:worker_threads';
import { Piscina } from 'piscina';
import { packageRoot } from './packageRoot.ts';

/** Kept at hand between two pieces of work, then let go. */
const IDLE_MS = 60_000;

const isSource = import.meta.url.endsWith('.ts');

/**
 * A thread for work that would make everybody wait, one piece after the other.
 *
 * @param file - the whole path of a module whose default export does the work, see {@link workerFile}
 */
export function ownThread<Input, Output>(
  file: string,
  resourceLimits: ResourceLimits = {},
): Piscina<Input, Output> {
  const pool = new Piscina<Input, Output>({
    filename: file,
    ...{ minThreads: 0, maxThreads: 1, idleTimeout: IDLE_MS },
    resourceLimits,
    ...(isSource ? { execArgv: ['--import', 'tsx'] } : {}),
  });
  // A thread that ends between two pieces is made anew; without a listener it would end the server.
  pool.on('error', () => undefined);
  return pool;
}

/** A worker of a room of the server, in the source or as it was built. */
export const workerFile = (room: string, name: string): string =>
  isSource
    ? join(packageRoot(), 'server', room, `${name}.ts`)
    : join(packageRoot(), 'dist/server', `${name}.js`);
