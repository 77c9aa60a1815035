import { setTimeout as wait } from 'node:timers/promises';
import pg from 'pg';
import { pino } from 'pino';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { ToldChange } from '#contract/live';
import type { Job } from '#contract/records';
import { LiveHub } from '../server/live/hub.ts';
import { Api } from './support/api.ts';
import { Listener } from './support/listener.ts';
import type { Heard } from './support/listener.ts';
import { hasPostgres, Postgres } from './support/postgres.ts';

let api: Api;
beforeAll(async () => {
  api = await Api.start(undefined, { addresses: [new URL('https://bench.example')] });
});
afterAll(() => api.server.stop());

const isChange = (jobId: string) => (one: Heard) =>
  one.event === 'change' && (one.data as ToldChange).job === jobId;

const ofMakers = (one: Heard) => (one.data as ToldChange | null)?.table === 'makers';

/** A screen that has heard all that was said before it: a database server tells in its own time. */
async function attentive(tab: string): Promise<Listener> {
  const screen = await Listener.open(api.fetch.bind(api), tab);
  await api.ok('PUT', '/makers/7-09', { name: `Heard by ${tab}` });
  await screen.until(ofMakers);
  screen.heard.length = 0;
  return screen;
}

describe('a screen that listens', () => {
  test('hears of what was stored, which job, and from which tab', async () => {
    const screen = await Listener.open(api.fetch.bind(api), 'a');
    const job = await api.jobWithFound();
    await screen.until(isChange(job.id));
    await api.fetch(`/jobs/${job.id}`, {
      method: 'PATCH',
      headers: { 'x-tab': 'mine' },
      body: JSON.stringify({ complaint: 'Slower', version: job.version }),
    });
    await screen.until((one) => (one.data as ToldChange | null)?.tab === 'mine');
    await api.ok('PUT', '/makers/7-01', { name: 'Nobody' });
    const maker = await screen.until(ofMakers);
    expect(maker.data).toMatchObject({ job: null });
    screen.close();
  });

  test('hears nothing of what was refused or undone', async () => {
    const job = await api.jobWithFound();
    const screen = await attentive('b');
    expect(
      (await api.send('PATCH', `/jobs/${job.id}`, { complaint: 'x', version: 77 })).status,
    ).toBe(409);
    await api.ok('PUT', '/makers/7-02', { name: 'Somebody' });
    await screen.until(ofMakers);
    expect(screen.changesOf(job.id)).toEqual([]);
    screen.close();
  });

  test('of many rows in one deed hears once', async () => {
    const job = await api.jobWithFound();
    const screen = await attentive('c');
    await api.ok('PUT', `/jobs/${job.id}/snapshots/planned`, {
      ...{ placement: {}, setting: 'standard', version: 0 },
    });
    await screen.until(isChange(job.id));
    await api.ok('PUT', '/makers/7-03', { name: 'Last' });
    await screen.until(ofMakers);
    const tables = screen.changesOf(job.id).map(({ table }) => table);
    expect(new Set(tables).size).toBe(tables.length);
    screen.close();
  });

  test('says where people are: who was there first is told too, who goes is gone', async () => {
    const bram = await api.person('technician', 'Bram Oddmund');
    const job = await api.jobWithFound();
    const his = await Listener.open(bram.fetch.bind(bram), 'his');
    const at = { tab: 'his', jobId: job.id, step: 'fit', draft: '16 GB in A1' };
    await bram.ok('POST', '/live/here', at);
    const mine = await Listener.open(api.fetch.bind(api), 'mine');
    const seen = await mine.until(({ event }) => event === 'here');
    expect(seen.data).toEqual({ ...at, name: 'Bram Oddmund' });
    his.close();
    await mine.until(
      ({ event, data }) => event === 'here' && (data as { jobId: string | null }).jobId === null,
    );
    // A name cannot be claimed.
    expect((await bram.send('POST', '/live/here', { ...at, name: 'Ottoline V.' })).status).toBe(
      422,
    );
    mine.close();
  });

  test('nobody unknown listens; a tablet hears of its own job alone', async () => {
    expect((await api.stranger().fetch('/live?tab=x')).status).toBe(401);
    const [own, other] = [await api.jobWithFound(), await api.jobWithFound()];
    const { address } = await api.ok<{ address: string }>('POST', `/jobs/${own.id}/tablet`, {});
    const { tablet } = await api.tablet(new URL(address).hash.replace('#tablet=', ''));
    const screen = await Listener.open(tablet.fetch.bind(tablet), 'tablet');
    for (const { id, version } of [other, own])
      await api.ok('PATCH', `/jobs/${id}`, { complaint: 'Slower', version });
    await screen.until(isChange(own.id));
    expect(screen.changesOf(other.id)).toEqual([]);
    screen.close();
  });
});

