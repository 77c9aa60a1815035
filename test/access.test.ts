import { eq } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { Session } from '#contract/access';
import type { Account, OpenSession } from '#contract/accounts';
import type { Job } from '#contract/records';
import { accounts, failedSignIns, sessions } from '../server/store/schema/index.ts';
import { Api } from './support/api.ts';
import { DAY_MS, onAClock } from './support/clock.ts';
import { askRaw } from './support/askRaw.ts';
import { OWNER } from './support/owner.ts';
import { often } from './support/draws.ts';

const ADDRESS = new URL('https://bench.example');

let api: Api;
beforeAll(async () => {
  api = await Api.start(undefined, { addresses: [ADDRESS] });
});
afterAll(() => api.server.stop());
const passes = onAClock();

const session = (visitor: Api) => visitor.ok<Session>('GET', '/session');
const named = async (name: string): Promise<Account> => {
  const all = await api.ok<Account[]>('GET', '/accounts');
  const one = all.find((account) => account.name === name);
  if (!one) throw new Error(`expected ${name}`);
  return one;
};
const change = (one: Account, more: Partial<Account>) => ({
  ...{ version: one.version, name: one.name, role: one.role, isActive: one.isActive },
  ...more,
});

describe('the first start', () => {
  test('asks for the owner before anything else, once, and on this machine alone', async () => {
    const fresh = await Api.start(undefined, { addresses: [ADDRESS] }, false);
    const owner = { name: 'First Owner', password: 'kelp lantern tide 9' };
    try {
      expect((await session(fresh)).state).toBe('no owner');
      expect((await fresh.problem('GET', '/jobs')).type).toBe('about:blank#no-owner');
      expect((await fresh.problem('POST', '/session', owner)).type).toBe('about:blank#no-owner');
      // Through a proxy under the shop's name, somebody outside could be first.
      const port = Number(new URL(fresh.server.url).port);
      for (const headers of [{ host: ADDRESS.host }, { 'x-forwarded-for': '192.0.2.7' }]) {
        const type = { 'content-type': 'application/json' };
        const body = JSON.stringify(owner);
        const all = { ...type, ...headers };
        const answer = await askRaw(port, '/api/session/set-up', {
          headers: all,
          ...{ method: 'POST', body },
        });
        expect(answer.status).toBe(409);
      }
      const both = await Promise.all(
        ['Anwen', 'Bram'].map((name) => fresh.send('POST', '/session/set-up', { ...owner, name })),
      );
      expect(both.map((answer) => answer.status).sort()).toEqual([200, 409]);
      expect(await fresh.server.db.select().from(accounts)).toHaveLength(1);
    } finally {
      await fresh.server.stop();
    }
  });

  test.each([
    ['short', 'ten letter'.slice(0, 9)],
    ['a few letters again and again', 'abababababab'],
    ['a row', 'abcdefghijkl'],
    ['the name', 'Ottoline V. 2026'],
    ['what is tried first', 'my password here'],
  ])('refuses a password of %s, and says what would do', async (_what, password) => {
    const problem = await api.problem('POST', '/accounts', {
      ...{ name: 'Ottoline', role: 'counter', password },
    });
    expect([409, 422]).toContain(problem.status);
    expect(JSON.stringify(problem)).toContain('words');
  });
});

