import { writeFile } from 'node:fs/promises';
import type { Locator, Page } from '@playwright/test';
import type { BenchLog } from '#contract/bench';
import type { Job, JobSummary } from '#contract/records';
import { labelled } from '../test/support/builders.ts';
import { fingerOn, smallTargets } from './support/looks.ts';
import { answers, expect, person, sceneToFit, send, test } from './support/bench.ts';

const PHONE = { width: 390, height: 844 };
const eight = labelled('8GB 1Rx8 PC4-2400T-UA1-11');

/** Presses the cover at a place, as shares of its width and depth. */
async function pressCover(page: Page, x: number, y: number): Promise<void> {
  const box = await page.getByRole('group', { name: 'Cover map' }).boundingBox();
  if (!box) throw new Error('expected a cover');
  await page.mouse.click(box.x + x * box.width, box.y + y * box.height);
}

/** One step fills the screen; a pedal pressed before it does would be lost. */
async function openReading(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Reading mode' }).click();
  await expect(page.locator('main p.leading-\\[1\\.05\\]')).toBeVisible();
}

/** Works the sheet off in the reading mode by a pedal, until a title shows or all is done. */
async function pedal(page: Page, until: RegExp): Promise<void> {
  const title = page.locator('main p.font-bold.text-balance, main p.leading-\\[1\\.05\\]').first();
  for (let presses = 0; presses < 80; presses++) {
    const shown = await title.textContent();
    if (until.test(shown ?? '')) return;
    await page.keyboard.press('PageDown');
    await expect(title).not.toHaveText(shown ?? '');
  }
  throw new Error(`never came to ${String(until)}`);
}

const reading = (page: Page, name: string): Locator =>
  page.getByRole('listitem').filter({ has: page.getByText(name, { exact: true }) });

async function typeReading(page: Page, name: string, value: string): Promise<void> {
  const row = reading(page, name);
  await row.getByRole('textbox').fill(value);
  await row.getByRole('button', { name: 'Check' }).click();
}

async function pickSlots(page: Page, ...names: string[]): Promise<void> {
  const row = reading(page, 'Each slot');
  for (const one of await row.getByRole('button', { pressed: true }).all()) await one.click();
  for (const name of names) await row.getByRole('button', { name: new RegExp(`${name}$`) }).click();
  await row.getByRole('button', { name: 'Check' }).click();
}

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
      page.locator('.sheet p.text-answer').or(page.getByText('To mend it')).first(),
    ).not.toHaveText(question);
  }
  throw new Error('never found');
}

