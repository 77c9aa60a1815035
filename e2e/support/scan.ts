import type { Page } from '@playwright/test';

/** One key as a page hears of it. */
export interface ScannedKey {
  readonly key: string;
  readonly code?: string;
  readonly shiftKey?: boolean;
}

/**
 * A code as a scanner types it, with Enter behind it, where the focus is: faster than anybody could, a
 * millisecond apart however busy this machine is, since what comes slowly was typed by hand.
 */
export const scan = (page: Page, keys: Iterable<ScannedKey>) =>
  page.evaluate(
    (all) => {
      const start = performance.now();
      for (const [at, one] of all.entries()) {
        const event = new KeyboardEvent('keydown', { ...one, bubbles: true, cancelable: true });
        Object.defineProperty(event, 'timeStamp', { value: start + at });
        (document.activeElement ?? document.body).dispatchEvent(event);
      }
    },
    [...keys, { key: 'Enter', code: 'Enter' }],
  );

/** The same of a text, on a system whose layout is the scanner's own. */
export const scanText = (page: Page, text: string) =>
  scan(
    page,
    [...text].map((key) => ({ key })),
  );
