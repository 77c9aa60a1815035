import { readFileSync } from 'node:fs';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { sql } from 'drizzle-orm';
import { pino } from 'pino';
import { afterAll, beforeAll, describe, expect, test, vi } from 'vitest';
import type { Job, JobSummary } from '#contract/records';
import { snapshotOf } from '#contract/jobProof';
import { startServer } from '../server/startServer.ts';
import { openStore } from '../server/store/openStore.ts';
import type { Database } from '../server/store/openStore.ts';
import { readShares } from '../server/store/operations/ledger.ts';
import { listJobs } from '../server/store/operations/listJobs.ts';
import { readJob } from '../server/store/operations/readJobs.ts';
import { demoWorld } from './support/demoWorld.ts';
import { ownerOf } from './support/owner.ts';
import { Api, module } from './support/api.ts';

const folder = mkdtempSync(join(tmpdir(), 'tembrix-store-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

describe('values as the engine answers them', () => {
  test('a list of every type the schema has is a list', async () => {
    const store = await openStore({ type: 'memory' });
    const found = await store.db.execute<{ name: string }>(
      sql`select distinct udt_name::text as name from information_schema.columns
          where table_schema = 'public' and data_type = 'ARRAY'`,
    );
    const lists = (found as { rows: { name: string }[] }).rows.map(({ name }) => name);
    expect(lists).toContain('_text');
    for (const name of [...lists, '_json', '_bool', '_int8']) {
      const answer = await store.db.execute<{ list: unknown }>(
        sql`select array[null, null]::${sql.raw(name)} as list`,
      );
      expect((answer as { rows: unknown[] }).rows, name).toEqual([{ list: [null, null] }]);
    }
    await store.close();
  });
});

describe('saves at the same moment', () => {
  let api: Api;
  beforeAll(async () => {
    api = await Api.start();
  });
  afterAll(() => api.server.stop());

  test('of ten, one goes through and nine are told', async () => {
    const job = await api.jobWithFound();
    const answers = await Promise.all(
      Array.from({ length: 10 }, (_, need) =>
        api.send<{ need: number; yours: { need: number } }>('PATCH', `/jobs/${job.id}`, {
          version: job.version,
          need,
        }),
      ),
    );
    const statuses = answers.map(({ status }) => status).sort((a, b) => a - b);
    expect(statuses).toEqual([200, ...Array.from({ length: 9 }, () => 409)]);
    const winner = answers.find(({ status }) => status === 200);
    expect((await api.ok('GET', `/jobs/${job.id}`)).need).toBe(winner?.body.need);
  });

  test('first saves of one configuration: the second gets a conflict, not a second row', async () => {
    const job = await api.jobWithFound();
    const body = { placement: { b1: module }, setting: 'standard', version: 0 };
    const answers = await Promise.all(
      [1, 2, 3].map(() => api.send('PUT', `/jobs/${job.id}/snapshots/planned`, body)),
    );
    expect(answers.map(({ status }) => status).sort((a, b) => a - b)).toEqual([200, 409, 409]);
    const { snapshots } = await api.ok('GET', `/jobs/${job.id}`);
    expect(snapshots.filter(({ kind }) => kind === 'planned')).toHaveLength(1);
  });

  test('a refused save leaves no event behind', async () => {
    const job = await api.jobWithFound();
    await api.problem('PATCH', `/jobs/${job.id}`, { version: 99, need: 1 });
    await api.problem('POST', `/jobs/${job.id}/close`, { version: job.version });
    expect((await api.ok('GET', `/jobs/${job.id}`)).events).toEqual(job.events);
  });

  test('removing runs keeps in the history that they were there', async () => {
    const job = await api.jobWithFound();
    const runs = {
      kind: 'as-found',
      metric: 'bandwidth',
      test: 'copy',
      runs: [14, 15],
      warmUp: 0,
      conditions: '',
    };
    const { measurements } = await api.ok('POST', `/jobs/${job.id}/measurements`, runs);
    const after = await api.ok('DELETE', `/jobs/${job.id}/measurements/${measurements[0]?.id}`);
    expect(after.measurements).toEqual([]);
    expect(after.events.at(-1)?.text).toBe('Removed: copy, as-found: 14 15 GB/s');
    const again = await api.problem(
      'DELETE',
      `/jobs/${job.id}/measurements/${measurements[0]?.id}`,
    );
    expect(again.status).toBe(404);
  });
});

describe('the demo world on the bench list', () => {
  let db: Database;
  let close: () => Promise<void>;
  beforeAll(async () => {
    ({ db, close } = await openStore({ type: 'memory', image: await demoWorld() }));
  });
  afterAll(() => close());

  test('pages without gaps or repeats, and counts all', async () => {
    const page = (offset: number) => listJobs(db, { state: 'open', search: '', limit: 2, offset });
    const whole = await listJobs(db, { state: 'open', search: '', limit: 200, offset: 0 });
    const pages = [];
    for (let offset = 0; offset < whole.total; offset += 2) pages.push(await page(offset));
    expect(pages.flatMap(({ jobs }) => jobs)).toEqual(whole.jobs);
    expect(whole.total).toBe(whole.jobs.length);
  });

  test('a line of the list says the same as the job itself', async () => {
    for (const state of ['open', 'closed'] as const) {
      const { jobs } = await listJobs(db, { state, search: '', limit: 200, offset: 0 });
      expect(jobs.length).toBeGreaterThan(1);
      for (const line of jobs) {
        const job = await readJob(db, line.id);
        const own: Partial<JobSummary> = {
          number: job.number,
          customerName: job.customer.name,
          machineName: job.machine.machine.name,
          complaint: job.complaint,
          openedAt: job.openedAt,
        };
        expect(line).toMatchObject(own);
        expect(line.next === null).toBe(job.result !== null);
        if (job.result) expect(line.headline).toBe(job.result.headline);
        // History reads from old to new, and nothing is added after handing over.
        const moments = job.events.map(({ at }) => at);
        expect(moments).toEqual([...moments].sort());
        if (job.result) expect(job.events.at(-1)?.type).toBe('closed');
        // What was agreed to stands before what was fitted, and nothing is of a day to come.
        expect(Date.parse(moments.at(-1) ?? '')).toBeLessThanOrEqual(Date.now());
        const types = job.events.map(({ type }) => type);
        if (job.result && types.includes('quoted')) {
          expect(snapshotOf(job, 'as-fitted')?.placement).toEqual(
            snapshotOf(job, 'planned')?.placement,
          );
          expect(types.lastIndexOf('quoted')).toBeLessThan(types.indexOf('as-fitted'));
        }
      }
    }
  });

  test.each([
    ['puppet', ['Gannet Puppet Theatre']],
    ['PARCEL', ['Island post office']],
    ['0005', []],
    // By number, and by the machine's name.
    [
      '5',
      [
        'Seaweed laboratory of the northern shallows',
        'Knitwear pattern studio',
        'Boatyard drawing office',
      ],
    ],
    ["'; drop table jobs; --", []],
    ['\\', []],
  ])('searching for %s', async (search, names) => {
    const { jobs } = await listJobs(db, { state: 'open', search, limit: 50, offset: 0 });
    expect(jobs.map(({ customerName }) => customerName)).toEqual(names);
  });

  test('a job is read in a transaction without its question being written anew', async () => {
    const { jobs } = await listJobs(db, { state: 'open', search: '', limit: 2, offset: 0 });
    const { dialect } = db as unknown as {
      dialect: { buildRelationalQueryWithoutPK: () => object };
    };
    const writing = vi.spyOn(dialect, 'buildRelationalQueryWithoutPK');
    for (const { id } of jobs) {
      const own = await readJob(db, id);
      writing.mockClear();
      expect(await db.transaction((tx) => readJob(tx, id))).toEqual(own);
      expect(writing).not.toHaveBeenCalled();
    }
    writing.mockRestore();
  });

  test('tells the stories it was made for', async () => {
    const of = async (search: string, state: 'open' | 'closed' = 'open') => {
      const { jobs } = await listJobs(db, { state, search, limit: 5, offset: 0 });
      return jobs[0];
    };
    expect((await of('islander'))?.headline).toContain('DDR4-2133');
    expect((await of('Puppet'))?.next?.step).toBe('fit');
    expect((await of('post'))?.headline).toContain('single-channel');
    expect((await of('Boatyard', 'closed'))?.headline).toMatch(
      /^Mixed: open hull assembly ×2\.\d+ better/,
    );
    expect((await of('choir', 'closed'))?.headline).toBe('Runs dual-channel, inside the promise');
    const { shares } = await readShares(db);
    expect(shares.flatMap(({ isRefitted, assumed }) => (isRefitted ? [assumed.id] : []))).toEqual([
      'compression',
    ]);
    const events = await db.execute(
      sql`select count(*)::int as n from job_events where at > now() + interval '1 minute'`,
    );
    expect((events as { rows: { n: number }[] }).rows[0]?.n).toBe(0);
  });
});

describe('the page', () => {
  test('gets a nonce of its own each time, and any address of the interface leads to it', async () => {
    const web = join(folder, 'web');
    rmSync(web, { recursive: true, force: true });
    const { mkdirSync } = await import('node:fs');
    mkdirSync(join(web, 'assets'), { recursive: true });
    writeFileSync(
      join(web, 'index.html'),
      '<script nonce="TEMBRIX_CSP_NONCE" src="/assets/a.js"></script>',
    );
    writeFileSync(join(web, 'assets/a.js'), '1');
    const server = await startServer({
      place: { type: 'memory' },
      port: 0,
      log: pino({ level: 'silent' }),
      webDirectory: web,
    });
    const cookie = await ownerOf(server.url);
    const visit = async (path: string) => {
      const response = await fetch(server.url + path, { headers: { cookie } });
      const policy = response.headers.get('content-security-policy') ?? '';
      return {
        status: response.status,
        text: await response.text(),
        nonce: /'nonce-([^']+)'/.exec(policy)?.[1] ?? '',
      };
    };
    const [first, second] = [await visit('/'), await visit('/jobs/abc/plan')];
    for (const { text, nonce } of [first, second]) expect(text).toContain(`nonce="${nonce}"`);
    expect(first.nonce).not.toBe(second.nonce);
    expect((await visit('/assets/a.js')).text).toBe('1');
    expect((await visit('/assets/missing.js')).status).toBe(404);
    expect((await visit('/api/missing')).text).toContain('not part of the API');
    await server.stop();
  });
});

test('migrations are written down in order, and none was edited away', () => {
  const journal = JSON.parse(
    readFileSync('server/store/migrations/meta/_journal.json', 'utf8'),
  ) as {
    entries: { idx: number; tag: string }[];
  };
  expect(journal.entries.map(({ idx }) => idx)).toEqual(journal.entries.map((_, at) => at));
  for (const { tag } of journal.entries)
    expect(readFileSync(`server/store/migrations/${tag}.sql`, 'utf8').trim()).not.toBe('');
});

test('a data directory is opened again with all that was in it', async () => {
  const place = { type: 'directory', path: join(folder, 'data') } as const;
  const first = await Api.start(place);
  const job = await first.jobWithFound();
  await first.server.stop();
  const second = await Api.start(place);
  expect(await second.ok<Job>('GET', `/jobs/${job.id}`)).toEqual(job);
  await second.server.stop();
});
