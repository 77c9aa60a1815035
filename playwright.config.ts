import { defineConfig } from '@playwright/test';
import { findBrowser } from './scripts/browser.mjs';

const browser = findBrowser();

export default defineConfig({
  testDir: 'e2e',
  testMatch: '*.spec.ts',
  globalSetup: './e2e/support/benches.ts',
  fullyParallel: true,
  // A second way through what another journey does as well is gone by night (`npm run night -- journeys`).
  grepInvert: process.env.TEMBRIX_DRAWS === undefined ? /@night/ : [],
  workers: 3, // two leave a quarter of two cores idle, waiting for one another
  // Two cores can be slow for minutes; what hangs is still found.
  timeout: 300_000,
  expect: { timeout: 20_000 },
  // A second try on a fresh page and server; the last lines of `npm test` name what needed one.
  retries: 1,
  // The JSON goes to the file the test script names; alone, a list is enough.
  reporter: process.env.PLAYWRIGHT_JSON_OUTPUT_FILE ? [['list'], ['json']] : 'list',
  outputDir: 'test-results/journeys',
  use: {
    viewport: { width: 1280, height: 800 },
    ...(browser ? { launchOptions: { executablePath: browser, args: ['--no-sandbox'] } } : {}),
    // Recording every step slows all of them by a third; the second try of one that failed is recorded.
    trace: 'on-first-retry',
  },
});
