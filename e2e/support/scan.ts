import type { Page } from '@playwright/test';

/** A code as a scanner types it: faster than anybody could, with Enter behind it. */
export const scan = (page: Page, text: string) =>
  page.evaluate((typed) => {
    for (const key of [...typed, 'Enter'])
      document.body.dispatchEvent(
        new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }),
      );
  }, text);
