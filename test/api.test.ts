import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { Job } from '#contract/records';
import { routes } from '#contract/routes';
import { desktop } from './support/builders.ts';
import { Api, module } from './support/api.ts';

let api: Api;
beforeAll(async () => {
  api = await Api.start();
});
afterAll(() => api.server.stop());

const runs = (kind: string, values: number[], more = {}) => ({
  ...{
    kind,
    metric: 'bandwidth',
    test: 'copy',
    runs: values,
    warmUp: 0,
    conditions: 'mains',
    ...more,
  },
});

describe('the life of a job', () => {
  test('from intake to a verdict computed by the server', async () => {
    const job = await api.jobWithFound();
    const path = `/jobs/${job.id}`;
    await api.ok('POST', `${path}/measurements`, runs('as-found', [14, 14.1, 13.9]));
    await api.ok('PATCH', path, { version: 1, need: 11 });
    const placement = { a1: module, b1: module };
    for (const kind of ['planned', 'as-fitted'])
      await api.ok('PUT', `${path}/snapshots/${kind}`, {
        placement,
        setting: 'standard',
        version: 0,
      });
    const ready = await api.ok(
      'POST',
      `${path}/measurements`,
      runs('as-fitted', [27.5, 27.6, 27.4]),
    );

    const closed = await api.ok('POST', `${path}/close`, { version: ready.version });
    expect(closed.result?.headline).toBe('Runs dual-channel, inside the promise');
    expect(closed.events.map(({ type }) => type)).toEqual([
      'opened',
      'as-found',
      'measured',
      'terms changed',
      'planned',
      'as-fitted',
      'measured',
      'closed',
    ]);
    expect(await api.problem('PATCH', path, { version: closed.version, need: 1 })).toMatchObject({
      status: 409,
      mend: 'Open it again to change it.',
    });
    const list = await api.ok<{ jobs: { id: string; headline: string }[] }>(
      'GET',
      '/jobs?state=closed',
    );
    expect(list.jobs.find(({ id }) => id === job.id)?.headline).toContain('Runs dual-channel');
    const again = await api.ok('POST', `${path}/reopen`, { version: closed.version });
    expect(again.result).toBeNull();
  });

  test('closing without a record of what was fitted says what to save', async () => {
    const job = await api.jobWithFound();
    const problem = await api.problem('POST', `/jobs/${job.id}/close`, { version: job.version });
    expect(problem.mend).toContain('Save both');
  });

  test('the same customer typed again is not a second one', async () => {
    const [a, b] = [await api.jobWithFound(), await api.jobWithFound()];
    expect(a.customer.id).toBe(b.customer.id);
    expect(b.number).toBeGreaterThan(a.number);
  });

  test('the bench list says what is next, the longest waiting first, and finds by any word', async () => {
    const job = await api.jobWithFound();
    const { jobs, total } = await api.ok<{
      jobs: { id: string; openedAt: string; next: { action: string } }[];
      total: number;
    }>('GET', `/jobs?search=student`);
    expect(total).toBe(jobs.length);
    expect(jobs.map(({ openedAt }) => openedAt)).toEqual(
      jobs.map(({ openedAt }) => openedAt).sort(),
    );
    expect(jobs.find(({ id }) => id === job.id)?.next.action).toBe('Measure before the change');
    const none = await api.ok<{ total: number }>(
      'GET',
      `/jobs?search=${encodeURIComponent('100%_')}`,
    );
    expect(none.total).toBe(0);
  });
});

