import type { Locator, Page } from '@playwright/test';
import {
  answers,
  choose as chooseIn,
  expect,
  slot,
  tabTo,
  test,
  typeChoice,
} from './support/bench.ts';

/** How one person works the interface; the walk is the same for both. */
interface Hands {
  readonly press: (target: Locator) => Promise<void>;
  readonly move: (page: Page, from: Locator, to: Locator, steps: number) => Promise<void>;
}

const mouse: Hands = {
  press: (target) => target.click(),
  move: async (page, from, to) => {
    const [a, b] = [await from.boundingBox(), await to.boundingBox()];
    if (!a || !b) throw new Error('expected both places on the screen');
    await page.mouse.move(a.x + a.width / 2, a.y + a.height / 2);
    await page.mouse.down();
    await page.mouse.move(b.x + b.width / 2, b.y + b.height / 2 - 8, { steps: 8 });
    await page.mouse.move(b.x + b.width / 2, b.y + b.height / 2, { steps: 2 });
    await expect(answers(page)).toContainText('if put there');
    await page.mouse.up();
  },
};

const keyboard: Hands = {
  press: async (target) => {
    await tabTo(target);
    await target.page().keyboard.press('Enter');
  },
  move: async (page, from, _to, steps) => {
    await tabTo(from);
    await page.keyboard.press('Enter');
    for (let presses = 0; presses < steps; presses++) await page.keyboard.press('ArrowDown');
    await expect(answers(page)).toContainText('if put there');
    await page.keyboard.press('Enter');
  },
};

async function type(hands: Hands, field: Locator, text: string): Promise<void> {
  if (hands === mouse) await field.fill(text);
  else {
    await tabTo(field);
    await field.page().keyboard.press('ControlOrMeta+a');
    await field.page().keyboard.type(text);
  }
}

/** Out of a long list: typed until it is alone, then taken. */
async function find(hands: Hands, field: Locator, label: string): Promise<void> {
  if (hands === mouse) await chooseIn(field, label);
  else {
    await tabTo(field);
    await field.page().keyboard.type(label);
    await field.page().keyboard.press('ArrowDown');
    await field.page().keyboard.press('Enter');
  }
}

async function choose(hands: Hands, field: Locator, label: string): Promise<void> {
  if (hands === mouse) await field.selectOption({ label });
  else await typeChoice(field, label);
}

/** The first part with runs to add on the page, with the form for typed ones open. */
async function typeRuns(hands: Hands, page: Page): Promise<void> {
  await hands.press(page.getByRole('button', { name: 'Add runs' }).first());
  await hands.press(page.getByRole('tab', { name: 'Measuring page' }));
  await page.keyboard.press('ArrowRight');
}

const label = '16GB 2Rx8 PC4-2400T-SE1-11';

