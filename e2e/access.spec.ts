import type { Page } from '@playwright/test';
import { expect, part, person, sceneWithJob, send, slot, test } from './support/bench.ts';
import { ServerProcess } from './support/server.ts';

const PASSWORD = 'brine harbour 7 oak';

async function signIn(page: Page, name: string, password = PASSWORD): Promise<void> {
  await page.getByLabel('Name', { exact: true }).fill(name);
  await page.getByLabel('Password', { exact: true }).fill(password);
  await page.getByRole('button', { name: 'Sign in' }).click();
}

test('the first start: owner, people, and what each of them may; a left bench is held', async ({
  page,
  browser,
}) => {
  const server = await ServerProcess.startUnowned();
  try {
    await page.goto(`${server.url}/shop`);
    await expect(page.getByRole('heading', { name: 'Whose bench is this?' })).toBeVisible();
    await page.getByLabel('Your name').fill('Ottoline V.');
    await page.getByLabel('Password', { exact: true }).fill('password password');
    await page.getByRole('button', { name: 'Open the bench' }).click();
    await expect(page.getByRole('alert')).toContainText('too easily guessed');
    await page.getByLabel('Password', { exact: true }).fill('kelp lantern tide 9');
    await page.getByRole('button', { name: 'Open the bench' }).click();
    // Where one wanted to go.
    await expect(page.getByRole('heading', { name: 'Shop', exact: true })).toBeVisible();

    await page.getByRole('link', { name: 'People' }).click();
    const add = part(page, 'Add somebody');
    for (const [name, role] of [
      ['Bram Oddmund', 'technician'],
      ['Isolde Quill', 'counter'],
    ] as const) {
      await add.getByLabel('Name').fill(name);
      await add.getByLabel('Role').selectOption(role);
      await add.getByLabel('First password').fill(PASSWORD);
      await add.getByRole('button', { name: 'Add', exact: true }).click();
      await expect(page.getByRole('listitem', { name })).toBeVisible();
    }
    // The only owner cannot be made less; nothing was changed, and it is said what would mend it.
    const own = page.getByRole('listitem', { name: 'Ottoline V.' });
    await own.getByLabel('Role').selectOption('counter');
    await own.getByRole('button', { name: 'Save' }).click();
    await expect(own.getByRole('alert')).toContainText('Make somebody else owner first');
    await page.getByRole('link', { name: 'Changes' }).click();
    await expect(page.getByRole('row', { name: /Role, Isolde Quill/ })).toContainText('counter');

    // The counter: no people, no prices of the shop; intake goes, the open machine does not.
    const counter = await (await browser.newContext()).newPage();
    await counter.goto(`${server.url}/shop`);
    await signIn(counter, 'Isolde Quill', 'not this one at all');
    await expect(counter.getByRole('alert')).toContainText('do not belong together');
    await signIn(counter, 'isolde quill');
    await expect(counter.getByRole('heading', { name: 'Shop', exact: true })).toBeVisible();
    await expect(counter.getByRole('link', { name: 'People' })).toHaveCount(0);
    await expect(counter.getByText('The owner sets these.')).toBeVisible();
    await counter.goto(`${server.url}/people`);
    await expect(counter.getByRole('alert')).toContainText('may not do this');
    await counter.goto(`${server.url}/jobs/new`);
    await expect(counter.getByRole('heading', { name: 'New job' })).toBeVisible();

    // A bench left with a PIN: held, taken over, and what was typed still there.
    await page.getByRole('link', { name: /Your account, Ottoline/ }).click();
    await part(page, 'PIN on this device').getByLabel('PIN').fill('4711');
    await part(page, 'PIN on this device').getByRole('button', { name: 'Set' }).click();
    await expect(page.getByText('Set. After ten minutes')).toBeVisible();
    await page.getByLabel('Password now').fill('half typed');
    await page.getByRole('button', { name: 'Hold the bench' }).click();
    await expect(page.getByRole('heading', { name: 'Held for Ottoline V.' })).toBeVisible();
    await expect(page.getByLabel('Password now')).toBeHidden();
    await page.reload();
    await page.getByLabel('PIN').fill('1234');
    await page.getByRole('button', { name: 'Take over' }).click();
    await expect(page.getByRole('alert')).toContainText('4 more tries');
    await page.getByLabel('PIN').fill('4711');
    await page.keyboard.press('Enter');
    await expect(page.getByRole('heading', { name: 'Ottoline V.' })).toBeVisible();
    await page.getByRole('button', { name: 'Sign out' }).click();
    await expect(page.getByRole('heading', { name: 'Sign in' })).toBeVisible();
  } finally {
    await server.dispose();
  }
});

