import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, describe, expect, test } from 'vitest';
import type { BackupState } from '#contract/backups';
import { nodeArguments } from '#server/parts';
import { readArchive } from '../server/backup/archive.ts';
import { backupName, backupTime } from '../server/backup/names.ts';
import { newestChange } from '../server/store/migrate.ts';
import { Api } from './support/api.ts';
import { isAnew } from './support/draws.ts';
import { Postgres, hasPostgres } from './support/postgres.ts';

const home = mkdtempSync(join(tmpdir(), 'tembrix-keeper-'));
afterAll(() => rmSync(home, { recursive: true, force: true }));

/** Waits until no backup is being made. */
async function settled(api: Api): Promise<BackupState> {
  for (;;) {
    const state = await api.ok<BackupState>('GET', '/backups');
    if (!state.isRunning) return state;
    await new Promise((wait) => setTimeout(wait, 200));
  }
}

test('a backup’s name tells when it was made, and nothing else is taken for one', () => {
  const at = new Date('2026-05-04T03:02:01.000Z');
  expect(backupTime(backupName(at))).toBe(at.toISOString());
  for (const name of ['', 'x', `${backupName(at)}.partial`, 'tembrix-20261304-030201.tar.gz'])
    expect(backupTime(name)).toBe('');
});

describe('a bench that keeps backups', () => {
  test('makes one when asked, proven, while it goes on working; the newest is told', async () => {
    const directory = join(home, 'asked');
    const api = await Api.start(undefined, { backups: directory });
    expect(await api.ok('GET', '/backups')).toMatchObject({ isKept: true, newest: null });
    await api.jobWithFound();
    expect(await api.ok('POST', '/backups')).toMatchObject({ isRunning: true });
    // Asked twice, one is made; and a save meanwhile goes through.
    expect(await api.ok('POST', '/backups')).toMatchObject({ isRunning: true });
    await api.jobWithFound();
    const { newest, problem } = await settled(api);
    expect(problem).toBeNull();
    expect(readdirSync(directory)).toEqual([newest?.name]);
    const file = readFileSync(join(directory, newest?.name ?? ''));
    expect(file.length).toBe(newest?.size);
    const { manifest } = await readArchive(file, newestChange());
    expect(manifest.tables.find(({ name }) => name === 'jobs')?.rows).toBeGreaterThan(0);
    await api.server.stop();
  });

  test('says why one came to nothing', async () => {
    const blocked = join(home, 'a-file');
    writeFileSync(blocked, '');
    const api = await Api.start(undefined, { backups: join(blocked, 'backups') });
    await api.ok('POST', '/backups').catch(() => undefined);
    const { problem, newest } = await settled(api);
    expect(newest).toBeNull();
    expect(problem).toMatch(/No backup can be kept .* TEMBRIX_BACKUPS/);
    await api.server.stop();
  });

  test('a made-up world keeps none', async () => {
    const api = await Api.start(undefined, { backups: join(home, 'none'), isDemo: true });
    expect(await api.ok('GET', '/backups')).toMatchObject({ isKept: false, newest: null });
    expect(await api.problem('POST', '/backups')).toMatchObject({ status: 409 });
    await api.server.stop();
  });
});

// Seven processes, each with a database to open: the same by calls is in backup.test.ts.
test.runIf(isAnew && hasPostgres())(
  'a bench moves to a server and back by command, all of it',
  async () => {
    const run = (...args: string[]) =>
      spawnSync(process.execPath, [...nodeArguments('backup'), 'move', ...args], {
        encoding: 'utf8',
      });
    const from = join(home, 'from');
    const api = await Api.start({ type: 'directory', path: from });
    const { number } = await api.jobWithFound();
    await api.server.stop();
    const server = await Postgres.start();
    const url = server.database('moved');
    expect(run(from, url).stdout).toMatch(/read back the same: .*jobs 1/);
    expect(run(from, url).stderr).toContain('empty place');
    const back = join(home, 'back');
    expect(run(url, back).stdout).toContain('jobs 1');
    server.dispose();
    const again = await Api.start({ type: 'directory', path: back });
    expect(await again.ok<{ jobs: unknown[] }>('GET', '/jobs')).toMatchObject({
      jobs: [{ number }],
    });
    await again.server.stop();
    expect(run(from).stderr).toContain('npm run move -- FROM TO');
  },
);
