import { test as base, expect } from '@playwright/test';
import type { Locator, Page } from '@playwright/test';
import { desktop, labelled } from '../../test/support/builders.ts';
import { inMemory } from '../../test/support/inMemory.ts';
import { cookiesFor } from '../../test/support/owner.ts';
import { demoBench, emptyBench } from './benches.ts';
import { Host, HostedServer, ServerProcess, browserCookies } from './server.ts';
import type { BenchServer } from './server.ts';

export { expect };

/**
 * Journeys that need a bench to themselves take `server`, those that kill theirs `alone`; looks at the
 * demo world take `demo`.
 */
export const test = base.extend<
  { server: BenchServer; alone: ServerProcess; demo: BenchServer },
  { host: Host }
>({
  server: async ({ host, context }, use) => {
    const server = await HostedServer.start(host);
    await context.addCookies(server.browserCookies);
    await use(server);
    await server.dispose();
  },
  alone: async ({ context }, use) => {
    const server = await ServerProcess.startLike(emptyBench(), inMemory('e2e'));
    await context.addCookies(server.browserCookies);
    await use(server);
    await server.dispose();
  },
  host: [
    // oxlint-disable-next-line no-empty-pattern
    async ({}, use) => {
      const host = new Host();
      await use(host);
      await host.dispose();
    },
    { scope: 'worker' },
  ],
  // oxlint-disable-next-line no-empty-pattern
  demo: async ({}, use, { retry }) => {
    if (retry === 0) {
      await use(await demoBench());
      return;
    }
    // The first try may have left its mark on the one all look at.
    const own = await ServerProcess.startDemo(inMemory('e2e'));
    await use(own);
    await own.dispose();
  },
});

/** Sends a request that must succeed, past the interface, to set a scene. */
export async function send<T>(
  server: BenchServer,
  method: string,
  path: string,
  body: unknown,
): Promise<T> {
  const response = await server.fetch(path, {
    method,
    ...(body === undefined ? {} : { body: JSON.stringify(body) }),
  });
  if (!response.ok) throw new Error(await response.text());
  return (await response.json()) as T;
}

/** Adds somebody to the shop; the cookies of their browser. */
export async function person(
  server: BenchServer,
  role: 'technician' | 'counter',
  name: string,
): Promise<BenchServer['browserCookies']> {
  const known = { name, password: 'brine harbour 7 oak' };
  await send(server, 'POST', '/accounts', { ...known, role });
  return browserCookies(server.url, (await cookiesFor(server.url, known)) ?? '');
}

/** A job on a two-channel desktop with 8 GB found in A1, ready to plan. */
export async function sceneWithJob(server: BenchServer): Promise<string> {
  const { id: machineId } = await send<{ id: string }>(server, 'POST', '/machines', {
    machine: desktop({ name: 'Scene desktop' }),
  });
  const customer = { name: 'Scene customer', contact: '' };
  const { id } = await send<{ id: string }>(server, 'POST', '/jobs', {
    customer,
    machineId,
    complaint: 'Slow',
  });
  const placement = { a1: labelled('8GB 1Rx8 PC4-2400T-UA1-11') };
  await send(server, 'PUT', `/jobs/${id}/snapshots/as-found`, {
    placement,
    setting: 'standard',
    version: 0,
  });
  return id;
}

const EIGHT = labelled('8GB 1Rx8 PC4-2400T-UA1-11');

/** The same with a plan: the same once more, into B1. */
export async function sceneToFit(server: BenchServer): Promise<string> {
  const id = await sceneWithJob(server);
  await send(server, 'PUT', `/jobs/${id}/snapshots/planned`, {
    ...{ placement: { a1: EIGHT, b1: EIGHT }, setting: 'standard', version: 0 },
  });
  return id;
}

/** The bar below that says what is true now. */
export const answers = (page: Page) => page.locator('section[aria-label]').last();

/** A place on the slot board by its printed name. */
export const slot = (page: Page, name: string) =>
  page.getByRole('button', { name: new RegExp(`^${name}, channel`) });

/** A titled part of a step's sheet. */
export const part = (page: Page, title: string) =>
  page.locator('section').filter({ has: page.getByRole('heading', { name: title, exact: true }) });

/** Takes a choice of a long list by typing its name. */
export async function choose(field: Locator, label: string): Promise<void> {
  await field.fill(label);
  await field.page().getByRole('listbox').getByRole('option', { name: label }).first().click();
  await expect(field).toHaveValue(label);
}

/** Reaches a control with Tab alone, as someone without a mouse must. */
export async function tabTo(target: Locator): Promise<void> {
  const page = target.page();
  await target.waitFor();
  for (let presses = 0; presses < 120; presses++) {
    if (await target.evaluate((element) => element === document.activeElement)) return;
    await page.keyboard.press('Tab');
  }
  throw new Error(`Tab never reached ${String(target)}`);
}

/**
 * Chooses in a list of the browser's own by typing. It takes letters that come late for a new word: on a
 * machine that is that slow all of it is typed again.
 */
export async function typeChoice(field: Locator, label: string): Promise<void> {
  await tabTo(field);
  const chosen = field.locator('option:checked');
  await expect(async () => {
    await field.page().keyboard.type(label);
    await expect(chosen).toContainText(label, { ignoreCase: true, timeout: 2000 });
  }).toPass();
}

/** Opens one of the ways to add runs, in a part of a page or the only one on it. */
export async function runsBy(
  scope: Page | Locator,
  way: 'Measuring page' | 'Type them' | 'From a table',
): Promise<void> {
  const opener = scope.getByRole('button', { name: 'Add runs' });
  if ((await opener.getAttribute('aria-expanded')) === 'false') await opener.click();
  await scope.getByRole('tab', { name: way }).click();
}
