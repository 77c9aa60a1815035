import { readFileSync } from 'node:fs';
import { gzipSync } from 'node:zlib';
import { chromium } from '@playwright/test';
import type { Page } from '@playwright/test';
import config from '../playwright.config.ts';
import { ServerProcess } from '../e2e/support/server.ts';
import { writeSpd } from '#core/inventory';
import { moduleOf } from '../demo/parts.ts';
import { VIEWS } from '../e2e/support/views.ts';
import { ms, p95, times } from './table.ts';
import type { Row } from './table.ts';

const MOVES = 60;
const LOADS = 7;

/** Every script the first page loads before anything is clicked, as the page itself names them. */
function initialScripts(): number {
  const page = readFileSync('dist/web/index.html', 'utf8');
  const files = [...page.matchAll(/(?:src|href)="\/(assets\/[^"]+\.js)"/g)].map(
    ([, file]) => file ?? '',
  );
  return files.reduce((sum, file) => sum + gzipSync(readFileSync(`dist/web/${file}`)).length, 0);
}

/** From each key press to the first frame painted after it, ms. */
async function inputToPaint(page: Page, key: string): Promise<number[]> {
  await page.evaluate(() => {
    const taken: number[] = [];
    (globalThis as unknown as { taken: number[] }).taken = taken;
    addEventListener(
      'keydown',
      ({ timeStamp }) =>
        requestAnimationFrame(() => {
          // The task after a frame's callbacks runs once that frame has been painted.
          const { port1, port2 } = new MessageChannel();
          port1.onmessage = () => taken.push(performance.now() - timeStamp);
          port2.postMessage(undefined);
        }),
      { capture: true },
    );
  });
  for (let n = 0; n < MOVES; n++) {
    await page.keyboard.press(key);
    await page.waitForTimeout(60);
  }
  return page.evaluate(() => (globalThis as unknown as { taken: number[] }).taken);
}

const FILES = 100;

/** A hundred images dropped at once: until all are read, and the longest the page was held up, ms. */
async function dropHundred(page: Page): Promise<{ all: number; longest: number }> {
  const spd = writeSpd(moduleOf('16GB 2Rx8 PC4-2933Y-RE2-12 SW-16R29'));
  if (!spd.ok) throw new Error('expected an image');
  await page.evaluate(() => {
    const held: number[] = [];
    (globalThis as unknown as { held: number[] }).held = held;
    new PerformanceObserver((list) =>
      held.push(...list.getEntries().map(({ duration }) => duration)),
    ).observe({ type: 'longtask' });
  });
  const start = performance.now();
  await page.getByLabel('Files from the machine').setInputFiles(
    Array.from({ length: FILES }, (_, at) => ({
      ...{ name: `module-${at}.bin`, mimeType: 'application/octet-stream' },
      buffer: Buffer.from(spd.value.map((byte, n) => (n === 327 ? at : byte))),
    })),
  );
  await page
    .getByRole('list', { name: 'Documents' })
    .getByText('SPD image')
    .nth(FILES - 1)
    .waitFor();
  const all = performance.now() - start;
  const held = await page.evaluate(() => (globalThis as unknown as { held: number[] }).held);
  return { all, longest: Math.max(0, ...held) };
}

/** Page loads and repaints in Chromium, on the demo world. */
export async function benchBrowser(): Promise<Row[]> {
  const demo = await ServerProcess.startDemo();
  const browser = await chromium.launch(config.use?.launchOptions);
  try {
    const viewport = { width: 1280, height: 800 };
    const loads: number[] = [];
    for (let n = 0; n < LOADS; n++) {
      const context = await browser.newContext({ viewport });
      const page = await context.newPage();
      await page.goto(demo.url, { waitUntil: 'commit' });
      await page.getByRole('link', { name: 'Choose a plan' }).first().waitFor();
      loads.push(await page.evaluate(() => performance.now()));
      await context.close();
    }
    const plain = await browser.newPage({ viewport });
    await plain.goto(`${demo.url}/api/health`);
    const plainLoad = await plain.evaluate(() => performance.now());
    const idle = p95(await inputToPaint(plain, 'ArrowDown'));

    const page = await browser.newPage({ viewport });
    await VIEWS.find(({ name }) => name === 'plan-eight-slots')?.open(page, demo.url);
    await page.getByRole('button', { name: /^A1, channel/ }).focus();
    await page.keyboard.press('Enter');
    const repaints = p95(await inputToPaint(page, 'ArrowDown'));
    const inspect = await browser.newPage({ viewport });
    await VIEWS.find(({ name }) => name === 'inspect-eight-slots')?.open(inspect, demo.url);
    const dropped = await dropHundred(inspect);
    const usable = [...loads].sort((a, b) => a - b)[Math.floor(LOADS / 2)] ?? NaN;
    const scripts = initialScripts() / 1000;
    return [
      {
        what: 'placement change to paint, p95, 8 slots',
        measured: ms(repaints),
        wanted: '< 50 ms',
        holds: repaints < 50,
        yardstick: `${ms(idle)} for a key on a plain page, ${times(repaints, idle)}`,
      },
      {
        what: `${FILES} files dropped at once: longest the page is held up`,
        measured: dropped.longest < 50 ? 'under 50 ms' : ms(dropped.longest),
        wanted: '< 200 ms',
        holds: dropped.longest < 200,
        yardstick: `${ms(dropped.all)} until all are stored and read, ${times(dropped.longest, dropped.all)}`,
      },
      {
        what: 'initial JavaScript, gzip',
        measured: `${scripts.toFixed(0)} kB`,
        wanted: '≤ 250 kB',
        holds: scripts <= 250,
        yardstick: '–',
      },
      {
        what: `first page usable, median of ${LOADS} cold loads`,
        measured: ms(usable),
        wanted: '< 1.5 s',
        holds: usable < 1500,
        yardstick: `${ms(plainLoad)} for a plain page, ${times(usable, plainLoad)}`,
      },
    ];
  } finally {
    await browser.close();
    await demo.dispose();
  }
}