describe('signing in', () => {
  test('takes the name in any case, keeps no password and no token as it is, and rotates', async () => {
    const one = api.stranger();
    expect(await one.signIn({ ...OWNER, name: OWNER.name.toUpperCase() })).toBe(true);
    const before = one.cookie;
    expect(await one.signIn(OWNER)).toBe(true);
    expect(one.cookie).not.toBe(before);
    const stored = JSON.stringify([
      await api.server.db.select().from(accounts),
      await api.server.db.select().from(sessions),
    ]);
    expect(stored).not.toContain(OWNER.password);
    for (const cookie of one.cookie.split('; '))
      expect(stored).not.toContain(cookie.split('=')[1] ?? '?');
    expect(stored).toContain('$argon2id$');
  });

  test('sets cookies no script reads and no other site sends', async () => {
    const answer = await api
      .stranger()
      .fetch('/session', { method: 'POST', body: JSON.stringify(OWNER) });
    for (const one of answer.headers.getSetCookie())
      expect(one).toMatch(/HttpOnly.*SameSite=Strict/i);
  });

  test('hundreds of wrong passwords, at one moment and in a row, open nothing and lock the name', async () => {
    const known = { name: 'Corvin Hale', password: 'rope ladder 11 kelp' };
    await api.ok('POST', '/accounts', { ...known, role: 'technician' });
    const thief = api.stranger();
    const guess = (at: number) =>
      thief.send<{ type: string }>('POST', '/session', { ...known, password: `guess ${at}` });
    const answers: Awaited<ReturnType<typeof guess>>[] = [];
    for (let at = 0; at < often(300, 1000); at += 100)
      answers.push(
        ...(await Promise.all(Array.from({ length: 100 }, (_, more) => guess(at + more)))),
      );
    const looked = answers.filter(({ body }) => body.type === 'about:blank#wrong-password');
    expect(looked.length).toBeLessThanOrEqual(10);
    expect(answers.every(({ status }) => status === 403 || status === 429)).toBe(true);
    // Locked: the right password does not help now, and the problem says what does.
    const locked = await thief.problem('POST', '/session', known);
    expect(locked).toMatchObject({ status: 429, type: 'about:blank#too-many-tries' });
    expect(locked.mend).toContain('owner');
    // Who is in stays in, and the way back is the owner, or time.
    const { id } = await named('Corvin Hale');
    await api.ok('PUT', `/accounts/${id}/password`, { password: 'brine harbour 7 oak' });
    expect(await thief.signIn({ ...known, password: 'brine harbour 7 oak' })).toBe(true);
  });

  test('a lock ends by itself, also when the clock went back', async () => {
    const known = { name: 'Dagny Moss', password: 'rope ladder 12 kelp' };
    await api.ok('POST', '/accounts', { ...known, role: 'technician' });
    const lock = async () => {
      for (let at = 0; at < 12; at++)
        await api.stranger().send('POST', '/session', { ...known, password: 'no' });
      expect(await api.stranger().signIn(known)).toBe(false);
    };
    await lock();
    passes(16 * 60_000);
    expect(await api.stranger().signIn(known)).toBe(true);
    await lock();
    passes(-3 * DAY_MS);
    expect(await api.stranger().signIn(known)).toBe(true);
  });

  test('a name nobody has is refused in the same words, and counted too', async () => {
    const body = { name: 'Nobody At All', password: 'kelp lantern tide 9' };
    const real = await api.stranger().problem('POST', '/session', { ...OWNER, password: 'no' });
    const made = await api.stranger().problem('POST', '/session', body);
    expect(made).toEqual(real);
    const [row] = await api.server.db
      .select()
      .from(failedSignIns)
      .where(eq(failedSignIns.name, 'nobody at all'));
    expect(row?.count).toBe(1);
    await api.stranger().signIn(OWNER);
  });
});

describe('a session', () => {
  test('is of its device: its cookie used from elsewhere is refused, and over', async () => {
    const mine = await api.person('technician', 'Edda Frost');
    const [token = ''] = mine.cookie.split('; ').filter((one) => one.includes('session'));
    const elsewhere = api.stranger();
    elsewhere.cookie = token;
    expect((await session(elsewhere)).state).toBe('signed out');
    expect((await session(mine)).state).toBe('signed out');
  });

  test('is over after a month of nothing, not by a clock set back', async () => {
    const mine = await api.person('technician', 'Ferris Dune');
    passes(-400 * DAY_MS);
    expect((await session(mine)).state).toBe('signed in');
    passes(29 * DAY_MS);
    expect((await session(mine)).state).toBe('signed in');
    passes(31 * DAY_MS);
    expect((await session(mine)).state).toBe('signed out');
  });

  test('is listed and ended by its owner, and by nobody else', async () => {
    const mine = await api.person('counter', 'Greta Holm');
    const other = api.stranger();
    expect(await other.signIn({ name: 'Greta Holm', password: 'rope ladder 10 kelp' })).toBe(true);
    const all = await mine.ok<OpenSession[]>('GET', '/sessions');
    expect(all.map(({ isThis }) => isThis)).toEqual([true, false]);
    const id = all[1]?.id ?? '';
    expect((await api.problem('DELETE', `/sessions/${id}`)).status).toBe(404);
    await mine.ok('DELETE', `/sessions/${id}`);
    expect((await session(other)).state).toBe('signed out');
    expect((await mine.ok<Session>('DELETE', '/session')).state).toBe('signed out');
    expect((await mine.problem('GET', '/jobs')).status).toBe(401);
  });

  test('ends with its password; the one it was changed in goes on under a new token', async () => {
    const known = { name: 'Hedda Thorn', password: 'rope ladder 11 kelp' };
    const mine = await api.person('counter', known.name);
    const other = api.stranger();
    await other.signIn(known);
    const before = mine.cookie;
    const wrong = { old: 'not this one', password: 'brine harbour 7 oak' };
    expect((await mine.problem('PUT', '/session/password', wrong)).status).toBe(403);
    const answer = await mine.fetch('/session/password', {
      method: 'PUT',
      body: JSON.stringify({ ...wrong, old: known.password }),
    });
    expect(answer.status).toBe(200);
    mine.cookie = `${before}; ${answer.headers.getSetCookie()[0]?.split(';')[0] ?? ''}`;
    const old = api.stranger();
    old.cookie = before;
    expect((await session(old)).state).toBe('signed out');
    expect((await session(other)).state).toBe('signed out');
    expect(await api.stranger().signIn(known)).toBe(false);
    expect(await api.stranger().signIn({ ...known, password: wrong.password })).toBe(true);
  });
});

