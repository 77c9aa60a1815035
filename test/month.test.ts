import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { MonthAnswer } from '#contract/month';
import type { Receipt, PlacedAnswer } from '#contract/suppliers';
import { readMonth } from '../server/store/operations/month.ts';
import { Api } from './support/api.ts';
import { acceptedJob, offer, toOrder, wanted } from './support/ordered.ts';

let api: Api;
beforeAll(async () => {
  api = await Api.start();
});
afterAll(() => api.server.stop());

const now = new Date();
const thisMonth = `${String(now.getFullYear())}-${String(now.getMonth() + 1).padStart(2, '0')}`;
const read = (month = thisMonth) => api.ok<MonthAnswer>('GET', `/month/${month}`);

/** A job sold, its parts billed at another cost than they were listed at, handed over. */
async function soldJob() {
  const single = await offer(api, { supplier: 'Quay', article: 'Q-1', price: 3000, cost: 2000 });
  const { job, plan, quote } = await acceptedJob(api, single.id);
  const lines = await toOrder(api, 'Quay');
  const body = { id: 'o1', supplier: 'Quay', lines: wanted(lines), reference: '', send: false };
  const { order } = await api.ok<PlacedAnswer>('POST', '/orders', body);
  const line = order?.lines[0];
  await api.ok<Receipt>('POST', `/orders/${order?.id ?? ''}/receipts`, {
    ...{ lines: [{ lineId: line?.id, packs: line?.packs, cost: 2200 }], place: '' },
  });
  await api.ok('PUT', `/jobs/${job.id}/snapshots/as-fitted`, {
    ...{ placement: plan.placement, setting: plan.setting, version: 0 },
  });
  const { version } = await api.ok('GET', `/jobs/${job.id}`);
  await api.ok('POST', `/jobs/${job.id}/close`, { version });
  return { job, quote, packs: line?.packs ?? 0 };
}

describe('the owner’s month', () => {
  test('counts what was handed over, what it brought, and what is left of it', async () => {
    expect(await read()).toMatchObject({ closed: [], turnRound: { whole: { jobs: [] } } });
    const { job, quote, packs } = await soldJob();
    const month = await read();
    expect(month.closed.map(({ id }) => id)).toEqual([job.id]);
    const { money } = month;
    expect(money.parts + money.labour - money.credit).toBe(quote.total);
    // Tax within 30.00 is 5.00; a pack cost 22.00 by its bill.
    expect(money.earnedOnParts).toBe(packs * (3000 - 500 - 2200));
    expect(money.costUnknown).toEqual([]);
    expect(month.returns.soldInYear).toBe(packs);
    expect(month.quotes).toMatchObject({ issued: 1, acceptedShare: { of: 1, share: 1 } });
    expect(month.turnRound.stretches.map(({ jobs }) => jobs.length)).toEqual([1, 1, 1, 1, 1, 1]);
  });

  test('what came back stands against what was sold, with the job behind it', async () => {
    const { returns, closed } = await read();
    const job = await api.ok('GET', `/jobs/${closed[0]?.id ?? ''}`);
    const found = job.snapshots.find(({ kind }) => kind === 'as-fitted');
    const [slotId, module] = Object.entries(found?.placement ?? {}).at(-1) ?? [];
    await api.ok('POST', `/jobs/${job.id}/reopen`, { version: job.version });
    await api.ok('POST', `/jobs/${job.id}/returns`, {
      ...{ slotId, module, supplier: 'Quay', reason: 'errors in test' },
    });
    const { version } = await api.ok('GET', `/jobs/${job.id}`);
    await api.ok('POST', `/jobs/${job.id}/close`, { version });
    const after = (await read()).returns;
    expect(after.inMonth).toMatchObject([{ id: job.id, fault: 'errors in test' }]);
    expect(after.inYear.supplier).toMatchObject([
      { name: 'Quay', back: 1, sold: returns.soldInYear, jobs: [{ id: job.id }] },
    ]);
    expect(after.inYear.fault).toMatchObject([{ name: 'errors in test', back: 1 }]);
  });

  test('a declined quote leaves its reason; an open job waits where it stands', async () => {
    const single = await offer(api, { supplier: 'Barge', article: 'B-1' });
    const { job, quote } = await acceptedJob(api, single.id);
    await api.server.db.execute(sql`alter table quotes disable trigger user`);
    await api.server.db.execute(
      sql`update quotes set answer = 'declined', answer_note = 'too dear' where id = ${quote.id}`,
    );
    await api.server.db.execute(sql`alter table quotes enable trigger user`);
    const month = await read();
    expect(month.quotes.reasons).toMatchObject([{ reason: 'too dear', job: { id: job.id } }]);
    expect(month.waiting.flatMap(({ jobs }) => jobs.map(({ id }) => id))).toContain(job.id);
  });

  test('another month holds none of it; the drawer of a month gone by is as it was then', async () => {
    const past = await readMonth(api.server.db, '2020-02');
    expect(past).toMatchObject({ isOver: true, closed: [], opened: [], drawer: { pieces: 0 } });
    await api.ok('POST', '/drawer', {
      ...{ label: 'one', module: (await api.jobWithFound()).snapshots[0]?.placement.a1 },
      ...{ state: 'tested', price: 700, origin: '' },
    });
    expect((await read()).drawer.pieces).toBeGreaterThan(0);
    expect((await readMonth(api.server.db, '2020-02')).drawer.pieces).toBe(0);
  });

  test.each(['2026-13', '2026-5', 'now', '1999-01'])('“%s” is no month', async (month) => {
    expect((await api.problem('GET', `/month/${month}`)).status).toBe(422);
  });

  test('is the owner’s alone', async () => {
    const bram = await api.person('technician', 'Bram Oddmund');
    expect((await bram.problem('GET', `/month/${thisMonth}`)).status).toBe(403);
  });
});
