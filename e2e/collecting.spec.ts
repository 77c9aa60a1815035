import { existsSync } from 'node:fs';
import { spawn } from 'node:child_process';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import type { Door } from '#contract/measuring';
import { writeSmbios, writeSpd } from '#core/inventory';
import { desktop, labelled } from '../test/support/builders.ts';
import { freePort } from '../test/support/freePort.ts';
import { RUNNING, collect, layDown } from '../test/support/madeUpSystem.ts';
import { expect, part, sceneWithJob, send, slot, test } from './support/bench.ts';
import { scan } from './support/scan.ts';
import type { ScannedKey } from './support/scan.ts';
import { drop, file } from './support/files.ts';

const module = labelled('8GB 1Rx8 PC4-2400T-UA1-11', { partNumber: 'TV-8U24' });
const spd = writeSpd(module, { serial: '0000AA01' });
/** A desktop of four slots with one module, as its own system shows it. */
const system = (name: string) =>
  layDown({
    ...RUNNING,
    'proc/vmstat': 'pswpin 100\n',
    'proc/meminfo':
      'MemTotal: 7864320 kB\nMemAvailable: 1153433 kB\nSwapTotal: 4194304 kB\nSwapFree: 3145728 kB\n',
    'sys/firmware/dmi/tables/DMI': writeSmbios(
      desktop({ name }),
      { a1: module },
      { configuredRate: 2400, serialOf: () => '0000AA01' },
    ).slice(32),
    'sys/bus/i2c/devices/0-0050/eeprom': spd.ok ? spd.value : '',
  });

/** The line of what was read, typed and seen, with how many. */
const sources = (page: Page) => page.locator('summary').filter({ hasText: /^\W*\d+ sources?/ });

test('the script is run on a machine, its file dropped, and the job is filled: slots, need, limits', async ({
  page,
  server,
}) => {
  const { bytes } = collect(system('Skerry B4'), ['--watch', '1']);
  await page.goto(server.url);
  await drop(page.getByRole('main'), [file('collected.json', Buffer.from(bytes))]);
  await expect(page.getByText('A new machine: 4 slots, 2 channels, 8 GB DDR4')).toBeVisible();
  await expect(page.getByLabel('Machine', { exact: true })).toHaveValue('Skerry B4');
  await page.getByLabel('Customer').fill('Lighthouse archive');
  await page.getByLabel('Complaint').fill('Slow with many pages open');
  await page.getByRole('button', { name: 'Open the job' }).click();

  await expect(page.getByText('Runs at DDR4-2400 · CL 17, single-channel.')).toBeVisible();
  await expect(slot(page, 'A1')).toContainText('8 GB');
  // The system sees less than is fitted: graphics holds it, and the machine is told so.
  await expect(page.getByText('0.5 GB of 8 GB is held back')).toBeVisible();
  await page.getByRole('button', { name: 'Write it into the machine' }).click();
  await expect(page.getByText('0.5 GB of 8 GB is held back')).toBeHidden();
  // Each part is a source of its own; the figures stand behind the file itself.
  await sources(page).click();
  await page
    .locator('summary')
    .filter({ hasText: /collected file · 2 parts/ })
    .click();
  await expect(page.getByText('Most in use')).toBeVisible();
  await expect(page.getByText('6.4 GB /proc/meminfo').first()).toBeVisible();

  await page.getByRole('link', { name: 'Next: need' }).click();
  await expect(page.getByText(/at most 6.4 GB in use over 1 min; it was paging/)).toBeVisible();
  await page.getByRole('button', { name: 'Use it' }).click();
  await expect(page.getByLabel('Measured peak, GB')).toHaveValue('6.4');
  await page.getByRole('button', { name: 'Save the need' }).click();
  await expect(page.getByRole('link', { name: 'Next: plan' })).toBeVisible();
  await page.reload();
  await expect(page.getByText('in use below')).toBeVisible();
  await expect(part(page, 'In the customer’s words')).toContainText('wanted more than 6.4 GB');
});

test('a line pasted into the machine’s shell fetches the script, and its file comes to the job by itself @night', async ({
  page,
  server,
}) => {
  test.skip(!existsSync('/usr/bin/curl'), 'the machine has no curl');
  const id = await sceneWithJob(server);
  const { version } = await send<Door>(server, 'GET', '/door', undefined);
  const terms = { isOpen: true, address: '127.0.0.1', port: await freePort() };
  await send<Door>(server, 'PUT', '/door', { terms, version });
  await page.goto(`${server.url}/jobs/${id}/inspect`);
  await page.getByText('No files yet? Have the machine collect them').click();
  await page.getByRole('tab', { name: 'Unix with /sys' }).click();
  await page.getByRole('button', { name: 'Have it sent over the network' }).click();
  const line = await page.getByLabel('Collect and send', { exact: true }).textContent();
  expect(line).toContain(`http://127.0.0.1:${terms.port}/collect.sh`);

  // As pasted, but for the questions a person would answer and the rights a person would have.
  const pasted = (line ?? '').replace('sudo sh collect.sh', 'sh collect.sh --yes');
  const child = spawn('sh', ['-c', pasted], {
    cwd: mkdtempSync(join(tmpdir(), 'tembrix-shell-')),
    env: { ...process.env, COLLECT_ROOT: system('Skerry B4') },
  });
  expect(await new Promise((settle) => child.on('close', settle))).toBe(0);
  await expect(
    page.getByText('The evidence describes A1 more closely than the board does.'),
  ).toBeVisible();
  await sources(page).click();
  await expect(page.getByRole('list', { name: 'Documents' })).toContainText('collected.json');
});

test('a bench tag under a hand-held scanner opens its job from the bench; a part code is looked for', async ({
  page,
  server,
}) => {
  const id = await sceneWithJob(server);
  await page.goto(server.url);
  await page.getByRole('heading', { name: 'Next on the bench' }).waitFor();
  /** On a system with another layout. */
  const codes: Record<string, [string, string, boolean]> = {
    ...{ ':': ['Ö', 'Semicolon', true], '/': ['-', 'Slash', false] },
    ...{ '.': ['.', 'Period', false], '-': ['ß', 'Minus', false], _: ['?', 'Minus', true] },
  };
  const keyOf = (sign: string): ScannedKey => {
    const [key, code, shiftKey] = codes[sign] ?? [
      sign,
      /\d/.test(sign) ? `Digit${sign}` : `Key${sign.toUpperCase()}`,
      sign !== sign.toLowerCase(),
    ];
    return { key, code, shiftKey };
  };
  await scan(page, [...`${server.url}/jobs/${id}`].map(keyOf));
  await expect(page).toHaveURL(new RegExp(`/jobs/${id}`));
  await page.goto(server.url);
  await page.getByRole('heading', { name: 'Next on the bench' }).waitFor();
  await scan(page, [...'TV8U24'].map(keyOf));
  await expect(page.getByPlaceholder(/Job number, customer/)).toHaveValue('TV8U24');
});
