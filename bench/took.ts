import { performance } from 'node:perf_hooks';
import type { ServerProcess } from '../e2e/support/server.ts';

/** What one answer of the server takes, read to its end, in ms; throws where it refuses. */
export async function took(server: ServerProcess, path: string): Promise<number> {
  const start = performance.now();
  const answer = await server.fetch(path);
  await answer.text();
  if (!answer.ok) throw new Error(`${path}: ${answer.status}`);
  return performance.now() - start;
}
