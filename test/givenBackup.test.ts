import { existsSync, mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { connect } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { gunzipSync, gzipSync } from 'node:zlib';
import { afterAll, beforeAll, expect, test } from 'vitest';
import type { Backup, BackupState, RestorePreview } from '#contract/backups';
import type { Problem } from '#contract/problem';
import { Api } from './support/api.ts';
import { OWNER, cookiesFor } from './support/owner.ts';

// A backup made elsewhere is given in as a file in the page, looked at, and gone back to.
const home = mkdtempSync(join(tmpdir(), 'tembrix-given-'));
const place = join(home, 'backups');
const given = join(place, 'given');
let here: Api;
/** Of another bench, with one job. */
let file: Uint8Array<ArrayBuffer>;
let theirJob: string;

async function backupOf(api: Api): Promise<Uint8Array<ArrayBuffer>> {
  return new Uint8Array(await (await api.fetch('/backup')).arrayBuffer());
}

beforeAll(async () => {
  const there = await Api.start();
  theirJob = (await there.jobWithFound()).id;
  file = await backupOf(there);
  await there.server.stop();
  here = await Api.start(undefined, { backups: place });
});
afterAll(async () => {
  await here.server.stop();
  rmSync(home, { recursive: true, force: true });
});

const give = (body: BodyInit) =>
  here.fetch('/backups/given', {
    ...{ method: 'POST', headers: { 'content-type': 'application/octet-stream' }, body },
  });
const listed = () => here.ok<Backup[]>('GET', '/backups/kept');
const left = () => (existsSync(given) ? readdirSync(given) : []);

test.each<[string, () => BodyInit | Promise<BodyInit>]>([
  ['nothing', () => ''],
  ['a letter', () => 'Dear bench,'],
  ['one that is cut off', () => file.subarray(0, file.length / 2)],
  ['one with a byte turned', () => turned(file)],
  ['a job', async () => (await here.fetch(`/jobs/${await jobHere()}/bundle`)).blob()],
])('%s is refused in words, and nothing of it stays', async (_what, bodyOf) => {
  const answer = await give(await bodyOf());
  const { mend, detail } = (await answer.json()) as Problem;
  expect([answer.status, mend !== '', detail !== '']).toEqual([409, true, true]);
  expect([await listed(), left()]).toEqual([[], []]);
});

const jobHere = async () => (await here.jobWithFound()).id;

/** Packed anew, so that only its own sums can tell. */
function turned(bytes: Uint8Array): Uint8Array<ArrayBuffer> {
  const plain = gunzipSync(bytes);
  const at = plain.indexOf('"id":"') + 6;
  plain[at] = plain[at] === 0x41 ? 0x42 : 0x41;
  return new Uint8Array(gzipSync(plain));
}

test('a sender that goes away half-way leaves nothing', async () => {
  const { hostname, port } = new URL(here.server.url);
  const socket = connect(Number(port), hostname);
  socket.write(
    `POST /api/backups/given HTTP/1.1\r\nhost: ${hostname}:${port}\r\ncookie: ${here.cookie}\r\n` +
      `content-type: application/octet-stream\r\ncontent-length: ${file.length}\r\n\r\n`,
  );
  socket.write(file.subarray(0, 1000));
  await expect.poll(left, { timeout: 60_000 }).toHaveLength(1);
  socket.destroy();
  await expect.poll(left, { timeout: 60_000 }).toEqual([]);
});

test('it stands beside the bench’s own, never as one of them, and twice is once', async () => {
  const answer = await give(file);
  const backup = (await answer.json()) as Backup;
  expect([answer.status, backup.isGiven, backup.size]).toEqual([201, true, file.length]);
  expect(((await (await give(file)).json()) as Backup).name).toBe(backup.name);
  expect(await listed()).toEqual([backup]);
  // The one a day is still due: what came from elsewhere protects nothing that is here.
  expect(await here.ok<BackupState>('GET', '/backups')).toMatchObject({ newest: null });
});

test('what going back to it would change is told, and then it is so', async () => {
  const mine = await jobHere();
  const [backup] = await listed();
  const preview = await here.ok<RestorePreview>('POST', '/backups/preview', { name: backup?.name });
  expect(preview.at).toBe(backup?.at);
  expect(preview.tables.find(({ name }) => name === 'jobs')).toMatchObject({ back: 1 });
  expect(preview.jobs.named.find(({ id }) => id === mine)).toMatchObject({ isLost: true });
  const { kept } = await here.ok<{ kept: string }>('POST', '/backups/restore', {
    name: backup?.name,
  });
  // The other bench's people are let in now, and its job is here.
  here.cookie = (await cookiesFor(here.server.url, OWNER)) ?? '';
  const asked = async (id: string) => (await here.fetch(`/jobs/${id}`)).status;
  expect([await asked(theirJob), await asked(mine)]).toEqual([200, 404]);
  expect((await listed()).filter(({ isGiven }) => !isGiven).map(({ name }) => name)).toEqual([
    kept,
  ]);
});

test('the three given in last are kept', async () => {
  const names = [];
  for (let n = 0; n < 4; n++) {
    const answer = await give(await backupOf(here));
    names.push(((await answer.json()) as Backup).name);
    // Of another second, and so of another name.
    await new Promise((wait) => setTimeout(wait, 1100));
  }
  const found = (await listed()).filter(({ isGiven }) => isGiven).map(({ name }) => name);
  expect(found).toEqual(names.slice(-3).reverse());
});

test('a made-up world takes none', async () => {
  const demo = await Api.start(undefined, { backups: join(home, 'none'), isDemo: true });
  const headers = { 'content-type': 'application/octet-stream' };
  const answer = await demo.fetch('/backups/given', { method: 'POST', headers, body: file });
  expect(answer.status).toBe(404);
  await demo.server.stop();
});
