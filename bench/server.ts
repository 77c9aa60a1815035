import { spawnSync } from 'node:child_process';
import { performance } from 'node:perf_hooks';
import { nanoid } from 'nanoid';
import { openStore } from '../server/store/openStore.ts';
import { customers, jobs, machines, snapshots } from '../server/store/schema/index.ts';
import { seedDemo } from '../demo/seed.ts';
import { MACHINES } from '../demo/machines.ts';
import { moduleOf } from '../demo/parts.ts';
import { ServerProcess } from '../e2e/support/server.ts';
import { ms, p95, times } from './table.ts';
import type { Row } from './table.ts';

const JOBS = 5000;
const READS = 200;

async function fillStore(data: string): Promise<string[]> {
  const { db, close } = await openStore({ type: 'directory', path: data });
  await seedDemo(db, new Date());
  const machineId = nanoid(12);
  const machine = MACHINES.gameBoard;
  await db.insert(machines).values({ id: machineId, name: machine.name, machine });
  const placement = { a2: moduleOf('8GB 1Rx8 PC4-2666V-UA1-11') };
  const ids: string[] = [];
  for (let start = 0; start < JOBS; start += 500) {
    const rows = Array.from({ length: 500 }, (_, at) => {
      const n = start + at;
      const openedAt = new Date(Date.now() - n * 600_000);
      return {
        id: nanoid(12),
        customerId: nanoid(12),
        machineId,
        complaint: `complaint ${n}`,
        openedAt,
        name: `Customer ${n}`,
      };
    });
    await db
      .insert(customers)
      .values(rows.map(({ customerId, name }) => ({ id: customerId, name })));
    await db.insert(jobs).values(rows.map(({ name: _name, ...job }) => job));
    await db.insert(snapshots).values(
      rows.map(({ id }) => ({
        jobId: id,
        kind: 'as-found' as const,
        placement,
        setting: 'standard' as const,
      })),
    );
    ids.push(...rows.map(({ id }) => id));
  }
  await close();
  // Opened once more, so that statistics are as they are in daily use.
  const again = await openStore({ type: 'directory', path: data });
  await again.close();
  return ids;
}

async function timeReads(url: string, paths: readonly string[]): Promise<number[]> {
  const taken: number[] = [];
  for (let n = 0; n < READS; n++) {
    const path = paths[(n * 7919) % paths.length] ?? '/';
    const start = performance.now();
    const response = await fetch(`${url}/api${path}`);
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
    const ids = await fillStore(server.data);
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
    await timeReads(server.url, paths);
    const reads = p95(await timeReads(server.url, paths));
    const health = p95(await timeReads(server.url, ['/health']));
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
