import { spawn } from 'node:child_process';
import type { ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { mkdtempSync, rmSync, symlinkSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, expect, test } from 'vitest';

const directory = mkdtempSync(join(tmpdir(), 'tembrix-lock-'));
const children: ChildProcess[] = [];
afterAll(() => {
  children.forEach((child) => child.kill('SIGKILL'));
  rmSync(directory, { recursive: true, force: true });
});

/** A server process of its own; resolves with its address, or what it said when it gave up. */
async function start(data: string): Promise<{ child: ChildProcess; said: string }> {
  const child = spawn(process.execPath, ['--import', 'tsx', 'server/main.ts'], {
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

test('one process at a time: a second is refused by any path, and SIGKILL leaves nothing locked', async () => {
  const first = await start(directory);
  const address = addressIn(first.said);
  expect(address).toMatch(/^http:\/\/127/);
  await fetch(`${address}/api/modules`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({
      label: 'kept',
      module: {
        ...{
          generation: 'DDR4',
          formFactor: 'DIMM',
          buffering: 'unbuffered',
          ecc: false,
          capacity: 8,
        },
        ...{ ranks: 1, chipWidth: 8, rate: 2400, timings: { cl: 17 }, voltagesMv: [1200] },
      },
    }),
  });

  const alias = `${directory}-alias`;
  symlinkSync(directory, alias);
  for (const path of [directory, alias]) {
    const { child, said } = await start(path);
    if (child.exitCode === null) await once(child, 'exit');
    expect(child.exitCode).toBe(1);
    expect(said).toContain('Another Tembrix is using the data');
    expect(said).toContain('TEMBRIX_DATA=');
  }
  rmSync(alias);

  first.child.kill('SIGKILL');
  await once(first.child, 'exit');
  const again = await start(directory);
  const modules = await fetch(`${addressIn(again.said)}/api/modules`);
  expect(await modules.json()).toMatchObject([{ label: 'kept' }]);
});
