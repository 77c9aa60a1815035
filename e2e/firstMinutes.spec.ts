import type { Page } from '@playwright/test';
import type { ListedMachine, Job } from '#contract/records';
import { writeSmbios } from '#core/inventory';
import type { Placement } from '#core/machine';
import { desktop, labelled } from '../test/support/builders.ts';
import { pdfText } from '../test/support/pdfText.ts';
import { answers, choose, expect, send, slot, tabTo, test } from './support/bench.ts';
import { drop, file } from './support/files.ts';
import { countPresses } from './support/presses.ts';
import type { BenchServer } from './support/server.ts';

// From a machine on the counter to a printed quote: its files are dropped, and little is pressed.

const EIGHT = '8GB 1Rx8 PC4-2400T-UA1-11 PV-8U24';
const one = labelled(EIGHT);
const board = desktop({ name: 'Lantern A3' });
const table = (machine = board, placement: Placement = { a1: one }) =>
  Buffer.from(writeSmbios(machine, placement, { configuredRate: 2400 }));

/** Something to buy: the same module once more, at a price. */
async function market(server: BenchServer): Promise<void> {
  await send(server, 'POST', '/modules', {
    ...{ label: EIGHT, module: one, supplier: 'Barge surplus', price: 1790, stock: 4, leadDays: 2 },
  });
}

/** The text of the quote the page links to, as it would be printed. */
async function printed(page: Page): Promise<string> {
  const link = page.getByRole('link', { name: /as PDF$/ });
  const address = await link.getAttribute('href');
  const answer = await page.request.get(new URL(address ?? '', page.url()).href);
  return (await pdfText(new Uint8Array(await answer.body()))).join(' ');
}

test('a table dropped on the bench becomes a printed quote in twelve presses besides typing', async ({
  page,
  server,
}) => {
  await market(server);
  const presses = await countPresses(page);
  await page.goto(server.url);
  await drop(page.getByRole('main'), [file('table.dmp', table())]);
  await expect(page.getByText('A new machine: 4 slots, 2 channels, 8 GB DDR4')).toBeVisible();
  await expect(page.getByLabel('Machine', { exact: true })).toHaveValue('Lantern A3');
  await expect(page.getByLabel('Customer')).toBeFocused();
  await page.keyboard.type('Lighthouse archive');
  await page.getByLabel('Complaint').click();
  await page.keyboard.type('Slow with many pages open');
  await page.getByLabel('What they do with it').click();
  await page.keyboard.type('browser with fifty tabs');
  await page.getByRole('button', { name: 'Count it in the need' }).click();
  await page.getByRole('button', { name: 'Open the job' }).click();

  // The job opens filled and saved, and says first what it runs at and what holds it back.
  await expect(page.getByText('Runs at DDR4-2400 · CL 17, single-channel.')).toBeVisible();
  await expect(page.getByText(/Held back by .*channel B left empty/)).toBeVisible();
  await expect(slot(page, 'A1')).toContainText('8 GB');
  await page.getByRole('link', { name: 'Next: plan' }).click();
  await page.getByRole('button', { name: 'Take as plan', exact: true }).click();
  await page.getByRole('link', { name: 'Next: quote' }).click();
  await page.getByRole('button', { name: 'Issue the quote' }).click();
  await page.getByRole('link', { name: /as PDF$/ }).click();
  const text = await printed(page);
  expect(text).toContain('Lantern A3');
  expect(text).toContain('47.90');
  expect(await presses()).toBeLessThanOrEqual(12);
  expect(await presses()).toBeGreaterThan(5); // they were counted
});

test('the same by keyboard alone @night', async ({ page, server }) => {
  await market(server);
  await page.goto(server.url);
  await expect(page.getByText('The bench is clear.')).toBeVisible();
  await page.keyboard.press('n');
  await expect(page.getByLabel('Customer')).toBeFocused();
  await page.keyboard.type('Lighthouse archive');
  const chooser = page.waitForEvent('filechooser');
  await tabBack(page, 'Files from the machine');
  await page.keyboard.press('Enter');
  await (await chooser).setFiles([file('table.dmp', table())]);
  await expect(page.getByLabel('Machine', { exact: true })).toHaveValue('Lantern A3');
  await tabTo(page.getByLabel('Complaint'));
  await page.keyboard.type('Slow');
  await tabTo(page.getByLabel('What they do with it'));
  await page.keyboard.type('film editing');
  await tabTo(page.getByRole('button', { name: 'Count it in the need' }));
  await page.keyboard.press('Enter');
  await expect(page.getByText('✓ Counted in the need: Video editing')).toBeVisible();
  await tabTo(page.getByRole('button', { name: 'Open the job' }));
  await page.keyboard.press('Enter');
  await expect(page.getByText('Runs at DDR4-2400 · CL 17, single-channel.')).toBeVisible();
  await tabTo(page.getByRole('link', { name: 'Next: plan' }));
  await page.keyboard.press('Enter');
  await expect(page.getByText(/every one that nothing beats/)).toBeVisible();
  await page.keyboard.press('p');
  await tabTo(page.getByRole('link', { name: 'Next: quote' }));
  await page.keyboard.press('Enter');
  await tabTo(page.getByRole('button', { name: 'Issue the quote' }));
  await page.keyboard.press('Enter');
  await tabTo(page.getByRole('link', { name: /as PDF$/ }));
  expect(await printed(page)).toContain('Lighthouse archive');
});

