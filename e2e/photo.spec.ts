import type { Page } from '@playwright/test';
import { expect, sceneWithJob, slot, test } from './support/bench.ts';

interface Drawn {
  readonly lines: readonly string[];
  /** Degrees the sticker lies turned. */
  readonly turned?: number;
  readonly blur?: number;
  /** Height of the letters, dots. */
  readonly size?: number;
}

/** A photo of a module with its sticker, drawn by the page: JPEG, with what cameras add. */
async function photo(page: Page, drawn: Drawn): Promise<Buffer> {
  const url = await page.evaluate(({ lines, turned = 0, blur = 0, size = 34 }) => {
    const canvas = document.createElement('canvas');
    Object.assign(canvas, { width: 1400, height: 700 });
    const context = canvas.getContext('2d');
    if (!context) throw new Error('expected a canvas');
    context.fillStyle = '#1d4a33';
    context.fillRect(0, 0, 1400, 700);
    context.translate(700, 350);
    context.rotate((turned * Math.PI) / 180);
    context.filter = `blur(${blur}px)`;
    context.fillStyle = '#e9e6dc';
    context.fillRect(-560, -150, 1120, 300);
    context.fillStyle = '#23211d';
    context.font = `bold ${size}px "DejaVu Sans", Arial, sans-serif`;
    lines.forEach((line, at) => context.fillText(line, -520, -70 + at * 80));
    return canvas.toDataURL('image/jpeg', 0.8);
  }, drawn);
  return Buffer.from(url.split(',')[1] ?? '', 'base64');
}

test('a sticker is read off a photo, looked at beside it, corrected, and fills its slot', async ({
  page,
  server,
}) => {
  test.slow();
  const id = await sceneWithJob(server);
  await page.goto(`${server.url}/jobs/${id}/inspect`);
  await expect(slot(page, 'A1')).toContainText('8 GB');
  const asked: string[] = [];
  page.on('request', (request) => asked.push(request.url()));
  const choose = (name: string, buffer: Buffer) =>
    page.getByLabel('Read it off a photo').setInputFiles({ name, mimeType: 'image/jpeg', buffer });

  await choose('letter.jpg', Buffer.from('Dear sirs'));
  await expect(page.getByText('This is not a picture the browser can read')).toBeVisible();
  await choose('receipt.jpg', await photo(page, { lines: ['TOTAL 16.00', 'CASH 20.00'] }));
  await expect(page.getByText('No label was found in this photo')).toBeVisible({
    timeout: 240_000,
  });

  const lines = ['8GB 1Rx8 PC4-2400T-UA1-11', 'S/N 0BADCAFE   MADE 4416'];
  await choose('sticker.jpg', await photo(page, { lines, turned: 2, blur: 0.6 }));
  const labels = page.getByRole('list', { name: 'Labels on the photo' });
  await expect(labels).toContainText('8GB 1Rx8 PC4-2400T-U', { timeout: 240_000 });
  await expect(labels.getByRole('img', { name: 'The label on the photo' })).toBeVisible();
  await expect(labels).toContainText(/Every letter was seen as it stands|Look twice/);
  await labels.getByRole('button', { name: 'Take it' }).click();
  const field = page.getByLabel('Label of a module');
  await expect(field).toHaveValue(/^8GB 1RX8 PC4-2400T-U/);
  await expect(field).toBeFocused();
  await field.press('Enter');
  await expect(slot(page, 'B1')).toContainText('8 GB');

  // Loaded again before it is stored, the page would ask; nobody reads what it asks in a journey.
  const sources = page.getByText(/\d sources?; add files/);
  await expect(sources).toBeVisible();
  // The photo stays with the job, and the label counts as read off it, since nobody changed it.
  await page.reload();
  await sources.click();
  const kept = page.getByRole('list', { name: 'Documents' }).getByText('sticker, off a photo');
  await kept.click();
  const picture = page.getByAltText('What the sticker was read off');
  await expect(picture).toBeVisible();
  await expect
    .poll(() => picture.evaluate((image) => (image as HTMLImageElement).naturalWidth))
    .toBe(1400);

  // Everything came from this bench.
  expect(asked.filter((url) => url.includes('/assets/reading/')).length).toBeGreaterThan(1);
  expect(asked.filter((url) => /^https?:/.test(url) && !url.startsWith(server.url))).toEqual([]);
});

test('upside down it is turned until it can be read; corrected, it is a sticker somebody read @night', async ({
  page,
  server,
}) => {
  test.slow();
  const id = await sceneWithJob(server);
  await page.goto(`${server.url}/jobs/${id}/inspect`);
  const lines = ['16GB 2Rx8 PC4-3200AA-UB1-11'];
  await page.getByLabel('Read it off a photo').setInputFiles({
    ...{ name: 'sticker.jpg', mimeType: 'image/jpeg' },
    buffer: await photo(page, { lines, turned: 180 }),
  });
  const labels = page.getByRole('list', { name: 'Labels on the photo' });
  await expect(labels).toContainText('16GB 2Rx8 PC4-3200AA-U', { timeout: 240_000 });

  // Corrected by hand it counts as read by whoever corrected it; its photo is kept all the same.
  await labels.getByRole('button', { name: 'Take it' }).click();
  const field = page.getByLabel('Label of a module');
  await field.press('Home');
  for (const _ of '16') await field.press('Delete');
  await field.pressSequentially('8');
  await expect(field).toHaveValue(/^8GB 2RX8/i);
  await field.press('Enter');
  await expect(slot(page, 'B1')).toContainText('8 GB');
  await page.getByText(/1 source; add files/).click();
  await page.getByRole('list', { name: 'Documents' }).getByText('sticker, typed').click();
  await expect(page.getByAltText('What the sticker was read off')).toBeVisible();
});

test('a firmware screen off a photo is compared, corrected and added with its photo', async ({
  page,
  server,
}) => {
  test.slow();
  const id = await sceneWithJob(server);
  await page.goto(`${server.url}/jobs/${id}/inspect`);
  await page.getByText('Type or photograph a firmware screen').click();
  await page.getByLabel('Read the screen off a photo').setInputFiles({
    ...{ name: 'screen.jpg', mimeType: 'image/jpeg' },
    buffer: await photo(page, {
      lines: ['Total Memory 8192 MB', 'DIMM_A1 8192 MB 1200 MHz', 'DIMM_B1 Not Installed'],
    }),
  });
  const field = page.getByLabel('Firmware screen, a line each');
  await expect(field).toHaveValue(/A1\S? 8192 MB 1200 MHz\n.*B1\S? Not Installed/, {
    timeout: 240_000,
  });
  await expect(page.getByText('compare each line with the photo')).toBeVisible();
  await field.fill('DIMM_A1 8192 MB 1200 MHz\nDIMM_B1 Not Installed\nDIMM_A2 empty');
  await page.getByRole('button', { name: 'Add 3 lines' }).click();
  await expect(page.getByText(/1 source; add files/)).toBeVisible();
  await page.getByText(/1 source; add files/).click();
  await page.getByRole('list', { name: 'Documents' }).getByText('firmware screen, typed').click();
  await expect(page.getByAltText('What the firmware screen was read off')).toBeVisible();
});
