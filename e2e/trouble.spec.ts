import type { Page, Route } from '@playwright/test';
import { desktop } from '../test/support/builders.ts';
import { answers, expect, runsBy, sceneWithJob, send, slot, test } from './support/bench.ts';

const addModule = async (page: Page, label: string) => {
  await page.getByLabel('Label of a module').fill(label);
  await page.keyboard.press('Enter');
};

test('two tabs on one job: the later save shows both sides, and nothing is overwritten unasked', async ({
  page,
  context,
  server,
}) => {
  const id = await sceneWithJob(server);
  const other = await context.newPage();
  for (const tab of [page, other]) {
    await tab.goto(`${server.url}/jobs/${id}/need`);
    await tab.getByLabel('Measured peak, GB').fill(tab === page ? '12' : '20');
  }
  await page.getByRole('button', { name: 'Save the need' }).click();
  await expect(page.getByRole('alert')).toHaveCount(0);
  await other.getByRole('button', { name: 'Save the need' }).click();
  const alert = other.getByRole('alert');
  await expect(alert).toContainText('changed elsewhere');
  await expect(alert.getByRole('row', { name: /^need/ })).toHaveText(/need\s*20 GB\s*12 GB/);
  await alert.getByRole('button', { name: 'Save mine over theirs' }).click();
  await expect(alert).toHaveCount(0);
  await page.reload();
  await expect(page.getByLabel('Measured peak, GB')).toHaveValue('20');

  // The same on the slot board.
  for (const tab of [page, other]) await tab.goto(`${server.url}/jobs/${id}/plan?view=hand`);
  for (const tab of [page, other]) {
    await addModule(
      tab,
      tab === page ? '8GB 1Rx8 PC4-2400T-UA1-11' : '16GB 1Rx8 PC4-3200AA-UA1-11',
    );
    await expect(slot(tab, 'B1')).not.toContainText('empty');
  }
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: /Take as plan/ }).click();
  await expect(page.getByRole('link', { name: 'Next: quote' })).toBeVisible();
  await other.getByRole('button', { name: /Take as plan/ }).click();
  await expect(other.getByRole('alert')).toContainText('24 GB');
  await other.getByRole('button', { name: 'Take theirs' }).click();
  await expect(slot(other, 'B1')).toContainText('8 GB');
  await expect(answers(other)).toContainText('16 GB dual-channel');
});

test('the server goes while editing: it is said, nothing is lost, and the save goes through later', async ({
  page,
  alone: server,
}) => {
  const id = await sceneWithJob(server);
  await page.goto(`${server.url}/jobs/${id}/plan?view=hand`);
  await addModule(page, '8GB 1Rx8 PC4-2400T-UA1-11');
  await server.kill();
  await page.getByRole('button', { name: /Take as plan/ }).click();
  await expect(page.getByText('Not saved yet')).toBeVisible();
  await expect(page.getByText('The server does not answer. What you enter')).toBeVisible();
  // Work goes on: the core computes here.
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(slot(page, 'B1')).toContainText('empty');
  await page.getByRole('button', { name: 'Redo' }).click();
  await server.up();
  await expect(page.getByText('Not saved yet')).toHaveCount(0, { timeout: 20_000 });
  await expect(page.getByRole('link', { name: 'Next: quote' })).toBeVisible();
  await page.reload();
  await expect(slot(page, 'B1')).toContainText('8 GB');
});

