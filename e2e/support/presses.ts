import type { Page } from '@playwright/test';

/**
 * Counts what a person presses from now on, over all pages of the tab: each press of a button of the
 * mouse or of a finger, each drop, and each key that is not text typed into a field.
 *
 * @returns what asks for the number so far
 */
export async function countPresses(page: Page): Promise<() => Promise<number>> {
  let presses = 0;
  await page.exposeFunction('pressed', () => {
    presses++;
  });
  await page.addInitScript(() => {
    const { pressed } = window as unknown as { pressed: () => void };
    const isTyping = ({ key, target }: KeyboardEvent) =>
      (key.length === 1 || key === 'Backspace' || key === 'Shift') &&
      target instanceof HTMLElement &&
      target.matches('input, textarea');
    const options = { capture: true };
    addEventListener('pointerdown', () => pressed(), options);
    addEventListener('drop', () => pressed(), options);
    addEventListener('keydown', (event) => !isTyping(event) && pressed(), options);
  });
  return () => Promise.resolve(presses);
}