for (const [size, viewport] of [
  ['at the bench @night', { width: 1280, height: 800 }],
  ['on a phone', PHONE],
] as const)
  test.describe(size, () => {
    test.use({ viewport });

    test('cover map → fit → first start with a module in the wrong slot → mended → closed with nothing left over', async ({
      page,
      server,
    }) => {
      const id = await sceneToFit(server);
      await page.goto(`${server.url}/jobs/${id}/fit`);

      // The first one to open such a machine draws how.
      await page.getByRole('link', { name: 'Draw how the cover opens' }).click();
      await page.getByText('Nothing is marked').waitFor();
      await pressCover(page, 0.1, 0.15);
      await page.getByLabel('Length, mm').fill('4');
      await page.getByLabel('Hidden under').selectOption('foot');
      await pressCover(page, 0.9, 0.15);
      await page.getByLabel('Length, mm').fill('6');
      await pressCover(page, 0.5, 0.9);
      await page.getByRole('checkbox', { name: /Captive/ }).check();
      await page.getByRole('button', { name: /Clip$/ }).click();
      await pressCover(page, 0.5, 0.1);
      await expect(answers(page)).toContainText('5 moves, 4 parts');
      await page.getByRole('button', { name: 'Save the map' }).click();
      await page.getByRole('link', { name: 'Back to the sheet' }).click();

      // By pedal, one step filling the screen.
      await openReading(page);
      await pedal(page, /Lift the foot off screw 1/);
      await pedal(page, /Seat 8 GB in B1/);
      await expect(page.getByRole('img', { name: '8 GB goes into B1' })).toBeVisible();
      await page.keyboard.press('PageUp');
      await expect(page.getByText(/done by Ottoline V\./)).toBeVisible();
      await page.keyboard.press('PageDown');

      // Interrupted: the work goes on where it was.
      await page.reload();
      await expect(page.getByText('Seat 8 GB in B1').first()).toBeVisible();
      // A tap on the map ticks the part that came to hand first.
      await pedal(page, /Press clip 4 shut/);
      await page.getByRole('button', { name: /^3: captive screw/ }).click();
      await expect(page.getByRole('button', { name: /^3: captive screw.*out/ })).toHaveCount(0);
      await pedal(page, /Put back screw 2/);
      await page.getByRole('button', { name: '4 mm', exact: true }).click();
      await expect(page.getByRole('alert')).toContainText('4 mm is too short here');
      await page.getByRole('button', { name: '6 mm', exact: true }).click();
      await expect(page.getByText('Yes: 6 mm belongs here')).toBeVisible();
      await pedal(page, /Put back screw 1/);
      await page.getByRole('button', { name: '6 mm', exact: true }).click();
      await expect(page.getByRole('alert')).toContainText('Stop: 6 mm is too long here');
      await pedal(page, /Nothing left over/);
      await expect(page.getByRole('button', { name: /, out/ })).toHaveCount(0);
      await pedal(page, /Start it, and leave the power on/);
      await pedal(page, /All steps are done/);
      await page.getByRole('button', { name: 'To the readings' }).click();

      // The module was really put into A2.
      await expect(page.getByRole('timer')).toBeVisible();
      await reading(page, 'Picture').getByRole('button', { name: 'Yes' }).click();
      await typeReading(page, 'Firmware sees', '16');
      await pickSlots(page, 'A1', 'A2');
      await expect(page.getByText('In A1 and A2, planned A1 and B1')).toBeVisible();
      await page.getByRole('button', { name: 'Open again and move them' }).click();
      await expect(page.getByRole('checkbox', { name: 'Pull 8 GB out of A2' })).toBeVisible();
      await openReading(page);
      await pedal(page, /Pull 8 GB out of A2/);
      await expect(page.getByText(/It goes on the mat/)).toBeVisible();
      await pedal(page, /All steps are done/);
      await page.getByRole('button', { name: 'To the readings' }).click();

      await reading(page, 'Picture').getByRole('button', { name: 'Yes' }).click();
      await typeReading(page, 'Firmware sees', '16');
      await pickSlots(page, 'A1', 'B1');
      // The clock is half the rate, and right.
      await typeReading(page, 'Rate', '1200');
      await expect(page.getByText('the clock, half the rate: right')).toBeVisible();
      await typeReading(page, 'System sees', '16');
      await typeReading(page, 'Usable', '15.9');
      await expect(
        page.getByRole('img', { name: 'stop' }).and(page.locator('main li img')),
      ).toHaveCount(0);
      for (const name of ['Picture', 'Firmware sees', 'Each slot', 'Rate', 'System sees', 'Usable'])
        await expect(reading(page, name).getByRole('img', { name: 'good' })).toBeVisible();

      // What is noted shows at once and is sent in order; the record follows.
      const read = () => send<Job>(server, 'GET', `/jobs/${id}`, undefined);
      const fitted = async () =>
        (await read()).snapshots.find(({ kind }) => kind === 'as-fitted')?.placement ?? {};
      await expect.poll(async () => Object.keys(await fitted()).sort()).toEqual(['a1', 'b1']);
      const after = await read();
      expect(after.events.map(({ text }) => text).join(' ')).toContain('Corrected what sits where');

      // The library machine remembers the map: the next one gets it.
      const next = await send<Job>(server, 'POST', '/jobs', {
        ...{
          customer: { name: 'Next', contact: '' },
          machineId: after.machine.id,
          complaint: 'Slow',
        },
      });
      await send(server, 'PUT', `/jobs/${next.id}/snapshots/planned`, {
        ...{ placement: { a1: eight }, setting: 'standard', version: 0 },
      });
      await page.goto(`${server.url}/jobs/${next.id}/fit`);
      await expect(
        page.getByRole('checkbox', { name: /Take out screw 2, cross PH1, 6 mm/ }),
      ).toBeVisible();
      await expect(page.getByRole('link', { name: 'Cover map: 4 parts' })).toBeVisible();
    });
  });

