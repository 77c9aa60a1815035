import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, statfsSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { sql } from 'drizzle-orm';
import { afterAll, afterEach, beforeEach, describe, expect, test } from 'vitest';
import type { Problem } from '#contract/problem';
import { openDirectory } from '../server/store/embedded.ts';
import { EngineStopped } from '../server/store/engine.ts';
import type { Store } from '../server/store/openStore.ts';
import { Api, module } from './support/api.ts';

// A disk that does not take what it is given says so once; asked again, it may say all is well. So
// nothing is answered as saved from then on, until a new start has found what is really there.

describe.each(['EIO', 'ENOSPC'])('a disk that answers a wait with %s', (code) => {
  let directory: string;
  let store: Store;
  let isFailing = false;
  const open = () =>
    openDirectory(directory, () => {
      if (isFailing) throw Object.assign(new Error(`${code}: made up`), { code });
    });
  const save = (id: string) =>
    store.write((tx) =>
      tx.execute(sql`insert into customers (id, name, contact) values (${id}, 'a', '')`),
    );
  const ids = async () => {
    const found = await store.db.execute<{ id: string }>(sql`select id from customers order by id`);
    return (found as { rows: { id: string }[] }).rows.map(({ id }) => id);
  };
  beforeEach(async () => {
    directory = mkdtempSync(join(tmpdir(), 'tembrix-failing-'));
    isFailing = false;
    store = await open();
  });
  afterEach(async () => {
    await store.close();
    rmSync(directory, { recursive: true });
  });

  test('is no save, and neither is any after it; what was answered is there at the next start', async () => {
    await save('before');
    isFailing = true;
    const [first, second] = await Promise.allSettled([save('during'), save('beside')]);
    expect([first?.status, second?.status]).toEqual(['rejected', 'rejected']);
    isFailing = false;
    await expect(save('after')).rejects.toThrow();
    const asked = await store.db.execute(sql`select 1`).catch((error: unknown) => error);
    expect((asked as Error).cause).toBeInstanceOf(EngineStopped);
    await store.close();
    store = await open();
    expect(await ids()).toContain('before');
    expect(await ids()).not.toContain('after');
    await save('again');
    expect(await ids()).toContain('again');
  });
});

test('whoever asks hears that the database stopped, and what to do; so does the process', async () => {
  const path = mkdtempSync(join(tmpdir(), 'tembrix-stopping-'));
  let isFailing = false;
  const onSync = () => {
    if (isFailing) throw Object.assign(new Error('made up'), { code: 'EIO' });
  };
  const api = await Api.start({ type: 'directory', path, onSync });
  isFailing = true;
  const refused = await api.problem('POST', '/modules', { label: 'one', module });
  expect(refused).toMatchObject({ status: 503, title: 'The database stopped' });
  expect(refused.mend).toContain('started again');
  expect((await api.fetch('/jobs')).status).toBe(503);
  expect((await fetch(`${api.server.url}/readyz`)).status).toBe(503);
  expect(await api.server.stopped).toBeInstanceOf(EngineStopped);
  await api.server.stop();
  rmSync(path, { recursive: true });
});

/** A disk of its own that is soon full: root may have one in memory. */
const disk = mkdtempSync(join(tmpdir(), 'tembrix-small-'));
const isMounted =
  spawnSync('mount', ['-t', 'tmpfs', '-o', 'size=120m', 'tmpfs', disk]).status === 0;
afterAll(() => {
  if (isMounted) spawnSync('umount', ['-l', disk]);
  rmSync(disk, { recursive: true, force: true });
});

test.runIf(isMounted)(
  'on a full disk a save is refused with what to do, and nothing that was answered is lost',
  async () => {
    const place = { type: 'directory', path: join(disk, 'data') } as const;
    const api = await Api.start(place);
    const saved: string[] = [];
    const save = async (label: string) => {
      const answer = await api.send<Problem>('POST', '/modules', { label, module });
      if (answer.status === 201) saved.push(label);
      return answer;
    };
    await save('while there was room');
    const filler = join(disk, 'filler');
    // All the room there is but what the log has already taken for itself.
    const { bavail, bsize } = statfsSync(disk);
    writeFileSync(filler, Buffer.alloc(bavail * bsize));
    let refused: Problem | undefined;
    for (let at = 0; refused === undefined && at < 20_000; at++) {
      const { status, body } = await save(`${'long label '.repeat(15)}${at}`);
      if (status !== 201) refused = body;
    }
    expect(refused?.status).toBeOneOf([503, 507]);
    expect(refused?.mend).toMatch(/room|disk/);
    rmSync(filler);
    // Room alone may not be enough; a new start is.
    await api.server.stop();
    const again = await Api.start(place);
    const kept = await again.ok<{ label: string }[]>('GET', '/modules');
    expect(kept.map(({ label }) => label)).toEqual(expect.arrayContaining(saved));
    expect((await again.send('POST', '/modules', { label: 'again', module })).status).toBe(201);
    await again.server.stop();
  },
);
