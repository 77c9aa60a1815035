import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { readInventory, writeSmbios } from '#core/inventory';
import type { MemoryModule } from '#core/memory';
import { desktop, labelled, spdOf } from '../test/support/builders.ts';
import {
  answers,
  choose,
  expect,
  runsBy,
  sceneWithJob,
  send,
  slot,
  test,
} from './support/bench.ts';
import { drop, file } from './support/files.ts';

const imageOf = (module: MemoryModule, serial: string): Buffer =>
  Buffer.from(spdOf(module, { serial }));

const first = labelled('8GB 1Rx8 PC4-2400T-UA1-11 TV-8U24');
const second = labelled('8GB 2Rx8 PC4-2133P-UB1-11 PV-8U21');
const board = desktop({ name: 'Lantern A3', maxTotal: 64 as never });
const placement = { a1: first, a2: second, b2: first };
const serials: Record<string, string> = { a1: '0000AA01', a2: '0000AA02', b2: '0000AA03' };
const dump = file(
  'table.dmp',
  Buffer.from(
    writeSmbios(board, placement, {
      ...{ configuredRate: 2133, printsClock: true, mapsAddresses: true, interleaves: true },
      serialOf: (id) => serials[id],
    }),
  ),
);

/** The line of a slot or a document, which opens what is behind it. */
const line = (page: Page, name: string) =>
  page.locator('summary').filter({ has: page.getByText(name, { exact: true }) });

/** What was read, typed and seen, as documents. */
const sources = (page: Page) => page.locator('summary').filter({ hasText: /^\W*\d+ sources?/ });

test('a reader of files that cannot be fetched says so; tried again, the files are read', async ({
  page,
  server,
}) => {
  const reader = /readDocuments\.worker/;
  await page.route(reader, (route) => route.abort());
  await page.goto(`${server.url}/jobs/new`);
  await page.getByLabel('Files from the machine').setInputFiles(dump);
  const refused = page
    .getByRole('alert')
    .filter({ hasText: 'This part of the page gave no answer' });
  await expect(refused).toContainText('could not be fetched from the bench');
  await page.unroute(reader);
  await refused.getByRole('button', { name: 'Try again' }).click();
  await expect(page.getByText('A new machine: 4 slots, 2 channels, 24 GB DDR4')).toBeVisible();
  await expect(refused).toHaveCount(0);
});

