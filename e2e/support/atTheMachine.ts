import type { Locator, Page } from '@playwright/test';
import { expect } from './bench.ts';

// What hands do beside an open machine: a pedal through the sheet, and what its screen shows.

/** The step that fills the screen. */
const titleIn = (page: Page) =>
  page.getByRole('main', { name: 'Reading mode' }).getByRole('heading', { level: 1 });

/** One step fills the screen; a pedal pressed before it does would be lost. */
export async function openReading(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Reading mode' }).click();
  await expect(titleIn(page)).toBeVisible();
}

/** Works the sheet off in the reading mode by a pedal, until a title shows or all is done. */
export async function pedal(page: Page, until: RegExp): Promise<void> {
  const title = titleIn(page);
  for (let presses = 0; presses < 80; presses++) {
    const shown = await title.textContent();
    if (until.test(shown ?? '')) return;
    await page.keyboard.press('PageDown');
    await expect(title).not.toHaveText(shown ?? '');
  }
  throw new Error(`never came to ${String(until)}`);
}

/** A reading of the first start, by its name. */
export const reading = (page: Page, name: string): Locator =>
  page.getByRole('listitem').filter({ has: page.getByText(name, { exact: true }) });

/** Types what the machine shows, and has it checked. */
export async function typeReading(page: Page, name: string, value: string): Promise<void> {
  const row = reading(page, name);
  await row.getByRole('textbox').fill(value);
  await row.getByRole('button', { name: 'Check' }).click();
}

/** Says in which slots the machine sees memory, and has it checked. */
export async function pickSlots(page: Page, ...names: string[]): Promise<void> {
  const row = reading(page, 'Each slot');
  for (const one of await row.getByRole('button', { pressed: true }).all()) await one.click();
  for (const name of names) await row.getByRole('button', { name: new RegExp(`${name}$`) }).click();
  await row.getByRole('button', { name: 'Check' }).click();
}
