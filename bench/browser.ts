import { readFileSync } from 'node:fs';
import { gzipSync } from 'node:zlib';
import { chromium } from '@playwright/test';
import type { Page } from '@playwright/test';
import config from '../playwright.config.ts';
import { ServerProcess } from '../e2e/support/server.ts';
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
