import { spawnSync } from 'node:child_process';
import { performance } from 'node:perf_hooks';
import { ServerProcess } from '../e2e/support/server.ts';
import { fillWithJobs } from './manyJobs.ts';
import { ms, p95, times } from './table.ts';
import type { Row } from './table.ts';

const JOBS = 5000;
const READS = 200;

async function timeReads(server: ServerProcess, paths: readonly string[]): Promise<number[]> {
  const taken: number[] = [];
  for (let n = 0; n < READS; n++) {
    const path = paths[(n * 7919) % paths.length] ?? '/';
    const start = performance.now();
    const response = await server.fetch(path);
    await response.text();
    if (!response.ok) throw new Error(`${path}: ${response.status}`);
    taken.push(performance.now() - start);
  }
  return taken;
}

/** Reads with 5,000 jobs seeded, and the start of a server on that directory. */
export async function benchServer(): Promise<Row[]> {
  const server = await ServerProcess.start();
  try {
    await server.kill();
    const ids = await fillWithJobs({ type: 'directory', path: server.data }, { open: JOBS });
    const starts: number[] = [];
    for (let n = 0; n < 3; n++) {
      await server.kill();
      const start = performance.now();
      await server.up();
      starts.push(performance.now() - start);
    }
    const bare = performance.now();
    spawnSync(process.execPath, ['-e', '0']);
    const bareNode = performance.now() - bare;
    const lists = [0, 50, 500, 2500].map((offset) => `/jobs?offset=${offset}`);
    const paths = [
      ...lists,
      '/jobs?search=Customer%20499',
      '/machines',
      ...ids.slice(0, 40).map((id) => `/jobs/${id}`),
    ];
    await timeReads(server, paths);
    const reads = p95(await timeReads(server, paths));
    const health = p95(await timeReads(server, ['/health']));
    const slowest = Math.max(...starts);
    return [
      {
        what: `API reads, p95, ${JOBS.toLocaleString('en')} jobs`,
        measured: ms(reads),
        wanted: '< 30 ms',
        holds: reads < 30,
        yardstick: `${ms(health)} for an empty answer, ${times(reads, health)}`,
      },
      {
        what: 'server start to first answer, existing data',
        measured: ms(slowest),
        wanted: '< 3 s',
        holds: slowest < 3000,
        yardstick: `${ms(bareNode)} for Node alone, ${times(slowest, bareNode)}`,
      },
    ];
  } finally {
    await server.dispose();
  }
}
