import { spawn } from 'node:child_process';
import { mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { JobEvidence } from '#contract/evidence';
import type { Door, MadeTicket, Ticket } from '#contract/measuring';
import type { Problem } from '#contract/problem';
import type { Job } from '#contract/records';
import { readInventory, writeCim, writeCollected, writeSmbios } from '#core/inventory';
import { Api } from './support/api.ts';
import { desktop, labelled } from './support/builders.ts';
import { freePort } from './support/freePort.ts';
import { RUNNING, layDown } from './support/madeUpSystem.ts';

const PAGE = '<!doctype html><title>page</title>';
const module = labelled('16GB 2Rx8 PC4-2666V-UA1-11');
const table = writeSmbios(desktop(), { a1: module }).slice(32);
const file = (at = 0) =>
  writeCollected({
    ...{ shell: 'cim', collectedAt: `2026-11-02T09:30:0${at}Z`, notRead: [] },
    parts: [
      { kind: 'smbios-table', from: 'DMI', bytes: table },
      {
        ...{ kind: 'memory-instances', from: 'CIM' },
        bytes: new TextEncoder().encode(writeCim(desktop(), { a1: module })),
      },
    ],
    facts: [{ name: 'memory-visible', value: '16252928', from: 'meminfo' }],
  });

let api: Api;
let door: string;
beforeAll(async () => {
  api = await Api.start(undefined, { measuringPage: PAGE });
  const { version } = await api.ok<Door>('GET', '/door');
  const terms = { isOpen: true, address: '127.0.0.1', port: await freePort() };
  door = (await api.ok<Door>('PUT', '/door', { terms, version })).url ?? '';
});
afterAll(() => api.server.stop());

/** A job nothing is recorded of yet: files come first. */
async function newJob(): Promise<Job> {
  const { id: machineId } = await api.ok<{ id: string }>('POST', '/machines', {
    machine: desktop(),
  });
  const customer = { name: 'Tide model student', contact: '' };
  return api.ok('POST', '/jobs', { machineId, customer, complaint: 'Slow' });
}
const newTicket = (job: Job, brings = 'files') =>
  api.ok<MadeTicket>('POST', `/jobs/${job.id}/tickets`, {
    ...{ brings, kind: 'as-found' },
  });
const documents = async (job: Job) =>
  (await api.ok<JobEvidence>('GET', `/jobs/${job.id}/evidence`)).documents.map(({ name }) => name);
async function send(token: string | undefined, body: string) {
  const response = await fetch(`${door}/collected`, {
    method: 'POST',
    headers: token === undefined ? {} : { authorization: `Bearer ${token}` },
    body,
  });
  return { status: response.status, body: (await response.json()) as Partial<Problem> };
}

describe('a collected file', () => {
  test('sent with its link lies with the job, its parts behind it; sent again it stands once', async () => {
    const job = await newJob();
    const made = await newTicket(job);
    expect(made.link).toBe(`${door}/#${made.token}`);
    const all = [
      'collected.json',
      'collected.json: SMBIOS table, DMI',
      'collected.json: memory list, CIM',
    ];
    expect(await send(made.token, file())).toEqual({ status: 201, body: { ok: true } });
    expect(await documents(job)).toEqual(all);
    expect((await send(made.token, file())).status).toBe(201);
    expect(await documents(job)).toEqual(all);
    expect((await send(made.token, file(1))).status).toBe(409);
    expect(await documents(job)).toEqual(all);
    const [ticket] = await api.ok<Ticket[]>('GET', `/jobs/${job.id}/tickets`);
    expect(ticket).toMatchObject({ state: 'used', brings: 'files' });
  });

  test('dropped at the bench it is unpacked the same way, and so the API reads it', async () => {
    const job = await newJob();
    const base64 = Buffer.from(file()).toString('base64');
    const document = { kind: 'file', name: 'counter.json', base64, slotIds: [] };
    const body = { documents: [document] };
    for (let times = 0; times < 2; times++) await api.ok('POST', `/jobs/${job.id}/evidence`, body);
    expect(await documents(job)).toEqual([
      'counter.json',
      'counter.json: SMBIOS table, DMI',
      'counter.json: memory list, CIM',
    ]);
    const read = await api.ok<{ files: { kind: string; system?: object }[]; picture?: object }>(
      'POST',
      '/inventory/read',
      { files: [{ name: 'counter.json', base64 }] },
    );
    expect(read.files.map(({ kind }) => kind)).toEqual(['collected', 'smbios', 'cim']);
    expect(read.files[0]?.system).toEqual({ visible: { value: 15.5, from: 'meminfo' } });
    expect(read.picture).toBeDefined();
  });

  test('what is none, damaged, without a code, with a strange or another one is refused and stores nothing', async () => {
    const job = await newJob();
    const { token } = await newTicket(job);
    const result = await newTicket(await api.jobWithFound(), 'result');
    expect(await send(undefined, file())).toMatchObject({ status: 422 });
    expect(await send('nobody-nobody', file())).toMatchObject({ status: 404 });
    expect(await send(result.token, file())).toMatchObject({ status: 404 });
    expect(await send(token, '[1, 2, 3]')).toMatchObject({
      status: 422,
      body: { detail: expect.stringContaining('no collected file') as string },
    });
    expect(await send(token, file().slice(0, 900))).toMatchObject({
      status: 422,
      body: { detail: expect.stringContaining('ends too early') as string },
    });
    expect((await send(token, ' '.repeat(2 ** 20 + 1))).status).toBe(413);
    expect(await documents(job)).toEqual([]);
    // The link is not used up by what was refused.
    expect((await send(token, file())).status).toBe(201);
  });

  test('a link withdrawn, or of a closed job, brings nothing', async () => {
    const job = await newJob();
    const made = await newTicket(job);
    await api.ok('DELETE', `/jobs/${job.id}/tickets/${made.id}`);
    expect(await send(made.token, file())).toMatchObject({ status: 410 });
  });
});

describe('the scripts', () => {
  test.each(['collect.sh', 'collect.ps1'])(
    '%s is handed out at the door and at the bench',
    async (name) => {
      const source = readFileSync(join(import.meta.dirname, '../collect', name), 'utf8');
      for (const base of [door, `${api.server.url}/measure`]) {
        const response = await fetch(`${base}/${name}`);
        expect(response.headers.get('content-disposition')).toContain(name);
        expect(await response.text()).toBe(source);
      }
    },
  );

  /** The script as fetched from the door, run with a link. */
  async function fetched(link: string, root: string) {
    const out = join(mkdtempSync(join(tmpdir(), 'tembrix-sent-')), 'collected.json');
    const script = await (await fetch(`${door}/collect.sh`)).text();
    const child = spawn('sh', ['-s', '--', '--yes', '--out', out, '--to', link], {
      env: { ...process.env, COLLECT_ROOT: root },
    });
    child.stdin.end(script);
    let said = '';
    child.stderr.on('data', (chunk: Buffer) => (said += chunk.toString()));
    const code = await new Promise<number | null>((settle) => child.on('close', settle));
    return { code, said, out };
  }

  test('fetched, run and sent, the file lies with the job; refused, it is kept and said', async () => {
    const job = await newJob();
    const { link } = await newTicket(job);
    const root = layDown({ ...RUNNING, 'sys/firmware/dmi/tables/DMI': table });
    const first = await fetched(link ?? '', root);
    expect(first).toMatchObject({
      code: 0,
      said: expect.stringContaining('at the bench') as string,
    });
    expect(await documents(job)).toEqual([
      'collected.json',
      'collected.json: SMBIOS table, /sys/firmware/dmi/tables/DMI',
    ]);
    const again = await fetched(`${door}/#none-none-none`, root);
    expect(again.code).toBe(1);
    expect(again.said).toContain('not known here');
    expect(again.said).toContain('Carry');
    expect(readInventory(Uint8Array.from(readFileSync(again.out))).kind).toBe('collected');
    expect((await fetched('http://127.0.0.1:1/#none-none-none', root)).said).toContain(
      'could not be sent',
    );
  });
});