describe('stale saves', () => {
  test('a job saved from an older version gets 409 with both sides', async () => {
    const job = await api.jobWithFound();
    await api.ok('PATCH', `/jobs/${job.id}`, { version: job.version, complaint: 'Theirs' });
    const stale = await api.problem('PATCH', `/jobs/${job.id}`, {
      version: job.version,
      complaint: 'Mine',
    });
    expect(stale).toMatchObject({
      status: 409,
      yours: { complaint: 'Mine' },
      theirs: { complaint: 'Theirs', version: job.version + 1 },
    });
  });

  test('so do snapshots, measurements, machines and modules', async () => {
    const job = await api.jobWithFound();
    const found = { placement: {}, setting: 'standard' };
    const path = `/jobs/${job.id}/snapshots/as-found`;
    expect((await api.problem('PUT', path, { ...found, version: 0 })).status).toBe(409);
    expect((await api.problem('PUT', path, { ...found, version: 7 })).status).toBe(409);

    const { measurements } = await api.ok(
      'POST',
      `/jobs/${job.id}/measurements`,
      runs('as-found', [14]),
    );
    const own = `/jobs/${job.id}/measurements/${measurements[0]?.id}`;
    await api.ok('PUT', own, { ...runs('as-found', [14, 15]), version: 1 });
    expect((await api.problem('PUT', own, { ...runs('as-found', [1]), version: 1 })).status).toBe(
      409,
    );

    const machine = `/machines/${job.machine.id}`;
    await api.ok('PUT', machine, { machine: desktop({ name: 'Renamed' }), version: 1 });
    expect(await api.problem('PUT', machine, { machine: desktop(), version: 1 })).toMatchObject({
      theirs: { machine: { name: 'Renamed' } },
    });
    const { id } = await api.ok<{ id: string }>('POST', '/modules', { label: '8GB', module });
    await api.ok('PUT', `/modules/${id}`, { label: '8GB b', module, version: 1 });
    expect(
      (await api.problem('PUT', `/modules/${id}`, { label: 'c', module, version: 1 })).status,
    ).toBe(409);
  });
});

describe('bad input names the field and the mend', () => {
  const seventeen = Array.from({ length: 17 }, (_, at) => ({
    id: `s${at}`,
    printedName: `S${at}`,
    channels: ['A'],
  }));

  test.each([
    ['no slots at all', { slots: [] }, 'machine.slots', /Add a slot/],
    ['17 slots', { slots: seventeen }, 'machine.slots', /17 slots are too many/],
    [
      'a fill order naming a missing slot',
      { fillOrder: [['zz']] },
      'machine.fillOrder.0',
      /not there/,
    ],
    [
      'a slot on no channel',
      { slots: [{ id: 'a', printedName: 'A', channels: [] }] },
      'machine.slots.0.channels',
      /without a channel/,
    ],
    [
      'a range backwards',
      { graphicsCarveOut: { low: 2, high: 1 } },
      'machine.graphicsCarveOut',
      /Swap/,
    ],
    [
      'a 5,000-character name',
      { name: '🐦'.repeat(2500) },
      'machine.name',
      /120 characters at most/,
    ],
    ['a rate of a million', { controllerLimit: 1_000_000 }, 'machine.controllerLimit', /MT\/s/],
  ])('%s', async (_name, traits, path, message) => {
    const problem = await api.problem('POST', '/machines', { machine: desktop(traits as object) });
    expect(problem.status).toBe(422);
    expect(problem.fields).toContainEqual({
      path,
      message: expect.stringMatching(message) as string,
    });
  });

  test.each([
    ['negative', [-3, 4], /more than 0/],
    ['none', [], /Type one figure a run/],
    ['MB/s for GB/s', [31_200], /1000 times larger/],
  ])('runs: %s', async (_name, values, message) => {
    const { id } = await api.jobWithFound();
    const problem = await api.problem('POST', `/jobs/${id}/measurements`, runs('as-found', values));
    expect(problem.fields?.[0]).toMatchObject({
      path: 'runs',
      message: expect.stringMatching(message) as string,
    });
  });

  test('runs need a set of modules, a test needs a name of its own, a module a real slot and size', async () => {
    const { id } = await api.jobWithFound();
    const path = `/jobs/${id}/measurements`;
    expect((await api.problem('POST', path, runs('as-fitted', [14]))).mend).toContain(
      'Save what was fitted',
    );
    await api.ok('POST', path, runs('as-found', [14]));
    expect((await api.problem('POST', path, runs('as-found', [15]))).mend).toContain(
      'another name',
    );
    const snapshot = (placement: object) =>
      api.problem('PUT', `/jobs/${id}/snapshots/planned`, {
        placement,
        setting: 'standard',
        version: 0,
      });
    expect((await snapshot({ zz: module })).detail).toContain('no slot “zz”');
    expect((await snapshot({ a1: { ...module, capacity: 13 } })).fields?.[0]?.path).toBe(
      'placement.a1.capacity',
    );
  });

  test('an emoji name is a name', async () => {
    const machine = desktop({ name: 'Puffin 🐧 box' });
    expect(
      (await api.ok<{ machine: { name: string } }>('POST', '/machines', { machine })).machine.name,
    ).toBe('Puffin 🐧 box');
  });

  test.each([
    ['no JSON', '{', 400],
    ['2 MB', JSON.stringify({ text: 'x'.repeat(2_000_000) }), 413],
  ])('%s', async (_name, body, status) => {
    expect((await api.problem('POST', '/labels/read', body)).status).toBe(status);
  });

  test('unknown addresses and rows', async () => {
    expect((await api.problem('GET', '/nowhere')).mend).toContain('openapi.json');
    expect((await api.problem('GET', '/jobs/nope')).status).toBe(404);
  });
});

