import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { Job, ModuleRecord } from '#contract/records';
import { forgetOldDeeds } from '../server/store/operations/deeds.ts';
import { deeds } from '../server/store/schema/index.ts';
import { Api, module } from './support/api.ts';

let api: Api;
let job: Job;
beforeAll(async () => {
  api = await Api.start();
  job = await api.jobWithFound();
});
afterAll(() => api.server.stop());

/** A write under a key. */
async function send<T>(key: string, method: string, path: string, body: unknown) {
  const answer = await api.fetch(`${path}`, {
    method,
    headers: { 'content-type': 'application/json', 'idempotency-key': key },
    body: JSON.stringify(body),
  });
  return { status: answer.status, body: (await answer.json()) as T };
}

describe('a write sent again because its answer was lost', () => {
  const intake = () => ({
    customer: { name: 'Rope loft', contact: '' },
    machineId: job.machine.id,
    complaint: 'Slow',
  });

  test('stands once, and is answered as it was the first time', async () => {
    const first = await send<Job>('rope-loft-1', 'POST', '/jobs', intake());
    const again = await send<Job>('rope-loft-1', 'POST', '/jobs', intake());
    expect([first.status, again.status]).toEqual([201, 201]);
    expect(again.body).toEqual(first.body);
    const list = await api.ok<{ total: number }>('GET', '/jobs?search=Rope%20loft');
    expect(list.total).toBe(1);
  });

  test('ten at the same moment stand once', async () => {
    const entry = { label: 'only one', module };
    const all = await Promise.all(
      Array.from({ length: 10 }, () =>
        send<ModuleRecord>('ten-at-once', 'POST', '/modules', entry),
      ),
    );
    expect(new Set(all.map(({ body }) => body.id)).size).toBe(1);
    const modules = await api.ok<ModuleRecord[]>('GET', '/modules');
    expect(modules.filter(({ label }) => label === 'only one')).toHaveLength(1);
  });

  test('another key is another one; the same key for something else is refused', async () => {
    const entry = { label: 'two of it', module };
    await send('two-of-it-1', 'POST', '/modules', entry);
    await send('two-of-it-2', 'POST', '/modules', entry);
    const other = await send<{ mend: string }>('two-of-it-1', 'POST', '/modules', {
      ...entry,
      label: 'something else',
    });
    expect(other.status).toBe(409);
    expect(other.body.mend).toContain('key of its own');
    const labels = (await api.ok<ModuleRecord[]>('GET', '/modules')).map(({ label }) => label);
    expect(labels.filter((label) => label === 'two of it')).toHaveLength(2);
    expect(labels).not.toContain('something else');
  });

  test('what was refused leaves its key free for the corrected request', async () => {
    expect((await send('corrected-1', 'POST', '/modules', { label: 'x' })).status).toBe(422);
    const right = await send('corrected-1', 'POST', '/modules', { label: 'x', module });
    expect(right.status).toBe(201);
  });

  test.each(['short', 'with a space in it', 'x'.repeat(101)])('no key: “%s”', async (key) => {
    const { status } = await send(key, 'POST', '/modules', { label: 'odd key', module });
    expect(status).toBe(422);
  });

  test('answers are kept for some days', async () => {
    const { db } = api.server;
    await send('old-deed-1', 'POST', '/modules', { label: 'old', module });
    await db.update(deeds).set({ at: sql`now() - interval '4 days'` });
    await send('new-deed-1', 'POST', '/modules', { label: 'new', module });
    await forgetOldDeeds(db);
    expect((await db.select().from(deeds)).map(({ key }) => key)).toEqual(['new-deed-1']);
  });
});

test('a save made from before an import is told', async () => {
  const entry = { label: 'before', module };
  const one = await api.ok<ModuleRecord>('POST', '/modules', entry);
  await api.ok('POST', '/modules/import', {
    modules: [{ ...entry, id: one.id, label: 'imported' }],
  });
  const stale = { ...entry, label: 'from before', version: one.version };
  const problem = await api.problem('PUT', `/modules/${one.id}`, stale);
  expect(problem.status).toBe(409);
  expect(problem.theirs).toMatchObject({ label: 'imported' });
});

describe('figures no column holds are refused in words', () => {
  test.each([2_147_483_647, 2 ** 40, 2 ** 53, 1e300, -1, 1.5])('version %d', async (version) => {
    for (const [method, path, body] of [
      ['PATCH', `/jobs/${job.id}`, { complaint: 'x', version }],
      ['PUT', '/shop', { version, terms: (await api.ok<{ terms: object }>('GET', '/shop')).terms }],
      [
        'PUT',
        `/jobs/${job.id}/snapshots/as-found`,
        { placement: {}, setting: 'standard', version },
      ],
      ['POST', `/jobs/${job.id}/reopen`, { version }],
    ] as const) {
      const { status } = await api.send(method, path, body);
      expect([404, 409, 422]).toContain(status);
    }
  });

  test.each(['0000-01-01', '0999-12-31', '9999-12-31'])('deadline %s', async (deadline) => {
    const { version } = await api.ok('GET', `/jobs/${job.id}`);
    const problem = await api.problem('PATCH', `/jobs/${job.id}`, { deadline, version });
    expect(problem.status).toBe(422);
  });

  test.each(['1e99', '99999999999999999999', '-1', 'NaN'])('offset %s', async (offset) => {
    expect((await api.problem('GET', `/jobs?offset=${offset}`)).status).toBe(422);
  });
});

test('every error is a problem in JSON, outside the API too', async () => {
  for (const [method, path] of [
    ['POST', '/'],
    ['DELETE', '/jobs/1'],
    ['GET', '/%ff'],
    ['GET', '/api/%E0%A4%A'],
    ['PUT', '/measure'],
    ['GET', '/assets/none.js'],
  ] as const) {
    const answer = await fetch(`${api.server.url}${path}`, { method });
    expect(answer.status).toBeGreaterThanOrEqual(400);
    expect(answer.headers.get('content-type')).toContain('application/problem+json');
    expect(await answer.json()).toHaveProperty('mend');
  }
});
