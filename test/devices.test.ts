import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { Session } from '#contract/access';
import type { OpenSession } from '#contract/accounts';
import type { Job } from '#contract/records';
import { tabletLinks } from '../server/store/schema/index.ts';
import { Api } from './support/api.ts';
import { DAY_MS, onAClock } from './support/clock.ts';

// What is tied to one device: the PIN that takes a bench over there, and the tablet beside it.

const ADDRESS = new URL('https://bench.example');

let api: Api;
beforeAll(async () => {
  api = await Api.start(undefined, { addresses: [ADDRESS] });
});
afterAll(() => api.server.stop());
const passes = onAClock();
const session = (visitor: Api) => visitor.ok<Session>('GET', '/session');

describe('a PIN', () => {
  const withPin = async (name: string) => {
    const mine = await api.person('technician', name);
    const { person, hasPin } = await mine.ok<Session>('PUT', '/session/pin', { pin: '4711' });
    expect(hasPin).toBe(true);
    return { mine, accountId: person?.id ?? '' };
  };
  const takeOver = async (visitor: Api, accountId: string, pin: string) => {
    const answer = await visitor.fetch('/session/take-over', {
      method: 'POST',
      body: JSON.stringify({ accountId, pin }),
    });
    const fresh = answer.headers.getSetCookie().map((one) => one.split(';')[0]);
    const device = visitor.cookie.split('; ').filter((one) => one.includes('device'));
    if (answer.ok) visitor.cookie = [...device, ...fresh].join('; ');
    return { status: answer.status, body: (await answer.json()) as Session & { type?: string } };
  };

  test('takes a held bench over, on the device it was set on', async () => {
    const { mine, accountId } = await withPin('Ilse Birch');
    expect((await mine.ok<Session>('POST', '/session/hold', {})).state).toBe('held');
    const refused = await mine.problem('GET', '/jobs');
    expect(refused).toMatchObject({ status: 401, type: 'about:blank#held' });
    expect((await session(mine)).onDevice).toEqual([{ id: accountId, name: 'Ilse Birch' }]);
    // Elsewhere the same PIN is nothing.
    expect((await takeOver(api.stranger(), accountId, '4711')).body.type).toBe(
      'about:blank#stale-pin',
    );
    const other = await api.person('technician', 'Jorun Vale');
    expect((await takeOver(other, accountId, '4711')).body.type).toBe('about:blank#stale-pin');
    const before = mine.cookie;
    expect(await takeOver(mine, accountId, '4711')).toMatchObject({
      status: 200,
      body: { state: 'signed in' },
    });
    expect(mine.cookie).not.toBe(before);
    expect(await mine.ok('GET', '/jobs')).toBeDefined();
  });

  test('is asked for though a screen goes on saying by itself where it is', async () => {
    const { mine } = await withPin('Ketil Sund');
    for (let minute = 0; minute < 5; minute++) {
      passes(2 * 60_000 + 30_000);
      const here = { tab: 'a', jobId: null, step: '', draft: null };
      await mine.send('POST', '/live/here', here);
    }
    expect((await session(mine)).state).toBe('held');
  });

  test('is asked for after ten minutes of nothing, and not before', async () => {
    const { mine } = await withPin('Kettil Marsh');
    passes(9 * 60_000);
    expect((await session(mine)).state).toBe('signed in');
    passes(11 * 60_000);
    expect((await session(mine)).state).toBe('held');
  });

  test('is forgotten after five wrong tries, many at one moment among them', async () => {
    const { mine, accountId } = await withPin('Liv Anders');
    await mine.ok('POST', '/session/hold', {});
    const tries = await Promise.all(
      Array.from({ length: 40 }, (_, at) => takeOver(mine, accountId, String(1000 + at))),
    );
    expect(tries.every(({ status }) => status === 403)).toBe(true);
    expect((await takeOver(mine, accountId, '4711')).body.type).toBe('about:blank#stale-pin');
    expect((await session(mine)).state).toBe('held');
    expect(await mine.signIn({ name: 'Liv Anders', password: 'rope ladder 10 kelp' })).toBe(true);
  });

  test('is stale once the password is new, and none of one figure is taken', async () => {
    const { mine, accountId } = await withPin('Magne Roth');
    expect((await mine.problem('PUT', '/session/pin', { pin: '7777' })).mend).toContain('figures');
    expect((await mine.problem('PUT', '/session/pin', { pin: '12' })).status).toBe(422);
    await api.ok('PUT', `/accounts/${accountId}/password`, { password: 'brine harbour 7 oak' });
    expect((await takeOver(mine, accountId, '4711')).body.type).toBe('about:blank#stale-pin');
  });
});

