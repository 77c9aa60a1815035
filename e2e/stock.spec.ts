import type { Quote, Shop } from '#contract/quotes';
import { queryForJob } from '#contract/jobPlan';
import type { Job, ModuleRecord } from '#contract/records';
import { runToEnd } from '#core/planning';
import { labelled } from '../test/support/builders.ts';
import { quaySupplier } from '../demo/supplier/quay.ts';
import { startSupplier } from '../demo/supplier/supplier.ts';
import { expect, sceneWithJob, send, test } from './support/bench.ts';
import { scanText } from './support/scan.ts';
import type { BenchServer } from './support/server.ts';

const EIGHT = '8GB 1Rx8 PC4-2400T-UA1-11';

/** A customer has said yes to a plan that buys two of an article. */
async function agreed(server: BenchServer, supplier: string, article: string): Promise<Job> {
  const read = async <T>(path: string) => (await (await server.fetch(path)).json()) as T;
  await send(server, 'POST', '/modules', {
    ...{ label: EIGHT, module: labelled(EIGHT), price: 3000, cost: 2000, supplier, article },
  });
  const id = await sceneWithJob(server);
  const bare = await read<Job>(`/jobs/${id}`);
  const job = await send<Job>(server, 'PATCH', `/jobs/${id}`, { version: bare.version, need: 12 });
  const { terms } = await read<Shop>('/shop');
  const { plans } = runToEnd(queryForJob(job, await read<ModuleRecord[]>('/modules'), [], terms));
  const plan =
    plans.find(({ purchases }) => purchases.some(({ packs }) => packs === 2)) ??
    plans.find(({ purchases }) => purchases.length > 0);
  if (!plan) throw new Error('expected a plan that buys');
  const [quote] = await send<Quote[]>(server, 'POST', `/jobs/${id}/quotes`, {
    ...{ units: plan.units, setting: plan.setting, expected: plan.cost.net },
  });
  await send(server, 'POST', `/jobs/${id}/quotes/${quote?.id ?? ''}/answer`, {
    ...{ what: 'accepted', by: 'Harbour master', note: '' },
  });
  return job;
}

test('stock from the order through receipt, reservation and use to a count', async ({
  server,
  page,
}) => {
  // A supplier with a service, down when it is first asked.
  const ware = { article: 'Q-8', cost: 2100, stock: 9, leadDays: 2 };
  const parts = { ...quaySupplier(), wares: [ware], moods: ['down', 'steady'] as const };
  const service = await startSupplier(parts);
  const job = await agreed(server, 'Quay', ware.article);
  const number = String(job.number).padStart(4, '0');
  const openPage = async (path: string) => {
    await page.goto(server.url + path);
    await page.getByRole('heading').first().waitFor();
  };
  await openPage('/suppliers');
  await page.getByRole('button', { name: 'Change Quay' }).click();
  const quay = page.getByRole('region', { name: 'Quay' });
  await quay.getByLabel('Address of its service').fill(service.url);
  await quay.getByLabel('Key of its service').fill(parts.key);
  await quay.getByRole('button', { name: 'Save' }).click();
  await quay.getByRole('button', { name: 'Ask now' }).click();
  await expect(quay.getByRole('status')).toContainText('1 of 1 articles answered, 1 changed');
  await expect(quay.getByRole('status')).toContainText('at the second try');

  await openPage('/orders');
  const toOrder = page.getByRole('region', { name: 'To order from Quay' });
  await expect(toOrder).toContainText(number);
  await toOrder.getByRole('button', { name: /^Order 1 line there/ }).click();
  const order = page.getByRole('region', { name: 'Order 1', exact: true });
  await expect(order).toContainText('their number S-1001');
  await expect(toOrder).toBeHidden();
  expect(service.orders.size).toBe(1);

  // The first pack comes; it is held for the job, where it was put.
  await order.getByLabel('Goes to').fill('Tray 3');
  const came = order.getByLabel(/^Packs of/);
  const packs = Number(await came.inputValue());
  if (packs > 1) await came.fill('1');
  await order.getByRole('button', { name: 'Take 1 line in' }).click();
  await expect(page.getByText('1 module in stock')).toBeVisible();
  await openPage('/drawer');
  const row = page.getByRole('row', { name: /Tray 3/ });
  await expect(row).toContainText(`job ${number}`);
  await expect(row).toContainText('new');

  // It goes into the machine: started, it is sold, and the drawer is empty of it.
  await openPage(`/jobs/${job.id}/fit`);
  const open = page.getByRole('checkbox', { checked: false, disabled: false });
  await expect(open.first()).toBeVisible();
  for (let turn = 0; turn < 40; turn++) {
    await open.first().check();
    // A tick that is on its way locks the others for a moment.
    const hasNext = await open
      .first()
      .waitFor({ timeout: 3000 })
      .then(() => true)
      .catch(() => false);
    if (!hasNext) break;
  }
  await openPage('/gone');
  await expect(page.getByRole('row', { name: /sold/ })).toContainText(number);

  // Two more lie in the drawer; one of them is scanned, one is lost.
  const put = (origin: string) =>
    send<{ id: string }>(server, 'POST', '/drawer', {
      ...{ label: EIGHT, module: labelled(EIGHT), state: 'tested', price: 900, origin },
      place: 'Tray 3',
    });
  const here = await put('stays');
  const lost = await put('is lost');
  await openPage('/count');
  await page.getByLabel('Counted is').selectOption({ label: 'Tray 3 (2)' });
  await scanText(page, `http://bench.example/drawer/${here.id}`);
  await expect(page.getByRole('heading', { name: '1 of 2 found' })).toBeVisible();
  await page.getByRole('checkbox', { name: new RegExp(lost.id) }).check();
  await page.getByRole('button', { name: 'Take the count over' }).click();
  await expect(page.getByText('Count taken over: 1 of 2 found')).toBeVisible();
  await openPage('/drawer');
  await expect(page.getByText('1 module', { exact: true })).toBeVisible();
  await service.stop();
});
