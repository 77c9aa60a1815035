import type { Browser, Page } from '@playwright/test';
import { isAnew } from '../test/support/draws.ts';
import { OWNER, ownerOf } from '../test/support/owner.ts';
import { expect, test } from './support/bench.ts';
import { broken, smallTargets, tooWide } from './support/looks.ts';
import { ServerProcess } from './support/server.ts';

/** What is wrong with a page as it stands, on every screen there is, by night in both themes. */
async function faults(page: Page): Promise<string[]> {
  const found: string[] = [];
  for (const colorScheme of isAnew ? (['light', 'dark'] as const) : (['light'] as const)) {
    await page.emulateMedia({ colorScheme });
    found.push(...(await broken(page, colorScheme === 'light' ? 'all' : 'colours')));
  }
  for (const [width, height] of [
    [1024, 768],
    [390, 844],
  ] as const) {
    await page.setViewportSize({ width, height });
    if ((await tooWide(page)) > 0) found.push(`wider than ${width}`);
  }
  return found;
}

const phone = (browser: Browser) =>
  browser.newContext({ viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true });

test('the pages before anybody is in can be read by anybody, and hit with a thumb', async ({
  browser,
}) => {
  const server = await ServerProcess.startUnowned();
  const hand = await phone(browser);
  try {
    const page = await (await browser.newContext({ baseURL: server.url })).newPage();
    const held = await hand.newPage();
    const look = async (heading: string | RegExp) => {
      for (const one of [page, held]) {
        await one.goto(server.url);
        await expect(one.getByRole('heading', { name: heading })).toBeVisible();
      }
      expect.soft(await faults(page), String(heading)).toEqual([]);
      expect.soft(await smallTargets(held), String(heading)).toEqual([]);
    };
    await look('Whose bench is this?');
    await page.getByLabel('Your name').fill(OWNER.name);
    await page.getByLabel('Password', { exact: true }).fill('password password');
    await page.getByRole('button', { name: 'Open the bench' }).click();
    await expect(page.getByRole('alert')).toContainText('too easily guessed');
    expect.soft(await faults(page), 'refused').toEqual([]);

    await ownerOf(server.url);
    await look('Sign in');
    await page.getByLabel('Name', { exact: true }).fill(OWNER.name);
    await page.getByLabel('Password', { exact: true }).fill('not this one at all');
    await page.getByRole('button', { name: 'Sign in' }).click();
    await expect(page.getByRole('alert')).toContainText('do not belong together');
    expect.soft(await faults(page), 'not let in').toEqual([]);

    // A bench that is held asks for the PIN.
    await page.getByLabel('Password', { exact: true }).fill(OWNER.password);
    await page.getByRole('button', { name: 'Sign in' }).click();
    await expect(page.getByRole('navigation', { name: 'Main' })).toBeVisible();
    expect((await page.request.put('/api/session/pin', { data: { pin: '4711' } })).ok()).toBe(true);
    expect((await page.request.post('/api/session/hold', { data: {} })).ok()).toBe(true);
    await page.reload();
    await expect(page.getByRole('heading', { name: `Held for ${OWNER.name}` })).toBeVisible();
    expect.soft(await faults(page), 'held').toEqual([]);

    // A tablet's code that let somebody in before.
    await held.goto(`${server.url}/#tablet=${'x'.repeat(24)}`);
    await expect(held.getByRole('alert')).toBeVisible();
    expect.soft(await broken(held), 'a spent code').toEqual([]);
    expect.soft(await smallTargets(held), 'a spent code').toEqual([]);
  } finally {
    await hand.close();
    await server.dispose();
  }
});