/** Back to a field before the one that has the focus. */
async function tabBack(page: Page, label: string): Promise<void> {
  const field = page.getByLabel(label);
  for (let presses = 0; presses < 20; presses++) {
    if (await field.evaluate((element) => element === document.activeElement)) return;
    await page.keyboard.press('Shift+Tab');
  }
  throw new Error(`Shift+Tab never reached ${label}`);
}

test.describe('on a phone', () => {
  test.use({ viewport: { width: 390, height: 844 }, hasTouch: true });

  test('the same with a thumb, and no page scrolls sideways on the way @night', async ({
    page,
    server,
  }) => {
    await market(server);
    const fits = async () => {
      const wide = await page.evaluate(
        () => document.documentElement.scrollWidth - document.documentElement.clientWidth,
      );
      expect(wide, page.url()).toBeLessThanOrEqual(0);
    };
    await page.goto(server.url);
    await fits();
    await page.getByRole('link', { name: 'New job' }).tap();
    await page.getByLabel('Files from the machine').setInputFiles(file('table.dmp', table()));
    await expect(page.getByLabel('Machine', { exact: true })).toHaveValue('Lantern A3');
    await page.getByLabel('Customer').fill('Lighthouse archive');
    await page.getByLabel('Complaint').fill('Slow');
    await page.getByLabel('What they do with it').fill('photos');
    await page.getByRole('button', { name: 'Count it in the need' }).tap();
    await fits();
    await page.getByRole('button', { name: 'Open the job' }).tap();
    await expect(page.getByText('Runs at DDR4-2400 · CL 17, single-channel.')).toBeVisible();
    await fits();
    await page.getByRole('link', { name: 'Next: plan' }).tap();
    await page.getByRole('button', { name: 'Take as plan', exact: true }).tap();
    await expect(page.getByRole('link', { name: 'Next: quote' })).toBeVisible();
    await fits();
    await page.getByRole('link', { name: 'Next: quote' }).tap();
    await page.getByRole('button', { name: 'Issue the quote' }).tap();
    await expect(page.getByText(/^Quote \d+-1$/)).toBeVisible({ timeout: 60_000 });
    await fits();
    expect(await printed(page)).toContain('Lighthouse archive');
  });
});

test('a machine that came before is known, also under another name; two machines are not mixed', async ({
  page,
  server,
}) => {
  await page.goto(`${server.url}/jobs/new`);
  const files = page.getByLabel('Files from the machine');
  await files.setInputFiles([
    file('a.dmp', table()),
    file('b.dmp', table(desktop({ name: 'Beacon 7' }))),
  ]);
  await expect(
    page.getByText('These files are of several machines: Lantern A3 and Beacon 7'),
  ).toBeVisible();
  await page.getByLabel('Customer').fill('Net loft');
  await page.getByLabel('Complaint').fill('Slow');
  await page.getByRole('button', { name: 'Open the job' }).click();
  await expect(page.getByText(/Leave out the files, or drop those of this machine/)).toBeVisible();
  await page.getByRole('button', { name: 'leave out' }).click();
  await files.setInputFiles(file('a.dmp', table()));
  await expect(page.getByText(/^A new machine: 4 slots/)).toBeVisible();
  // The shop calls it something else; its firmware is known from now on.
  await page.getByLabel('Machine', { exact: true }).fill('Reading room desktop');
  await page.getByRole('button', { name: 'Open the job' }).click();
  await expect(page.getByText(/^Runs at DDR4-2400/)).toBeVisible();

  await page.goto(`${server.url}/jobs/new`);
  await files.setInputFiles(file('later.dmp', table(board, { a1: one, b1: one })));
  await expect(page.getByText('This machine is known: Reading room desktop, 1 job')).toBeVisible();
  await expect(page.getByLabel('Machine', { exact: true })).toHaveValue('Reading room desktop');
  await page.getByLabel('Customer').fill('Sail loft');
  await page.getByLabel('Complaint').fill('Slow too');
  await page.getByRole('button', { name: 'Open the job' }).click();
  await expect(answers(page)).toContainText('16 GB dual-channel');
  const machines = await send<ListedMachine[]>(server, 'GET', '/machines', undefined);
  expect(machines).toHaveLength(1);
});