test('the bench goes while parts of the page are still to be fetched: they are waited for, and the page stays @night', async ({
  page,
  alone: server,
}) => {
  const id = await sceneWithJob(server);
  // What tells this screen of the others is fetched last, and is still on its way when the bench goes.
  const gate = () => {
    let open: () => void = () => undefined;
    const isOpen = new Promise<void>((go) => (open = go));
    return { open, isOpen };
  };
  const [cut, letThrough] = [gate(), gate()];
  let isFirst = true;
  await page.route('**/assets/Live-*.js', async (route: Route) => {
    if (!isFirst) return letThrough.isOpen.then(() => route.continue());
    isFirst = false;
    await cut.isOpen;
    await route.abort();
  });
  await page.goto(`${server.url}/jobs/${id}/plan?view=hand`);
  await addModule(page, '8GB 1Rx8 PC4-2400T-UA1-11');
  await expect(slot(page, 'B1')).toContainText('8 GB');
  await server.kill();
  cut.open();
  // A page that was not opened yet: the board stands until it is there.
  await page.getByRole('link', { name: 'Library' }).click();
  await expect(page.getByText('The server does not answer. What you enter')).toBeVisible();
  await expect(slot(page, 'B1')).toContainText('8 GB');
  await server.up();
  await expect(page).toHaveURL(/\/machines$/);
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
  // What was cut off comes in the end: this screen hears of the others, also of what they did meanwhile.
  await send(server, 'POST', '/machines', { machine: desktop({ name: 'Told by another' }) });
  letThrough.open();
  await expect(page.getByText('Told by another')).toBeVisible();
});

test('a draft outlives leaving the page, on the board and in forms', async ({ page, server }) => {
  const id = await sceneWithJob(server);
  await page.goto(`${server.url}/jobs/${id}/plan?view=hand`);
  await addModule(page, '8GB 1Rx8 PC4-2400T-UA1-11');
  await page.goto(`${server.url}/jobs/${id}/inspect`);
  await runsBy(page, 'Type them');
  await page.getByLabel('Runs, GB/s').fill('14.1 14.2');
  await page.goto(`${server.url}/jobs/new`);
  await page.getByLabel('Customer').fill('Half typed');
  await page.reload();
  await expect(page.getByLabel('Customer')).toHaveValue('Half typed');
  await page.goto(`${server.url}/jobs/${id}/inspect`);
  await expect(page.getByLabel('Runs, GB/s')).toHaveValue('14.1 14.2');
  await page.goto(`${server.url}/jobs/${id}/plan?view=hand`);
  await expect(slot(page, 'B1')).toContainText('8 GB');
});

