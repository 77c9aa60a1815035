import { gzipSync } from 'node:zlib';
import type { Locator } from '@playwright/test';
import { expect, sceneWithJob, send, test } from './support/bench.ts';

test('everything is found by typing: jobs, machines, pages and what can be done here', async ({
  page,
  server,
}) => {
  const id = await sceneWithJob(server);
  await page.goto(`${server.url}/jobs/${id}/plan?view=hand`);
  await page.getByRole('heading', { name: 'Slot board' }).waitFor();
  await page.keyboard.press('Control+k');
  const box = page.getByPlaceholder(/Job number/);
  await box.fill('scene customer');
  // One presses Enter on what one sees; the jobs are fetched when the palette opens.
  await expect(page.getByRole('option', { name: /Scene customer/ })).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/\/inspect$/);
  await page.keyboard.press('Control+k');
  await box.fill('describe');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'A new machine' })).toBeVisible();
  await page.goto(`${server.url}/jobs/${id}/plan?view=hand`);
  await page.getByRole('heading', { name: 'Slot board' }).waitFor();
  await page.keyboard.press('Control+k');
  await box.fill('take as plan');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('link', { name: 'Next: quote' })).toBeVisible();
  await page.keyboard.press('Control+k');
  await box.fill('zzzz');
  await expect(page.getByText('Nothing of that name')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(box).toHaveCount(0);
});

test('a page stays where it is once it shows: the bar has its place before it is known who is here, lines are written in their own letters', async ({
  page,
  server,
}) => {
  const warnings: string[] = [];
  page.on('console', (message) => message.type() === 'warning' && warnings.push(message.text()));
  for (const width of [1280, 390]) {
    await page.setViewportSize({ width, height: 800 });
    let answer: () => void = () => undefined;
    const held = new Promise<void>((settle) => {
      answer = settle;
    });
    await page.route('**/api/session', async (route) => {
      await held;
      await route.continue();
    });
    await page.goto(`${server.url}/machines`);
    const head = page.getByRole('heading', { name: 'Machines' });
    await expect(head).toBeVisible();
    await page.evaluate(() => document.fonts.ready);
    const before = await head.boundingBox();
    answer();
    await expect(page.getByRole('link', { name: /^Your account/ })).toBeVisible();
    await expect(page.getByRole('navigation', { name: 'Library' })).toBeVisible();
    expect(await head.boundingBox()).toEqual(before);
    await page.unroute('**/api/session');
  }
  const fonts = await page.evaluate(() =>
    performance
      .getEntriesByType('resource')
      .filter(({ name }) => name.endsWith('.woff2'))
      .map((one) => (one as PerformanceResourceTiming).initiatorType),
  );
  // Asked for by the page itself; what its style sheet asks for comes late.
  expect(fonts).toEqual(['link', 'link']);
  // A font fetched early and not used would be said here.
  expect(warnings).toEqual([]);
});

test('the first page comes with no more than 200 kB of script, packed', async ({ server }) => {
  const html = await (await fetch(server.url)).text();
  const scripts = [...html.matchAll(/(?:src|href)="(\/assets\/[^"]+\.js)"/g)].map(
    ([, path]) => path,
  );
  expect(scripts.length).toBeGreaterThan(1);
  let bytes = 0;
  for (const path of scripts)
    bytes += gzipSync(await (await fetch(server.url + path)).text()).length;
  expect(bytes).toBeLessThanOrEqual(200_000);
});

test('? lists the keys that work here, and letters typed into a field stay letters', async ({
  page,
  server,
}) => {
  const id = await sceneWithJob(server);
  await page.goto(`${server.url}/jobs/${id}/plan?view=hand`);
  await page.getByRole('heading', { name: 'Slot board' }).waitFor();
  await page.keyboard.press('?');
  const dialog = page.getByRole('dialog', { name: 'Keys that work here' });
  await expect(dialog).toContainText('Take as plan');
  await expect(dialog).toContainText('pick a module up');
  // In a low window the list goes on below, and can be got to.
  await page.setViewportSize({ width: 740, height: 360 });
  await dialog.getByText('Let go, close the reasons').scrollIntoViewIfNeeded();
  await expect(dialog.getByText('Let go, close the reasons')).toBeInViewport();
  await page.setViewportSize({ width: 1280, height: 800 });
  await page.keyboard.press('Escape');
  await page.getByLabel('Label of a module').fill('');
  await page.keyboard.type('p?n');
  await expect(page.getByLabel('Label of a module')).toHaveValue('p?n');
  await expect(dialog).toHaveCount(0);
  await expect(page.getByRole('button', { name: /Take as plan/ })).toBeVisible();
  await page.goto(server.url);
  await page.getByRole('heading', { name: 'Next on the bench' }).waitFor();
  await page.keyboard.press('/');
  await expect(page.getByRole('searchbox')).toBeFocused();
  await page.keyboard.type('scene');
  await page.getByRole('heading', { name: 'Next on the bench' }).click();
  await page.keyboard.press('n');
  await expect(page.getByRole('heading', { name: 'New job' })).toBeVisible();
});

