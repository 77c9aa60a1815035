import type { Locator, Page } from '@playwright/test';
import { desktop, labelled } from '../test/support/builders.ts';
import { dataRate } from '../core/units/index.ts';
import { answers, expect, sceneWithJob, send, slot, test } from './support/bench.ts';
import type { BenchServer } from './support/server.ts';

const module = labelled('8GB 1Rx8 PC4-2400T-UA1-11');

/** A job on a machine of one's own, with something found in it. */
async function sceneWith(server: BenchServer, traits: object, placement: object): Promise<string> {
  const machine = desktop({ name: 'Own desktop', ...traits });
  const { id: machineId } = await send<{ id: string }>(server, 'POST', '/machines', { machine });
  const customer = { name: 'Own customer', contact: '' };
  const { id } = await send<{ id: string }>(server, 'POST', '/jobs', {
    customer,
    machineId,
    complaint: 'Slow',
  });
  const body = { placement, setting: 'standard', version: 0 };
  await send(server, 'PUT', `/jobs/${id}/snapshots/as-found`, body);
  return `${server.url}/jobs/${id}`;
}

const centre = async (place: Locator): Promise<[number, number]> => {
  const box = await place.boundingBox();
  if (!box) throw new Error('expected the place on the screen');
  return [box.x + box.width / 2, box.y + box.height / 2];
};

async function dragOver(page: Page, from: Locator, to: Locator): Promise<void> {
  await page.mouse.move(...(await centre(from)));
  await page.mouse.down();
  const [x, y] = await centre(to);
  await page.mouse.move(x, y - 6, { steps: 6 });
  await page.mouse.move(x, y, { steps: 2 });
}

test('a drag previews before it is taken, and Escape or dropping nowhere leaves all as it was', async ({
  page,
  server,
}) => {
  await page.goto(
    await sceneWith(server, {}, { a1: module, a2: module }).then((url) => `${url}/plan?view=hand`),
  );
  await expect(answers(page)).toContainText('single-channel');
  await dragOver(page, slot(page, 'A2'), slot(page, 'B1'));
  await expect(answers(page)).toContainText('if put there');
  await expect(answers(page)).toContainText('16 GB dual-channel');
  await page.mouse.move(5, 400, { steps: 4 });
  await expect(answers(page)).toContainText('single-channel');
  await page.mouse.up();
  await expect(slot(page, 'A2')).toContainText('8 GB');
  await expect(page.getByRole('button', { name: 'Undo' })).toHaveCount(0);

  await slot(page, 'A2').focus();
  await page.keyboard.press('Enter');
  await expect(page.getByText('Carrying 8 GB')).toBeVisible();
  await page.keyboard.press('ArrowDown');
  await expect(answers(page)).toContainText('16 GB dual-channel');
  await page.keyboard.press('Escape');
  await expect(answers(page)).toContainText('single-channel');
});

test('taps do what drags do: pick up, put down, change places', async ({ page, server }) => {
  const large = labelled('16GB 2Rx8 PC4-2400T-UB1-11');
  await page.goto(`${await sceneWith(server, {}, { a1: module, b1: large })}/plan?view=hand`);
  await slot(page, 'A1').click();
  await slot(page, 'B1').click();
  await expect(slot(page, 'A1')).toContainText('16 GB');
  await expect(slot(page, 'B1')).toContainText('8 GB');
  await expect(slot(page, 'B1')).toContainText('moved');
});

