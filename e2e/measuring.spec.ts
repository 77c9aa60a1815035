import { readFileSync } from 'node:fs';
import { labelled } from '../test/support/builders.ts';
import { freePort } from '../test/support/freePort.ts';
import { pdfText } from '../test/support/pdfText.ts';
import { answers, expect, part, runsBy, sceneWithJob, send, test } from './support/bench.ts';
import type { Page } from '@playwright/test';
import type { BenchServer } from './support/server.ts';

const module = labelled('8GB 1Rx8 PC4-2400T-UA1-11');

/** A job with one module found and two fitted. */
async function sceneFitted(server: BenchServer): Promise<string> {
  const id = await sceneWithJob(server);
  await send(server, 'PUT', `/jobs/${id}/snapshots/as-fitted`, {
    ...{ placement: { a1: module, b1: module }, setting: 'standard', version: 0 },
  });
  return id;
}

/** Really measures in this browser, the short way, and waits for the figures. */
async function measure(page: Page): Promise<void> {
  await page.getByRole('button', { name: /^Measure / }).click();
  await expect(page.getByRole('progressbar')).toBeVisible();
  await expect(page.getByText(/^Read, \d+ threads?$/)).toBeVisible({ timeout: 60_000 });
}

const after = (page: Page) => part(page, 'Runs after fitting');
const baseline = (page: Page) => part(page, 'Baseline');

test('a link scanned by another machine: it measures, and the result appears on the job by itself', async ({
  page,
  server,
  browser,
}) => {
  const id = await sceneFitted(server);
  const port = await freePort();
  await page.goto(`${server.url}/shop`);
  await page.getByLabel('Address of this computer').selectOption('127.0.0.1');
  await page.getByLabel('Port', { exact: true }).fill(String(port));
  await page.getByRole('button', { name: 'Turn on network access' }).click();
  await expect(page.getByText(`On, at http://127.0.0.1:${port}`)).toBeVisible();

  await page.goto(`${server.url}/jobs/${id}/prove`);
  await runsBy(after(page), 'Measuring page');
  await after(page).getByRole('button', { name: 'Measure with the page' }).click();
  const link = (await page.getByTestId('measuring-link').textContent()) ?? '';
  expect(link).toMatch(new RegExp(`^http://127\\.0\\.0\\.1:${port}/#`));
  await expect(page.getByRole('img', { name: 'The link, to scan' })).toBeVisible();

  const customer = await browser.newContext();
  const machine = await customer.newPage();
  const asked: string[] = [];
  machine.on('request', (request) => asked.push(new URL(request.url()).pathname));
  await machine.goto(link.replace('/#', '/?short#'));
  await measure(machine);
  await expect(machine.getByText('The bench has it. This page can be closed.')).toBeVisible();
  // It asked for itself and posted; workers and fonts come out of the page.
  expect(asked.filter((path) => path.startsWith('/'))).toContain('/results');
  expect(asked.filter((path) => /jobs|api/.test(path))).toEqual([]);
  // Nothing of the customer is on it, and it keeps nothing once the bench has the result.
  expect(await machine.locator('body').innerText()).not.toMatch(/Scene customer|Scene desktop/);
  expect(await machine.evaluate(() => localStorage.length)).toBe(0);

  await expect(page.getByText('The result is in')).toBeVisible();
  await expect(after(page).getByText('measuring page: read')).toBeVisible();
  await expect(after(page).getByText(/sent by the page/)).toBeVisible();

  // The link has served: a second result is refused in words, and the code is still there to carry.
  await machine.getByRole('button', { name: 'Measure again' }).click();
  await machine.getByRole('button', { name: /^Measure / }).click();
  await expect(machine.getByText(/^(reading|read|copy|multiply-add|asking) o/)).toBeVisible();
  // Out of sight for a moment: said at once, and on the result.
  const setHidden = (isHidden: boolean) =>
    machine.evaluate((value) => {
      Object.defineProperty(document, 'hidden', { value, configurable: true });
      document.dispatchEvent(new Event('visibilitychange'));
    }, isHidden);
  await setHidden(true);
  await expect(machine.getByText('The page was out of sight: what it was timing')).toBeVisible();
  await setHidden(false);
  await expect(machine.getByText('Carry it to the bench')).toBeVisible({ timeout: 60_000 });
  await expect(machine.getByText('out of sight for a while')).toBeVisible();
  await expect(machine.getByText(/has brought its result already/)).toBeVisible();
  await expect(machine.getByText('Carry it to the bench')).toBeVisible();
  await customer.close();
});

