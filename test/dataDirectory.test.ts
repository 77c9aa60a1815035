import { spawn, spawnSync } from 'node:child_process';
import type { ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { mkdtempSync, readdirSync, rmSync, symlinkSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, expect, test } from 'vitest';
import { nodeArguments } from '#server/parts';
import { module } from './support/api.ts';
import { ownerOf } from './support/owner.ts';

const home = mkdtempSync(join(tmpdir(), 'tembrix-lock-'));
// A path far longer than a socket’s may be.
const directory = join(home, 'a'.repeat(150));
const children: ChildProcess[] = [];
afterAll(() => {
  children.forEach((child) => child.kill('SIGKILL'));
  rmSync(home, { recursive: true, force: true });
});

/** A server process of its own; resolves with its address, or what it said when it gave up. */
async function start(
  data: string,
  ...within: string[]
): Promise<{ child: ChildProcess; said: string }> {
  const [program = '', ...args] = [...within, process.execPath, ...nodeArguments('main')];
  const child = spawn(program, args, {
    env: { ...process.env, TEMBRIX_DATA: data, TEMBRIX_PORT: '0' },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  children.push(child);
  let said = '';
  const listen = (chunk: Buffer) => (said += chunk.toString());
  child.stdout.on('data', listen);
  child.stderr.on('data', listen);
  while (!said.includes('\n') && child.exitCode === null)
    await new Promise((wait) => setTimeout(wait, 50));
  return { child, said };
}

const addressIn = (said: string) => /http:\S+/.exec(said)?.[0] ?? '';

/** As in a container: with no sight of the processes and sockets outside. */
const APART = ['unshare', '--net', '--pid', '--fork', '--kill-child', '--mount-proc'];
const canPart = spawnSync(APART[0] ?? '', [...APART.slice(1), 'true']).status === 0;

async function expectRefused(path: string, ...within: string[]): Promise<void> {
  const { child, said } = await start(path, ...within);
  if (child.exitCode === null) await once(child, 'exit');
  expect(child.exitCode).toBe(1);
  expect(said).toContain('Another Tembrix is using the data');
  expect(said).toContain('TEMBRIX_DATA=');
}

async function kill(child: ChildProcess): Promise<void> {
  child.kill('SIGKILL');
  await once(child, 'exit');
}

test('one process at a time: a second is refused by any path and from any container, and SIGKILL leaves nothing locked', async () => {
  const first = await start(directory);
  const address = addressIn(first.said);
  expect(address).toMatch(/^http:\/\/127/);
  const cookie = await ownerOf(address);
  await fetch(`${address}/api/modules`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', cookie },
    body: JSON.stringify({ label: 'kept', module }),
  });

  const alias = join(home, 'alias');
  symlinkSync(directory, alias);
  await expectRefused(directory);
  await expectRefused(alias);
  if (canPart) await expectRefused(directory, ...APART);

  await kill(first.child);
  if (canPart) {
    const inside = await start(directory, ...APART);
    expect(addressIn(inside.said)).toMatch(/^http:/);
    await expectRefused(directory);
    await kill(inside.child);
  }
  const again = await start(directory);
  const url = addressIn(again.said);
  const modules = await fetch(`${url}/api/modules`, { headers: { cookie: await ownerOf(url) } });
  expect(await modules.json()).toMatchObject([{ label: 'kept' }]);
  // What the killed ones left was taken away, not added to.
  expect(readdirSync(directory).filter((name) => name.startsWith('in-use'))).toEqual(['in-use']);
});