test('the theme follows the system until one is chosen, and the choice is kept', async ({
  page,
  server,
}) => {
  await page.emulateMedia({ colorScheme: 'dark' });
  await page.goto(server.url);
  const theme = () => page.evaluate(() => document.documentElement.dataset.theme);
  expect(await theme()).toBe('dark');
  await page.getByRole('button', { name: 'Light' }).click();
  expect(await theme()).toBe('light');
  await page.reload();
  await page.getByRole('button', { name: 'Dark' }).waitFor();
  expect(await theme()).toBe('light');
});

test('a module is added, suggested, corrected, and a stale correction shows both sides', async ({
  page,
  context,
  server,
}) => {
  await page.goto(`${server.url}/modules`);
  await expect(page.getByText('The catalogue is empty.')).toBeVisible();
  const label = '16GB 2Rx8 PC4-2666V-SE1-11 ORL-16S26';
  await page.getByLabel('Add a module by its label').fill(label);
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await expect(page.getByRole('cell', { name: label, exact: true })).toBeVisible();

  const other = await context.newPage();
  for (const tab of [page, other]) {
    await tab.goto(`${server.url}/modules`);
    await tab.getByRole('button', { name: `Correct ${label}` }).click();
  }
  await page.getByLabel('Correct the label').fill(`${label}.R2`);
  await page.getByRole('button', { name: 'Save the correction' }).click();
  await expect(page.getByRole('cell', { name: `${label}.R2`, exact: true })).toBeVisible();
  await other.getByLabel('Correct the label').fill(`${label}.R3`);
  await other.getByRole('button', { name: 'Save the correction' }).click();
  const alert = other.getByRole('alert');
  await expect(alert.getByRole('row', { name: /^Label/ })).toContainText(`${label}.R2`);
  await alert.getByRole('button', { name: 'Save mine over theirs' }).click();
  await expect(other.getByRole('cell', { name: `${label}.R3`, exact: true })).toBeVisible();

  const id = await sceneWithJob(server);
  await page.goto(`${server.url}/jobs/${id}/plan?view=hand`);
  const suggestions = page.locator('datalist option');
  await expect(suggestions).toHaveCount(1);
  await expect(suggestions).toHaveAttribute('value', `${label}.R3`);
});

test('a machine changed in two places shows the fields that differ', async ({
  page,
  context,
  server,
}) => {
  await sceneWithJob(server);
  const other = await context.newPage();
  for (const tab of [page, other]) {
    await tab.goto(`${server.url}/machines`);
    await tab.getByRole('link', { name: /^Scene desktop/ }).click();
    await tab.getByLabel('Controller limit, MT/s').fill(tab === page ? '2933' : '2666');
  }
  await page.getByRole('button', { name: 'Save the machine' }).click();
  await expect(page.getByText('Saved')).toBeVisible();
  await other.getByRole('button', { name: 'Save the machine' }).click();
  const alert = other.getByRole('alert');
  await expect(alert.getByRole('row', { name: /^controllerLimit/ })).toHaveText(
    /controllerLimit\s*2666\s*2933/,
  );
  await alert.getByRole('button', { name: 'Take theirs' }).click();
  await expect(other.getByLabel('Controller limit, MT/s')).toHaveValue('2933');
});

test('addresses that lead nowhere lead back', async ({ page, server }) => {
  await page.goto(`${server.url}/no/such/page`);
  await expect(page.getByRole('heading', { name: 'No such page' })).toBeVisible();
  await page.getByRole('link', { name: 'Go to the bench' }).click();
  await expect(page.getByText('The bench is clear.')).toBeVisible();
  await page.goto(`${server.url}/jobs/nope/plan`);
  await expect(page.getByRole('alert')).toContainText('This job is not there.');
  await page.goto(`${server.url}/machines/nope`);
  await expect(page.getByRole('alert')).toContainText('This machine is not there.');
});