test('half the memory on a phone, the weekly crash at the bench: both found to the end', async ({
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

test('two on one sheet, one of them cut off: ticks are neither lost nor doubled', async ({
  page,
  alone: server,
  browser,
}) => {
  const id = await sceneToFit(server);
  await page.goto(`${server.url}/jobs/${id}/fit`);
  const bram = await browser.newContext({ viewport: PHONE });
  await bram.addCookies(await person(server, 'technician', 'Bram Oddmund'));
  const other = await bram.newPage();
  await other.goto(`${server.url}/jobs/${id}/fit`);
  await page.getByRole('checkbox', { name: 'Unplug it' }).check();
  // Seen by the other without a reload.
  await expect(other.getByText(/Ottoline V\., \d\d:\d\d/)).toBeVisible();
  await server.kill();
  await other.getByRole('checkbox', { name: 'Put on the wrist strap' }).check();
  await expect(other.getByText('Not saved yet')).toBeVisible();
  await other.reload().catch(() => undefined);
  await server.up();
  // The browser's page of an address that was away tries again by itself, and may be on its way.
  await expect(() => other.goto(`${server.url}/jobs/${id}/fit`)).toPass();
  await expect(page.getByText(/Bram Oddmund, \d\d:\d\d/)).toBeVisible();
  const { entries } = await send<BenchLog>(server, 'GET', `/jobs/${id}/bench`, undefined);
  expect(entries.map(({ by }) => by)).toEqual(['Ottoline V.', 'Bram Oddmund']);
});

test('a photo of any size is taken small; what is no picture is refused in words', async ({
  page,
  server,
}, testInfo) => {
  const id = await sceneToFit(server);
  const job = await send<Job>(server, 'GET', `/jobs/${id}`, undefined);
  await page.goto(`${server.url}/machines/${job.machine.id}/cover`);
  const input = page.getByLabel('Draw on a photo');
  await input.setInputFiles({
    ...{ name: 'cover.jpg', mimeType: 'image/jpeg' },
    buffer: Buffer.from('no picture at all'),
  });
  await expect(page.getByRole('alert')).toContainText('not a picture the browser can read');
  // 40 MB, as an uncompressed bitmap of 3,700 × 3,700.
  const side = 3700;
  const row = side * 3;
  const bitmap = Buffer.alloc(54 + row * side, 0x90);
  bitmap.write('BM', 0, 'latin1');
  bitmap.writeUInt32LE(bitmap.length, 2);
  bitmap.writeUInt32LE(0, 6);
  bitmap.writeUInt32LE(54, 10);
  bitmap.writeUInt32LE(40, 14);
  bitmap.writeInt32LE(side, 18);
  bitmap.writeInt32LE(side, 22);
  bitmap.writeUInt16LE(1, 26);
  bitmap.writeUInt16LE(24, 28);
  bitmap.fill(0, 30, 54);
  // As a file: handed over as bytes, it goes through two protocols letter by letter.
  const path = testInfo.outputPath('cover.bmp');
  await writeFile(path, bitmap);
  await input.setInputFiles(path);
  await expect(page.getByText('Another photo')).toBeVisible();
  const answer = await server.fetch(`/machines/${job.machine.id}/photo`);
  expect((await answer.arrayBuffer()).byteLength).toBeLessThan(700_000);
});
