import { mkdirSync } from 'node:fs';
import { chromium, expect } from '@playwright/test';
import config from '../../playwright.config.ts';
import { ServerProcess } from './server.ts';
import { VIEWS } from './views.ts';

// Pictures of the main views from the demo world, for the docs. Two are dark, to show the theme.
const DARK = new Set(['plan-by-hand', 'modules']);
const folder = 'docs/screenshots';

mkdirSync(folder, { recursive: true });
const demo = await ServerProcess.startDemo();
const browser = await chromium.launch(config.use?.launchOptions);
try {
  for (const { name, open, isUnpictured } of VIEWS) {
    if (isUnpictured) continue;
    const page = await browser.newPage({
      viewport: { width: 1280, height: 800 },
      colorScheme: DARK.has(name) ? 'dark' : 'light',
    });
    await open(page, demo.url);
    // What is being simulated is shown as it ends.
    await expect(page.getByText(/[Ss]imulat(?:ing|ed), \d/)).toHaveCount(0, { timeout: 120_000 });
    await page.screenshot({ path: `${folder}/${name}.png` });
    await page.close();
    console.log(`${folder}/${name}.png`);
  }
} finally {
  await browser.close();
  await demo.dispose();
}
