import { gzipSync, gunzipSync } from 'node:zlib';
import { extract, pack } from 'tar-stream';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { BenchLog } from '#contract/bench';
import type { JobEvidence } from '#contract/evidence';
import type { Job, JobSummary } from '#contract/records';
import { DEMO_PASSWORD, PEOPLE } from '#demo/seed';
import { digestOf } from '../server/digest.ts';
import { Api } from './support/api.ts';
import { demoWorld } from './support/demoWorld.ts';
import { isAnew } from './support/draws.ts';

// One job goes out of a bench and into another, with all that belongs to it and nothing else.

let here: Api;
let there: Api;
beforeAll(async () => {
  here = await Api.start({ type: 'memory', image: await demoWorld() }, {}, false);
  await here.signIn({ name: PEOPLE[0].name, password: DEMO_PASSWORD });
  there = await Api.start();
  await there.jobWithFound();
});
afterAll(async () => {
  await here.server.stop();
  await there.server.stop();
});

async function bundleOf(id: string): Promise<Buffer> {
  const answer = await here.fetch(`/jobs/${id}/bundle`);
  expect(answer.headers.get('content-disposition')).toMatch(/job-\d{4}\.tembrix-job\.tar\.gz/);
  return Buffer.from(await answer.arrayBuffer());
}
const taken = (bundle: Buffer) =>
  there.send<Job>('POST', '/jobs/import', { base64: bundle.toString('base64') });

async function jobsOf(state: string): Promise<JobSummary[]> {
  return (await here.ok<{ jobs: JobSummary[] }>('GET', `/jobs?state=${state}`)).jobs;
}

/** An archive's entries, changed and written again with a manifest that fits them. */
async function changed(
  bundle: Buffer,
  change: (tables: Map<string, string>) => void,
): Promise<Buffer> {
  const entries = new Map<string, string>();
  const tar = extract();
  tar.end(gunzipSync(bundle));
  for await (const entry of tar) {
    const parts: Buffer[] = [];
    for await (const part of entry as AsyncIterable<Buffer>) parts.push(part);
    entries.set(entry.header.name, Buffer.concat(parts).toString('utf8'));
  }
  const manifest = JSON.parse(entries.get('manifest.json') ?? '') as { tables: object[] };
  const tables = new Map(
    [...entries].flatMap(([name, text]) => {
      const table = /^tables\/(.*)\.jsonl$/.exec(name)?.[1];
      return table === undefined ? [] : [[table, text] as const];
    }),
  );
  change(tables);
  const again = pack();
  for (const [name, text] of tables) again.entry({ name: `tables/${name}.jsonl` }, text);
  manifest.tables = [...tables].map(([name, text]) => ({
    ...{ name, sha256: digestOf(text), rows: text === '' ? 0 : text.split('\n').length },
  }));
  const files = [...entries].filter(([name]) => name.startsWith('files/'));
  for (const [name, text] of files) again.entry({ name }, text);
  again.entry({ name: 'manifest.json' }, JSON.stringify(manifest));
  again.finalize();
  const parts: Buffer[] = [];
  for await (const part of again as AsyncIterable<Buffer>) parts.push(part);
  return gzipSync(Buffer.concat(parts));
}

