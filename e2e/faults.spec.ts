import type { Page } from '@playwright/test';
import type { JobSummary } from '#contract/records';
import { labelled } from '../test/support/builders.ts';
import { openReading, pedal, reading, typeReading } from './support/atTheMachine.ts';
import { answers, expect, sceneToFit, send, test } from './support/bench.ts';
import { fingerOn, smallTargets } from './support/looks.ts';

const PHONE = { width: 390, height: 844 };
const eight = labelled('8GB 1Rx8 PC4-2400T-UA1-11');

/** Imports a table of failing addresses, each with one wrong bit. */
async function importErrors(page: Page, addresses: readonly number[]): Promise<void> {
  const rows = addresses.map((address) => `0x${address.toString(16)},0,1`);
  await page.getByLabel('Import failing addresses').setInputFiles({
    ...{ name: 'errors.csv', mimeType: 'text/csv' },
    buffer: Buffer.from(['address,expected,actual', ...rows].join('\n')),
  });
}

/** Answers checks as a fault would, by what each asks, until the cause is found. */
async function findOut(page: Page, truth: readonly (readonly [RegExp, string])[]): Promise<void> {
  for (let checks = 0; checks < 9; checks++) {
    const bar = await answers(page).textContent();
    if (bar?.startsWith('Found')) return;
    const question = (await page.locator('.sheet p.text-answer').first().textContent()) ?? '';
    const outcome = truth.find(([asks]) => asks.test(question))?.[1];
    const told = page.getByRole('button', { name: outcome ?? 'none', exact: true });
    const unknown = page.getByRole('button', { name: /I don’t know/ });
    await ((await told.isVisible()) ? told : unknown).click();
    await expect(
      page.locator('.sheet p.text-answer').or(page.getByText('What to do:')).first(),
    ).not.toHaveText(question);
  }
  throw new Error('never found');
}

test('half the memory on a phone, the weekly crash at the bench: both found to the end @night', async ({
  page,
  demo,
}) => {
  const jobOf = async (search: string) => {
    const answer = await demo.fetch(`/jobs?search=${search}`);
    return ((await answer.json()) as { jobs: JobSummary[] }).jobs[0]?.id ?? '';
  };
  await page.setViewportSize(PHONE);
  const library = await jobOf('School');
  await page.goto(`${demo.url}/jobs/${library}/fault`);
  await page.getByRole('button', { name: 'DIMM B is missing' }).click();
  await expect(answers(page)).toContainText('DIMM B not fully seated');
  // Look first, then act.
  await findOut(page, [[/look along the slots/, 'DIMM B is not level']]);
  await page.getByRole('button', { name: 'Reseat DIMM B' }).click();
  await openReading(page);
  await pedal(page, /Reseat DIMM B/);
  await pedal(page, /All steps are done/);
  await page.getByRole('button', { name: 'To the readings' }).click();
  await typeReading(page, 'Firmware sees', '16');
  await expect(reading(page, 'Firmware sees').getByRole('img', { name: 'good' })).toBeVisible();

  await page.setViewportSize({ width: 1280, height: 800 });
  const post = await jobOf('post');
  await page.goto(`${demo.url}/jobs/${post}/fault`);
  await page.getByRole('button', { name: 'memory errors' }).click();
  // The test's table of addresses: this board runs single-channel, so they name nobody.
  await importErrors(page, [0x100, 0x13370100, 0x40000000]);
  await expect(page.getByText('The addresses cannot be told apart')).toBeVisible();
  // To the end: each module alone works, together they do not.
  await findOut(page, [
    [/gives addresses/, 'all over'],
    [/this module alone/, 'works'],
    [/only some/, 'works'],
    [/age/, 'newest, or says nothing of it'],
    [/look along/, 'all as it should be'],
    [/./, 'still there'],
  ]);
  await page.getByRole('button', { name: 'Choose other modules' }).click();
  await expect(page).toHaveURL(/\/plan/);

  // Bad: kept on the list of returns, and planned without.
  await page.goto(`${demo.url}/jobs/${post}/fault`);
  await expect(page.getByText('Not proven without')).toHaveCount(0);
  await expect(page.getByText('A memory test found errors')).toBeVisible();
  // What was found can be taken back with a thumb.
  await page.setViewportSize(PHONE);
  await (
    await fingerOn(page)
  )(true);
  expect(await page.getByRole('button', { name: 'take back' }).count()).toBeGreaterThan(3);
  expect(await smallTargets(page)).toEqual([]);
});

