import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { chromium } from '@playwright/test';
import type { Page } from '@playwright/test';
import { prepareZXingModule, writeBarcode } from 'zxing-wasm/writer';
import config from '../playwright.config.ts';
import { ServerProcess } from '../e2e/support/server.ts';
import { generator } from '../test/support/fuzzInventory.ts';
import { drawnPhoto } from './drawnPhoto.ts';
import { ms, p95, times } from './table.ts';
import type { Row } from './table.ts';

/** Codes of a run; CODES=500 is the whole set. */
const CODES = Number(process.env.CODES ?? 60);
/** Dots a module of the code takes on the sheet, at least: what a hand holds a camera to. */
const KINDS = [
  { format: 'QRCode', text: (salt: string) => `http://192.0.2.7:4800/jobs/Jb${salt}x9Qe` },
  {
    format: 'QRCode',
    text: (salt: string) => `2B7K-${salt.slice(0, 4)}-9HX2-0Q4M-77AB-Z1K2-QW3E-0001`,
  },
  { format: 'DataMatrix', text: (salt: string) => `NX-16U-${salt}` },
  { format: 'Code128', text: (salt: string) => `0BAD${salt}` },
] as const;

interface Outcome {
  readonly format: string;
  readonly isRead: boolean;
  readonly isWrong: boolean;
  readonly took: number;
}

async function readOne(page: Page, at: number): Promise<Outcome> {
  const below = generator(9_000 + at);
  const kind = KINDS[at % KINDS.length] ?? KINDS[0];
  const salt = Array.from({ length: 6 }, () => 'ABCDEFGHJKMNPQRSTVWXYZ23456789'[below(30)]).join(
    '',
  );
  const text = kind.text(salt);
  const { image } = await writeBarcode(text, {
    format: kind.format,
    scale: 8,
    addQuietZones: true,
  });
  if (!image) throw new Error('expected a picture of the code');
  const source = `data:image/png;base64,${Buffer.from(await image.arrayBuffer()).toString('base64')}`;
  const isBar = kind.format === 'Code128';
  const buffer = await drawnPhoto(page, {
    picture: { source, width: isBar ? 420 + below(380) : 150 + below(300) },
    sheet: { width: 900, height: 560 },
    size: { width: 1280, height: 960 },
    ...{ turned: below(360) - 180, angle: below(41) - 20, bent: isBar ? 0 : below(8) },
    ...{ blur: below(16) / 10, quality: 0.4 + below(51) / 100, glare: below(3) === 0 },
    ...{ wear: below(40), seed: at },
  });
  await page.getByRole('button', { name: 'Scan', exact: true }).click();
  const dialog = page.getByRole('dialog');
  const started = performance.now();
  await dialog
    .getByLabel('Take or choose a photo')
    .setInputFiles({ name: 'code.jpg', mimeType: 'image/jpeg', buffer });
  const field = page.getByPlaceholder(/Job number, customer/);
  const isJob = text.includes('/jobs/');
  const isResult = text.startsWith('2B7K');
  const none = dialog.getByText('No code was found in this photo');
  const result = dialog.getByText('This is a result of the measuring page');
  // A tag of no job here still leads to its address.
  const opened = page.waitForURL(/\/jobs\/Jb/, { timeout: 60_000 }).then(
    () => new URL(page.url()).pathname,
    () => '',
  );
  const told = await Promise.race([
    field.waitFor({ timeout: 60_000 }).then(
      () => field.inputValue(),
      () => '',
    ),
    none.waitFor({ timeout: 60_000 }).then(
      () => 'none',
      () => '',
    ),
    result.waitFor({ timeout: 60_000 }).then(
      () => 'result',
      () => '',
    ),
    opened,
  ]);
  const took = performance.now() - started;
  const wanted = isJob ? new URL(text).pathname : isResult ? 'result' : text;
  const { origin } = new URL(page.url());
  await page.goto(`${origin}/machines`);
  const isRead = told === wanted;
  return { format: kind.format, took, isRead, isWrong: !isRead && told !== 'none' };
}

/** Drawn codes through the page itself: how many are read, and none wrong. */
export async function benchCodes(): Promise<Row[]> {
  const wasm = createRequire(import.meta.url).resolve('zxing-wasm/writer/zxing_writer.wasm');
  prepareZXingModule({
    overrides: { wasmBinary: Uint8Array.from(readFileSync(wasm)).buffer },
  });
  const shop = await ServerProcess.start();
  const browser = await chromium.launch(config.use?.launchOptions);
  try {
    const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
    await context.addCookies(shop.browserCookies);
    const page = await context.newPage();
    await page.goto(`${shop.url}/machines`);
    const all: Outcome[] = [];
    for (let at = 0; at < CODES; at++) all.push(await readOne(page, at));
    const read = all.filter(({ isRead }) => isRead);
    const wrong = all.filter(({ isWrong }) => isWrong).length;
    const usual = p95(read.map(({ took }) => took));
    const kinds = [...new Set(all.map(({ format }) => format))];
    const share = (some: readonly Outcome[]) =>
      (100 * some.filter(({ isRead }) => isRead).length) / Math.max(1, some.length);
    return [
      ...[undefined, ...kinds].map((kind): Row => {
        const some = all.filter(({ format }) => kind === undefined || format === kind);
        return {
          what: `codes read: ${kind ?? 'all'}`,
          measured: `${share(some).toFixed(1)} % of ${some.length}`,
          ...(kind === undefined
            ? { wanted: '≥ 98 %', holds: share(some) >= 98 }
            : { wanted: '–', holds: true }),
          yardstick: '–',
        };
      }),
      {
        ...{ what: 'codes read as another', measured: String(wrong), wanted: '0' },
        ...{ holds: wrong === 0, yardstick: '–' },
      },
      {
        ...{ what: 'a code read, p95', measured: ms(usual), wanted: '–', holds: true },
        yardstick: `the slowest took ${times(Math.max(...read.map(({ took }) => took)), usual)}`,
      },
    ];
  } finally {
    await browser.close();
    await shop.dispose();
  }
}
