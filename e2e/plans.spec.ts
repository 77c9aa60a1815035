import { readFile } from 'node:fs/promises';
import type { Page } from '@playwright/test';
import type { Job, JobSummary } from '#contract/records';
import { labelled } from '../test/support/builders.ts';
import { pdfText } from '../test/support/pdfText.ts';
import { answers, expect, sceneWithJob, send, test } from './support/bench.ts';

const EIGHT = '8GB 1Rx8 PC4-2400T-UA1-11 PV-8U24';
const PAIR = '16GB 1Rx8 PC4-3200AA-UA3-11 PV-16U32';
const LAPTOP = '16GB 2Rx8 PC4-3200AA-SE1-11 ORL-16S32';

/** A job that needs more than its 8 GB, and a market with a matching, a faster and a wrong module. */
async function sceneWithMarket(server: Parameters<typeof sceneWithJob>[0]): Promise<string> {
  const id = await sceneWithJob(server);
  const found = await send<{ version: number }>(server, 'PATCH', `/jobs/${id}`, {
    version: 1,
    need: 11,
  });
  expect(found.version).toBe(2);
  for (const [label, more] of [
    [EIGHT, { supplier: 'Barge surplus', price: 1790, stock: 4, leadDays: 7 }],
    [PAIR, { supplier: 'Quayside', price: 7590, units: 2, stock: 2, leadDays: 1, article: 'Q-32' }],
    [LAPTOP, { supplier: 'Quayside', price: 100 }],
  ] as const)
    await send(server, 'POST', '/modules', { label, module: labelled(label), ...more });
  return id;
}

const choice = (page: Page, name: string) => page.getByRole('listitem').filter({ hasText: name });