describe('what was stored while a page was on its way', () => {
  const change = (table: string, job: string | null = null): ToldChange => ({
    ...{ job, table, tab: null },
  });
  /** A hub whose clock and database a test keeps, and what a screen that begins there hears. */
  async function hubOf() {
    let now = 0;
    let tell: (payload: string | undefined) => void = () => undefined;
    const listen = (channel: string, onMessage: typeof tell) => {
      if (channel === 'tembrix_changes') tell = onMessage;
      return Promise.resolve(() => Promise.resolve());
    };
    const store = { listen, tell: () => Promise.resolve(), db: api.server.db };
    const hub = new LiveHub(store, pino({ level: 'silent' }), 60_000, () => now);
    await hub.start();
    const heard = (shownForMs: number | undefined, jobId?: string) => {
      const written: string[] = [];
      const response = {
        ...{ status: () => response, set: () => response, flushHeaders: () => undefined },
        ...{ write: (text: string) => written.push(text), end: () => undefined },
        ...{ on: () => undefined, writableEnded: false },
      };
      const mayHear = () => Promise.resolve(true);
      hub.add({ tab: 'x', jobId, shownForMs, mayHear, response: response as never });
      return written
        .map((text) => /^event: (.*)\ndata: (.*)$/m.exec(text) ?? [])
        .filter(([, event]) => event !== 'beat')
        .map(([, event, data = '']) =>
          event === 'change' ? (JSON.parse(data) as ToldChange).table : event,
        );
    };
    const stored = (at: number, payload: ToldChange | undefined) => {
      now = at;
      tell(payload && JSON.stringify(payload));
    };
    return { hub, heard, stored, at: (time: number) => void (now = time) };
  }

  test('is told as it begins to listen; what is older it has read', async () => {
    const { hub, heard, stored, at } = await hubOf();
    stored(10_000, change('makers'));
    stored(30_300, change('drawer'));
    stored(30_500, change('drawer'));
    at(31_000);
    expect(heard(800)).toEqual(['drawer']);
    expect(heard(25_000)).toEqual(['makers', 'drawer']);
    at(60_000);
    expect(heard(800)).toEqual([]);
    // A program that says nothing of a page has none.
    at(31_000);
    expect(heard(undefined)).toEqual([]);
    await hub.stop();
  });

  test('of another job is not for a tablet', async () => {
    const { hub, heard, stored } = await hubOf();
    stored(1000, change('jobs', 'other'));
    stored(1001, change('snapshots', 'own'));
    expect(heard(500, 'own')).toEqual(['snapshots']);
    await hub.stop();
  });

  test('and is no longer known has everything looked at again', async () => {
    const { hub, heard, stored, at } = await hubOf();
    at(3000);
    // The page is older than the process that answers it now.
    expect(heard(10_000)).toEqual(['missed']);
    for (let n = 0; n < 500; n++) stored(4000 + n, change(`table ${n}`));
    expect(heard(490)).toEqual(['missed']);
    expect(heard(10)).toHaveLength(11);
    expect(heard(199)).toHaveLength(200);
    stored(5000, undefined);
    at(5500);
    expect([heard(1000), heard(100)]).toEqual([['missed'], []]);
    await hub.stop();
  });
});

test('a stream ends with its session, though nobody asks for anything', async () => {
  const mine = await api.person('technician', 'Corvin Hale');
  const written: string[] = [];
  let may = true;
  const silent = {
    listen: () => Promise.resolve(() => Promise.resolve()),
    tell: () => Promise.resolve(),
  };
  const hub = new LiveHub({ ...silent, db: api.server.db }, pino({ level: 'silent' }), 5);
  await hub.start();
  let isEnded = false;
  const response = {
    ...{ status: () => response, set: () => response, flushHeaders: () => undefined },
    ...{ write: (text: string) => written.push(text), end: () => (isEnded = true) },
    ...{ on: () => undefined, writableEnded: false },
  };
  hub.add({
    tab: 'x',
    ...{ jobId: undefined, shownForMs: undefined },
    mayHear: () => Promise.resolve(may),
    response: response as never,
  });
  while (written.length < 3) await wait(5);
  may = false;
  while (!isEnded) await wait(5);
  await hub.stop();
  await mine.ok('DELETE', '/session');
});

describe.skipIf(!hasPostgres())('two processes on one PostgreSQL server', () => {
  test('are one bench: what one stores, screens of the other hear, also after the server was away', async () => {
    const postgres = await Postgres.start();
    const place = { type: 'server', url: postgres.database('live') } as const;
    const [one, other] = [await Api.start(place), await Api.start(place)];
    const screen = await Listener.open(other.fetch.bind(other), 'there');
    const job = await one.jobWithFound();
    await screen.until(isChange(job.id));
    // Its connections are cut, as a restart of the server cuts them.
    const client = new pg.Client({ connectionString: place.url });
    await client.connect();
    await client.query(
      `select pg_terminate_backend(pid) from pg_stat_activity
       where pid <> pg_backend_pid() and query like 'listen%'`,
    );
    await client.end();
    await screen.until(({ event }) => event === 'missed');
    const later: Job = await one.jobWithFound();
    await screen.until(isChange(later.id));
    screen.close();
    await Promise.all([one.server.stop(), other.server.stop()]);
    postgres.dispose();
  });
});
