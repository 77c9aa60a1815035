import { spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { nodeArguments } from '#server/parts';
import { Api } from './support/api.ts';
import { OWNER } from './support/owner.ts';

let home: string;
beforeAll(() => {
  home = mkdtempSync(join(tmpdir(), 'tembrix-owner-'));
});
afterAll(() => rmSync(home, { recursive: true, force: true }));

interface Said {
  readonly code: number | null;
  readonly out: string;
  readonly err: string;
}

/** Not waited for in one go: the server it may ask is this very process. */
const owner = (env: Record<string, string>, ...args: string[]): Promise<Said> =>
  new Promise((settle) => {
    const child = spawn(process.execPath, [...nodeArguments('owner'), ...args], {
      env: { ...process.env, ...env },
    });
    let [out, err] = ['', ''];
    child.stdout.on('data', (part: Buffer) => (out += part.toString()));
    child.stderr.on('data', (part: Buffer) => (err += part.toString()));
    child.once('exit', (code) => settle({ code, out, err }));
  });
const passwordIn = ({ out }: Said) => /signs in with (\S+) now/.exec(out)?.[1] ?? '';

describe('a forgotten password of the owner', () => {
  test('is set anew on the machine itself, whether the bench runs or not', async () => {
    const data = join(home, 'data');
    const place = { type: 'directory', path: data } as const;
    const api = await Api.start(place);
    const env = { TEMBRIX_DATA: data, TEMBRIX_PORT: new URL(api.server.url).port };
    const told = await owner(env);
    expect(told.out).toContain(`Owned by ${OWNER.name}`);
    // Only told: nothing has changed.
    expect(await api.stranger().signIn(OWNER)).toBe(true);

    const strange = await owner(env, '--reset', 'Nobody');
    expect([strange.code, strange.err]).toEqual([1, expect.stringContaining(OWNER.name)]);
    const running = await owner(env, '--reset', OWNER.name.toUpperCase());
    const password = passwordIn(running);
    expect(password).toMatch(/^(?:[a-z2-9]{5}-){3}[a-z2-9]{5}$/);
    // Whoever was in is out, and the old password with them.
    expect((await api.fetch('/jobs')).status).toBe(401);
    expect(await api.stranger().signIn(OWNER)).toBe(false);
    expect(await api.stranger().signIn({ ...OWNER, password })).toBe(true);

    // A bench that runs and is not found is said so, with what mends it.
    const lost = await owner({ ...env, TEMBRIX_PORT: '1' }, '--reset');
    expect([lost.code, lost.err]).toEqual([1, expect.stringContaining('TEMBRIX_PORT')]);

    await api.server.stop();
    const stopped = passwordIn(await owner(env, '--reset'));
    expect([stopped === '', stopped === password]).toEqual([false, false]);
    const again = await Api.start(place, {}, false);
    expect(await again.stranger().signIn({ ...OWNER, password })).toBe(false);
    expect(await again.stranger().signIn({ ...OWNER, password: stopped })).toBe(true);
    await again.server.stop();
  });

  test('where nobody owns the bench yet it says where to begin', async () => {
    const said = await owner({ TEMBRIX_DATA: join(home, 'empty') }, '--reset');
    expect(said.out).toContain('open it in a browser on this machine');
  });
});