describe('the owner', () => {
  test('stays: two who demote one another at one moment leave one', async () => {
    const second = await api.person('owner', 'Nils Aster');
    const [one, other] = [await named(OWNER.name), await named('Nils Aster')];
    const answers = await Promise.all([
      second.send('PUT', `/accounts/${one.id}`, change(one, { role: 'technician' })),
      api.send('PUT', `/accounts/${other.id}`, change(other, { role: 'technician' })),
    ]);
    expect(answers.map(({ status }) => status).sort()).toEqual([200, 403]);
    const rows = await api.server.db.select().from(accounts).where(eq(accounts.role, 'owner'));
    expect(rows).toHaveLength(1);
    // Put right for what follows, by whoever is left.
    const left = rows[0]?.name === OWNER.name ? api : second;
    const demoted = (await left.ok<Account[]>('GET', '/accounts')).find(
      ({ id }) => [one.id, other.id].includes(id) && id !== rows[0]?.id,
    );
    if (!demoted) throw new Error('expected one demoted');
    await left.ok('PUT', `/accounts/${demoted.id}`, change(demoted, { role: 'owner' }));
    const again = await named('Nils Aster');
    await api.ok('PUT', `/accounts/${again.id}`, change(again, { role: 'technician' }));
  });

  test.each([{ role: 'counter' as const }, { isActive: false }])(
    'the last one can be neither demoted nor closed: %o',
    async (more) => {
      const own = await named(OWNER.name);
      const problem = await api.problem('PUT', `/accounts/${own.id}`, change(own, more));
      expect(problem).toMatchObject({ status: 409, mend: 'Make somebody else owner first.' });
      expect((await session(api)).state).toBe('signed in');
    },
  );

  test('closes an account: its devices are out at once, its name stays under what it did', async () => {
    const mine = await api.person('technician', 'Olaf Pike');
    const job = await mine.jobWithFound();
    const own = await named('Olaf Pike');
    await api.ok('PUT', `/accounts/${own.id}`, change(own, { isActive: false }));
    expect((await mine.problem('GET', '/jobs')).status).toBe(401);
    expect(await api.stranger().signIn({ name: 'Olaf Pike', password: 'rope ladder 9 kelp' })).toBe(
      false,
    );
    const { events } = await api.ok<Job>('GET', `/jobs/${job.id}`);
    expect(new Set(events.map(({ who }) => who))).toEqual(new Set(['Olaf Pike']));
  });

  test('two changes from one version: the second sees both sides', async () => {
    await api.person('technician', 'Pia Quist');
    const own = await named('Pia Quist');
    await api.ok('PUT', `/accounts/${own.id}`, change(own, { name: 'Pia Quist-Holm' }));
    const stale = await api.problem('PUT', `/accounts/${own.id}`, change(own, { role: 'counter' }));
    expect(stale).toMatchObject({ status: 409, theirs: { name: 'Pia Quist-Holm' } });
    expect(
      (
        await api.problem('POST', '/accounts', {
          name: 'pia quist-holm',
          role: 'counter',
          password: 'brine harbour 7 oak',
        })
      ).fields,
    ).toMatchObject([{ path: 'name' }]);
  });
});