test('a session ended elsewhere: the draft stays behind the door, and goes out after signing in @night', async ({
  page,
  server,
}) => {
  const id = await sceneWithJob(server);
  await page.goto(`${server.url}/jobs/${id}/intake`);
  const complaint = page.getByLabel('Complaint');
  await complaint.fill('Slow since the ferry came in');
  const all = await send<{ id: string; isThis: boolean }[]>(server, 'GET', '/sessions', undefined);
  for (const one of all) await server.fetch(`/sessions/${one.id}`, { method: 'DELETE' });
  // The screen may have heard of it before the button is pressed.
  const save = page.getByRole('button', { name: /^Save/ }).first();
  await save.click({ timeout: 5000 }).catch(() => undefined);
  await expect(page.getByRole('heading', { name: 'Sign in' })).toBeVisible();
  await expect(complaint).toBeHidden();
  await signIn(page, 'Ottoline V.', 'kelp lantern tide 9');
  // Behind the door the field keeps its text, too: only once it shows is the sign-in through.
  await expect(complaint).toBeVisible();
  await expect(complaint).toHaveValue('Slow since the ferry came in');
  await page.reload();
  await expect(page.getByLabel('Complaint')).toHaveValue('Slow since the ferry came in');
});

test('two screens on one job: a change is seen at once, a draft is shown as theirs and never merged', async ({
  page,
  server,
  browser,
}) => {
  const id = await sceneWithJob(server);
  await page.goto(`${server.url}/jobs/${id}/plan`);
  // Who comes and goes moves nothing that somebody may be about to press.
  const views = page.getByRole('navigation', { name: 'Views of the plans' });
  await expect(views).toBeVisible();
  await page.evaluate(() => document.fonts.ready);
  // While parts of the page are still fetched it has no place, or not yet its own.
  let place: Awaited<ReturnType<typeof views.boundingBox>> = null;
  await expect(async () => {
    const before = place;
    place = await views.boundingBox();
    expect(place).not.toBeNull();
    expect(place).toEqual(before);
  }).toPass({ intervals: [1000], timeout: 60_000 });
  const context = await browser.newContext();
  await context.addCookies(await person(server, 'technician', 'Bram Oddmund'));
  const other = await context.newPage();
  await other.goto(`${server.url}/jobs/${id}/inspect`);
  await expect(page.getByText('Bram Oddmund is at Inspect on another screen.')).toBeVisible();
  await expect(other.getByText('Ottoline V. is at Plan on another screen.')).toBeVisible();

  // Bram moves the module on his board and does not save.
  await slot(other, 'A1').focus();
  await other.keyboard.press('Enter');
  await other.keyboard.press('ArrowRight');
  await other.keyboard.press('Enter');
  await expect(
    page.getByText(/Bram Oddmund is at Inspect.*a draft that is not saved/),
  ).toBeVisible();
  expect(await views.boundingBox()).toEqual(place);

  // What is saved shows at once, how the job is called among it.
  const job = await send<{ version: number }>(server, 'GET', `/jobs/${id}`, undefined);
  await send(server, 'PATCH', `/jobs/${id}`, { complaint: 'Crawls', version: job.version });
  await expect(other.getByText(/Crawls/)).toBeVisible();
  await expect(page.getByText(/Crawls/)).toBeVisible();
  await other.close();
  await expect(page.getByText('Bram Oddmund is at')).toHaveCount(0);
});