test('a machine chosen by hand keeps its choice when its files are dropped, and is known by them then', async ({
  page,
  server,
}) => {
  await send(server, 'POST', '/machines', { machine: desktop({ name: 'Counter desktop' }) });
  await page.goto(`${server.url}/jobs/new`);
  const machine = page.getByLabel('Machine', { exact: true });
  await choose(machine, 'Counter desktop');
  await drop(page.getByRole('main'), [file('table.dmp', table())]);
  await expect(page.getByText('The files list 4 slots, 2 channels, 8 GB DDR4')).toBeVisible();
  await expect(machine).toHaveValue('Counter desktop');
  // There and back again: the other way is one press.
  await page.getByRole('button', { name: 'Add it as a new machine' }).click();
  await expect(machine).toHaveValue('Lantern A3');
  await page.getByRole('button', { name: 'It is one of the library' }).click();
  await choose(machine, 'Counter desktop');
  await page.getByLabel('Customer').fill('Net loft');
  await page.getByLabel('Complaint').fill('Slow');
  await page.getByRole('button', { name: 'Open the job' }).click();
  await expect(page.getByText(/^Runs at DDR4-2400/)).toBeVisible();
  await page.goto(`${server.url}/jobs/new`);
  await drop(page.getByRole('main'), [file('again.dmp', table())]);
  await expect(page.getByText('This machine is known: Counter desktop, 1 job')).toBeVisible();
  // Those were the wrong files: left out, they leave no machine behind.
  await page.getByRole('button', { name: 'leave out' }).click();
  await expect(machine).toHaveValue('');
});

test('what contradicts itself is asked, not saved; a letter leaves the machine to be chosen', async ({
  page,
  server,
}) => {
  const other = desktop({ name: 'Lantern A3' });
  const larger = labelled('16GB 2Rx8 PC4-2400T-UB1-11');
  const listed = [
    { DeviceLocator: 'A1', Capacity: 2 ** 34, SMBIOSMemoryType: 26, FormFactor: 8, Speed: 2400 },
  ];
  await page.goto(`${server.url}/jobs/new`);
  const files = page.getByLabel('Files from the machine');
  await files.setInputFiles(file('letter.txt', Buffer.from('Dear bench, it is slow.')));
  await expect(page.getByText('No list of memory slots among the files')).toBeVisible();
  await files.setInputFiles([
    file('table.dmp', table(other)),
    file('memory.json', Buffer.from(JSON.stringify(listed))),
  ]);
  await expect(page.getByText(/A new machine: 4 slots/)).toBeVisible();
  await page.getByLabel('Customer').fill('Net loft');
  await page.getByLabel('Complaint').fill('Slow');
  await page.getByRole('button', { name: 'Open the job' }).click();
  await expect(page.getByRole('button', { name: /Believe SMBIOS/ })).toBeVisible();
  await expect(page.getByText('Nothing recorded yet').first()).toBeVisible();
  const { jobs } = await send<{ jobs: { id: string }[] }>(server, 'GET', '/jobs', undefined);
  const job = await send<Job>(server, 'GET', `/jobs/${jobs[0]?.id ?? ''}`, undefined);
  expect(job.snapshots).toEqual([]);
  expect(larger.capacity).toBe(16);
});

test('one of five hundred machines is found by typing, with the keyboard @night', async ({
  page,
  server,
}) => {
  for (let at = 0; at < 500; at++)
    await send(server, 'POST', '/machines', {
      machine: desktop({
        name: `Cabin ${String(at).padStart(3, '0')} ${at % 2 ? 'tower' : 'box'}`,
      }),
    });
  await page.goto(`${server.url}/jobs/new`);
  const field = page.getByLabel('Machine', { exact: true });
  await field.fill('tower 417');
  await expect(page.getByRole('listbox').getByRole('option')).toHaveCount(1);
  await field.press('ArrowDown');
  await field.press('Enter');
  await expect(field).toHaveValue('Cabin 417 tower');
  // Typed over and left, it is as it was; emptied, nothing is chosen.
  await field.fill('no such thing');
  await expect(page.getByText('Nothing has these words.')).toBeVisible();
  await field.press('Escape');
  await expect(field).toHaveValue('Cabin 417 tower');
  await choose(field, 'Cabin 002 box');
  await field.fill('');
  await field.press('Tab');
  await page.getByRole('button', { name: 'Open the job' }).click();
  await expect(page.getByText('Choose the machine, or describe it first.')).toBeVisible();
});