async function walk(page: Page, hands: Hands): Promise<void> {
  await hands.press(page.getByRole('link', { name: 'New job' }));
  await hands.press(page.getByRole('link', { name: 'Describe the machine' }));
  await type(hands, page.getByLabel('Name', { exact: true }), 'Ferry office laptop');
  await choose(hands, page.getByLabel('Kind', { exact: true }), 'laptop');
  await choose(hands, page.getByLabel('Modules', { exact: true }), 'SODIMM');
  await type(hands, page.getByLabel('Controller limit, MT/s'), '2933');
  await choose(hands, page.getByLabel('Uneven channels'), 'zone');
  await hands.press(page.getByRole('button', { name: 'Add the machine' }));

  await expect(page.getByRole('heading', { name: 'New job' })).toBeVisible();
  await type(hands, page.getByLabel('Customer'), 'Ferry timetable office');
  await find(hands, page.getByLabel('Machine', { exact: true }), 'Ferry office laptop');
  await type(hands, page.getByLabel('Complaint'), 'Timetable takes minutes to open');
  await hands.press(page.getByRole('button', { name: 'Open the job' }));

  // Inspect: what is fitted, typed as labels, runs single-channel.
  const labelLine = page.getByLabel('Label of a module');
  await type(hands, labelLine, label);
  await expect(page.getByText('DDR4-2400 CL17 2Rx8 SODIMM').first()).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(slot(page, 'A1')).toContainText('16 GB');
  await type(hands, labelLine, '8GB DDR4-3200 CL22 SODIMM');
  await choose(hands, page.getByLabel('goes to'), 'A2');
  await hands.press(page.getByRole('button', { name: /Put in/ }));
  await expect(slot(page, 'A2')).toContainText('8 GB');
  await expect(answers(page)).toContainText('DDR4-2400 · CL 17');
  await expect(answers(page)).toContainText('single-channel');
  await expect(page.getByText('All modules share one channel')).toBeVisible();
  await hands.press(page.getByRole('button', { name: /Save as found/ }));

  await typeRuns(hands, page);
  await type(hands, page.getByLabel('Runs, GB/s'), '14.0 14.2 13.9');
  await hands.press(page.getByRole('button', { name: 'Save runs' }));
  await expect(page.getByText('mean 14 GB/s')).toBeVisible();

  await hands.press(page.getByRole('link', { name: 'Next: need' }));
  await type(hands, page.getByLabel('Measured peak, GB'), '12');
  await hands.press(page.getByRole('button', { name: 'Save the need' }));
  await expect(answers(page)).toContainText('15 GB');
  await hands.press(page.getByRole('link', { name: 'Next: plan' }));

  // Plan by hand: move one module to the other channel; the ladder names what binds, and why.
  await hands.press(page.getByRole('link', { name: 'By hand' }));
  await hands.move(page, slot(page, 'A2'), slot(page, 'B1'), 1);
  await expect(slot(page, 'B1')).toContainText('moved');
  await expect(answers(page)).toContainText('16 of 24 GB dual-channel');
  await expect(answers(page)).toContainText('38.4 GB/s');
  await hands.press(page.getByRole('button', { name: 'why: Slowest module: A1' }));
  await expect(page.getByRole('region', { name: /Why: Slowest module/ })).toContainText(
    '2933 MT/s',
  );
  await page.keyboard.press('Escape');
  await expect(page.getByRole('button', { name: 'why: Slowest module: A1' })).toBeFocused();
  await page.keyboard.press('Control+z');
  await expect(answers(page)).toContainText('single-channel');
  await page.keyboard.press('Control+Shift+z');
  await expect(answers(page)).toContainText('16 of 24 GB dual-channel');
  await page.keyboard.press('p');
  await hands.press(page.getByRole('link', { name: 'Next: quote' }));

  // Quote: only labour, since nothing is bought; the customer says yes.
  await hands.press(page.getByRole('button', { name: 'Issue the quote' }));
  // Both sides are simulated first: ten seconds, in a slow hour many.
  await expect(page.getByText(/^Quote \d+-1$/)).toBeVisible({ timeout: 60_000 });
  await hands.press(page.getByRole('button', { name: 'Record the answer' }));
  await expect(page.getByText(/accepted by/)).toBeVisible();
  await hands.press(page.getByRole('link', { name: 'Next: fit' }));

  await expect(page.getByRole('checkbox', { name: 'Pull 8 GB out of A2' })).toBeVisible();
  await hands.press(page.getByRole('button', { name: /Record as fitted/ }));
  await hands.press(page.getByRole('link', { name: 'Next: prove' }));

  // Prove: the clock trap, runs after, and a verdict.
  await hands.press(page.locator('summary').filter({ hasText: 'Rate on a screen' }));
  await type(hands, page.getByLabel('The screen shows, MHz or MT/s'), '1200');
  await expect(page.getByText('2400 MT/s, as expected')).toBeVisible();
  await expect(page.getByText('not half speed')).toBeVisible();
  await typeRuns(hands, page);
  await type(hands, page.getByLabel('Runs, GB/s'), '27.6 27.9 27.7');
  await hands.press(page.getByRole('button', { name: 'Save runs' }));
  // The gain is sure; of an uneven set no test can tell how its channels ran, and that is said.
  await expect(answers(page)).toContainText('Better, inside the promise');
  await expect(answers(page)).toContainText('Channel mode: can’t tell');
  await expect(page.getByRole('article', { name: /memory copy/ })).toContainText('×1.98');

  await hands.press(page.getByRole('link', { name: 'Next: hand over' }));
  await hands.press(page.getByRole('button', { name: 'Record a memory test' }));
  await type(hands, page.getByLabel('Duration, min'), '95');
  await type(hands, page.getByLabel('Full passes'), '2');
  await hands.press(page.getByRole('button', { name: 'Record it' }));
  await expect(page.getByText('A memory test passed on what sits in it now')).toBeVisible();
  await hands.press(page.getByRole('button', { name: 'Hand over and close' }));
  await expect(answers(page)).toContainText('Closed with');
  await hands.press(page.getByRole('link', { name: 'Open the report to print' }));
  await expect(page.getByRole('article')).toContainText('Ferry timetable office');
  await expect(page.getByRole('article')).toContainText('part of the memory works side by side');
}

for (const [name, hands] of [
  ['by mouse @night', mouse],
  ['by keyboard alone', keyboard],
] as const)
  test(`the walk from a bare bench to a proven upgrade, ${name}`, async ({
    page,
    alone: server,
  }) => {
    await page.goto(server.url);
    await expect(page.getByText('The bench is clear.')).toBeVisible();
    await walk(page, hands);

    // The report is one page of A4.
    const pdf = (await page.pdf({ format: 'A4', preferCSSPageSize: true })).toString('latin1');
    expect(pdf.match(/\/Type\s*\/Page\b/g)).toHaveLength(1);

    // And all of it is there after the server was killed.
    await server.kill();
    await server.up();
    await page.reload();
    await expect(page.getByRole('article')).toContainText('×1.98');
    await page.goto(server.url);
    await page.getByRole('button', { name: 'Closed jobs' }).click();
    await expect(page.getByText('Ferry timetable office')).toBeVisible();
    await expect(page.getByText('Better, inside the promise')).toBeVisible();
  });