test('a machine is known before it is touched: dump, images, a sticker, one conflict, need, baseline', async ({
  page,
  server,
}) => {
  // Intake: the machine comes out of its own firmware table, nothing of it is typed.
  await page.goto(`${server.url}/jobs/new`);
  await page.getByLabel('Customer').fill('Lighthouse archive');
  await page.getByLabel('Complaint').fill('Scans stop halfway');
  await page.getByLabel('Files from the machine').setInputFiles(dump);
  await expect(page.getByText('A new machine: 4 slots, 2 channels, 24 GB DDR4')).toBeVisible();
  await expect(page.getByLabel('Machine', { exact: true })).toHaveValue('Lantern A3');
  await page.getByLabel('Budget').fill('a lot');
  await page.getByRole('button', { name: 'Open the job' }).click();
  await expect(page.getByText('An amount such as 21.90.')).toBeVisible();
  await page.getByLabel('Budget').fill('89,50');
  await page.getByRole('button', { name: 'Open the job' }).click();

  // Inspect: the dump has filled the slots, saved as found, and says what runs.
  await expect(page.getByText(/Runs at DDR4-2133 · CL 16, 16 of 24 GB dual-channel/)).toBeVisible();
  await expect(page.getByRole('link', { name: 'Next: need' })).toBeVisible();
  await expect(slot(page, 'A2')).toContainText('DDR4-2133');
  await expect(answers(page)).toContainText('16 of 24 GB dual-channel');

  // Two images, one of a module whose sticker says otherwise.
  await drop(page.getByText('Drop them here').locator('..').locator('..'), [
    file('one.bin', imageOf(first, '0000AA01')),
    file('two.bin', imageOf(second, '0000AA02')),
  ]);
  await sources(page).click();
  await expect(line(page, 'two.bin')).toBeVisible();
  await page.getByLabel('goes to').selectOption({ label: 'B1' });
  await page.getByLabel('Label of a module').fill('8GB 1Rx8 PC4-2666V-UA1-11 KB-8U26');
  await page.keyboard.press('Enter');
  const questions = page.getByRole('complementary', { name: 'Reasons' });
  await expect(
    questions.getByText('B1: a module sits there, and the machine does not see it'),
  ).toBeVisible();
  await questions.getByRole('button', { name: /Believe SMBIOS/ }).click();
  await expect(questions.getByText('B1: a module sits there')).toHaveCount(0);
  await line(page, 'B1').click();
  await expect(page.getByText(/decided by Ottoline V\./)).toBeVisible();
  await page.getByRole('button', { name: /Put into the slots/ }).click();
  await expect(slot(page, 'B1')).toContainText('empty');
  await page.getByRole('button', { name: /Save as found/ }).click();

  // Baseline, with what must be the same afterwards; out and in as a table.
  await runsBy(page, 'Type them');
  await page.getByLabel('Power source').last().selectOption('mains, full power');
  await page.getByLabel('Browser or program').fill('bench page');
  await page.getByLabel('Runs, GB/s').fill('24.0 24.2 23.9');
  await page.getByRole('button', { name: 'Save runs' }).click();
  await expect(page.getByText(/mean 24 GB\/s · mains, full power · bench page/)).toBeVisible();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Runs as CSV' }).click();
  const csv = readFileSync(await (await download).path(), 'utf8');
  expect(csv).toContain('24 24.2 23.9');
  const more = csv.replace('memory copy', 'pointer walk').replace('bandwidth', 'latency');
  await runsBy(page, 'From a table');
  await page
    .getByLabel('Choose a table')
    .setInputFiles(file('runs.csv', Buffer.from(more.replace('GB/s', 'ns'))));
  await page.getByRole('button', { name: 'Add 1 test' }).click();
  await expect(page.getByText('mean 24 ns')).toBeVisible();

  // Need: activities, in the customer's words, as a band on the lanes.
  await page.getByRole('link', { name: 'Next: need' }).click();
  await page.getByRole('button', { name: '+ Scanning large formats' }).click();
  await page.getByLabel('Scanning large formats, most GB').fill('24');
  await expect(
    page.getByText(/you need about 28 GB; you have 24 GB. The drive is standing in/),
  ).toBeVisible();
  await page.getByRole('button', { name: 'Save the need' }).click();
  await expect(page.getByRole('link', { name: 'Next: plan' })).toBeVisible();
  await page.reload();
  await expect(answers(page)).toContainText('6.2 to 27.8 GB');
  await page.getByRole('link', { name: 'Intake' }).click();
  await expect(page.getByText('Ottoline V. believes table.dmp on presence of B1')).toBeVisible();
});

test('evidence that cannot be read is named, and a place it names is remembered for the machine', async ({
  page,
  server,
}) => {
  const id = await sceneWithJob(server);
  await page.goto(`${server.url}/jobs/${id}/inspect`);
  await page
    .getByLabel('Files from the machine')
    .setInputFiles([
      file('letter.txt', Buffer.from('Dear bench, it is slow.')),
      file('noise.bin', Buffer.alloc(3000, 'noise')),
      file('half.bin', imageOf(first, '0000AA01').subarray(0, 128)),
      file('film.bin', Buffer.alloc(5_000_000, 7)),
    ]);
  for (const name of ['letter.txt', 'noise.bin'])
    await expect(page.getByRole('listitem').filter({ hasText: name })).toContainText(
      'not recognised',
    );
  await expect(page.getByRole('alert')).toContainText('Not taken: film.bin');
  await line(page, 'half.bin').click();
  await expect(page.getByText('Cut short: image 1')).toBeVisible();
  await page.getByText('Type or photograph a firmware screen').click();
  await page.getByLabel(/Firmware screen/).fill('Zone left 8 GB 1200\nZone right empty');
  await page.getByRole('button', { name: 'Add 2 lines' }).click();
  const question = page.getByRole('listitem').filter({ hasText: 'Which slot is “Zone left”?' });
  await question.getByLabel('Slot of Zone left').selectOption({ label: 'A1' });
  await question.getByRole('button', { name: 'It belongs there' }).click();
  await expect(question).toHaveCount(0);
  await page.reload();
  await line(page, 'A1').click();
  await expect(page.getByText('remembered for this machine')).toBeVisible();
});