test.describe('bad input on every form says what is wrong and loses nothing', () => {
  test('new job', async ({ page, server }) => {
    await page.goto(`${server.url}/jobs/new`);
    await page.getByRole('button', { name: 'Open the job' }).click();
    for (const text of ['Enter the customer’s name.', 'Choose the machine', 'Enter the complaint.'])
      await expect(page.getByText(text)).toBeVisible();
    await page.getByLabel('Customer').fill('🐧'.repeat(2500));
    await page.getByRole('button', { name: 'Open the job' }).click();
    await expect(page.getByText('120 characters at most')).toBeVisible();
    await expect(page.getByLabel('Customer')).toHaveValue('🐧'.repeat(2500));
  });

  test('machine', async ({ page, server }) => {
    await page.goto(`${server.url}/machines/new`);
    const add = page.getByRole('button', { name: 'Add the machine' });
    await add.click();
    await expect(page.getByText('Enter the name of the machine.')).toBeVisible();
    await page.getByLabel('Name', { exact: true }).fill('Puffin 🐧 box');
    await page.getByLabel('Controller limit, MT/s').fill('fast');
    await add.click();
    await expect(page.getByText('“fast” is not a number.')).toBeVisible();
    await page.getByLabel('Controller limit, MT/s').fill('3200');
    for (let count = 0; count < 4; count++)
      await page.getByRole('button', { name: 'Remove slot 1' }).click();
    await add.click();
    await expect(page.getByText('No slots and no soldered memory. Add a slot')).toBeVisible();
    for (let count = 1; count <= 17; count++) {
      await page.getByRole('button', { name: 'Add a slot' }).click();
      await page.getByLabel(`Slot ${count}, printed name`).fill(`S${count}`);
    }
    await add.click();
    await expect(page.getByText('17 slots are too many')).toBeVisible();
    await page.getByRole('button', { name: 'Remove slot 17' }).click();
    await add.click();
    await expect(page.getByRole('heading', { name: 'Puffin 🐧 box' })).toBeVisible();
  });

  test('labels, runs, need and terms', async ({ page, server }) => {
    const id = await sceneWithJob(server);
    await page.goto(`${server.url}/jobs/${id}/inspect`);
    const line = page.getByLabel('Label of a module');
    for (const [label, says] of [
      ['hello there', 'The size is missing'],
      ['7GB DDR4-2400', 'Look again: 4 GB or 8 GB?'],
      ['8GB DDR4 PC3-12800U-11', 'contradicts itself'],
      ['x'.repeat(5000), 'Too long for a label'],
    ] as const) {
      await line.fill(label);
      await page.keyboard.press('Enter');
      await expect(page.getByText(says)).toBeVisible();
      await expect(line).toHaveValue(label);
    }
    await line.fill('8GB 2Rx8 PC3-12800S-11-13-F3');
    await page.keyboard.press('Enter');
    await expect(page.getByText('✕ DDR3 does not fit B1')).toBeVisible();
    await expect(answers(page)).toContainText('Does not run');
    await page.getByRole('button', { name: 'Undo' }).click();

    await runsBy(page, 'Type them');
    const runs = page.getByLabel('Runs, GB/s');
    for (const [text, says] of [
      ['-3 14', 'a run is more than 0'],
      ['NaN', '“NaN” is not a number'],
      ['31200', '1000 times larger'],
      ['14.2', 'One run says nothing about noise'],
    ] as const) {
      await runs.fill(text);
      await expect(page.getByText(says)).toBeVisible();
    }
    await runs.fill('-3');
    await page.getByRole('button', { name: 'Save runs' }).click();
    await expect(runs).toHaveValue('-3');

    await page.goto(`${server.url}/jobs/${id}/need`);
    await page.getByLabel('Measured peak, GB').fill('a lot');
    await page.getByRole('button', { name: 'Save the need' }).click();
    await expect(page.getByText('Type a figure, such as 12.5.')).toBeVisible();
    await page.goto(`${server.url}/jobs/${id}/intake`);
    await page.getByLabel('Complaint').fill('');
    await page.getByRole('button', { name: 'Save', exact: true }).click();
    await expect(page.getByText('Enter the complaint.')).toBeVisible();
    await page.goto(`${server.url}/modules`);
    await page.getByLabel('Add a module by its label').fill('9GB DDR4');
    await page.getByRole('button', { name: 'Add', exact: true }).click();
    await expect(page.getByText('The label is incomplete')).toBeVisible();
  });

  test('a baseline on other modules is refused, and saving the runs again mends it', async ({
    page,
    server,
  }) => {
    const id = await sceneWithJob(server);
    await page.goto(`${server.url}/jobs/${id}/inspect`);
    await runsBy(page, 'Type them');
    await page.getByLabel('Runs, GB/s').fill('14 14.1 13.9');
    await page.getByRole('button', { name: 'Save runs' }).click();
    await expect(page.getByText('mean 14 GB/s')).toBeVisible();
    await addModule(page, '8GB 1Rx8 PC4-2400T-UA1-11');
    await page.getByRole('button', { name: /Save as found/ }).click();
    await page.getByRole('link', { name: 'Fit open' }).click();
    await page.getByRole('button', { name: /Record as fitted/ }).click();
    await page.getByRole('link', { name: 'Next: prove' }).click();
    await expect(page.getByText('The baseline was taken on other modules')).toBeVisible();
    await page.getByRole('button', { name: 'Correct memory copy' }).click();
    await page.getByRole('button', { name: 'Save the correction' }).click();
    await expect(page.getByText('The baseline was taken on other modules')).toHaveCount(0);
  });
});
