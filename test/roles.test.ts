import { format } from 'oxfmt';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { MAY_CALL, ROLES } from '#contract/access';
import type { Access, Caller } from '#contract/access';
import { PRINTS } from '#contract/prints';
import { routes } from '#contract/routes';
import type { Route } from '#contract/routes';
import { allRules } from '../server/access/allowed.ts';
import { Api } from './support/api.ts';

let api: Api;
/** One visitor of each kind. */
let visitors: Record<Caller, Api>;
beforeAll(async () => {
  api = await Api.start();
  visitors = {
    owner: api,
    technician: await api.person('technician', 'Bram Oddmund'),
    counter: await api.person('counter', 'Isolde Quill'),
    'signed out': api.stranger(),
  };
});
afterAll(() => api.server.stop());

/** An address of the table, with ids nobody has. */
const filled = (path: string) => path.replaceAll(/\{\w+\}/g, 'nobody');

/** Ends a session or a bench by being asked: judged by its access alone, never called here. */
const ENDS = new Set(['DELETE /session', 'POST /session/hold']);

// The matrix: every entry of the tables, for everybody there is and for nobody.
const entries = [
  ...Object.entries<Route>(routes),
  ...Object.entries<{ method: string; path: string; access: Access }>(PRINTS),
].map(([name, { method, path, access }]) => ({
  ...{ name, path, access },
  method: method.toUpperCase(),
}));

describe.each([...ROLES, 'signed out'] as const)('%s', (caller) => {
  const may = ({ access }: { access: Access }) =>
    (MAY_CALL[access] as readonly Caller[]).includes(caller);
  const called = entries.filter(({ method, path }) => !ENDS.has(`${method} ${path}`));

  test.each(called.filter((one) => !may(one)))(
    'is refused $method $path before anything is read',
    async ({ method, path }) => {
      // A body no route takes: whoever is refused never hears what is wrong with it.
      const body = method === 'GET' ? undefined : '{"no": "such';
      const answer = await visitors[caller].fetch(filled(path), { method, body: body ?? null });
      const { type, mend } = (await answer.json()) as { type: string; mend: string };
      expect([answer.status, type]).toEqual(
        caller === 'signed out'
          ? [401, 'about:blank#signed-out']
          : [403, 'about:blank#not-allowed'],
      );
      expect(mend).not.toBe('');
    },
  );

  test.each(called.filter(may))('reaches $method $path', async ({ method, path, name }) => {
    const body = method === 'GET' ? undefined : '{"no": "such';
    const answer = await visitors[caller].fetch(filled(path), { method, body: body ?? null });
    if (path === PRINTS.live.path) {
      // A stream, which lasts.
      expect(answer.status).toBe(200);
      return void (await answer.body?.cancel());
    }
    const text = await answer.text();
    // What it says to ids nobody has and to broken JSON is its own; it is not a refusal of the caller.
    expect([name, answer.status]).not.toEqual([name, 401]);
    expect(text).not.toContain('about:blank#not-allowed');
    if (body !== undefined) expect([400, 404]).toContain(answer.status);
  });
});

test('docs/roles.md is the table as it stands (npx vitest run test/roles -u writes it)', async () => {
  const mark = (access: Access, caller: Caller) =>
    (MAY_CALL[access] as readonly Caller[]).includes(caller) ? 'yes' : '–';
  const summaries = new Map(
    Object.values<Route>(routes).map((one) => [`${one.method} ${one.path}`, one.summary]),
  );
  const lines = entries.map(({ method, path, access }) => {
    const summary =
      summaries.get(`${method.toLowerCase()} ${path}`) ?? 'printed, taken away or given in';
    const marks = ([...ROLES, 'signed out'] as const).map((caller) => mark(access, caller));
    return `| \`${method} ${path}\` | ${summary} | ${marks.join(' | ')} |`;
  });
  const text = [
    '# Who may call what',
    '',
    'Made from the route table; the same table decides. A tablet let in for one job reaches that job, its machine, and what holds nothing of any customer.',
    '',
    '| address under /api | what it does | owner | technician | counter | signed out |',
    '| --- | --- | --- | --- | --- | --- |',
    ...lines,
  ].join('\n');
  const { code } = await format('roles.md', text);
  await expect(code).toMatchFileSnapshot('../docs/roles.md');
});

test('what is in no table is reached by nobody, whoever asks', async () => {
  for (const path of ['/', '/accounts/x/y/z', '/jobs/a/nonsense', '/../api/jobs/x/y', '/%6aobs'])
    for (const visitor of Object.values(visitors)) {
      const { status } = await visitor.fetch(path);
      expect([path, [401, 404].includes(status)]).toEqual([path, true]);
    }
});

test('no address is open to somebody by one entry and shut by another', () => {
  const rules = allRules();
  for (const one of rules)
    for (const other of rules) {
      if (one === other || one.method !== other.method) continue;
      const pattern = new RegExp(`^${other.path.replaceAll(/\{\w+\}/g, '[^/]+')}$`);
      if (pattern.test(filled(one.path)))
        expect([one.path, other.access]).toEqual([one.path, one.access]);
    }
});

test('the roles differ in what they may, and the owner may all of it', () => {
  const may = (caller: Caller) =>
    new Set(
      entries
        .filter(({ access }) => (MAY_CALL[access] as readonly Caller[]).includes(caller))
        .map(({ name }) => name),
    );
  const [owner, technician, counter, nobody] = [
    may('owner'),
    may('technician'),
    may('counter'),
    may('signed out'),
  ];
  expect(owner.size).toBe(entries.length);
  expect([...technician].filter((name) => !counter.has(name))).toContain('saveSnapshot');
  expect([...counter].filter((name) => !technician.has(name))).toContain('changeModule');
  expect(technician.has('changeShop') || counter.has('changeShop')).toBe(false);
  // To those outside nothing is open but the way in, and whether the server answers.
  expect([...nobody].sort()).toEqual([
    'authority',
    'health',
    'holdBench',
    'joinJob',
    'readSession',
    'setUp',
    'signIn',
    'signOut',
    'takeOver',
  ]);
});
