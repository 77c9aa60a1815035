import { readFileSync } from 'node:fs';
import type { Locator, Page } from '@playwright/test';
import { pdfText } from '../test/support/pdfText.ts';
import { expect, sceneWithJob, send, tabTo, test, typeChoice } from './support/bench.ts';

type Press = (target: Locator) => Promise<void>;

const byMouse: Press = (target) => target.click();
const byKeys: Press = async (target) => {
  await tabTo(target);
  await target.page().keyboard.press('Enter');
};

/** Hands at the simulated bench; how a button is pressed is left to who has them. */
class Hands {
  constructor(
    readonly page: Page,
    readonly press: Press,
  ) {}

  button(name: string | RegExp): Locator {
    return this.page.getByRole('button', { name, exact: typeof name === 'string' }).first();
  }

  async do(...names: readonly (string | RegExp)[]): Promise<void> {
    for (const name of names) await this.press(this.button(name));
  }

  inSlot(slot: string, name: string | RegExp): Promise<void> {
    const group = this.page.getByRole('group', { name: `Slot ${slot}` });
    return this.press(group.getByRole('button', { name }));
  }

  async open(): Promise<void> {
    await this.do('Pull the lead', 'Hold 5 s', 'Wear it', 'Open, plastic tool');
    const battery = this.page.getByRole('group', { name: 'Battery' });
    if (await battery.isVisible())
      await this.press(battery.getByRole('button', { name: 'Disconnect' }));
  }

  /** Closed and started; training is waited for. */
  async start(): Promise<void> {
    const battery = this.page.getByRole('group', { name: 'Battery' });
    if (await battery.isVisible())
      await this.press(battery.getByRole('button', { name: 'Connect', exact: true }));
    await this.do('Close it', 'Put the lead in', 'Switch on');
    const screen = this.page.getByRole('region', { name: 'Its screen' });
    while (!(await this.button('Firmware screen').isVisible())) {
      await expect(screen).toContainText('Dark screen');
      await this.do('Wait 1 min');
    }
  }

  async handOver(finding?: string): Promise<void> {
    await this.do('Hand over');
    if (finding) await this.page.getByLabel('What was behind it').selectOption({ label: finding });
    await this.do('Hand it over');
  }

  said(text: string | RegExp): Promise<void> {
    return expect(this.page.getByRole('log').getByRole('listitem').first()).toContainText(text);
  }
}

const sentence = (page: Page) =>
  page.getByRole('region', { name: 'Turn by turn' }).getByRole('heading');

test('a module that is in and not home, by mouse, left half-way and taken up again; the debrief is printed', async ({
  page,
  server,
}) => {
  await page.goto(`${server.url}/practice`);
  await page.getByRole('link', { name: 'Half of it is missing at the ticket window' }).click();
  const hands = new Hands(page, byMouse);
  await hands.do('What was done to it lately?');
  await hands.said('A second module went in on Friday.');
  await hands.open();
  await hands.do('Look along the slots');
  await hands.said('B2: not level');

  // Another tab is the same bench; so is this one after a reload.
  const other = await page.context().newPage();
  await other.goto(page.url());
  await new Hands(other, byMouse).inSlot('B2', 'Press home');
  await hands.said('Done.');
  await expect(page.getByRole('log')).toContainText('Pressed the module in B2 home');
  await other.close();
  await page.reload();
  await expect(page.getByRole('log')).toContainText('Pressed the module in B2 home');

  await hands.start();
  await hands.do('Firmware screen');
  await hands.said('Firmware: 16 GB');
  await hands.handOver('not fully seated');
  await expect(sentence(page)).toHaveText(/^Solved/);
  await expect(page.getByText(/told [\d.]+ bits?/).first()).toBeVisible();

  const printed = (await pdfText(await page.pdf())).join(' ');
  expect(printed).toContain('Pressed the module in B2 home');
  expect(printed).toContain('In is not seated');
  expect(printed).not.toContain('Start again');

  await page.getByRole('link', { name: 'All exercises' }).first().click();
  await expect(page.getByText(/solved, best [\d.]+ min/)).toBeVisible();
  await expect(page.getByText('Rules shown to be known: 1 of 30')).toBeVisible();
});