test('a bad module goes back and is planned for anew; answers that contradict are named', async ({
  page,
  server,
}) => {
  const id = await sceneToFit(server);
  await send(server, 'PUT', `/jobs/${id}/snapshots/as-fitted`, {
    ...{ placement: { a1: eight, b1: eight }, setting: 'standard', version: 0 },
  });
  await page.goto(`${server.url}/jobs/${id}/fault`);
  await expect(page.getByText(/Burnt smell/)).toBeVisible();
  await page.getByRole('button', { name: 'Errors in a memory test' }).click();
  // Every failing address lies on channel A, so the table itself is the answer to one check.
  await page.getByLabel('Interleave of 2 channels').selectOption('256');
  await importErrors(page, [0x000, 0x200, 0x40000400]);
  await expect(page.getByText('The errors point at A1')).toBeVisible();
  await page.getByRole('button', { name: 'Count it as a check made' }).click();
  await expect(page.getByText('errors in A1')).toBeVisible();
  await findOut(page, [
    [/gives addresses/, 'errors in A1'],
    [/change places/, 'fault goes with the one from A1'],
    [/age/, 'newest, or says nothing of it'],
    [/look along/, 'all as it should be'],
    [/alone: A1/, 'fault is there'],
    [/log/, 'memory errors'],
    [/./, 'still there'],
  ]);
  await expect(answers(page)).toContainText('a bad module in A1');
  await page.getByRole('button', { name: 'Send the module in A1 back' }).click();
  await expect(page).toHaveURL(/\/plan/);
  await page.getByRole('link', { name: 'Stock' }).click();
  await page.getByRole('link', { name: 'Returns' }).click();
  await expect(page.getByRole('row', { name: /a bad module in A1/ })).toBeVisible();
  await page.getByLabel(/State of the return/).selectOption('sent');
  await expect(page.getByLabel(/State of the return/)).toHaveValue('sent');

  // Answers that hardly go with one another: said, with which to make again.
  await page.goto(`${server.url}/jobs/${id}/fault`);
  await page.getByRole('button', { name: /start over/ }).click();
  // The page shows a symptom at once; what is sent past it has to wait until the server knows.
  const known = page.waitForResponse(
    (answer) => answer.ok() && (answer.request().postData() ?? '').includes('"symptom"'),
  );
  await page.getByRole('button', { name: 'Shows less memory than is fitted' }).click();
  await known;
  await expect(page.getByText('No check yet.')).toBeVisible();
  for (const [checkId, outcome] of [
    ['firmware’s page', 'b1'],
    ['look it over', 'b1'],
    ['change places@a1+b1', 'no change'],
    ['reseat and clean', 'still there'],
  ])
    await send(server, 'POST', `/jobs/${id}/bench`, {
      ...{ id: `odd ${checkId}`, note: { type: 'seen', checkId, outcome } },
    });
  await expect(page.getByRole('alert')).toContainText('Two answers hardly go together');
  await expect(page.getByRole('alert')).toContainText('once more, or take it back');
  await page.getByRole('button', { name: 'take back' }).last().click();
  await page.getByRole('button', { name: 'take back' }).last().click();
  await expect(page.getByRole('alert')).toHaveCount(0);
  await page.getByRole('button', { name: /start over/ }).click();
  await expect(page.getByText('What is the symptom?')).toBeVisible();
});

test('“I don’t know” to every question ends with a way on', async ({ page, server }) => {
  const id = await sceneToFit(server);
  await page.goto(`${server.url}/jobs/${id}/fault`);
  await page.getByRole('button', { name: 'Shows less memory than is fitted' }).click();
  const unknown = page.getByRole('button', { name: /I don’t know/ });
  for (let asked = 0; asked < 40; asked++) {
    await expect(unknown.or(page.getByText('No check left tells'))).toBeVisible();
    if (!(await unknown.isVisible())) break;
    const question = await answers(page).textContent();
    await unknown.click();
    await expect(answers(page)).not.toHaveText(question ?? '');
  }
  await expect(page.getByText('No check left tells the causes apart')).toBeVisible();
  await expect(page.getByText(/Restore what was found/)).toBeVisible();
});
