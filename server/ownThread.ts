import type { ResourceLimits } from 'node:worker_threads';
import { Piscina } from 'piscina';
import { FROM_SOURCE } from './parts.ts';

/** Kept at hand between two pieces of work, then let go. */
const IDLE_MS = 60_000;

/**
 * A thread for work that would make everybody wait, one piece after the other.
 *
 * @param file - the whole path of a module whose default export does the work, see {@link partFile}
 */
export function ownThread<Input, Output>(
  file: string,
  resourceLimits: ResourceLimits = {},
): Piscina<Input, Output> {
  const pool = new Piscina<Input, Output>({
    filename: file,
    ...{ minThreads: 0, maxThreads: 1, idleTimeout: IDLE_MS },
    resourceLimits,
    ...(file.endsWith('.ts') ? { execArgv: FROM_SOURCE } : {}),
  });
  // A thread that ends between two pieces is made anew; without a listener it would end the server.
  pool.on('error', () => undefined);
  return pool;
}
