import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { Door } from '#contract/measuring';
import type { Job } from '#contract/records';
import { openStore } from '../server/store/openStore.ts';
import { Api, module } from './support/api.ts';
import { freePort } from './support/freePort.ts';
import { Postgres, hasPostgres } from './support/postgres.ts';

// The races that one connection cannot have: several people at one moment, on a server with many. The
// embedded engine runs them too, where they have to end the same.

const atOnce = <T>(count: number, run: (at: number) => Promise<T>) =>
  Promise.all(Array.from({ length: count }, (_, at) => run(at)));

let server: Postgres | undefined;
beforeAll(async () => {
  if (hasPostgres()) server = await Postgres.start();
});
afterAll(() => server?.dispose());

const engines = [
  ['embedded', () => ({ type: 'memory' }) as const],
  ['a server', () => ({ type: 'server', url: server?.database(`races`) ?? '' }) as const],
] as const;

describe.each(engines)('several at one moment, %s', (engine, place) => {
  const isMissing = engine === 'a server' && !hasPostgres();
  let api: Api;
  let job: Job;
  beforeAll(async () => {
    if (isMissing) return;
    api = await Api.start(place());
    job = await api.jobWithFound();
  });
  afterAll(() => (isMissing ? undefined : api.server.stop()));

  test.skipIf(isMissing)('one new customer typed by six is one customer', async () => {
    const customer = { name: 'Six hands', contact: 'at the quay' };
    const jobs = await atOnce(6, () =>
      api.ok('POST', '/jobs', { customer, machineId: job.machine.id, complaint: 'Slow' }),
    );
    expect(new Set(jobs.map((one) => one.customer.id)).size).toBe(1);
    expect(new Set(jobs.map(({ number }) => number)).size).toBe(6);
  });

  test.skipIf(isMissing)('one file dropped by six is one piece of evidence', async () => {
    const file = { kind: 'screen', name: 'screen', base64: 'QTE6IDggR0I=', slotIds: [] };
    await atOnce(6, () => api.send('POST', `/jobs/${job.id}/evidence`, { documents: [file] }));
    const { documents } = await api.ok<{ documents: unknown[] }>('GET', `/jobs/${job.id}/evidence`);
    expect(documents).toHaveLength(1);
  });

  test.skipIf(isMissing)(
    'of six saves from one version one stands, the others are told',
    async () => {
      const { version } = await api.ok('GET', `/jobs/${job.id}`);
      const all = await atOnce(6, (at) =>
        api.send('PATCH', `/jobs/${job.id}`, { complaint: `Slow ${at}`, version }),
      );
      expect(all.map(({ status }) => status).sort()).toEqual([200, 409, 409, 409, 409, 409]);
    },
  );

  test.skipIf(isMissing)('a write sent twice at one moment stands once', async () => {
    const all = await atOnce(6, async () => {
      const answer = await api.fetch(`/modules`, {
        method: 'POST',
        headers: { 'content-type': 'application/json', 'idempotency-key': 'one-moment' },
        body: JSON.stringify({ label: 'once', module }),
      });
      return { status: answer.status, id: ((await answer.json()) as { id: string }).id };
    });
    expect(all.map(({ status }) => status)).toEqual(Array(6).fill(201));
    expect(new Set(all.map(({ id }) => id)).size).toBe(1);
  });

  test.skipIf(isMissing)('a job is closed or changed, never both at once', async () => {
    const one = await api.jobWithFound();
    const results = await atOnce(6, (at) =>
      at % 2 === 0
        ? api.send('POST', `/jobs/${one.id}/close`, { version: one.version })
        : api.send('PATCH', `/jobs/${one.id}`, { complaint: `Slow ${at}`, version: one.version }),
    );
    expect(results.filter(({ status }) => status === 200).length).toBeLessThanOrEqual(1);
    expect(results.every(({ status }) => [200, 404, 409, 422].includes(status))).toBe(true);
  });
});

describe.skipIf(!hasPostgres())('a server that comes and goes', () => {
  test('two that start on one empty database both come up', async () => {
    const url = server?.database('empty') ?? '';
    const stores = await atOnce(3, () => openStore({ type: 'server', url }));
    expect(stores).toHaveLength(3);
    await Promise.all(stores.map(({ close }) => close()));
  });

  test('the measuring door is one for all: opened by one, shut by another, taken over when it is gone', async () => {
    const url = server?.database('door') ?? '';
    const place = { type: 'server', url } as const;
    const measuringPage = '<!doctype html><script>1</script>';
    const one = await Api.start(place, { measuringPage });
    const other = await Api.start(place, { measuringPage });
    const terms = { isOpen: true, address: '127.0.0.1', port: await freePort() };
    const opened = await one.ok<Door>('PUT', '/door', { terms, version: 0 });
    const at = `http://127.0.0.1:${terms.port}`;
    expect(opened.url).toBe(at);
    expect(await other.ok<Door>('GET', '/door')).toMatchObject({ terms, url: at, fault: null });
    // What a link says is the same whichever process made it.
    const job = await other.jobWithFound();
    const ticket = { kind: 'as-found', power: 'unknown' };
    expect(await other.ok('POST', `/jobs/${job.id}/tickets`, ticket)).toMatchObject({
      link: expect.stringContaining(at) as string,
    });
    const shut = { terms: { ...terms, isOpen: false }, version: opened.version };
    expect(await other.ok<Door>('PUT', '/door', shut)).toMatchObject({ url: null });
    expect(await one.ok<Door>('GET', '/door')).toMatchObject({ url: null, fault: null });
    await expect(fetch(at)).rejects.toThrow();
    const again = { terms, version: opened.version + 1 };
    expect(await one.ok<Door>('PUT', '/door', again)).toMatchObject({ url: at });
    expect(await other.ok<Door>('GET', '/door')).toMatchObject({ url: at });
    await one.server.stop();
    expect(await other.ok<Door>('GET', '/door')).toMatchObject({ url: at, fault: null });
    expect((await fetch(at)).status).toBe(200);
    await other.server.stop();
    await expect(fetch(at)).rejects.toThrow();
  });

  test('an idle bench outlives a restart, says what is wrong meanwhile, and goes on', async () => {
    const api = await Api.start({ type: 'server', url: server?.database('restart') ?? '' });
    await api.jobWithFound();
    server?.down();
    const away = await api.problem('GET', '/jobs');
    expect(away.status).toBe(503);
    expect(away.mend).toContain('try again');
    server?.up();
    const back = await api.ok<{ total: number }>('GET', '/jobs');
    expect(back.total).toBe(1);
    await api.server.stop();
  });
});
