import { mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createWriteStream } from 'node:fs';
import { afterEach, beforeEach, describe, expect, test } from 'vitest';
import type { Backup, RestorePreview, Restored } from '#contract/backups';
import type { Erased, HeldCustomer } from '#contract/customerData';
import type { Job } from '#contract/records';
import { backUp } from '../server/backup/backup.ts';
import { Api } from './support/api.ts';
import { OWNER } from './support/owner.ts';

let api: Api;
let place: string;
beforeEach(async () => {
  place = mkdtempSync(join(tmpdir(), 'tembrix-back-'));
  // As if one had been made just now: the bench does not make its first by itself meanwhile.
  api = await Api.start(undefined, { backups: place });
});
afterEach(async () => {
  await api.server.stop();
  rmSync(place, { recursive: true, force: true });
});

/** A backup of the bench as it stands, as the keeper would have made it. */
async function backup(name: string): Promise<string> {
  await backUp(api.server.db, () => createWriteStream(join(place, name)));
  return name;
}
const preview = (name: string) => api.ok<RestorePreview>('POST', '/backups/preview', { name });
const numbers = async () =>
  (await api.ok<{ jobs: { number: number }[] }>('GET', '/jobs?state=open')).jobs.map(
    ({ number }) => number,
  );

describe('going back to a backup', () => {
  test('shows what is newer here, then puts it back, and can itself be undone', async () => {
    const kept = await api.jobWithFound();
    const name = await backup('tembrix-20300101-120000.tar.gz');
    expect((await preview(name)).tables).toEqual([]);
    const lost = await api.jobWithFound();
    await api.ok('PATCH', `/jobs/${kept.id}`, { version: kept.version, complaint: 'Slower still' });
    const seen = await preview(name);
    expect(seen.jobs.named).toMatchObject([
      { id: kept.id, isLost: false },
      { id: lost.id, isLost: true },
    ]);
    expect(seen.tables.find((one) => one.name === 'jobs')).toMatchObject({
      ...{ here: 2, there: 1, lost: 1, back: 0, changed: 1 },
    });
    // Looking changed nothing.
    expect((await numbers()).sort()).toEqual([kept.number, lost.number].sort());

    const done = await api.ok<Restored>('POST', '/backups/restore', { name });
    expect(readdirSync(place)).toContain(done.kept);
    // Everybody signs in again.
    expect((await api.send('GET', '/jobs')).status).toBe(401);
    expect(await api.signIn(OWNER)).toBe(true);
    expect(await numbers()).toEqual([kept.number]);
    expect((await api.ok('GET', `/jobs/${kept.id}`)).complaint).toBe(kept.complaint);
    // What stands for good still does, and the next number is the next.
    await expect(api.server.db.execute(`delete from job_events`)).rejects.toThrow();
    expect((await api.jobWithFound()).number).toBe(kept.number + 1);

    await api.ok('POST', '/backups/restore', { name: done.kept });
    await api.signIn(OWNER);
    expect((await numbers()).sort()).toEqual([kept.number, lost.number].sort());
    expect((await api.ok('GET', `/jobs/${kept.id}`)).complaint).toBe('Slower still');
  });

  test.each(['../../etc/passwd', 'tembrix-20300101-120000.tar.gz', ''])(
    'of “%s”, which is not kept, is refused',
    async (name) => {
      expect((await api.problem('POST', '/backups/preview', { name })).status).toBe(404);
      expect((await api.problem('POST', '/backups/restore', { name })).status).toBe(404);
    },
  );

  test('to a damaged one is refused in words, and leaves all as it is', async () => {
    const job = await api.jobWithFound();
    const name = 'tembrix-20300101-120001.tar.gz';
    writeFileSync(join(place, name), 'half a backup');
    const problem = await api.problem('POST', '/backups/restore', { name });
    expect([problem.status, problem.mend === '']).toEqual([409, false]);
    expect((await api.ok('GET', `/jobs/${job.id}`)).number).toBe(job.number);
    expect((await api.ok<Backup[]>('GET', '/backups/kept')).map((one) => one.name)).toEqual([name]);
  });
});