describe('a tablet', () => {
  const codeFor = async (visitor: Api, jobId: string) => {
    const { address } = await visitor.ok<{ address: string }>('POST', `/jobs/${jobId}/tablet`, {});
    const url = new URL(address);
    expect([url.origin, url.pathname]).toEqual([ADDRESS.origin, `/jobs/${jobId}/fit`]);
    return url.hash.replace('#tablet=', '');
  };

  test('is let in as whoever showed the code, for one job, its machine and what is nobody’s', async () => {
    const mine = await api.person('technician', 'Runa Selby');
    const [job, other] = [await mine.jobWithFound(), await mine.jobWithFound()];
    const { tablet } = await api.tablet(await codeFor(mine, job.id));
    expect(await session(tablet)).toMatchObject({ jobId: job.id, person: { name: 'Runa Selby' } });
    for (const path of [
      `/jobs/${job.id}`,
      `/machines/${job.machine.id}`,
      '/shop',
      '/modules',
      `/jobs/${job.id}/bench`,
    ])
      expect([path, (await tablet.send('GET', path)).status]).toEqual([path, 200]);
    const note = {
      id: 'tablet-note-1',
      note: { type: 'symptom', symptom: 'no-picture', handsIn: false },
    };
    const { status } = await tablet.send('POST', `/jobs/${job.id}/bench`, note);
    expect([201, 409, 422]).toContain(status);
    for (const [method, path] of [
      ['GET', '/jobs'],
      ['GET', `/jobs/${other.id}`],
      ['GET', '/customers'],
      ['GET', '/sessions'],
      ['PUT', '/session/password'],
      ['PUT', '/session/pin'],
      ['POST', `/jobs/${job.id}/tablet`],
      ['POST', '/jobs'],
      ['GET', `/jobs/${other.id}/report.pdf`],
      ['PUT', `/machines/${other.machine.id}/cover`],
    ] as const)
      expect([
        method,
        path,
        (await tablet.send(method, path, method === 'GET' ? undefined : {})).status,
      ]).toEqual([method, path, 403]);
  });

  test('a code serves once, for ten minutes, also by a clock set back', async () => {
    const job = await api.jobWithFound();
    const code = await codeFor(api, job.id);
    expect((await api.tablet(code)).status).toBe(200);
    expect((await api.tablet(code)).status).toBe(403);
    const late = await codeFor(api, job.id);
    passes(11 * 60_000);
    expect((await api.tablet(late)).status).toBe(403);
    const early = await codeFor(api, job.id);
    passes(-DAY_MS);
    expect((await api.tablet(early)).status).toBe(403);
    expect((await api.tablet('nobody-made-this-code-at-all')).status).toBe(403);
    expect(await api.server.db.select().from(tabletLinks)).toEqual([]);
  });

  test('is out when its job is closed, its person signs it out, or leaves the shop', async () => {
    const job = await api.jobWithFound();
    const { tablet } = await api.tablet(await codeFor(api, job.id));
    const listed = await api.ok<OpenSession[]>('GET', '/sessions');
    expect(listed.find((one) => one.job?.id === job.id)).toBeDefined();
    await api.ok('PUT', `/jobs/${job.id}/snapshots/as-fitted`, {
      ...{ placement: job.snapshots[0]?.placement, setting: 'standard', version: 0 },
    });
    const { version } = await api.ok<Job>('GET', `/jobs/${job.id}`);
    await api.ok('POST', `/jobs/${job.id}/close`, { version });
    expect((await session(tablet)).state).toBe('signed out');
    expect((await api.problem('POST', `/jobs/${job.id}/tablet`, {})).mend).toContain(
      'Open it again',
    );
  });
});