describe('a job in a file', () => {
  test('is the same job elsewhere, under the next number, with its files, notes and history', async () => {
    const all = [...(await jobsOf('open')), ...(await jobsOf('closed'))];
    expect(all.length).toBeGreaterThan(10);
    let last = 1;
    // By day every other one.
    const carried = all.slice(0, -1).filter((_, at) => isAnew || at % 2 === 0);
    for (const { id } of carried) {
      const own = await here.ok('GET', `/jobs/${id}`);
      const { status, body: job } = await taken(await bundleOf(id));
      expect(status).toBe(201);
      expect(job.number).toBe(++last);
      const like = ({ number: _number, batch: _batch, events, machine, ...rest }: Job) => ({
        ...{ ...rest, machine: machine.machine },
        events: events.filter(({ type }) => type !== 'imported').map(({ id: _id, ...one }) => one),
      });
      expect(like(job)).toEqual(like(own));
      expect(job.events.at(-1)?.text).toBe('Taken in from another bench');
      for (const part of ['evidence', 'bench', 'quotes', 'results'] as const) {
        const [before, after] = await Promise.all([
          here.ok<JobEvidence | BenchLog>('GET', `/jobs/${id}/${part}`),
          there.ok<JobEvidence | BenchLog>('GET', `/jobs/${id}/${part}`),
        ]);
        // Numbers the database gives are its own.
        const plain = (value: unknown) =>
          JSON.stringify(value).replaceAll(/"(?:id|seq)":\d+,?/g, '');
        expect(plain(after)).toBe(plain(before));
      }
    }
  });

  test('twice is said, with the number it has here', async () => {
    const [first] = await jobsOf('open');
    const { status, body } = await taken(await bundleOf(first?.id ?? ''));
    expect([status, (body as unknown as { detail: string }).detail]).toEqual([
      409,
      expect.stringMatching(/here already, as number \d{4}/),
    ]);
  });

  test('carries nothing of other jobs, of the shop or of links', async () => {
    const [first] = await jobsOf('open');
    const names: string[] = [];
    await changed(await bundleOf(first?.id ?? ''), (tables) => {
      names.push(...[...tables].filter(([, text]) => text !== '').map(([name]) => name));
      for (const [name, text] of tables)
        for (const line of text === '' ? [] : text.split('\n')) {
          const row = JSON.parse(line) as { job_id?: string };
          expect([name, row.job_id ?? first?.id]).toEqual([name, first?.id]);
        }
    });
    expect(names).toContain('job_events');
    for (const name of ['tickets', 'drawer', 'modules', 'shop_terms', 'ledger'])
      expect(names).not.toContain(name);
  });

  test('is refused in words where it is none, damaged, or made to reach into this bench', async () => {
    const spare = (await jobsOf('closed')).at(-1)?.id ?? '';
    const good = await bundleOf(spare);
    const other = (await there.ok<{ jobs: JobSummary[] }>('GET', '/jobs')).jobs[0]?.id ?? '';
    const before = await there.ok<Job>('GET', `/jobs/${other}`);
    const strange: Record<string, Buffer> = {
      noise: Buffer.from('no archive'),
      'cut off': good.subarray(0, good.length / 2),
      'a whole bench': Buffer.from(await (await there.fetch(`/backup`)).arrayBuffer()),
      'no job': await changed(good, (tables) => tables.set('jobs', '')),
      'two jobs': await changed(good, (tables) =>
        tables.set('jobs', `${tables.get('jobs')}\n${tables.get('jobs')}`),
      ),
      'events of another job': await changed(good, (tables) =>
        tables.set('job_events', (tables.get('job_events') ?? '').replaceAll(spare, other)),
      ),
      'terms of the shop': await changed(good, (tables) =>
        tables.set('shop_terms', '{"id":1,"version":9,"terms":{}}'),
      ),
      'a key': await changed(good, (tables) => tables.set('tickets', `{"job_id":"${spare}"}`)),
      'a job that is none': await changed(good, (tables) =>
        tables.set(
          'jobs',
          (tables.get('jobs') ?? '').replace(/"school": ?"[^"]*"/, '"school":"x"'),
        ),
      ),
    };
    for (const [what, bundle] of Object.entries(strange)) {
      const { status, body } = await taken(bundle);
      expect([what, status]).toEqual([what, status === 422 ? 422 : 409]);
      expect((body as unknown as { mend: string }).mend).toMatch(/\w/);
    }
    expect(await there.ok('GET', `/jobs/${other}`)).toEqual(before);
    expect((await there.send('GET', `/jobs/${spare}`)).status).toBe(404);
    expect((await taken(good)).status).toBe(201);
  });
});
