import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Writable } from 'node:stream';
import { gzipSync } from 'node:zlib';
import { pack } from 'tar-stream';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { nodeArguments } from '#server/parts';
import { readArchive, writeArchive } from '../server/backup/archive.ts';
import { prove } from '../server/backup/backup.ts';
import { backupName } from '../server/backup/names.ts';
import { putContent, readContent } from '../server/backup/content.ts';
import { ArchiveError } from '../server/backup/format.ts';
import type { BenchContent } from '../server/backup/format.ts';
import { newestChange } from '../server/store/migrate.ts';
import { openStore } from '../server/store/openStore.ts';
import type { Store } from '../server/store/openStore.ts';
import { Api } from './support/api.ts';
import { demoWorld } from './support/demoWorld.ts';
import { Postgres, hasPostgres } from './support/postgres.ts';

const home = mkdtempSync(join(tmpdir(), 'tembrix-backup-'));
let store: Store;
let content: BenchContent;
let archive: Buffer;

async function bytesOf(what: BenchContent): Promise<Buffer> {
  const parts: Buffer[] = [];
  const sink = new Writable({
    write: (part: Buffer, _encoding, done) => {
      parts.push(part);
      done();
    },
  });
  await writeArchive(what, sink);
  return Buffer.concat(parts);
}

beforeAll(async () => {
  store = await openStore({ type: 'memory', image: await demoWorld() });
  content = await readContent(store.db);
  archive = await bytesOf(content);
});
afterAll(async () => {
  await store.close();
  rmSync(home, { recursive: true, force: true });
});

const rowsOf = ({ tables }: BenchContent, name: string) =>
  tables.find((one) => one.name === name)?.rows;
const refused = async (bytes: Uint8Array) => {
  const error: unknown = await readArchive(bytes, newestChange()).catch((one: unknown) => one);
  expect(error).toBeInstanceOf(ArchiveError);
  const { message, mend } = error as ArchiveError;
  return `${message} ${mend}`;
};
/** An archive of any entries, as somebody else might make one. */
async function archiveOf(
  ...entries: { name: string; text?: string; type?: 'symlink'; linkname?: string }[]
): Promise<Buffer> {
  const tar = pack();
  for (const { text = '', ...header } of entries) tar.entry(header, text);
  tar.finalize();
  const parts: Buffer[] = [];
  for await (const part of tar as AsyncIterable<Buffer>) parts.push(part);
  return gzipSync(Buffer.concat(parts));
}

describe('a backup', () => {
  test('holds every row and file, and says so', async () => {
    const { manifest, content: read } = await readArchive(archive, newestChange());
    expect(read.tables).toEqual(content.tables);
    for (const [digest, bytes] of content.files)
      expect(Buffer.from(bytes).equals(Buffer.from(read.files.get(digest) ?? []))).toBe(true);
    expect(read.files.size).toBe(content.files.size);
    expect(rowsOf(content, 'jobs')).toBeGreaterThan(5);
    expect(content.files.size).toBeGreaterThan(0);
    expect(manifest.tables.map(({ name }) => name)).toContain('bench_log');
    expect(manifest.tables.map(({ name }) => name)).not.toContain('deeds');
    expect(backupName(new Date('2026-05-04T03:02:01Z'))).toBe('tembrix-20260504-030201.tar.gz');
  });

  test('whoever takes it may go away half-way; the writing ends and the bench goes on', async () => {
    for (const after of [0, 1, 2]) {
      let left = after;
      const gone = new Writable({
        highWaterMark: 1,
        write: (_part, _encoding, done) => done(left-- > 0 ? null : new Error('gone')),
      });
      const big = Buffer.alloc(400_000, 1).map((_, at) => (at * 7919) % 251);
      const files = new Map([['0'.repeat(64), big]]);
      await expect(writeArchive({ ...content, files }, gone)).rejects.toThrow('gone');
    }
  });

  test('restored into an empty bench it is the same bench, and work goes on there', async () => {
    // Its people come with it: an owner made here would be somebody else's.
    const api = await Api.start(undefined, { isDemo: true }, false);
    await putContent(api.server.db, content);
    expect((await readContent(api.server.db)).tables).toEqual(content.tables);
    const before = await api.ok<{ total: number }>('GET', '/jobs');
    const job = await api.jobWithFound();
    // Numbers go on where they stood.
    expect(job.number).toBe((rowsOf(content, 'jobs') ?? 0) + 1);
    expect((await api.ok<{ total: number }>('GET', '/jobs')).total).toBe(before.total + 1);
    await expect(putContent(api.server.db, content)).rejects.toThrow('a bench already');
    await api.server.stop();
  });

  test.skipIf(!hasPostgres())('moves to a PostgreSQL server and back', async () => {
    const server = await Postgres.start();
    const there = await openStore({ type: 'server', url: server.database('moved') });
    await putContent(there.db, content);
    const back = await readContent(there.db);
    expect(back.tables).toEqual(content.tables);
    expect([...back.files.keys()].sort()).toEqual([...content.files.keys()].sort());
    await there.close();
    server.dispose();
  });

  test('one that would come back otherwise is not taken for proven', async () => {
    const tables = content.tables.map((one) =>
      one.name === 'shop_terms' || one.rows === 0
        ? one
        : { ...one, text: one.text.replace(/"version": ?1/, '"version": 1.0') },
    );
    await expect(prove({ ...content, tables })).rejects.toThrow(ArchiveError);
  });
});

