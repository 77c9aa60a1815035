import { cpSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { sql } from 'drizzle-orm';
import { drizzle } from 'drizzle-orm/pglite';
import { migrate } from 'drizzle-orm/pglite/migrator';
import { pino } from 'pino';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { JobSummary } from '#contract/records';
import { Engine } from '#server/store/engine';
import { openStore } from '#server/store/openStore';
import { startServer } from '#server/startServer';
import { engineOptions, migrationsFolder, storeOptions } from '#server/store/options';
import { demoWorld } from './support/demoWorld.ts';
import { isAnew } from './support/draws.ts';
import { ownerOf } from './support/owner.ts';

// Data of every schema there has been: the demo world’s rows as each could hold them, brought up to
// date by opening them as anybody would. No row is lost, none is changed, and every page reads them.

interface Journal {
  readonly entries: readonly { readonly tag: string }[];
}
const journal = JSON.parse(
  readFileSync(join(migrationsFolder(), 'meta/_journal.json'), 'utf8'),
) as Journal;
/** Schemas by how many changes made them; the last is today’s. */
const earlier = journal.entries.map(({ tag }, at) => ({ tag, count: at + 1 })).slice(0, -1);

type Tables = Map<string, Record<string, unknown>[]>;
const home = mkdtempSync(join(tmpdir(), 'tembrix-released-'));
let today: Tables;

type Queried = Pick<Engine, 'query'>;

async function columnsOf(client: Queried): Promise<Map<string, string[]>> {
  const { rows } = await client.query<{ table: string; names: string[] }>(
    `select table_name as table, array_agg(column_name::text) as names
     from information_schema.columns where table_schema = 'public' group by 1`,
  );
  return new Map(rows.map(({ table, names }) => [table, names]));
}

async function readTables(client: Queried): Promise<Tables> {
  const tables: Tables = new Map();
  for (const table of (await columnsOf(client)).keys()) {
    const { rows } = await client.query<{ all: Record<string, unknown>[] | null }>(
      `select json_agg(t) as all from "${table}" t`,
    );
    tables.set(table, rows[0]?.all ?? []);
  }
  return tables;
}

/** The changes of schema up to one of them, as a program of that time knew them. */
function changesUpTo(count: number): string {
  const folder = join(home, `changes-${count}`);
  mkdirSync(join(folder, 'meta'), { recursive: true });
  const entries = journal.entries.slice(0, count);
  for (const { tag } of entries)
    cpSync(join(migrationsFolder(), `${tag}.sql`), join(folder, `${tag}.sql`));
  writeFileSync(join(folder, 'meta/_journal.json'), JSON.stringify({ ...journal, entries }));
  return folder;
}

let client: Engine;

/** Fills the engine with a database of an earlier schema, and every row of the demo world it has room for. */
async function makeOf(count: number, besides = ''): Promise<Tables> {
  await client.exec('drop schema if exists drizzle cascade; drop schema public cascade');
  await client.exec('create schema public');
  await migrate(drizzle(client, storeOptions), { migrationsFolder: changesUpTo(count) });
  const held: Tables = new Map();
  await client.exec(`set session_replication_role = replica`);
  for (const [table, names] of await columnsOf(client)) {
    const rows = today.get(table) ?? [];
    const known = names.filter((name) => rows.some((row) => name in row));
    if (known.length === 0) continue;
    const list = known.map((name) => `"${name}"`).join();
    await client.query(
      `insert into "${table}" (${list}) select ${list} from json_populate_recordset(null::"${table}", $1::json)`,
      [JSON.stringify(rows)],
    );
    held.set(
      table,
      rows.map((row) => Object.fromEntries(known.map((name) => [name, row[name]]))),
    );
  }
  await client.exec(`${besides}; set session_replication_role = origin`);
  return held;
}

beforeAll(async () => {
  client = await Engine.open({ ...engineOptions, loadDataDir: await demoWorld() });
  today = await readTables(client);
});
afterAll(async () => {
  await client.close();
  rmSync(home, { recursive: true, force: true });
});

const PARTS = ['', '/evidence', '/quotes', '/results', '/bench'];
const only = (row: Record<string, unknown>, names: readonly string[]) =>
  Object.fromEntries(names.filter((name) => name in row).map((name) => [name, row[name]]));
const sorted = (rows: readonly object[]) => rows.map((row) => JSON.stringify(row)).sort();

/** Lines of the ledger are simulated after the start, which is no matter of the schema. */
function withoutSimulated(row: Record<string, unknown>): Record<string, unknown> {
  const entry = row['entry'] as { ratios?: Record<string, unknown> | null } | undefined;
  if (!entry?.ratios) return row;
  const { simulated: _simulated, ...ratios } = entry.ratios;
  return { ...row, entry: { ...entry, ratios } };
}

function expectAll(held: Tables, now: Tables): void {
  for (const [table, rows] of held) {
    const names = Object.keys(rows[0] ?? {});
    const there = (now.get(table) ?? []).map((row) => withoutSimulated(only(row, names)));
    const stillKept = names.filter((name) => there.some((row) => name in row));
    expect(sorted(there), table).toEqual(
      sorted(rows.map((row) => withoutSimulated(only(row, stillKept)))),
    );
  }
}

/**
 * Brought up to date they are all alike, and every row of each is looked at above; what pages read, the
 * oldest and the latest show, by night all of them.
 */
const opened = earlier.filter(({ count }) => isAnew || count === 1 || count === earlier.length);

/** Data of an older schema goes through the changes of every younger one: by day every fifth begins. */
const begun = earlier.filter(
  ({ count }) => isAnew || count % 5 === 1 || count > earlier.length - 3,
);

describe('data of an earlier schema', () => {
  test.each(begun)('$tag: every row is there', async ({ count }) => {
    const held = await makeOf(count);
    expect(held.get('jobs')?.length).toBeGreaterThan(10);
    await migrate(drizzle(client, storeOptions), { migrationsFolder: migrationsFolder() });
    expectAll(held, await readTables(client));
  });

  test.each(opened)('$tag: opened, every row is there, and pages read it', async ({ count }) => {
    const held = await makeOf(count);
    const server = await startServer({
      place: { type: 'memory', image: await client.dumpDataDir('none') },
      // Lets this machine in as the owner there is, where there is one.
      ...{ port: 0, log: pino({ level: 'silent' }), isDemo: true },
    });
    expectAll(
      held,
      await readTables({
        query: async (text) => (await server.db.execute(sql.raw(text))) as never,
      }),
    );
    // A shop that had no accounts yet is its who opens it first.
    const isOwned = (held.get('accounts') ?? []).length > 0;
    const cookie = isOwned ? '' : await ownerOf(server.url);
    const read = async <T>(path: string): Promise<T> => {
      const answer = await fetch(`${server.url}/api${path}`, { headers: { cookie } });
      expect(answer.status, path).toBe(200);
      return (await answer.json()) as T;
    };
    for (const path of ['/machines', '/modules', '/makers', '/drawer', '/returns', '/ledger'])
      await read(path);
    for (const state of ['open', 'closed']) {
      const { jobs } = await read<{ jobs: JobSummary[] }>(`/jobs?state=${state}`);
      for (const [at, { id }] of jobs.entries())
        for (const part of at % 3 === 0 ? PARTS : ['']) await read(`/jobs/${id}${part}`);
    }
    await server.stop();
  });

  test('runs of the measuring page take the names its tests have now', async () => {
    const before = journal.entries.findIndex(({ tag }) => tag === '0015_multiply_add');
    await makeOf(
      before,
      `update measurements set test = 'measuring page: triad' where id = (select min(id) from measurements);
       update measurements set test = 'measuring page: reply' where id = (select max(id) from measurements);
       update ledger set entry = jsonb_set(entry, '{gains}', '[{"test": "measuring page: triad"}]')`,
    );
    const store = await openStore({
      type: 'memory',
      image: await client.dumpDataDir('none'),
    });
    const told: unknown = await store.db.execute(
      sql`select (select test from measurements order by id limit 1) as first,
                 (select test from measurements order by id desc limit 1) as last,
                 (select entry -> 'gains' -> 0 ->> 'test' from ledger limit 1) as gained`,
    );
    expect(told).toMatchObject({
      rows: [
        {
          first: 'measuring page: multiply-add',
          last: 'measuring page: latency',
          gained: 'measuring page: multiply-add',
        },
      ],
    });
    await store.close();
  });
});
