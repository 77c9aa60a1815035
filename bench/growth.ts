import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { performance } from 'node:perf_hooks';
import { setTimeout as wait } from 'node:timers/promises';
import autocannon from 'autocannon';
import pg from 'pg';
import { ServerProcess } from '../e2e/support/server.ts';
import type { StorePlace } from '../server/store/openStore.ts';
import { Listener } from '../test/support/listener.ts';
import { Postgres, hasPostgres } from '../test/support/postgres.ts';
import { fillWithJobs } from './manyJobs.ts';
import { took } from './took.ts';
import { ms, p95, times } from './table.ts';
import type { Row } from './table.ts';

const SMALL = { open: 1_000, runs: 6_000, stock: 500 } as const;
const LARGE = { open: 10_000, runs: 60_000, stock: 5_000 } as const;
const CLIENTS = 20;
const MIXED_S = 60;
/** Each of twenty once a second. */
const ASKED_A_SECOND = 20;
const ONE_BY_ONE = 60;

type Asked = 'list' | 'search' | 'open' | 'stock';

const pathOf = (what: Asked, n: number, ids: readonly string[]) =>
  ({
    list: '/jobs',
    search: `/jobs?search=Customer%20${n % ids.length}`,
    open: `/jobs/${ids[(n * 7919) % ids.length] ?? ''}`,
    stock: `/stock?search=${n % 2 === 0 ? 'PC4' : ''}`,
  })[what];

/** One person after another: what an answer takes where nobody waits for anybody. */
async function alone(server: ServerProcess, ids: readonly string[], what: Asked) {
  const taken: number[] = [];
  for (let n = 0; n < ONE_BY_ONE; n++) taken.push(await took(server, pathOf(what, n, ids)));
  return taken.slice(ONE_BY_ONE / 6);
}

/** Twenty people, a second between what each of them asks. */
async function together(server: ServerProcess, ids: readonly string[]) {
  const kinds = ['list', 'search', 'open', 'stock'] as const;
  const taken = new Map<Asked, number[]>(kinds.map((kind) => [kind, []]));
  const one = async (client: number) => {
    await wait((client * 1000) / CLIENTS);
    for (let round = 0; round < 20; round++) {
      const what = kinds[(client + round) % kinds.length] ?? 'list';
      taken.get(what)?.push(await took(server, pathOf(what, client * 20 + round, ids)));
      await wait(1000);
    }
  };
  await Promise.all(Array.from({ length: CLIENTS }, (_, client) => one(client)));
  return taken;
}

/** A minute of reading and writing by twenty connections, with what failed of it. */
async function mixed(server: ServerProcess, ids: readonly string[]) {
  const headers = { cookie: server.cookie, 'content-type': 'application/json' };
  const reads = (['list', 'search', 'open', 'stock'] as const).flatMap((what) =>
    [1, 2, 3].map((n) => ({
      method: 'GET' as const,
      path: `/api${pathOf(what, n, ids)}`,
      headers,
    })),
  );
  const writes = [1, 2, 3].map((n) => ({
    ...{ method: 'PUT' as const, path: '/api/makers/121-4A', headers },
    body: JSON.stringify({ name: `Maker ${n}` }),
  }));
  const { errors, timeouts, non2xx, requests } = await autocannon({
    ...{ url: server.url, connections: CLIENTS, duration: MIXED_S, overallRate: ASKED_A_SECOND },
    requests: [...reads, ...writes],
  });
  return { errors, timeouts, refused: non2xx, asked: requests.total };
}

/** From the moment a change is sent until another screen hears of it, ms. */
async function seenAfter(server: ServerProcess): Promise<number[]> {
  const screen = await Listener.open(server.fetch.bind(server), 'other-screen');
  const taken: number[] = [];
  for (let n = 0; n < 40; n++) {
    const start = performance.now();
    const answer = await server.fetch('/makers/121-4A', {
      ...{ method: 'PUT', body: JSON.stringify({ name: `Seen ${n}` }) },
    });
    if (!answer.ok) throw new Error(`saving: ${answer.status}`);
    const { at } = await screen.until((one) => one.event === 'change' && one.at > start);
    taken.push(at - start);
    await wait(50);
  }
  screen.close();
  return taken;
}