test('a hundred files dropped at once are read while the page goes on answering', async ({
  page,
  server,
}) => {
  const id = await sceneWithJob(server);
  await page.goto(`${server.url}/jobs/${id}/inspect`);
  await expect(page.getByText('Drop them here')).toBeVisible();
  const files = Array.from({ length: 100 }, (_, at) =>
    file(`module-${at}.bin`, imageOf(first, (at + 1).toString(16).padStart(8, '0'))),
  );
  await drop(page.getByText('Drop them here').locator('..').locator('..'), files);
  await page.getByLabel('Label of a module').fill('8GB DDR4-2400');
  await expect(page.getByText('DDR4-2400 CL17').first()).toBeVisible();
  await sources(page).click();
  await expect(line(page, 'module-99.bin')).toBeVisible();
  await expect(page.getByRole('list', { name: 'Documents' }).getByText('SPD image')).toHaveCount(
    100,
  );
});

test('a machine is built from nothing on the board, goes out as a file and starts another', async ({
  page,
  server,
}) => {
  await page.goto(`${server.url}/machines/new`);
  await page.getByLabel('Name', { exact: true }).fill('Stacked small box');
  for (const n of [4, 3, 2, 1])
    await page.getByRole('button', { name: `Remove slot ${n}` }).click();
  for (const [n, name, colour, channel] of [
    [1, 'lower left', 'grey', 'A'],
    [2, 'upper left', 'black', 'A'],
    [3, 'lower right', 'black', 'B'],
  ] as const) {
    await page.getByRole('button', { name: 'Add a slot' }).click();
    await page.getByLabel(`Slot ${n}, printed name`).fill(name);
    await page.getByLabel(`Slot ${n}, colour`).fill(colour);
    await page.getByLabel(`Slot ${n}, channel`).fill(channel);
  }
  await page.getByRole('button', { name: 'Set the fill order' }).click();
  for (const name of ['lower left', 'lower right', 'upper left'])
    await page.getByRole('button', { name: new RegExp(`^${name}`) }).click();
  await expect(page.getByText('lower left, then lower right, then upper left')).toBeVisible();
  await page.getByRole('button', { name: 'Finish the fill order' }).click();

  // Chips are dragged onto a channel; by keyboard its button does the same.
  const chips = await page.getByText('drag onto a channel').boundingBox();
  const zone = await page.getByText('channel B', { exact: true }).boundingBox();
  if (!chips || !zone) throw new Error('expected chips and a channel');
  await page.mouse.move(chips.x + 9, chips.y + 9);
  await page.mouse.down();
  await page.mouse.move(zone.x + 20, zone.y + 5, { steps: 8 });
  await page.mouse.up();
  await expect(page.getByLabel('Soldered 1, channel')).toHaveValue('B');
  await page.getByLabel('Soldered part 1, as a label').fill('8GB 1Rx16 DDR4-2400 CL17');
  await page.getByRole('button', { name: 'Solder memory onto channel A' }).focus();
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Remove soldered part 2' }).click();

  // A table with a hole is refused at its place; what is not known is listed.
  await page.getByLabel('Rate table').fill('2 2 2133');
  await page.getByRole('button', { name: 'Add the machine' }).click();
  await expect(page.getByText(/no row for 1 module/)).toBeVisible();
  await page.getByLabel('Rate table').fill('1 1 2400\n2 2 2133');
  const unknown = page.getByRole('complementary', { name: 'What is not known' });
  await expect(unknown).toContainText('Maximum per slot');
  await page.getByLabel('Maximum per slot, GB').fill('16');
  await expect(unknown).not.toContainText('Maximum per slot');
  await page.getByRole('button', { name: 'Add the machine' }).click();
  await expect(page.getByRole('heading', { name: 'Stacked small box' })).toBeVisible();

  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Export as JSON' }).click();
  const text = readFileSync(await (await download).path(), 'utf8');
  const { machine } = JSON.parse(text) as {
    machine: { fillOrder: string[][]; slots: { id: string }[] };
  };
  const [left, upper, right] = machine.slots.map(({ id }) => id);
  expect(machine.fillOrder).toEqual([[left], [left, right], [left, right, upper]]);

  await page.goto(`${server.url}/machines`);
  await page
    .getByLabel('Import')
    .setInputFiles([
      file('copy.json', Buffer.from(text.replace('Stacked small box', 'Copied box'))),
      file(
        'broken.json',
        Buffer.from(text.replace('"modulesPerChannel": 1', '"modulesPerChannel": 0')),
      ),
    ]);
  await expect(page.getByText('✓ copy.json is in the library')).toBeVisible();
  await expect(page.getByText(/broken.json:.*rateTable\.0/)).toBeVisible();
  await page.getByRole('link', { name: 'Start a new machine from Copied box' }).click();
  await expect(page.getByLabel('Slot 3, printed name')).toHaveValue('lower right');
  await expect(page.getByLabel('Name', { exact: true })).toHaveValue('');
});