test('others can use the core: operating point and label reader, with reasons in words', async () => {
  const answer = await api.ok<{
    point: { rate: number; peak: number };
    explanations: { title: string }[];
  }>('POST', '/operating-point', {
    machine: desktop(),
    placement: { a1: module, a2: module },
    setting: 'standard',
  });
  expect([answer.point.rate, answer.point.peak]).toEqual([2400, 19.2]);
  expect(answer.explanations.map(({ title }) => title)).toContain('All modules share one channel');
  const label = await api.ok<{ findings: { title: string; mend: string }[] }>(
    'POST',
    '/labels/read',
    { text: '7GB DDR4-2400' },
  );
  expect(label.findings[0]).toMatchObject({
    title: expect.stringContaining('7 GB') as string,
    mend: 'Look again: 4 GB or 8 GB?',
  });
});

test('the API describes every route it mounts', async () => {
  const { paths } = await api.ok<{ paths: Record<string, object> }>('GET', '/openapi.json');
  const described = Object.values(paths).reduce(
    (sum, methods) => sum + Object.keys(methods).length,
    0,
  );
  expect(described).toBe(Object.keys(routes).length);
  expect(paths['/api/jobs/{id}/snapshots/{kind}']).toHaveProperty('put.requestBody');
});

test('the history of a job cannot be rewritten', async () => {
  await api.jobWithFound();
  const cause = (error: unknown) => String((error as { cause?: unknown }).cause ?? error);
  for (const statement of [sql`update job_events set text = 'x'`, sql`delete from job_events`])
    await expect(
      api.server.db.execute(statement).then(() => 'went through', cause),
    ).resolves.toContain('append-only');
});

test('nothing is loaded from elsewhere, and nothing listens beyond loopback', async () => {
  const { headers } = await api.fetch(`/health`);
  expect(headers.get('content-security-policy')).toMatch(
    /default-src 'none'.*frame-ancestors 'none'/,
  );
  expect(headers.get('x-powered-by')).toBeNull();
  expect(new URL(api.server.url).hostname).toBe('127.0.0.1');
});

test('a job survives the way to the database and back unchanged', async () => {
  const job = await api.jobWithFound();
  expect(await api.ok<Job>('GET', `/jobs/${job.id}`)).toEqual(job);
  expect(job.snapshots[0]?.placement).toEqual({ a1: module });
});