test('the tray takes what is pulled, gives it back, and says what comes out', async ({
  page,
  server,
}) => {
  await page.goto(`${await sceneWith(server, {}, { a1: module, b1: module })}/plan?view=hand`);
  await slot(page, 'B1').focus();
  await page.keyboard.press('Delete');
  const inTray = page.getByRole('button', { name: /^Tray: 8 GB/ });
  await expect(inTray).toContainText('pulled');
  await expect(answers(page)).toContainText('single-channel');
  await inTray.click();
  await slot(page, 'B2').click();
  await expect(slot(page, 'B2')).toContainText('8 GB');
  await expect(inTray).toHaveCount(0);
  await expect(answers(page)).toContainText('16 GB dual-channel');

  // A module that was never in the machine is spare, and can be thrown out of the draft.
  await page.getByLabel('Label of a module').fill('16GB 1Rx8 PC4-3200AA-UA1-11');
  await page.keyboard.press('Enter');
  await slot(page, 'A2').focus();
  await page.keyboard.press('Delete');
  await expect(page.getByRole('button', { name: /^Tray: 16 GB/ })).toContainText('spare');
  await page.getByRole('button', { name: /^Tray: 16 GB/ }).focus();
  await page.keyboard.press('Delete');
  await expect(page.getByRole('button', { name: /^Tray: 16 GB/ })).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('button', { name: /^Tray: 16 GB/ })).toBeVisible();
});

test('a pack seats its modules across the channels as one kit; what does not fit lies in the tray', async ({
  page,
  server,
}) => {
  await page.goto(`${await sceneWith(server, {}, {})}/plan?view=hand`);
  await page.getByLabel('Label of a module').fill('2x8GB DDR4-3200 CL22 DIMM');
  await page.keyboard.press('Enter');
  for (const name of ['A1', 'B1']) await expect(slot(page, name)).toContainText('8 GB');
  await expect(page.getByText('Match: one kit')).toBeVisible();
  await page.getByLabel('Label of a module').fill('4x8GB DDR4-3200 CL22 DIMM');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: /^Tray: 8 GB/ })).toHaveCount(2);
});

test('a profile never switched on needs no parts: the setting alone is a plan', async ({
  page,
  server,
}) => {
  const kit = labelled('8GB 1Rx8 DDR4-3200 CL16-18-18-38 1.35V DIMM', { kitId: 'pack 1' });
  const url = await sceneWith(server, {}, { a1: kit, b1: kit });
  await page.goto(`${url}/plan?view=hand`);
  await expect(
    page.getByText('The overclock profile of 3200 MT/s is not switched on'),
  ).toBeVisible();
  await page.getByRole('button', { name: '○ overclock profile' }).click();
  await expect(answers(page)).toContainText('DDR4-3200 · CL 16');
  await expect(answers(page)).toContainText('was DDR4-2133 · CL 15');
  await page.keyboard.press('p');
  await expect(page.getByRole('link', { name: 'Next: quote' })).toBeVisible();
  const steps = page.getByRole('navigation', { name: 'Steps of this job' });
  await steps.getByRole('link', { name: 'Fit' }).click();
  await expect(page.getByText('switch the overclock profile on')).toBeVisible();
  await expect(page.getByText(/^Into/)).toHaveCount(0);
});

test('three modules in two channels: the trait, the need and the school decide together', async ({
  page,
  server,
}) => {
  const url = await sceneWith(
    server,
    { unevenChannels: 'unknown' },
    { a1: module, a2: module, b1: module },
  );
  await page.goto(`${url}/need`);
  await page.getByLabel('Measured peak, GB').fill('10');
  await page.getByRole('button', { name: 'Save the need' }).click();
  await page.getByRole('link', { name: 'Next: plan' }).click();
  await page.getByRole('link', { name: 'By hand' }).click();
  // By its beginning: a named choice may speak of the school, too.
  const balanced = page.getByRole('listitem').filter({ hasText: /^\W*Balanced/ });
  await expect(balanced).toContainText('no');
  await expect(page.getByText('this machine may run the uneven set single-channel')).toBeVisible();

  // Measured: it interleaves as far as both channels reach. The description learns it.
  await page.goto(`${url}/inspect`);
  await page.getByRole('link', { name: 'Correct its description' }).click();
  await page.getByLabel('Uneven channels').selectOption('zone');
  await page.getByRole('button', { name: 'Save the machine' }).click();
  await expect(page.getByText('Saved')).toBeVisible();
  await page.goto(`${url}/plan?view=hand`);
  await expect(answers(page)).toContainText('16 of 24 GB dual-channel');
  await expect(balanced).toContainText('with caution');
  await balanced.getByRole('button', { name: /^why/ }).click();
  await expect(page.getByRole('region', { name: /^Why: the balanced school/ })).toContainText(
    'verified list',
  );
});