/** The same questions to the same shop on one engine, small and grown. */
async function onEngine(
  engine: string,
  most: number,
  placeOf: (name: string) => { place: StorePlace; env: NodeJS.ProcessEnv },
  bareSelect: (place: StorePlace) => Promise<number[]>,
): Promise<Row[]> {
  const filled = async (name: string, size: typeof SMALL | typeof LARGE) => {
    const { place, env } = placeOf(name);
    Object.assign(process.env, env);
    const data = place.type === 'directory' ? place.path : undefined;
    const server = await ServerProcess.start(data);
    await server.kill('SIGINT');
    const ids = await fillWithJobs(place, size);
    await server.up();
    return { place, ids, server };
  };
  const small = await filled('small', SMALL);
  const grown: Partial<Record<Asked, number[]>> = {};
  for (const what of ['list', 'search'] as const)
    grown[what] = await alone(small.server, small.ids, what);
  await small.server.dispose();
  const { place, ids, server } = await filled('large', LARGE);
  try {
    await together(server, ids.slice(0, 40));
    const health: number[] = [];
    for (let n = 0; n < 100; n++) health.push(await took(server, '/health'));
    const empty = p95(health);
    const taken = await together(server, ids);
    const growth: Row[] = [];
    for (const what of ['list', 'search'] as const) {
      const was = median(grown[what] ?? []);
      const is = median(await alone(server, ids, what));
      growth.push({
        what: `${engine}: ${what}, ten times the jobs`,
        measured: times(is, was),
        wanted: '< ×1.3',
        holds: is / was < 1.3,
        yardstick: `${ms(was)} with ${SMALL.open} jobs, ${ms(is)} with ${LARGE.open}`,
      });
    }
    const seen = await seenAfter(server);
    const { errors, timeouts, refused, asked } = await mixed(server, ids);
    const failed = errors + timeouts + refused;
    await server.kill('SIGINT');
    const bare = p95(await bareSelect(place));
    const page = ([what, values]: readonly [string, readonly number[]]): Row => {
      const took = p95(values);
      return {
        what: `${engine}: ${what}, p95, ${CLIENTS} people, ${LARGE.open} jobs`,
        measured: ms(took),
        wanted: `< ${most} ms and ≤ ×8 of an empty answer`,
        holds: took < most && took <= 8 * empty,
        yardstick: `${ms(empty)} for an empty answer, ${times(took, empty)}; ${ms(bare)} for a bare select`,
      };
    };
    return [
      ...[...taken].map(page),
      ...growth,
      {
        what: `${engine}: a change seen on another screen, p95`,
        measured: ms(p95(seen)),
        wanted: '< 300 ms',
        holds: p95(seen) < 300,
        yardstick: `${ms(empty)} for an empty answer`,
      },
      {
        what: `${engine}: failed in ${MIXED_S} s of reading and writing`,
        measured: `${failed} of ${asked}`,
        wanted: '0',
        holds: failed === 0 && asked > 0,
        yardstick: `${CLIENTS} connections, ${ASKED_A_SECOND} a second; ${timeouts} unanswered, ${refused} refused`,
      },
    ];
  } finally {
    await server.dispose();
  }
}

const median = (values: readonly number[]): number =>
  [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)] ?? NaN;

const timed = async (ask: () => Promise<unknown>): Promise<number[]> => {
  const taken: number[] = [];
  for (let n = 0; n < 100; n++) {
    const start = performance.now();
    await ask();
    taken.push(performance.now() - start);
  }
  return taken;
};

/** A shop of 10,000 open jobs with 60,000 runs and 5,000 modules in stock, on either engine. */
export async function benchGrowth(): Promise<Row[]> {
  const directories: string[] = [];
  const rows = await onEngine(
    'embedded',
    60,
    () => {
      const path = mkdtempSync(join(tmpdir(), 'tembrix-growth-'));
      directories.push(path);
      return { place: { type: 'directory', path }, env: {} };
    },
    async (place) => {
      const { openStore } = await import('../server/store/openStore.ts');
      const store = await openStore(place);
      const taken = await timed(() => store.db.execute('select 1'));
      await store.close();
      return taken;
    },
  );
  for (const path of directories) rmSync(path, { recursive: true, force: true });
  if (!hasPostgres()) return rows;
  const engine = await Postgres.start();
  try {
    return [
      ...rows,
      ...(await onEngine(
        'server',
        40,
        (name) => {
          const url = engine.database(`growth_${name}`);
          return { place: { type: 'server', url }, env: { DATABASE_URL: url } };
        },
        async (place) => {
          const client = new pg.Client(place.type === 'server' ? place.url : undefined);
          await client.connect();
          const taken = await timed(() => client.query('select 1'));
          await client.end();
          return taken;
        },
      )),
    ];
  } finally {
    delete process.env.DATABASE_URL;
    engine.dispose();
  }
}
