import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { chromium } from '@playwright/test';
import type { Page } from '@playwright/test';
import qrcode from 'qrcode';
import config from '../playwright.config.ts';
import {
  codesOfFile,
  readInventory,
  writeCollected,
  writeSmbios,
} from '../core/inventory/index.ts';
import { desktop, labelled, spdOf } from '../test/support/builders.ts';
import type { BenchServer } from './support/server.ts';
import { expect, sceneWithJob, send, test } from './support/bench.ts';
import { scanText } from './support/scan.ts';

const SIZE = { width: 640, height: 480 } as const;
/** Y of dark and of paper, in the range of video. */
const INK = 24;
const PAPER = 210;

/** A picture of a code lying a little off the middle of the frame, in luma. */
function pictured(text: string): Buffer {
  const { modules } = qrcode.create(text, { errorCorrectionLevel: 'M' });
  const cell = Math.floor(430 / modules.size);
  const [left, top] = [SIZE.width, SIZE.height].map((side) =>
    Math.floor((side - modules.size * cell) / 2.2),
  ) as [number, number];
  const luma = Buffer.alloc(SIZE.width * SIZE.height, PAPER);
  for (let y = 0; y < modules.size * cell; y++)
    for (let x = 0; x < modules.size * cell; x++)
      if (modules.get(Math.floor(y / cell), Math.floor(x / cell)))
        luma[(y + top) * SIZE.width + x + left] = INK;
  return luma;
}

/** A film of pictures that stand for a second each, as a camera would give it, over and over. */
function film(texts: readonly string[]): string {
  const chroma = Buffer.alloc((SIZE.width * SIZE.height) / 2, 128);
  const frames = texts.flatMap((text) => {
    const frame = Buffer.concat([Buffer.from('FRAME\n'), pictured(text), chroma]);
    return Array.from({ length: 10 }, () => frame);
  });
  const head = Buffer.from(`YUV4MPEG2 W${SIZE.width} H${SIZE.height} F10:1 Ip A1:1 C420jpeg\n`);
  const file = join(mkdtempSync(join(tmpdir(), 'tembrix-camera-')), 'camera.y4m');
  writeFileSync(file, Buffer.concat([head, ...frames]));
  return file;
}

/** A browser whose camera sees nothing but these codes, signed in at the bench. */
async function beforeCamera(
  server: BenchServer,
  texts: readonly string[],
  walk: (page: Page) => Promise<void>,
): Promise<void> {
  const browser = await chromium.launch({
    ...config.use?.launchOptions,
    args: [
      '--no-sandbox',
      '--use-fake-ui-for-media-stream',
      '--use-fake-device-for-media-stream',
      `--use-file-for-fake-video-capture=${film(texts)}`,
    ],
  });
  try {
    const context = await browser.newContext();
    await context.addCookies(server.browserCookies);
    await walk(await context.newPage());
  } finally {
    await browser.close();
  }
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
  await beforeCamera(server, [`${server.url}/jobs/${id}`], async (page) => {
    await page.goto(server.url);
    await page.getByRole('button', { name: 'Scan', exact: true }).click();
    await expect(page).toHaveURL(new RegExp(`/jobs/${id}`), { timeout: 60_000 });
    await expect(page.getByRole('dialog')).toBeHidden();
  });
});

test('a collected file shown as codes on the machine’s screen fills the job before the camera', async ({
  server,
  page: machine,
}) => {
  const id = await sceneWithJob(server);
  const module = labelled('16GB 2Rx8 PC4-2666V-UB1-11');
  const image = spdOf(module);
  const table = writeSmbios(desktop(), { a2: module }).slice(32);
  const file = writeCollected({
    ...{ shell: 'unix', collectedAt: '2026-11-02T09:30:00Z', facts: [], notRead: [] },
    parts: [
      { kind: 'smbios-table', from: 'DMI', bytes: table },
      { kind: 'spd-image', from: '0-0050', bytes: image },
    ],
  });
  // The page as it lies on a stick: no server anywhere near.
  await machine.goto(pathToFileURL('dist/probe/index.html').href);
  await machine.getByText('Carry a collected file as codes').click();
  const pick = machine.getByLabel('Choose the file');
  await pick.setInputFiles({ name: 'a.txt', mimeType: 'text/plain', buffer: Buffer.from('hello') });
  await expect(machine.getByText('This is no collected file')).toBeVisible();
  await pick.setInputFiles({
    ...{ name: 'collected.json', mimeType: 'application/json' },
    buffer: Buffer.from(file),
  });
  await expect(machine.getByText(/collected\.json: code 1 of \d/)).toBeVisible();
  await machine.getByRole('button', { name: 'Hold' }).click();
  const { collected } = readInventory(Buffer.from(file));
  if (!collected) throw new Error('expected a collected file');
  const { codes } = codesOfFile(collected);
  await expect(machine.getByText(`of ${codes.length}`)).toBeVisible();
  await beforeCamera(server, codes, async (page) => {
    await page.goto(`${server.url}/jobs/${id}/inspect`);
    await page.getByText(/screen show the file as codes/).click();
    await expect(page.getByText(/3 sources/)).toBeVisible({ timeout: 120_000 });
    await expect(page.getByText('The evidence gives 16 GB in A2.')).toBeVisible();
  });
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
  await dialog.getByRole('button', { name: 'Close' }).click();
  await expect(dialog).toBeHidden();
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
  await scanText(page, 'NX-16U-SV');
  await expect(page.getByPlaceholder(/Job number, customer/)).toHaveValue('NX-16U-SV');
  await page.keyboard.press('Escape');
  await scanText(page, `${server.url}/jobs/${id}`);
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
