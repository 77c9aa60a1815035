import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import type { Page } from '@playwright/test';
import qrcode from 'qrcode';
import config from '../playwright.config.ts';
import { labelled } from '../test/support/builders.ts';
import { expect, sceneWithJob, send, test } from './support/bench.ts';
import { scan } from './support/scan.ts';

const SIZE = { width: 640, height: 480 } as const;
/** Y of dark and of paper, in the range of video. */
const INK = 24;
const PAPER = 210;

/** A picture of a code lying a little off the middle of the frame, in luma. */
function pictured(text: string): Buffer {
  const { modules } = qrcode.create(text, { errorCorrectionLevel: 'M' });
  const cell = Math.floor(320 / modules.size);
  const luma = Buffer.alloc(SIZE.width * SIZE.height, PAPER);
  for (let y = 0; y < modules.size * cell; y++)
    for (let x = 0; x < modules.size * cell; x++)
      if (modules.get(Math.floor(y / cell), Math.floor(x / cell)))
        luma[(y + 90) * SIZE.width + x + 140] = INK;
  return luma;
}

/** A film of the same picture, as a camera would give it. */
function film(text: string): string {
  const chroma = Buffer.alloc((SIZE.width * SIZE.height) / 2, 128);
  const frame = Buffer.concat([Buffer.from('FRAME\n'), pictured(text), chroma]);
  const head = Buffer.from(`YUV4MPEG2 W${SIZE.width} H${SIZE.height} F10:1 Ip A1:1 C420jpeg\n`);
  const file = join(mkdtempSync(join(tmpdir(), 'tembrix-camera-')), 'camera.y4m');
  writeFileSync(file, Buffer.concat([head, ...Array.from({ length: 10 }, () => frame)]));
  return file;
}

/** A photo of a code as PNG, made by the page itself. */
async function photo(page: Page, text: string | undefined): Promise<Buffer> {
  const luma = text === undefined ? Buffer.alloc(SIZE.width * SIZE.height, 90) : pictured(text);
  const url = await page.evaluate(
    ([base64, width, height]) => {
      const canvas = document.createElement('canvas');
      Object.assign(canvas, { width, height });
      const context = canvas.getContext('2d');
      const image = context?.createImageData(width, height);
      if (!context || !image) throw new Error('expected a canvas');
      [...atob(base64)].forEach((sign, at) =>
        image.data.set([sign.charCodeAt(0), sign.charCodeAt(0), sign.charCodeAt(0), 255], at * 4),
      );
      context.putImageData(image, 0, 0);
      return canvas.toDataURL('image/png');
    },
    [luma.toString('base64'), SIZE.width, SIZE.height] as const,
  );
  return Buffer.from(url.split(',')[1] ?? '', 'base64');
}

test('a bench tag held before the camera opens its job', async ({ server }) => {
  const id = await sceneWithJob(server);
  const browser = await chromium.launch({
    ...config.use?.launchOptions,
    args: [
      '--no-sandbox',
      '--use-fake-ui-for-media-stream',
      '--use-fake-device-for-media-stream',
      `--use-file-for-fake-video-capture=${film(`${server.url}/jobs/${id}`)}`,
    ],
  });
  try {
    const context = await browser.newContext();
    await context.addCookies(server.browserCookies);
    const page = await context.newPage();
    await page.goto(server.url);
    await page.getByRole('button', { name: 'Scan', exact: true }).click();
    await expect(page).toHaveURL(new RegExp(`/jobs/${id}`), { timeout: 60_000 });
    await expect(page.getByRole('dialog')).toBeHidden();
  } finally {
    await browser.close();
  }
});

test('without a camera a photo serves: a tag, a part code, no code, no picture', async ({
  page,
  server,
}) => {
  const id = await sceneWithJob(server);
  await page.goto(server.url);
  await page.getByRole('button', { name: 'Scan', exact: true }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByText(/take a photo/i).first()).toBeVisible();
  const choose = (name: string, buffer: Buffer) =>
    dialog
      .getByLabel('Take or choose a photo')
      .setInputFiles({ name, mimeType: 'image/png', buffer });
  await choose('wall.png', await photo(page, undefined));
  await expect(dialog.getByText('No code was found in this photo')).toBeVisible();
  await choose('letter.png', Buffer.from('Dear sirs'));
  await expect(dialog.getByText('This is not a picture the browser can read')).toBeVisible();
  await choose('phone.heic', Buffer.from('\0\0\0\x18ftypheic\0\0\0\0mif1heic', 'latin1'));
  await expect(dialog.getByText('This browser cannot open HEIC photos')).toBeVisible();
  await choose('part.png', await photo(page, 'NX-16U-SV'));
  await expect(page.getByPlaceholder(/Job number, customer/)).toHaveValue('NX-16U-SV');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Scan', exact: true }).click();
  await choose('tag.png', await photo(page, `${server.url}/jobs/${id}`));
  await expect(page).toHaveURL(new RegExp(`/jobs/${id}`));
});

test('a hand-held scanner on the bench page opens the job of a tag, and looks for anything else', async ({
  page,
  server,
}) => {
  const id = await sceneWithJob(server);
  await page.goto(server.url);
  await expect(page.getByRole('button', { name: 'Scan', exact: true })).toBeVisible();
  await scan(page, 'NX-16U-SV');
  await expect(page.getByPlaceholder(/Job number, customer/)).toHaveValue('NX-16U-SV');
  await page.keyboard.press('Escape');
  await scan(page, `${server.url}/jobs/${id}`);
  await expect(page).toHaveURL(new RegExp(`/jobs/${id}`));

  // A tag on a module finds its piece in the drawer: by the code that is printed on it.
  const label = '8GB 1Rx8 PC4-2400T-UA1-11 OR-8';
  const piece = await send<{ id: string }>(server, 'POST', '/drawer', {
    ...{ label, module: labelled(label), state: 'tested', price: 900, origin: 'job 0007' },
  });
  await page.goto(`${server.url}/api/drawer/${piece.id}/tag.svg`);
  const tag = await page.screenshot();
  await page.goto(server.url);
  await page.getByRole('button', { name: 'Scan', exact: true }).click();
  await page
    .getByRole('dialog')
    .getByLabel('Take or choose a photo')
    .setInputFiles({ name: 'tag.png', mimeType: 'image/png', buffer: tag });
  await expect(page).toHaveURL(new RegExp(`/drawer/${piece.id}`));
  await expect(page.getByRole('region', { name: 'Scanned module' })).toContainText('OR-8');
});
