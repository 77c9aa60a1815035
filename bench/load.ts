import { spawnSync } from 'node:child_process';
import { mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { performance } from 'node:perf_hooks';
import { setTimeout as wait } from 'node:timers/promises';
import { Writers } from '../night/writers.ts';
import { ServerProcess } from '../e2e/support/server.ts';
import { fillWithJobs } from './manyJobs.ts';
import { took } from './took.ts';
import { ms, p95, perSecond, times } from './table.ts';
import type { Row } from './table.ts';

const JOBS = 10_000;
const CLIENTS = 20;
const ROUNDS = 20;
const PAUSE_MS = 1000;
/** The bench lets one address ask 6,000 times a minute; a burst this long stays below it. */
const SAVING_MS = 10_000;

/** Twenty people who list, search and open, a second apart each. */
async function clients(
  server: ServerProcess,
  ids: readonly string[],
): Promise<Map<string, number[]>> {
  const taken = new Map<string, number[]>([
    ['list', []],
    ['search', []],
    ['open', []],
  ]);
  const one = async (client: number) => {
    await wait((client * PAUSE_MS) / CLIENTS);
    for (let round = 0; round < ROUNDS; round++) {
      const n = client * ROUNDS + round;
      const [what, path] = (
        [
          // The bench page asks for its first page; now and then somebody looks further down.
          ['list', round % 5 === 0 ? `/jobs?offset=${(n * 50) % JOBS}` : '/jobs'],
          ['search', `/jobs?search=Customer%20${n}`],
          ['open', `/jobs/${ids[(n * 7919) % ids.length] ?? ''}`],
        ] as const
      )[(client + round) % 3] as readonly [string, string];
      taken.get(what)?.push(await took(server, path));
      await wait(PAUSE_MS);
    }
  };
  await Promise.all(Array.from({ length: CLIENTS }, (_, client) => one(client)));
  return taken;
}

/** Saves a second of twenty people who never pause. */
async function savesPerSecond(server: ServerProcess): Promise<number> {
  const start = performance.now();
  const writers = new Writers(server, 1, CLIENTS);
  await wait(SAVING_MS);
  await writers.stop();
  return (writers.acknowledged.length * 1000) / (performance.now() - start);
}

/** p95 of a save by one person who pauses, in ms. */
async function oneSave(server: ServerProcess): Promise<number> {
  const taken: number[] = [];
  for (let n = 0; n < 60; n++) {
    const start = performance.now();
    const answer = await server.fetch('/makers/121-4A', {
      method: 'PUT',
      body: JSON.stringify({ name: `Maker ${n}` }),
    });
    await answer.text();
    if (!answer.ok) throw new Error(`saving: ${answer.status}`);
    taken.push(performance.now() - start);
    await wait(50);
  }
  return p95(taken);
}

/** Seconds a command of the backup's takes. */
function backupSeconds(args: readonly string[], env: NodeJS.ProcessEnv): number {
  const start = performance.now();
  const { status, stderr } = spawnSync(process.execPath, ['dist/server/backup.js', ...args], {
    env: { ...process.env, ...env },
    encoding: 'utf8',
  });
  if (status !== 0) throw new Error(`${args[0] ?? ''}: ${stderr}`);
  return (performance.now() - start) / 1000;
}

/** Twenty clients over 10,000 open jobs and as many closed ones; and a backup of 10,000. */
export async function benchLoad(): Promise<Row[]> {
  const server = await ServerProcess.start();
  const backups = mkdtempSync(join(tmpdir(), 'tembrix-backups-'));
  const restored = mkdtempSync(join(tmpdir(), 'tembrix-restored-'));
  try {
    await server.kill();
    const ids = await fillWithJobs(
      { type: 'directory', path: server.data },
      { open: JOBS, closed: JOBS },
    );
    await server.up();
    await clients(server, ids.slice(0, 40));
    const taken = await clients(server, ids);
    const ledgers: number[] = [];
    for (let n = 0; n < 20; n++) ledgers.push(await took(server, '/ledger'));
    const health: number[] = [];
    for (let n = 0; n < 100; n++) health.push(await took(server, '/health'));
    const empty = p95(health);
    const save = await oneSave(server);
    const saves = await savesPerSecond(server);
    await server.kill('SIGINT');
    rmSync(server.data, { recursive: true });
    await fillWithJobs(
      { type: 'directory', path: server.data },
      { open: JOBS / 2, closed: JOBS / 2 },
    );
    const backup = backupSeconds(['backup'], {
      ...{ TEMBRIX_DATA: server.data, TEMBRIX_BACKUPS: backups },
    });
    const [name = ''] = readdirSync(backups);
    const restore = backupSeconds(['restore', join(backups, name), '--yes'], {
      TEMBRIX_DATA: restored,
    });
    const page = (what: string, values: readonly number[], wanted: number): Row => ({
      what,
      measured: ms(p95(values)),
      wanted: `< ${wanted} ms`,
      holds: p95(values) < wanted,
      yardstick: `${ms(empty)} for an empty answer, ${times(p95(values), empty)}`,
    });
    const sorts = perSecond(() => Array.from({ length: 1000 }, (_, n) => -n).sort(), 200);
    const seconds = (what: string, value: number, wanted: number): Row => ({
      what,
      measured: `${value.toFixed(1)} s`,
      wanted: `< ${wanted} s`,
      holds: value < wanted,
      yardstick: `${Math.round(sorts)} sorts of 1,000 a second`,
    });
    return [
      ...[...taken].map(([what, values]) =>
        page(`${what}, p95, ${CLIENTS} clients a second apart, ${JOBS} jobs`, values, 60),
      ),
      page(`ledger of ${JOBS}, p95`, ledgers, 100),
      page('one save, durable, p95', [save], 45),
      {
        what: `saves a second, ${CLIENTS} clients without a pause`,
        measured: saves.toFixed(0),
        wanted: '≥ 150',
        holds: saves >= 150,
        yardstick: `${ms(empty)} for an empty answer`,
      },
      seconds(`backup of ${JOBS} jobs, proven`, backup, 20),
      seconds(`restore of ${JOBS} jobs`, restore, 60),
    ];
  } finally {
    await server.dispose();
    for (const directory of [backups, restored])
      rmSync(directory, { recursive: true, force: true });
  }
}