test('where the system sets the colours, buttons, the current page and what is drawn can still be told', async ({
  page,
  server,
}) => {
  const id = await sceneWithJob(server);
  await send(server, 'PATCH', `/jobs/${id}`, { version: 1, need: 6 });
  await page.emulateMedia({ forcedColors: 'active' });
  await page.goto(`${server.url}/jobs/${id}/plan?view=hand`);
  const style = (locator: Locator, name: string) =>
    locator.evaluate((element, of) => getComputedStyle(element).getPropertyValue(of), name);
  const canvas = await style(page.locator('body'), 'background-color');
  const underline = (name: string) =>
    style(page.getByRole('link', { name }), 'border-bottom-color');
  expect(await underline('By hand')).not.toBe(canvas);
  expect(await underline('Compare')).toBe(canvas);
  const main = page.getByRole('button', { name: /^Take as plan/ });
  expect(await style(main, 'border-top-width')).toBe('1px');
  const line = page.locator('figure .bg-copper').last();
  expect(await style(line, 'background-color')).not.toBe(canvas);
  const lane = page.locator('figure [class*=lane-]').first();
  expect(await style(lane, 'background-color')).not.toBe(canvas);
  // Steps done and still open differ by more than a word.
  const marks = page
    .getByRole('navigation', { name: 'Steps of this job' })
    .locator('span[aria-hidden]');
  const fills = new Set<string>();
  for (const mark of await marks.all()) fills.add(await style(mark, 'background-color'));
  expect(fills.size).toBeGreaterThan(1);
});

test('what is printed from a dark screen is ink on paper', async ({ page, server }) => {
  const id = await sceneWithJob(server);
  const inkOf = async (colorScheme: 'light' | 'dark', media: 'screen' | 'print') => {
    await page.emulateMedia({ colorScheme, media });
    await page.goto(`${server.url}/jobs/${id}/report`);
    const article = page.getByRole('article');
    await article.waitFor();
    return article.evaluate((element) => {
      const { color, backgroundColor } = getComputedStyle(element);
      return { color, backgroundColor };
    });
  };
  const light = await inkOf('light', 'screen');
  expect(await inkOf('dark', 'screen')).not.toEqual(light);
  expect(await inkOf('dark', 'print')).toEqual(light);
  await page.goto(`${server.url}/jobs/${id}/inspect`);
  const lane = page.locator('figure [class*=lane-]').first();
  await expect(lane).toHaveCSS('print-color-adjust', 'exact');
});

test('a chart is drawn anew in the colours of another theme, and in those of paper', async ({
  page,
  server,
}) => {
  await page.emulateMedia({ colorScheme: 'light' });
  await page.goto(`${server.url}/calculators?cl=16&at=3200`);
  const chart = page.locator('canvas').first();
  await chart.waitFor();
  await page.evaluate(() => document.fonts.ready);
  /** How bright the words and lines of the chart are, 0 to 255. */
  const brightness = () =>
    chart.evaluate((canvas: HTMLCanvasElement) => {
      const { data } = canvas.getContext('2d')?.getImageData(0, 0, canvas.width, canvas.height) ?? {
        data: new Uint8ClampedArray(),
      };
      let [sum, drawn] = [0, 0];
      for (let at = 0; at < data.length; at += 4)
        if ((data[at + 3] ?? 0) > 200) {
          sum += ((data[at] ?? 0) + (data[at + 1] ?? 0) + (data[at + 2] ?? 0)) / 3;
          drawn++;
        }
      return Math.round(sum / drawn);
    });
  const light = await brightness();
  await page.getByRole('button', { name: 'Dark', exact: true }).click();
  await expect.poll(brightness).not.toBe(light);
  const dark = await brightness();
  await page.emulateMedia({ media: 'print' });
  await expect.poll(async () => Math.abs((await brightness()) - light)).toBeLessThan(8);
  await page.emulateMedia({ media: 'screen' });
  await expect.poll(brightness).toBe(dark);
  await page.getByRole('button', { name: 'Light', exact: true }).click();
  await expect.poll(brightness).toBe(light);
});