test('five like machines are taken in at once; a customer is no second one by accident; a swollen battery stops', async ({
  page,
  server,
}) => {
  await sceneWithJob(server);
  await page.goto(`${server.url}/jobs/new`);
  await page.getByLabel('Customer').fill('scene CUSTOMER');
  await choose(page.getByLabel('Machine', { exact: true }), 'Scene desktop');
  await page.getByLabel('Complaint').fill('All five slow');
  await page.getByLabel('Identical machines').fill('5');
  await page.getByRole('button', { name: 'Open the job' }).click();
  await expect(page.getByText('There is a customer of this name')).toBeVisible();
  await page.getByRole('button', { name: 'Scene customer' }).click();
  await expect(page.getByText('✓ Known')).toBeVisible();
  await page.getByRole('button', { name: 'Open the job' }).click();
  await expect(page.getByText('Machine 1 of 5 taken in together.')).toBeVisible();
  const customers = await send<unknown[]>(server, 'GET', '/customers', undefined);
  expect(customers).toHaveLength(1);

  // The tag hangs on the machine and names no one.
  const tag = page.getByRole('img', { name: /Tag of job/ });
  await expect(tag).toBeVisible();
  await expect
    .poll(() => tag.evaluate((image: HTMLImageElement) => image.naturalWidth))
    .toBeGreaterThan(0);
  await page.getByLabel('The battery is swollen').check();
  await expect(page.getByText('Stop: the battery is swollen')).toBeVisible();
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await page.getByRole('link', { name: 'Next: inspect' }).click();
  await expect(page.getByRole('alert')).toContainText('local rules for batteries');
  await page.goto(server.url);
  await page.getByLabel('Search the jobs').fill('All five');
  await expect(page.getByText('1 of 5')).toBeVisible();
  await expect(page.getByText('5 of 5')).toBeVisible();
  await expect(page.getByText('stopped: swollen battery')).toHaveCount(1);
});

test('a maker code gets the shop’s name wherever it is shown', async ({ page, server }) => {
  const id = await sceneWithJob(server);
  await page.goto(`${server.url}/jobs/${id}/inspect`);
  const named = { ...first, maker: '121-4A' };
  await page
    .getByLabel('Files from the machine')
    .setInputFiles(file('A1.bin', imageOf(named, '0000AA09')));
  await line(page, 'A1').click();
  await expect(page.getByText('code 121-4A').first()).toBeVisible();
  await sources(page).click();
  await line(page, 'A1.bin').click();
  await expect(page.getByText(/tCK 0.833 · tAA 14.166/)).toBeVisible();
  const kept = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save the file as it came' }).click();
  expect(readFileSync(await (await kept).path())).toEqual(imageOf(named, '0000AA09'));
  const dumped = page.waitForEvent('download');
  await page.getByRole('button', { name: 'SMBIOS dump' }).click();
  const table = readFileSync(await (await dumped).path());
  expect(readInventory(table).devices[0]).toMatchObject({ locator: 'A1', capacity: 8 });
  await page.getByRole('link', { name: 'Library' }).click();
  await page.getByRole('link', { name: 'Makers' }).click();
  await page.getByLabel('Code').fill('banana');
  await page.getByRole('button', { name: 'Name it' }).click();
  await expect(page.getByText('That is no code.')).toBeVisible();
  await page.getByLabel('Code').fill('121-4A');
  await page.getByLabel('Your name for it').fill('Orlvane');
  await page.getByRole('button', { name: 'Name it' }).click();
  await page.goto(`${server.url}/jobs/${id}/inspect`);
  await line(page, 'A1').click();
  await expect(page.getByText('Orlvane').first()).toBeVisible();
});