test('two modules on one channel moved apart, with the keyboard alone @night', async ({
  page,
  server,
}) => {
  await page.goto(`${server.url}/practice/deck-plan`);
  const hands = new Hands(page, byKeys);
  await hands.open();
  await hands.inSlot('A1', 'Pull');
  await hands.do('Take in hand');
  await hands.inSlot('B2', /^Put module/);
  await hands.do('Press both sides home');
  await hands.start();
  await hands.do('Measuring page');
  await expect(page.getByRole('region', { name: 'Its screen' })).toContainText(/\d\d(\.\d)? GB\/s/);
  await hands.handOver();
  await expect(sentence(page)).toHaveText(/^Solved/);
});

test('a module pulled under power is stopped before it does harm, and no hand-over makes it good', async ({
  page,
  server,
}) => {
  await page.goto(`${server.url}/practice/two-blues`);
  const hands = new Hands(page, byMouse);
  await hands.do('Pull the lead', 'Wear it', 'Open, plastic tool', 'Put the lead in', 'Switch on');
  await hands.inSlot('A2', 'Pull');
  await expect(page.getByRole('alert')).toContainText('Stopped: touched under power');
  await expect(page.getByRole('alert')).toContainText('Lead out, pack disconnected');
  // The module is where it was, and the work can be done properly.
  await hands.do('Shut down', 'Pull the lead', 'Hold 5 s');
  await hands.inSlot('A2', 'Pull');
  await hands.do('Take in hand');
  await hands.inSlot('B2', /^Put module/);
  await hands.do('Press both sides home');
  await hands.start();
  await hands.do('Measuring page');
  await hands.handOver('modules in the wrong slots');
  await expect(sentence(page)).toHaveText(/1 act would have hurt somebody or something/);
  await page.getByRole('button', { name: /why: Touched under power/i }).click();
  await expect(page.getByRole('region', { name: /^Why/ })).toContainText('can kill both');
  await hands.do('Start again');
  await expect(page.getByText('Nothing yet. The clock stands.')).toBeVisible();
});

test('half the figure is the clock: nothing is opened, with the keyboard alone', async ({
  page,
  server,
}) => {
  await page.goto(`${server.url}/practice/half-speed`);
  const hands = new Hands(page, byKeys);
  await hands.do('Switch on');
  while (!(await hands.button('Firmware screen').isVisible())) await hands.do('Wait 1 min');
  await hands.do('Firmware screen');
  await hands.said(/Firmware: 16 GB, 1600 MHz/);
  await hands.do('Hand over');
  await typeChoice(page.getByLabel('What was behind it'), 'a reading taken the wrong way');
  await expect(page.getByLabel('What was behind it')).toHaveValue('reading mistaken');
  await hands.do('Hand it over');
  await expect(sentence(page)).toHaveText(/^Solved/);
});

test.describe('on a phone', () => {
  test.use({ viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true });

  test('the wrong kind does not go in; the right one is ordered and fitted', async ({
    page,
    server,
  }) => {
    await page.goto(`${server.url}/practice/gangway-laptop`);
    const hands = new Hands(page, (target) => target.tap());
    await hands.open();
    await hands.do('Take in hand');
    await hands.inSlot('B1', /^Put module/);
    await hands.do('Press both sides home');
    await hands.said('It does not go in: the key is at another place');
    await hands.do('Order it');
    await expect(page.getByText('Waited for parts')).toBeAttached();
    const mat = page.getByRole('region', { name: 'Beside the machine' }).getByRole('listitem');
    await mat.filter({ hasText: 'module C' }).getByRole('button', { name: 'Take in hand' }).tap();
    await hands.inSlot('B1', /^Put module C/);
    await hands.do('Press both sides home');
    await hands.start();
    await hands.handOver();
    await expect(sentence(page)).toHaveText(/^Solved/);
  });
});

