import { mkdirSync, mkdtempSync, readdirSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { openDirectory } from '../server/store/embedded.ts';
import { shared } from '../server/store/shared.ts';
import type { Store } from '../server/store/openStore.ts';
import { Api } from './support/api.ts';

describe('what was answered is on the disk', () => {
  const directory = mkdtempSync(join(tmpdir(), 'tembrix-durable-'));
  let store: Store;
  let syncs = 0;
  const open = () => openDirectory(directory, () => (syncs += 1));
  const note = (text: string) =>
    store.write((tx) => tx.execute(sql`insert into notes (text) values (${text})`));
  const texts = async () => {
    const found = await store.db.execute<{ text: string }>(
      sql`select text from notes order by text`,
    );
    return (found as { rows: { text: string }[] }).rows.map(({ text }) => text);
  };
  const sizeOf = (path: string): number =>
    readdirSync(path, { withFileTypes: true }).reduce(
      (sum, one) =>
        sum +
        (one.isDirectory() ? sizeOf(join(path, one.name)) : statSync(join(path, one.name)).size),
      0,
    );

  beforeAll(async () => {
    store = await open();
    await store.db.execute(sql`create table notes (text text)`);
  });
  afterAll(async () => {
    await store.close();
    rmSync(directory, { recursive: true, force: true });
  });

  test('every save waits for the disk', async () => {
    for (const text of ['a', 'b', 'c']) {
      const before = syncs;
      await note(text);
      expect(syncs).toBeGreaterThan(before);
    }
  });

  test('twenty at once share the wait', async () => {
    const before = syncs;
    await Promise.all(Array.from({ length: 20 }, (_, at) => note(`many ${at}`)));
    expect(syncs - before).toBeGreaterThan(0);
    expect(syncs - before).toBeLessThan(10);
    expect(await texts()).toHaveLength(23);
  });

  test('nothing of a save that failed is kept, and the next one stands', async () => {
    await expect(
      store.write(async (tx) => {
        await tx.execute(sql`insert into notes (text) values ('half')`);
        throw new Error('on purpose');
      }),
    ).rejects.toThrow('on purpose');
    await note('after');
    expect(await texts()).toContain('after');
    expect(await texts()).not.toContain('half');
  });

  test('a photo overwritten many times does not keep every copy, nor does the log grow without end', async () => {
    await store.db.execute(sql`create table pictures (id int primary key, bytes bytea)`);
    await store.db.execute(sql`alter table pictures alter bytes set storage external`);
    await store.db.execute(sql`insert into pictures values (1, '')`);
    for (let turn = 0; turn < 60; turn++)
      await store.write((tx) =>
        tx.execute(
          sql`update pictures set bytes = convert_to(repeat(chr(${65 + turn}), 2000000), 'UTF8')`,
        ),
      );
    const grown = sizeOf(directory);
    await store.close();
    store = await open();
    // 120 MB went through the log.
    expect(sizeOf(join(directory, 'database/pg_wal'))).toBeLessThan(100e6);
    expect(sizeOf(directory)).toBeLessThan(grown);
  });

  test('a process file left by a kill does not stop the next start', async () => {
    await store.close();
    writeFileSync(join(directory, 'database/postmaster.pid'), '');
    store = await open();
    expect(await texts()).toContain('after');
  });

  test('a first start that was cut off is begun anew', async () => {
    const cut = mkdtempSync(join(tmpdir(), 'tembrix-cut-'));
    mkdirSync(join(cut, 'database.new'));
    writeFileSync(join(cut, 'database.new/PG_VERSION'), '');
    const made = await openDirectory(cut);
    await made.write((tx) =>
      tx.execute(sql`insert into customers (id, name, contact) values ('a', 'a', '')`),
    );
    await made.close();
    expect(readdirSync(cut)).toEqual(['database']);
    rmSync(cut, { recursive: true });
  });

  test.runIf(process.platform !== 'win32')('the directory is its owner’s alone', () => {
    expect(statSync(directory).mode & 0o077).toBe(0);
  });
});

test('twenty screens that save at one moment share the wait, each save in a request of its own', async () => {
  const path = mkdtempSync(join(tmpdir(), 'tembrix-screens-'));
  let syncs = 0;
  const api = await Api.start({ type: 'directory', path, onSync: () => (syncs += 1) });
  const save = (n: number) => api.ok('PUT', `/makers/${121 + n}-4A`, { name: `Maker ${n}` });
  const screens = Array.from({ length: 20 }, (_, n) => n);
  // Connections and questions are made beforehand: what is counted is the saving.
  await Promise.all(screens.map(save));
  const before = syncs;
  for (let times = 0; times < 5; times++) await Promise.all(screens.map(save));
  expect(syncs - before).toBeGreaterThanOrEqual(5);
  expect(syncs - before).toBeLessThan(50);
  await api.server.stop();
  rmSync(path, { recursive: true, force: true });
});

describe('a wait that is shared', () => {
  interface Turn {
    readonly begin: () => void;
    readonly end: () => void;
  }
  function lineUp() {
    const turns: Turn[] = [];
    const ask = shared(
      (begin) => new Promise<void>((end) => turns.push({ begin, end: () => end() })),
    );
    return { turns, ask };
  }

  test('serves all who asked before its turn came, and stands in line anew for whoever came later', async () => {
    const { turns, ask } = lineUp();
    const early = [ask(), ask()];
    await Promise.resolve();
    // Still in line: whatever was stored by now, it comes after.
    early.push(ask());
    expect(turns).toHaveLength(1);
    turns[0]?.begin();
    const late = [ask(), ask()];
    expect(turns).toHaveLength(2);
    turns[0]?.end();
    await Promise.all(early);
    turns[1]?.begin();
    turns[1]?.end();
    await Promise.all(late);
  });

  test('nobody is told before the one that serves them has ended', async () => {
    const { turns, ask } = lineUp();
    const told: string[] = [];
    const first = ask().then(() => told.push('first'));
    turns[0]?.begin();
    const second = ask().then(() => told.push('second'));
    turns[0]?.end();
    await first;
    expect(told).toEqual(['first']);
    turns[1]?.begin();
    turns[1]?.end();
    await second;
    expect(told).toEqual(['first', 'second']);
  });

  test.each([true, false])(
    'one that fails, its turn come: %s, fails for those it served and for nobody after',
    async (hasBegun) => {
      let turn = 0;
      const ask = shared((begin) => {
        turn += 1;
        if (turn > 1 || hasBegun) begin();
        return turn === 1 ? Promise.reject(new Error('disk')) : Promise.resolve();
      });
      await expect(ask()).rejects.toThrow('disk');
      await ask();
      expect(turn).toBe(2);
    },
  );
});