describe('an archive that is refused', () => {
  test('cut off anywhere, or with a byte changed', async () => {
    for (const share of [0, 0.1, 0.5, 0.9, 0.999])
      expect(await refused(archive.subarray(0, Math.floor(archive.length * share)))).toMatch(
        /cut off|no manifest/,
      );
    for (let at = 20; at < archive.length; at += Math.ceil(archive.length / 7)) {
      const changed = Buffer.from(archive);
      changed[at] = (changed[at] ?? 0) ^ 0x55;
      const error: unknown = await readArchive(changed, newestChange()).catch(
        (one: unknown) => one,
      );
      // A byte of a header nobody reads may change; then all that matters still adds up.
      if (!(error instanceof ArchiveError))
        expect(error).toMatchObject({ content: { tables: content.tables } });
    }
  });

  test('foreign: no archive, another archive, a table nobody has', async () => {
    expect(await refused(Buffer.from('a letter'))).toContain('no archive');
    expect(await refused(await archiveOf({ name: 'manifest.json', text: '{"a":1}' }))).toContain(
      'no backup',
    );
    expect(await refused(await archiveOf({ name: 'manifest.json', text: '{' }))).toContain('read');
    const strange = { ...content, tables: [{ name: 'pg_authid', rows: 1, text: '{"a":1}' }] };
    await expect(putContent(store.db, strange)).rejects.toThrow('pg_authid');
  });

  test('made to do harm: paths out of the place, links, entries twice, bombs of names', async () => {
    for (const name of ['../../etc/passwd', '/etc/passwd', 'tables/../x.jsonl', 'files/short'])
      expect(await refused(await archiveOf({ name, text: 'x' }))).toContain('no backup does');
    const link = {
      name: `files/${'a'.repeat(64)}`,
      type: 'symlink',
      linkname: '/etc/passwd',
    } as const;
    expect(await refused(await archiveOf(link))).toContain('no backup does');
    const twice = { name: 'tables/jobs.jsonl', text: '' };
    expect(await refused(await archiveOf(twice, twice))).toContain('no backup does');
  });

  test('one with more in it than it says, less, or something else', async () => {
    const { manifest } = await readArchive(archive, newestChange());
    const json = { name: 'manifest.json', text: JSON.stringify({ ...manifest, files: [] }) };
    const tables = content.tables.map(({ name, text }) => ({ name: `tables/${name}.jsonl`, text }));
    expect(await refused(await archiveOf(...tables.slice(1), json))).toContain('is missing');
    const extra = { name: 'tables/more.jsonl', text: '' };
    expect(await refused(await archiveOf(...tables, extra, json))).toContain('does not name');
    const [first, ...rest] = tables;
    const changed = { name: first?.name ?? '', text: `${first?.text} ` };
    expect(await refused(await archiveOf(changed, ...rest, json))).toContain(
      'not what was written',
    );
  });

  test('one of a newer version', async () => {
    const newer = await bytesOf({ ...content, schema: newestChange() + 1 });
    expect(await refused(newer)).toContain('newer Tembrix');
  });
});

test('the commands: a backup while the bench runs, a preview, a restore, and clear refusals', async () => {
  const api = await Api.start({ type: 'directory', path: join(home, 'data') });
  await api.jobWithFound();
  const run = (args: string[], env: Record<string, string>) =>
    spawnSync(process.execPath, [...nodeArguments('backup'), ...args], {
      encoding: 'utf8',
      env: { ...process.env, TEMBRIX_BACKUPS: join(home, 'backups'), ...env },
    });
  const port = new URL(api.server.url).port;
  // The server of this process must go on answering while the command runs beside it.
  const answer = await api.fetch(`/backup`);
  expect(answer.headers.get('content-disposition')).toMatch(/tembrix-\d{8}-\d{6}\.tar\.gz/);
  const file = join(home, 'from-the-bench.tar.gz');
  writeFileSync(file, Buffer.from(await answer.arrayBuffer()));
  expect((await readArchive(readFileSync(file), newestChange())).manifest.tables).not.toEqual([]);
  await api.server.stop();

  const closed = run(['backup'], { TEMBRIX_DATA: join(home, 'data'), TEMBRIX_PORT: port });
  expect(closed.stdout).toMatch(/tar\.gz, proven: .*jobs 1/);
  expect(readdirSync(join(home, 'backups'))).toHaveLength(1);

  const target = { TEMBRIX_DATA: join(home, 'restored') };
  expect(run(['restore', file], target).stdout).toContain('Nothing was changed');
  expect(run(['restore', file, '--yes'], target).stdout).toContain('Restored.');
  const again = run(['restore', file, '--yes'], target);
  expect([again.status, again.stderr]).toEqual([1, expect.stringContaining('empty place')]);
  const none = run(['restore', join(home, 'none')], target);
  expect([none.status, none.stderr]).toEqual([1, expect.stringContaining('not there')]);
  const unnamed = run(['restore'], target);
  expect(unnamed.stderr).toContain('npm run restore -- FILE');
  const wrong = run(['bakcup'], target);
  expect([wrong.status, wrong.stderr]).toEqual([
    1,
    expect.stringContaining('backup, restore or move'),
  ]);
});
