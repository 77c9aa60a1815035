import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { AuditEntry, AuditPage } from '#contract/audit';
import type { Shop } from '#contract/quotes';
import type { ModuleRecord } from '#contract/records';
import { audit } from '../server/store/schema/index.ts';
import { Api, module } from './support/api.ts';

let api: Api;
beforeAll(async () => {
  api = await Api.start();
});
afterAll(() => api.server.stop());

const changes = async (query = '', path = '/changes') =>
  (await api.ok<AuditPage>('GET', `${path}${query}`)).entries;
const lines = (entries: readonly AuditEntry[]) =>
  entries.map(({ who, subject, what, field, before, after }) => [
    who,
    subject,
    what,
    field,
    before,
    after,
  ]);

describe('who changed what', () => {
  test('a price: from, to, and by whom; a save that changes nothing leaves no line', async () => {
    const isolde = await api.person('counter', 'Isolde Quill');
    const made = await isolde.ok<ModuleRecord>('POST', '/modules', {
      ...{ label: 'Kit A', module, price: 4500, supplier: 'Mill' },
    });
    const { id, pricedAt: _at, ...body } = made;
    const dearer = await isolde.ok<ModuleRecord>('PUT', `/modules/${id}`, { ...body, price: 5250 });
    await isolde.ok('PUT', `/modules/${id}`, { ...body, price: 5250, version: dearer.version });
    const all = lines(await changes('?subject=price')).reverse();
    expect(all).toEqual([
      ['Isolde Quill', 'price', 'Kit A', 'price', null, 4500],
      ['Isolde Quill', 'price', 'Kit A', 'supplier', null, 'Mill'],
      ['Isolde Quill', 'price', 'Kit A', 'article', null, ''],
      ['Isolde Quill', 'price', 'Kit A', 'units', null, 1],
      ['Isolde Quill', 'price', 'Kit A', 'price', 4500, 5250],
    ]);
  });

  test('settings part by part, consents, plans slot by slot, verdicts', async () => {
    const { terms, version } = await api.ok<Shop>('GET', '/shop');
    const first = await api.ok<Shop>('PUT', '/shop', { terms, version });
    await api.ok('PUT', '/shop', { terms: { ...terms, taxPercent: 7 }, version: first.version });
    expect(lines(await changes('?subject=settings'))[0]).toEqual([
      ...['Ottoline V.', 'settings', '', 'terms.taxPercent', terms.taxPercent, 7],
    ]);

    const job = await api.jobWithFound();
    const consents = { ...job.consents, openCase: 'yes' };
    await api.ok('PATCH', `/jobs/${job.id}`, { consents, version: job.version });
    for (const [placement, version_] of [
      [{ a1: module }, 0],
      [{ b1: module }, 1],
    ] as const)
      await api.ok('PUT', `/jobs/${job.id}/snapshots/planned`, {
        ...{ placement, setting: 'standard', version: version_ },
      });
    const own = await changes('', `/jobs/${job.id}/changes`);
    expect(own.every((one) => one.job?.number === job.number)).toBe(true);
    const words = own.map(({ subject, field }) => `${subject} ${field}`).reverse();
    expect(words).toEqual([
      ...['job consents.openCase', 'plan placement.a1', 'plan setting'],
      ...['plan placement.a1', 'plan placement.b1'],
    ]);
    expect(await changes('', '/jobs/none/changes')).toEqual([]);
  });

  test('of a new password only that there is one; a refused change leaves no line', async () => {
    await api.person('technician', 'Bram Oddmund');
    const [bram] = (await api.ok<{ id: string; name: string }[]>('GET', '/accounts')).filter(
      ({ name }) => name === 'Bram Oddmund',
    );
    await api.ok('PUT', `/accounts/${bram?.id ?? ''}/password`, {
      password: 'brine harbour 7 oak',
    });
    const before = await changes('?subject=account');
    expect(before[0]).toMatchObject({ field: 'password', before: null, after: null });
    expect(JSON.stringify(before)).not.toContain('argon2');
    await api.problem('PUT', `/accounts/${bram?.id ?? ''}/password`, { password: 'aaaaaaaaaaaa' });
    await api.problem('POST', '/accounts', {
      ...{ name: 'bram oddmund', role: 'counter', password: 'brine harbour 7 oak' },
    });
    expect(await changes('?subject=account')).toEqual(before);
  });

  test('nothing of it is changed or removed, by whatever way', async () => {
    for (const change of [
      sql`update ${audit} set who = 'nobody'`,
      sql`delete from ${audit}`,
      sql`truncate ${audit}`,
    ])
      await expect(api.server.db.execute(change)).rejects.toThrow();
  });

  test('a page at a time, each line once; as CSV all of it, and no cell runs', async () => {
    await api.ok('POST', '/modules', { label: '=HYPERLINK("x")', module, price: 1 });
    const seen: number[] = [];
    for (let before: number | null | undefined; before !== null;) {
      const query = `?limit=3${before === undefined ? '' : `&before=${before}`}`;
      const page = await api.ok<AuditPage>('GET', `/changes${query}`);
      seen.push(...page.entries.map(({ id }) => id));
      before = page.next;
    }
    expect(seen).toEqual([...new Set(seen)].sort((a, b) => b - a));
    expect(seen).toHaveLength((await api.server.db.select().from(audit)).length);
    const csv = await (await api.fetch('/changes.csv')).text();
    expect(csv.trim().split('\r\n')).toHaveLength(seen.length + 1);
    expect(csv).not.toMatch(/(?:^|,)"?[=@]/m);
  });
});