test('a rate read off a firmware screen is judged with the clock minded', async ({
  page,
  server,
}) => {
  const fast = labelled('8GB 1Rx8 PC4-3200AA-UA1-11');
  await page.goto(`${await sceneWith(server, {}, { a1: fast, b1: fast })}/inspect`);
  await page.getByRole('heading', { name: 'Rate on a screen' }).click();
  const screen = page.getByLabel('The screen shows, MHz or MT/s');
  for (const [shown, says] of [
    ['1600', '3200 MT/s, as expected'],
    ['3200', '3200 MT/s, as expected'],
    ['1333', '2666 MT/s, slower than 3200'],
    ['9', 'No memory rate'],
  ] as const) {
    await screen.fill(shown);
    await expect(page.getByText(says)).toBeVisible();
  }
});

test('a closed job is to be looked at; opened again it can be changed', async ({
  page,
  server,
}) => {
  const url = await sceneWith(server, { controllerLimit: dataRate(2400) }, { a1: module });
  const id = url.split('/').at(-1) ?? '';
  const body = { placement: { a1: module, b1: module }, setting: 'standard', version: 0 };
  await send(server, 'PUT', `/jobs/${id}/snapshots/as-fitted`, body);
  await send(server, 'POST', `/jobs/${id}/close`, { version: 1 });
  await page.goto(`${url}/inspect`);
  await expect(slot(page, 'A1')).toBeDisabled();
  await expect(page.getByLabel('Label of a module')).toHaveCount(0);
  await page.goto(`${url}/need`);
  await expect(page.getByLabel('Measured peak, GB')).toBeDisabled();
  await page.goto(`${url}/hand-over`);
  await page.getByRole('button', { name: 'Open again' }).click();
  await expect(page.getByRole('button', { name: 'Hand over and close' })).toBeEnabled();
  await page.goto(`${url}/inspect`);
  await expect(slot(page, 'A1')).toBeEnabled();
});

test('an all-soldered machine gets an honest cannot', async ({ page, server }) => {
  const part = { ...labelled('8GB LPDDR5-6400 CL17 x16'), formFactor: 'soldered' };
  const traits = {
    ...{ slots: [], generations: ['LPDDR5'], controllerLimit: 6400 },
    soldered: [
      { channel: 'A', part },
      { channel: 'B', part },
    ],
  };
  await page.goto(`${await sceneWith(server, traits, {})}/plan?view=hand`);
  await expect(page.getByText('No module can be fitted: all memory is soldered')).toBeVisible();
  await expect(page.getByLabel('Label of a module')).toHaveCount(0);
  await expect(answers(page)).toContainText('16 GB dual-channel');
});

test('a job without anything found says so at every step instead of breaking', async ({
  page,
  server,
}) => {
  const id = await sceneWithJob(server);
  const { machine } = await send<{ machine: { id: string } }>(server, 'PATCH', `/jobs/${id}`, {
    version: 1,
    need: 4,
  });
  const customer = { name: 'Empty', contact: '' };
  const bare = await send<{ id: string }>(server, 'POST', '/jobs', {
    customer,
    machineId: machine.id,
    complaint: 'x',
  });
  for (const [step, says] of [
    ['intake', 'Opened for Empty'],
    ['inspect', 'Save what was found first.'],
    ['need', 'not stated'],
    ['plan', 'Nothing is on record as found'],
    ['plan?view=hand', 'Nothing recorded yet'],
    ['quote', 'No plan has been taken yet.'],
    ['fit', 'Nothing is to be moved.'],
    ['prove', 'Record what was found first.'],
    ['hand-over', 'Not ready to close'],
    ['report', 'Nothing has been fitted yet.'],
  ] as const) {
    await page.goto(`${server.url}/jobs/${bare.id}/${step}`);
    await expect(page.getByText(says).first()).toBeVisible();
  }
});
