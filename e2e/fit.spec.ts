import { writeFile } from 'node:fs/promises';
import type { Locator, Page } from '@playwright/test';
import type { BenchLog } from '#contract/bench';
import type { Job } from '#contract/records';
import { openReading, pedal, pickSlots, reading, typeReading } from './support/atTheMachine.ts';
import { labelled } from '../test/support/builders.ts';
import { answers, expect, person, sceneToFit, send, test } from './support/bench.ts';

const PHONE = { width: 390, height: 844 };
const eight = labelled('8GB 1Rx8 PC4-2400T-UA1-11');

/** Presses the cover at a place, as shares of its width and depth. */
async function pressCover(page: Page, x: number, y: number): Promise<void> {
  const box = await page.getByRole('group', { name: 'Cover map' }).boundingBox();
  if (!box) throw new Error('expected a cover');
  await page.mouse.click(box.x + x * box.width, box.y + y * box.height);
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

test('two on one sheet, one of them cut off: ticks are neither lost nor doubled @night', async ({
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

test('the reading mode has the screen to itself: nothing is reached behind it, and what lies above it is seen', async ({
  page,
  server,
  context,
}) => {
  const id = await sceneToFit(server);
  await page.setViewportSize({ width: 390, height: 700 });
  await page.goto(`${server.url}/jobs/${id}/fit`);
  await openReading(page);
  for (let presses = 0; presses < 12; presses++) {
    await page.keyboard.press('Tab');
    const isSeen = await page.evaluate(() => {
      const { activeElement } = document;
      const { left, top, width, height } = activeElement?.getBoundingClientRect() ?? new DOMRect();
      const there = document.elementFromPoint(left + width / 2, top + height / 2);
      return activeElement === document.body || activeElement?.contains(there) === true;
    });
    expect(isSeen, `after ${String(presses + 1)} presses of Tab`).toBe(true);
  }
  const isOnTop = (locator: Locator) =>
    locator.evaluate((element) => {
      const { left, top } = element.getBoundingClientRect();
      return element.contains(document.elementFromPoint(left + 3, top + 3));
    });
  await page.keyboard.press('?');
  const keys = page.getByRole('dialog');
  await expect(keys.getByText('Done, next step (pedal)')).toBeVisible();
  expect(await isOnTop(keys)).toBe(true);
  await page.keyboard.press('Escape');
  await expect(keys).toHaveCount(0);

  // The step after a long one is read from its beginning.
  await page.setViewportSize({ width: 390, height: 260 });
  await page.evaluate(() => scrollTo(0, 10_000));
  expect(await page.evaluate(() => scrollY)).toBeGreaterThan(0);
  await context.setOffline(true);
  await page.keyboard.press('PageDown');
  await expect(page.getByText(/^2 of/)).toBeInViewport();
  expect(await isOnTop(page.getByText('The server does not answer.'))).toBe(true);
  await context.setOffline(false);
  await page.getByRole('button', { name: 'Leave' }).click();
  await expect(page.getByRole('link', { name: 'Stock' })).toBeVisible();
});