test('a closed job becomes an exercise: words changed, exported, played; a broken file is refused in words @night', async ({
  page,
  server,
}) => {
  const id = await sceneWithJob(server);
  const found = await send<{ snapshots: { placement: Record<string, object> }[] }>(
    server,
    'GET',
    `/jobs/${id}`,
    undefined,
  );
  const module = found.snapshots[0]?.placement.a1;
  await send(server, 'PUT', `/jobs/${id}/snapshots/as-fitted`, {
    ...{ placement: { a1: module, b1: module }, setting: 'standard', version: 0 },
  });
  const { version } = await send<{ version: number }>(server, 'GET', `/jobs/${id}`, undefined);
  await send(server, 'POST', `/jobs/${id}/close`, { version });
  await page.goto(`${server.url}/jobs/${id}/hand-over`);
  await page.getByRole('button', { name: 'Make an exercise of it' }).click();
  await page.getByLabel('Title').fill('One became two');
  await page.getByLabel('What the customer says').fill('One module is not enough.');
  await page.getByLabel('GB to use, at least').fill('512');
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByRole('alert')).toContainText('The goal cannot be reached: 512 GB');
  await page.getByLabel('GB to use, at least').fill('16');
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByRole('heading', { name: 'One became two' })).toBeVisible();

  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Export it' }).click();
  const text = readFileSync(await (await download).path(), 'utf8');
  expect(text).toContain('One module is not enough.');
  expect(text).not.toContain('Scene desktop');

  const hands = new Hands(page, byMouse);
  await hands.do('Order it');
  await hands.open();
  await hands.do('Take in hand');
  await hands.inSlot('B1', /^Put module/);
  await hands.do('Press both sides home');
  await hands.start();
  await hands.handOver();
  await expect(sentence(page)).toHaveText(/^Solved/);

  await page.goto(`${server.url}/practice`);
  const file = (name: string, content: string) =>
    page
      .getByLabel('Take in an exercise file')
      .setInputFiles({ name, mimeType: 'application/json', buffer: Buffer.from(content) });
  await file('cut.json', text.slice(0, 200));
  await expect(page.getByRole('alert')).toContainText('no complete JSON');
  await file('noise.json', 'x'.repeat(10 * 2 ** 20));
  await expect(page.getByRole('alert')).toContainText('too large for an exercise');
  await file('again.json', text);
  await expect(page.getByRole('alert').last()).toContainText('already');
  await file('other.json', text.replace(/"id": "job-\d+"/, '"id": "borrowed"'));
  await expect(page.getByRole('heading', { name: 'One became two' })).toBeVisible();
  expect(page.url()).toContain('/practice/borrowed');
});

test('the sandbox: a fault hidden by hand shows, and the address carries it to somebody else', async ({
  page,
  demo,
  browser,
}) => {
  await page.goto(`${demo.url}/sandbox`);
  await page.getByRole('combobox', { name: 'Machine' }).fill('Keelson');
  await page.getByRole('listbox', { name: 'Machine: choices' }).getByRole('option').first().click();
  const slot = page
    .getByRole('region', { name: 'What is on the bench' })
    .locator('input[role=combobox]')
    .nth(1);
  await slot.fill('DDR4');
  await page
    .getByRole('listbox')
    .filter({ has: page.getByRole('option') })
    .getByRole('option')
    .first()
    .click();
  await page.getByLabel('Hide a fault').selectOption({ label: 'a lead left off' });
  const guest = await (await browser.newContext()).newPage();
  await guest.goto(page.url());
  await guest.getByRole('button', { name: 'Switch on' }).click();
  await expect(guest.getByRole('region', { name: 'Its screen' })).toContainText(
    'No picture. It signals nothing of memory.',
  );
});