test('plan, compare, why not, quote, yes, order list', async ({ page, server }) => {
  const id = await sceneWithMarket(server);
  await page.goto(`${server.url}/jobs/${id}/plan`);
  await expect(page.getByText(/every one that nothing beats/)).toBeVisible();
  const cheapest = choice(page, 'Cheapest that meets the need');
  await expect(cheapest).toContainText('€47.90'); // 17.90 + 30.00 labour
  const fastest = choice(page, 'Fastest');
  await expect(fastest).toContainText('51.2 GB/s');

  // Two are put aside, named, and stand side by side after a reload.
  await cheapest.getByRole('button', { name: /^Keep to compare/ }).click();
  await expect(cheapest).toContainText('kept to compare');
  await fastest.getByRole('button', { name: /^Keep to compare/ }).click();
  await expect(fastest).toContainText('kept to compare');
  await page.getByRole('link', { name: 'Compare (2)' }).click();
  await page.getByLabel('Name').first().fill('Add one like it');
  await page.getByLabel('Name').first().blur();
  const drop = page.getByRole('button', { name: 'Drop: Add one like it' });
  await expect(drop).toBeVisible();
  await page.reload();
  await expect(drop).toBeVisible();
  // What is there now stands first, then what was kept; what differs from now says which way.
  const table = page.getByRole('table', { name: 'Plans beside what is there now' });
  await expect(table.getByRole('columnheader').first()).toHaveText('Now');
  const usable = table.getByRole('row', { name: /^Usable/ });
  await expect(usable.getByRole('cell').first()).toHaveText('8 GB');
  await expect(usable.getByRole('cell').nth(1)).toContainText('better than now: 16 GB');
  await expect(table.getByRole('row', { name: /^Cost/ }).getByRole('cell').nth(1)).toHaveText(
    '€47.90',
  );
  // The server takes its time: the undo is quicker than the drop it undoes, and still wins.
  await page.route('**/api/jobs/*', async (route) => {
    await new Promise((done) => setTimeout(done, 500));
    await route.continue();
  });
  await drop.click();
  await page.getByRole('button', { name: 'undo' }).click();
  await page.waitForTimeout(2000); // both saves, one after the other
  await page.unroute('**/api/jobs/*');
  await page.reload();
  await expect(drop).toBeVisible();

  // The laptop module is cheap, and does not fit: said in words, with nothing left to guess.
  await page.getByRole('link', { name: 'Why not' }).click();
  await page.getByRole('button', { name: LAPTOP }).click();
  await expect(page.getByText(/SODIMM/).last()).toBeVisible();

  // A placement of one's own is judged against all plans while it is laid out.
  await page.getByRole('link', { name: 'By hand' }).click();
  await page.getByLabel('Label of a module').fill(EIGHT);
  await page.getByLabel('goes to').selectOption({ label: 'A2' });
  await page.getByRole('button', { name: /Put in/ }).click();
  await expect(page.getByText(/refuses: needless one channel/)).toBeVisible();
  await page.keyboard.press('Control+z');

  // The whole table, ordered otherwise by other weights; the reason for a score is one click away.
  await page.getByRole('link', { name: /^All plans/ }).click();
  const first = page.getByRole('row').nth(1);
  for (const name of ['Cost', 'Usable', 'Match', 'Pulled', 'Free slots'])
    await page.getByRole('slider', { name: new RegExp(`^${name}`) }).fill('0');
  await expect(first).toContainText('51.2');
  await first.getByRole('button', { name: /^why/ }).click();
  await expect(page.getByRole('region', { name: /^Why/ })).toContainText('Bandwidth at need');
  await page.keyboard.press('Escape');

  await page.getByRole('link', { name: 'Choices' }).click();
  await cheapest.getByRole('button', { name: /^Take as plan/ }).click();
  await expect(cheapest).toContainText('this is the plan');
  await page.getByRole('link', { name: 'Next: quote' }).click();
  await expect(answers(page)).toContainText('€47.90');
  await page.getByLabel('A word to the customer').fill('Ready on Friday.');
  await page.getByRole('button', { name: 'Issue the quote' }).click();
  const link = page.getByRole('link', { name: /as PDF$/ });
  const response = await page.request.get(server.url + ((await link.getAttribute('href')) ?? ''));
  const [text = '', ...more] = await pdfText(new Uint8Array(await response.body()));
  expect(more).toEqual([]);
  for (const words of [
    'Scene customer',
    '€47.90',
    'about 7 days',
    'Ready on Friday.',
    'What is not promised',
    'spills to the drive',
  ])
    expect(text).toContain(words);

  await page.getByLabel('Who said so').fill('Scene customer, by phone');
  await page.getByRole('button', { name: 'Record the answer' }).click();
  await expect(page.getByText(/accepted by Scene customer, by phone/)).toBeVisible();
  await page.getByRole('link', { name: 'Stock' }).click();
  await page.getByRole('link', { name: 'Orders' }).click();
  await expect(page.getByRole('row').nth(1)).toContainText('PV-8U24');
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save all as CSV' }).click();
  const csv = await readFile(await (await download).path(), 'utf8');
  expect(csv.split(/\r?\n/)[1]).toMatch(/^"Barge surplus",,.*PV-8U24",1,17\.90,17\.90,7,/);
});

test('what a plan promises is simulated; a slow one is stopped, and taken up again @night', async ({
  page,
  server,
}) => {
  const id = await sceneWithMarket(server);
  let letGo: () => void = () => undefined;
  const held = new Promise<void>((resolve) => {
    letGo = resolve;
  });
  await page.route('**/simulation.worker*', async (route) => {
    await held;
    await route.continue();
  });
  await page.goto(`${server.url}/jobs/${id}/plan`);
  const fastest = choice(page, 'Fastest');
  await expect(fastest).toContainText('51.2 GB/s');
  await fastest
    .getByRole('button', { name: /PV-16U32|Fastest/ })
    .first()
    .click();
  const promises = page.locator('section').filter({ hasText: 'What it promises' });
  await expect(promises).toContainText('Reckoned from rate, channels and times');
  await expect(promises).toContainText(/simulating, 0\s%/);
  await promises.getByRole('button', { name: 'stop' }).click();
  await expect(promises).not.toContainText('simulating');
  letGo();
  await promises.getByRole('button', { name: 'Simulate it' }).click();
  await expect(promises).toContainText('Simulated, both sides', { timeout: 60_000 });
  await expect(promises).toContainText('reply ×');
  // Room first: 8 GB were there, 11 and a quarter more are needed.
  await expect(promises).toContainText('All of the work fits, no more spilling to the drive');
  await expect(fastest).toContainText('Promises: all of the work fits');
  await promises.getByRole('button', { name: /why/i }).first().click();
  await expect(page.getByText(/reading on and on × /)).toBeVisible();
  await page.keyboard.press('Escape');

  // The quote says the same, on paper too.
  await fastest.getByRole('button', { name: /^Take as plan/ }).click();
  await page.getByRole('link', { name: 'Next: quote' }).click();
  const told = page.locator('section').filter({ hasText: 'What the customer is told' });
  await expect(told).toContainText('Simulated for this machine', { timeout: 60_000 });
  await page.getByRole('button', { name: 'Issue the quote' }).click();
  const paper = page.getByRole('link', { name: /as PDF$/ });
  await expect(paper).toBeVisible({ timeout: 60_000 });
  const response = await page.request.get(
    `${server.url}${(await paper.getAttribute('href')) ?? ''}`,
  );
  const [sheet = ''] = await pdfText(new Uint8Array(await response.body()));
  expect(sheet).toContain('Simulated for this machine, as it was found and as planned');
  expect(sheet).toContain('does not fit and spills to the drive');

  // Fitted as quoted and measured, the proof is held against that very promise.
  const job = (await (await page.request.get(`${server.url}/api/jobs/${id}`)).json()) as Job;
  const planned = job.snapshots.find(({ kind }) => kind === 'planned');
  await send(server, 'PUT', `/jobs/${id}/snapshots/as-fitted`, {
    ...{ placement: planned?.placement, setting: planned?.setting, version: 0 },
  });
  for (const [kind, runs] of [
    ['as-found', [14, 14.1, 13.9]],
    ['as-fitted', [36, 36.2, 35.9]],
  ] as const)
    await send(server, 'POST', `/jobs/${id}/measurements`, {
      ...{ kind, metric: 'bandwidth', test: 'memory copy', runs, warmUp: 0 },
      ...{ power: 'unknown', resolution: '', tool: '', conditions: '' },
    });
  await page.goto(`${server.url}/jobs/${id}/prove`);
  const strip = page.getByRole('article').filter({ hasText: 'memory copy' });
  await expect(
    strip.getByRole('img', { name: /promised .* from both sides simulated/ }),
  ).toBeVisible();
});

test('what limits the machine changes which plan is taken: the second channel, not the tighter kit @night', async ({
  page,
  server,
}) => {
  const id = await sceneWithMarket(server);
  const tight = '8GB 1Rx8 PC4-2133P-UA1-11 profile 3200MT/s CL14-14-14-34 1.35V QL-8T32';
  await send(server, 'POST', '/modules', {
    ...{ label: tight, module: labelled(tight), price: 8990, units: 1, stock: 4 },
  });
  await page.goto(`${server.url}/jobs/${id}/plan`);
  await expect(page.getByText(/every one that nothing beats/)).toBeVisible();
  const limits = page.locator('details').filter({ hasText: 'What limits this machine' });
  await limits.getByText('What limits this machine').click();
  await limits.getByLabel('For which work').selectOption('Numeric models');
  const row = (name: string) => limits.getByRole('listitem').filter({ hasText: name });
  await expect(row('Second channel')).toContainText(/\+\d+ to \+\d+ %/, { timeout: 90_000 });
  await expect(row('CAS time')).toContainText('no change to notice', { timeout: 90_000 });
  await expect(row('Second channel')).toContainText('€47.90');
  await expect(limits.getByRole('img')).toBeVisible();
  await row('Second channel')
    .getByRole('button', { name: /^Take as plan/ })
    .click();
  await expect(
    choice(page, 'Cheapest that meets the need').getByText('this is the plan'),
  ).toBeVisible();

  // The page kept what it simulated, and a stranger finds it on Inspect as well.
  await page.goto(`${server.url}/jobs/${id}/inspect`);
  const there = page.locator('details').filter({ hasText: 'What limits this machine' });
  await there.getByText('What limits this machine').click();
  await expect(there.getByRole('listitem').filter({ hasText: 'Second channel' })).toContainText(
    'side by side',
  );
});

test('nothing fits the budget, then nothing on offer fits at all: each says what would help', async ({
  page,
  server,
}) => {
  const id = await sceneWithMarket(server);
  await send(server, 'PATCH', `/jobs/${id}`, { version: 2, budget: 0 });
  await page.goto(`${server.url}/jobs/${id}/plan`);
  await expect(page.getByRole('alert')).toContainText('Nothing within €0.00 meets the need');
  await expect(page.getByRole('alert')).toContainText('€47.90');
  await send(server, 'PATCH', `/jobs/${id}`, { version: 3, budget: null, need: 900 });
  await page.reload();
  await expect(page.getByRole('alert')).toContainText('The most that can be had');
});

test('a batch shares drawer and order, and every machine gets its plan', async ({
  page,
  server,
}) => {
  const machine = await send<{ id: string }[]>(server, 'GET', '/machines', undefined).catch(
    () => [],
  );
  expect(machine).toEqual([]);
  await sceneWithMarket(server);
  const [{ id: machineId } = { id: '' }] = await send<{ id: string }[]>(
    server,
    'GET',
    '/machines',
    undefined,
  );
  const customer = { name: 'Three desks', contact: '' };
  const { batch } = await send<{ batch: { id: string } }>(server, 'POST', '/jobs', {
    ...{ customer, machineId, complaint: 'Slow', count: 3 },
  });
  const { jobs } = await send<{ jobs: JobSummary[] }>(
    server,
    'GET',
    '/jobs?search=Three',
    undefined,
  );
  for (const { id } of jobs) {
    const placement = { a1: labelled('8GB 1Rx8 PC4-2400T-UA1-11') };
    await send(server, 'PUT', `/jobs/${id}/snapshots/as-found`, {
      placement,
      setting: 'standard',
      version: 0,
    });
    await send(server, 'PATCH', `/jobs/${id}`, { version: 1, need: 11 });
  }
  await send(server, 'POST', '/drawer', {
    ...{ label: EIGHT, module: labelled(EIGHT), state: 'tested', price: 500, origin: 'scrapped' },
  });
  await page.goto(`${server.url}/batches/${batch.id}`);
  await expect(page.getByText('Nothing cheaper meets every need')).toBeVisible();
  // One out of the drawer at 5.00, two at 17.90, three visits at 30.00.
  await expect(page.getByText('€130.80')).toBeVisible();
  await page.getByRole('button', { name: 'Take as plans of 3 machines' }).click();
  await expect(page.getByText('Each machine has its plan')).toBeVisible();
  await page.getByRole('row').nth(1).getByRole('link').click();
  // The batch chose another slot of the same channel: as good as any, and said so.
  await expect(page.getByText('The plan taken is another')).toBeVisible();
  await expect(page.getByText('Nothing beats it').first()).toBeVisible();
});

test('the calculators stand in the address', async ({ page, server }) => {
  await page.goto(`${server.url}/calculators?rate=1600&is=clock&cl=30&at=6000`);
  await expect(page.getByText('3200 MT/s = 1600 MHz')).toBeVisible();
  await expect(page.getByText('10 ns latency')).toBeVisible();
  const zone = page.getByRole('region', { name: 'Two unequal channels' });
  await zone.getByLabel('Channel A, GB').fill('24');
  await expect(zone).toContainText('16 GB dual-channel, 16 GB single-channel');
  await expect(page).toHaveURL(/a=24/);
  const timings = page.getByRole('region', { name: 'A module at another rate' });
  await timings.getByLabel('Label').fill('8GB 1Rx8 PC4-3200AA-UA2-11');
  await timings.getByLabel('runs at').selectOption('2400');
  await expect(timings.getByRole('row', { name: /^CL/ })).toContainText('17');
  await page.getByLabel('Figure').fill('many');
  await expect(page.getByText('A rate from 100 to 20000 MT/s.')).toBeVisible();
  await page.reload();
  await expect(zone).toContainText('16 GB dual-channel, 16 GB single-channel');
});

test('a supplier’s list comes in as CSV, its bad rows named and left out by choice', async ({
  page,
  server,
}) => {
  await page.goto(`${server.url}/modules`);
  const rows = [
    'label,supplier,price,stock,modules in pack',
    `${EIGHT},Barge surplus,"17,90",4,1`,
    'a biscuit,Barge surplus,1,1,1',
    `${PAIR},Quayside,seven,2,2`,
    `${PAIR},Quayside,75.90,2,2`,
  ];
  await page.getByLabel('Import CSV').setInputFiles({
    name: 'list.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(rows.join('\n')),
  });
  await expect(page.getByText('Row 3: “a biscuit” is no module label')).toBeVisible();
  await expect(page.getByText('Row 4: “seven” under price')).toBeVisible();
  await page.getByRole('button', { name: 'Take the 2 good rows, leave the others out' }).click();
  await expect(page.getByRole('row')).toHaveCount(3);
  await page.getByLabel('Size').selectOption({ label: '16 GB' });
  await expect(page.getByRole('row')).toHaveCount(2);
  await expect(page.getByRole('row').nth(1)).toContainText('€75.90');
});
