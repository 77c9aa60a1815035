import express from 'express';
import { eq, sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { queryForJob } from '#contract/jobPlan';
import type { Quote, Shop } from '#contract/quotes';
import type { JobEvidence } from '#contract/evidence';
import type { Job, ModuleRecord } from '#contract/records';
import { routes } from '#contract/routes';
import type { Route } from '#contract/routes';
import { runToEnd } from '#core/planning';
import { VISIT } from '../server/access/allowed.ts';
import { createHandlers } from '../server/http/handlers.ts';
import { mountRoutes } from '../server/http/mount.ts';
import { jobEvents, machines, makers, quotes } from '../server/store/schema/index.ts';
import { Api, module } from './support/api.ts';
import { desktop, labelled } from './support/builders.ts';

let api: Api;
beforeAll(async () => {
  api = await Api.start();
});
afterAll(() => api.server.stop());

/** A job in which three modules of two sizes are pulled against credit. */
async function jobThatPullsThree(): Promise<Job> {
  const { terms, version } = await api.ok<Shop>('GET', '/shop');
  await api.ok('PUT', '/shop', { terms: { ...terms, creditPerGb: 33 }, version });
  const label = '16GB 2Rx8 PC4-2666V-UB1-11 KL-16U26';
  await api.ok('POST', '/modules', { label, module: labelled(label), price: 4000 });
  const bare = await api.jobWithFound();
  const small = labelled('4GB 1Rx8 PC4-2400T-UA1-11');
  await api.ok('PUT', `/jobs/${bare.id}/snapshots/as-found`, {
    ...{ placement: { a1: module, a2: small, b1: small }, setting: 'standard', version: 1 },
  });
  return api.ok('PATCH', `/jobs/${bare.id}`, { version: 1, need: 24 });
}

async function quoted(job: Job): Promise<Quote[]> {
  const { terms } = await api.ok<Shop>('GET', '/shop');
  const modules = await api.ok<ModuleRecord[]>('GET', '/modules');
  const { plans } = runToEnd(queryForJob(job, modules, [], terms));
  const plan = plans.find(({ pulled }) => pulled.length === 3);
  if (!plan) throw new Error('expected a plan that pulls three modules');
  return api.ok<Quote[]>('POST', `/jobs/${job.id}/quotes`, {
    ...{ units: plan.units, setting: plan.setting, expected: plan.cost.net },
  });
}

test('three pulled modules are credited each by its size, and the quote can be read again', async () => {
  const job = await jobThatPullsThree();
  const [quote] = await quoted(job);
  const credits = quote?.lines.filter(({ kind }) => kind === 'credit').map(({ each }) => each);
  expect(credits).toEqual([-264, -132, -132]);
  const sum = quote?.lines.reduce((total, { each, quantity }) => total + each * quantity, 0);
  expect(sum).toBe(quote?.total);
  expect(await api.ok<Quote[]>('GET', `/jobs/${job.id}/quotes`)).toHaveLength(1);
});

describe('every answer fits its schema over awkward rows', () => {
  let evidenceId = '';
  let pieceId = '';
  let job: Job;
  beforeAll(async () => {
    job = await jobThatPullsThree();
    const [quote] = await quoted(job);
    const { db } = api.server;
    // As an earlier version shared a credit out: thirds of a cent.
    const third = { kind: 'credit' as const, text: 'pulled', quantity: 1, each: -528 / 3 - 1 / 3 };
    const lines = (quote?.lines ?? []).filter(({ kind }) => kind !== 'credit');
    const [row] = await db
      .select()
      .from(quotes)
      .where(eq(quotes.id, quote?.id ?? ''));
    if (!row) throw new Error('expected the quote');
    await db.insert(quotes).values({
      ...{ ...row, id: 'old', number: row.number + 1 },
      lines: [...lines, third, third, { ...third, each: -528 / 3 + 2 / 3 }],
    });
    // A machine written before its newer fields were asked for, with a name in another script.
    const { access: _access, maximaFrom: _from, ...old } = desktop();
    const renamed = { ...old, name: '“Ґречка” \u202e 机器 😀'.repeat(3) };
    await db
      .update(machines)
      .set({ machine: renamed as never, name: renamed.name, locators: { 'a b c': 'none' } })
      .where(eq(machines.id, job.machine.id));
    await db.insert(jobEvents).values({ jobId: job.id, type: 'of an old kind', text: '' });
    await db.insert(makers).values({ key: '9-7F', name: 'Ĳ'.repeat(40) } as never);
    const run = { kind: 'as-found', metric: 'duration', test: 'ŧ'.repeat(80), warmUp: 0 };
    await api.ok('POST', `/jobs/${job.id}/measurements`, {
      ...{ ...run, runs: [0.001, 90_000, 3], conditions: '' },
    });
    await db.execute(sql`update measurements set resolution = '', tool = 'x y z'`);
    const ticket = { kind: 'as-found', power: 'unknown' };
    await api.ok('POST', `/jobs/${job.id}/tickets`, ticket);
    const { documents } = await api.ok<JobEvidence>('POST', `/jobs/${job.id}/evidence`, {
      documents: [{ kind: 'screen', name: '\u0000?', base64: 'AAECAwQF', slotIds: [] }],
    });
    evidenceId = documents[0]?.id ?? '';
    const piece = { label: 'ŧ'.repeat(90), module, state: 'suspect', price: 0, origin: '' };
    pieceId = (await api.ok<{ id: string }>('POST', '/drawer', piece)).id;
    const gone = await api.ok<{ id: string }>('POST', '/drawer', piece);
    await api.ok('POST', `/drawer/${gone.id}/gone`, { how: 'sold', note: '\u202e', version: 1 });
    const found = job.snapshots.find(({ kind }) => kind === 'as-found');
    await api.ok('PUT', `/jobs/${job.id}/snapshots/as-fitted`, {
      ...{ placement: found?.placement, setting: 'standard', version: 0 },
    });
    await api.ok('POST', `/jobs/${job.id}/close`, {
      version: (await api.ok('GET', `/jobs/${job.id}`)).version,
    });
  });

  const reading = Object.entries<Route>(routes).filter(([, { method }]) => method === 'get');
  test.each(reading.map(([name, route]) => [name, route.path] as const))(
    '%s',
    async (name, path) => {
      const id = path.startsWith('/machines')
        ? job.machine.id
        : path.startsWith('/practice')
          ? 'deck-plan'
          : path.startsWith('/drawer')
            ? pieceId
            : job.id;
      const { status, body } = await api.send(
        'GET',
        path
          .replaceAll('{evidenceId}', evidenceId)
          .replaceAll('{month}', new Date().toISOString().slice(0, 7))
          .replaceAll('{id}', name === 'listBatch' ? (job.batch?.id ?? 'none') : id),
      );
      // A batch that is none is the one thing that may be missing.
      expect([200, name === 'listBatch' ? 404 : 200]).toContain(status);
      expect(body).toBeDefined();
    },
  );
});

test('what cannot be read back is not kept', async () => {
  const app = express();
  app.use(express.json());
  const { db } = api.server;
  app.use((_request, response, next) => {
    response.locals[VISIT] = { actor: undefined };
    next();
  });
  mountRoutes(app, { db, write: (run) => db.transaction(run) }, (over, visit) => ({
    ...createHandlers(over, { isDemo: false } as never, visit),
    nameMaker: async ({ params, body }) => {
      await over.insert(makers).values({ key: params.key, name: body.name } as never);
      return [{ nonsense: true }] as never;
    },
  }));
  const server = app.listen(0, '127.0.0.1');
  await new Promise((listening) => server.once('listening', listening));
  const { port } = server.address() as { port: number };
  const answer = await fetch(`http://127.0.0.1:${port}/api/makers/7-01`, {
    method: 'PUT',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ name: 'Nobody' }),
  });
  server.close();
  expect(answer.status).toBe(500);
  expect(await db.select().from(makers).where(eq(makers.key, '7-01'))).toEqual([]);
});

test('soldered memory among the slowest parts is named by null in the answer', async () => {
  const part = { ...labelled('8GB 1Rx8 PC4-2133P-UA1-11'), formFactor: 'soldered' };
  const machine = { ...desktop(), soldered: [{ channel: 'A', part }] };
  const { point } = await api.ok<{ point: { rungs: { slotIds: unknown[] }[] } }>(
    'POST',
    '/operating-point',
    { machine, placement: { b1: module }, setting: 'standard' },
  );
  expect(point.rungs[0]?.slotIds).toEqual([null]);
});