describe('a customer’s data', () => {
  const WHO = 'Ingrimma Tallowick';
  async function handedOver(): Promise<Job> {
    const machine = (await api.jobWithFound()).machine.id;
    const customer = { name: WHO, contact: 'lamp 77 12 9' };
    const job = await api.ok('POST', '/jobs', {
      ...{ customer, machineId: machine, complaint: `${WHO} says it is slow` },
    });
    const path = `/jobs/${job.id}`;
    await api.ok('POST', `${path}/evidence`, {
      documents: [{ kind: 'screen', name: 'her screen', base64: 'QTE6IDggR0I=', slotIds: [] }],
    });
    const found = { placement: {}, setting: 'standard', version: 0 };
    await api.ok('PUT', `${path}/snapshots/as-found`, found);
    await api.ok('PUT', `${path}/snapshots/as-fitted`, found);
    const { version } = await api.ok('GET', path);
    return api.ok('POST', `${path}/close`, { version });
  }
  const held = async (search = '') =>
    api.ok<HeldCustomer[]>('GET', `/customers/held?search=${encodeURIComponent(search)}`);

  test('goes out whole', async () => {
    const job = await handedOver();
    const [customer] = await held(WHO);
    expect(customer).toMatchObject({ jobs: 1, openJobs: 0, files: 1 });
    const response = await api.fetch(`/customers/${customer?.id ?? ''}/data.json`);
    const data = (await response.json()) as { jobs: { job: Job; files: { base64: string }[] }[] };
    expect(data.jobs.map((one) => one.job.id)).toEqual([job.id]);
    expect(data.jobs[0]?.files[0]?.base64).toBe('QTE6IDggR0I=');
  });

  test('is erased everywhere, with the backups named that hold it; what was proven stays', async () => {
    const before = await backup('tembrix-20200101-120000.tar.gz');
    const job = await handedOver();
    const after = await backup('tembrix-20990101-120000.tar.gz');
    const [customer] = await held(WHO);
    const path = `/customers/${customer?.id ?? ''}/erase`;
    expect((await api.problem('POST', path, { name: 'somebody' })).status).toBe(409);
    const done = await api.ok<Erased>('POST', path, { name: WHO });
    expect(done).toEqual({ jobs: 1, files: 1, backups: [after] });
    expect(done.backups).not.toContain(before);
    // Nowhere in the whole database.
    const read = async (text: string): Promise<{ name: string }[]> => {
      const answer: unknown = await api.server.db.execute(text);
      return (answer as { rows: { name: string }[] }).rows;
    };
    const rows = await read(
      `select table_name as name from information_schema.tables where table_schema = 'public' and table_type = 'BASE TABLE'`,
    );
    for (const { name } of rows) {
      const found = await read(
        `select 1 from "${name}" t where to_jsonb(t)::text ~ 'Ingrimma|Tallowick|lamp 77' limit 1`,
      );
      expect([name, found.length]).toEqual([name, 0]);
    }
    const left = await api.ok('GET', `/jobs/${job.id}`);
    expect(left.snapshots.map(({ kind }) => kind).sort()).toEqual(['as-fitted', 'as-found']);
    expect(left.result).toEqual(job.result);
    expect((await held('Erased'))[0]?.isErased).toBe(true);
    // What stands for good still does.
    await expect(api.server.db.execute(`update quotes set total = 0`)).resolves.toBeDefined();
    await expect(api.server.db.execute(`delete from job_events`)).rejects.toThrow();
  });

  test('of an open job is not erased', async () => {
    const { customer } = await api.jobWithFound();
    const problem = await api.problem('POST', `/customers/${customer.id}/erase`, {
      name: customer.name,
    });
    expect(problem.mend).toContain('Hand it over first');
    expect((await held(customer.name))[0]?.isErased).toBe(false);
  });
});