test('from a USB stick, without any network: measured, cancelled, checked for patterns, carried by code and by file', async ({
  page,
  server,
  context,
}) => {
  const id = await sceneFitted(server);
  await page.goto(`${server.url}/jobs/${id}/prove`);
  await runsBy(baseline(page), 'Measuring page');
  const saved = page.waitForEvent('download');
  await baseline(page).getByRole('link', { name: 'page for a USB stick' }).click();
  const file = await (await saved).path();
  const html = readFileSync(file, 'utf8');
  expect(html.length).toBeLessThanOrEqual(120_000);
  expect(html).not.toMatch(/(?:src|href)="(?:https?:)?\/\//);

  const stick = await context.newPage();
  const path = test.info().outputPath('page.html');
  await (await import('node:fs/promises')).writeFile(path, html);
  await stick.goto(`file://${path}?short`);
  await context.setOffline(true);
  await stick.getByRole('button', { name: /^Thorough/ }).click();
  await expect(stick.getByRole('progressbar')).toBeVisible();
  await stick.getByRole('button', { name: 'Cancel' }).click();
  await stick.getByRole('checkbox').check();
  await measure(stick);
  await expect(stick.getByText(/^no fault in \d+ MB/)).toBeVisible();
  const code = (await stick.locator('#code').getAttribute('aria-label')) ?? '';
  const photo = await stick.screenshot({ fullPage: true });
  const download = stick.waitForEvent('download');
  await stick.getByRole('button', { name: /^Save as a file/ }).click();
  const json = await (await download).path();
  await context.setOffline(false);

  const typed = baseline(page).getByLabel('Code from the measuring page');
  await typed.fill(`${code.slice(0, -1)}${code.endsWith('2') ? '3' : '2'}`);
  await expect(page.getByText('The code does not add up')).toBeVisible();
  await typed.fill(code.toLowerCase().replaceAll('-', ' '));
  // The same code off the page’s own picture, as a telephone would take it.
  await typed.fill('');
  await baseline(page).getByRole('button', { name: 'Scan it' }).click();
  await baseline(page)
    .getByLabel('Take or choose a photo')
    .setInputFiles({ name: 'screen.png', mimeType: 'image/png', buffer: photo });
  await expect(typed).toHaveValue(code);
  await baseline(page).getByRole('button', { name: 'Take the code' }).click();
  await expect(baseline(page).getByText(/by code/)).toBeVisible();
  await expect(baseline(page).getByText('measuring page: multiply-add')).toBeVisible();
  await expect(typed).toHaveValue('');

  await baseline(page)
    .getByLabel('or its file')
    .setInputFiles({
      ...{ name: 'result.json', mimeType: 'application/json', buffer: readFileSync(json) },
    });
  await expect(baseline(page).getByText('measuring page: copy')).toBeVisible();
  await baseline(page)
    .getByLabel('or its file')
    .setInputFiles({
      ...{ name: 'notes.json', mimeType: 'application/json', buffer: Buffer.from('{"a":1}') },
    });
  await expect(page.getByText(/This is no result of the measuring page/)).toBeVisible();
});

test('without the kernels it measures plainly and says so; a bench that is away gets the result later @night', async ({
  page,
  alone: server,
  browser,
}) => {
  const id = await sceneFitted(server);
  const ticket = await send<{ token: string }>(server, 'POST', `/jobs/${id}/tickets`, {
    ...{ kind: 'as-fitted' },
  });
  const customer = await browser.newContext();
  const machine = await customer.newPage();
  // A machine with little memory: an eighth of it is taken, and the result says what that means.
  await machine.addInitScript(() =>
    Object.defineProperty(navigator, 'deviceMemory', { value: 0.25 }),
  );
  await machine.goto(`${server.url}/measure/?short&plain#${ticket.token}`);
  await server.kill();
  await measure(machine);
  await expect(machine.getByText(/plain arrays measured instead/)).toBeVisible();
  await expect(machine.getByText(/gave little memory/)).toBeVisible();
  await expect(machine.getByText(/cannot be reached. Kept here/)).toBeVisible();
  await server.up();
  await expect(machine.getByText('The bench has it')).toBeVisible({ timeout: 60_000 });
  await customer.close();
  await page.goto(`${server.url}/jobs/${id}/prove`);
  await expect(
    after(page)
      .getByText(/plain arrays/)
      .first(),
  ).toBeVisible();
});

test('simulated on one computer: paired is proven; single-channel leads to the fault', async ({
  page,
  demo,
}) => {
  const id = await sceneFitted(demo);
  await page.goto(`${demo.url}/jobs/${id}/prove`);
  await runsBy(baseline(page), 'Measuring page');
  await runsBy(after(page), 'Measuring page');
  await baseline(page).getByRole('button', { name: 'Simulate a result' }).click();
  await expect(baseline(page).getByText('Simulated: no machine was measured.')).toBeVisible();
  await after(page).getByRole('button', { name: 'Simulate a result' }).click();
  await expect(answers(page)).toContainText('Runs dual-channel, inside the promise');
  await expect(page.getByText(/4 figures are compared, and all are shown/)).toBeVisible();

  await after(page).getByLabel('Simulated machine').selectOption('truly single-channel');
  for (let left = 4; left > 0; left--) {
    await after(page)
      .getByRole('button', { name: /^Remove measuring page/ })
      .first()
      .click();
    await expect(after(page).getByRole('button', { name: /^Remove measuring page/ })).toHaveCount(
      left - 1,
    );
  }
  await after(page).getByRole('button', { name: 'Simulate a result' }).click();
  await expect(page.getByText('Runs single-channel').first()).toBeVisible();
  await page.getByRole('link', { name: 'Find out why' }).click();
  await expect(page.getByText('What is the symptom?')).toBeVisible();
  await page.getByRole('button', { name: /single-channel/i }).click();
  await expect(page.getByText(/Next check/i).first()).toBeVisible();
});

test('what a closed job proved stands in the ledger, and counts in the next plan of that machine @night', async ({
  page,
  server,
}) => {
  const id = await sceneFitted(server);
  const path = `/jobs/${id}`;
  for (const [kind, runs] of [
    ['as-found', [14, 14.1, 13.9]],
    ['as-fitted', [27.5, 27.6, 27.4]],
  ] as const)
    await send(server, 'POST', `${path}/measurements`, {
      ...{ kind, metric: 'bandwidth', test: 'copy', runs, warmUp: 0, conditions: '' },
    });
  await send(server, 'POST', `${path}/memory-tests`, {
    ...{ kind: 'before the system starts', minutes: 300, passes: 4, errors: 0 },
    ...{ tool: '', conditions: '' },
  });
  const better = labelled('8GB 1Rx8 PC4-2400T-UA1-11 ORL-8U24');
  const { snapshots } = await send<{ snapshots: { kind: string; version: number }[] }>(
    ...([server, 'PUT', `${path}/snapshots/as-fitted`] as const),
    { placement: { a1: better, b1: better }, setting: 'standard', version: 1 },
  );
  expect(snapshots).toHaveLength(2);
  // Other modules than were measured: their runs are refused, and a test on them is lacking.
  await page.goto(`${server.url}${path}/prove`);
  await expect(page.getByText('These runs were taken on other modules')).toBeVisible();
  await after(page).getByRole('button', { name: 'Remove copy' }).click();
  await expect(page.getByText('These runs were taken on other modules')).toBeHidden();
  await runsBy(after(page), 'Type them');
  await after(page).getByLabel('Test', { exact: true }).fill('copy');
  await after(page).getByLabel('Runs, GB/s').fill('27.5 27.6 27.4');
  await after(page).getByRole('button', { name: 'Save runs' }).click();
  await expect(answers(page)).toContainText('Runs dual-channel, inside the promise');
  await send(server, 'POST', `${path}/memory-tests`, {
    ...{ kind: 'before the system starts', minutes: 300, passes: 4, errors: 0 },
    ...{ tool: '', conditions: '' },
  });
  await page.goto(`${server.url}${path}/hand-over`);
  await page.getByRole('button', { name: 'Hand over and close' }).click();
  await expect(answers(page)).toContainText('Closed with');

  // The report as PDF, with the appendix.
  const pdf = await page.request.get(`${server.url}/api${path}/report.pdf`);
  const pages = await pdfText(new Uint8Array(await pdf.body()));
  expect(pages).toHaveLength(2);
  expect(pages[0]).toContain('Better than before, and measured');
  expect(pages[1]).toContain('For the technician');

  await page.getByRole('link', { name: 'Results' }).click();
  const line = page.getByRole('row', { name: /Scene desktop/ });
  await expect(line).toContainText('2 × 8 GB ORL-8U24 in A1 and B1');
  await expect(line).toContainText('on all channels');
  await expect(line).toContainText('test passed, 300 min');
  await page.getByRole('searchbox', { name: 'Find' }).fill('nothing like it');
  await expect(page.getByText('No line fits.')).toBeVisible();

  // The machine comes in again: the part is for sale, and counts as listed though no list is known.
  const { machine } = (await (await server.fetch(path)).json()) as {
    machine: { id: string };
  };
  for (const label of ['8GB 1Rx8 PC4-2400T-UA1-11 ORL-8U24', '8GB 1Rx8 PC4-2400T-UA1-11 PV-8U24'])
    await send(server, 'POST', '/modules', {
      ...{ label, module: labelled(label), price: 2000, stock: 5, units: 1 },
    });
  const again = await send<{ id: string }>(server, 'POST', '/jobs', {
    ...{ customer: { name: 'Second customer', contact: '' }, machineId: machine.id },
    complaint: 'Slow too',
  });
  await send(server, 'PUT', `/jobs/${again.id}/snapshots/as-found`, {
    ...{ placement: { a1: better }, setting: 'standard', version: 0 },
  });
  await send(server, 'PATCH', `/jobs/${again.id}`, { school: 'strict', need: 10, version: 1 });
  await page.goto(`${server.url}/jobs/${again.id}/plan`);
  await expect(page.getByText(/ORL-8U24/).first()).toBeVisible();
  await expect(page.getByRole('main')).not.toContainText('PV-8U24');
});
