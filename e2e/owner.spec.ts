import { OWNER, cookiesFor } from '../test/support/owner.ts';
import { expect, sceneWithJob, send, test } from './support/bench.ts';

test('the owner goes back to a backup, having seen what is newer @night', async ({
  server,
  page,
}) => {
  const kept = await sceneWithJob(server);
  await page.goto(`${server.url}/shop`);
  await page.getByRole('button', { name: 'Back up now' }).click();
  const part = page.getByRole('region', { name: 'Go back to a backup' });
  await expect(part.getByRole('combobox')).toBeVisible({ timeout: 120_000 });
  const lost = await sceneWithJob(server);
  await part.getByRole('button', { name: 'What would change?' }).click();
  await expect(part).toContainText('1 job is newer here, 1 of these taken in since');
  await expect(part.getByRole('list', { name: 'Jobs newer here' })).toContainText('would be lost');
  await part.getByRole('button', { name: 'Go back to it' }).click();
  // Everybody signs in again.
  await expect(page.getByLabel('Password')).toBeVisible({ timeout: 60_000 });
  const asked = async (id: string) => (await server.fetch(`/jobs/${id}`)).status;
  expect(await asked(kept)).toBe(401);
  server.cookie = (await cookiesFor(server.url, OWNER)) ?? '';
  expect([await asked(kept), await asked(lost)]).toEqual([200, 404]);
});

test('the owner goes back to a backup that was taken away in a file', async ({ server, page }) => {
  const kept = await sceneWithJob(server);
  await page.goto(`${server.url}/shop`);
  const taken = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Download a backup' }).click();
  const file = await (await taken).path();
  const lost = await sceneWithJob(server);
  const part = page.getByRole('region', { name: 'Go back to a backup' });
  const give = part.getByLabel('Choose a backup file');
  await give.setInputFiles({ name: 'holiday.gz', mimeType: '', buffer: Buffer.from('no backup') });
  await expect(part).toContainText('no archive at all');
  await give.setInputFiles(file);
  await expect(part).toContainText('Read and found whole');
  await expect(part.getByRole('combobox')).toContainText('from a file');
  await part.getByRole('button', { name: 'What would change?' }).click();
  await expect(part.getByRole('list', { name: 'Jobs newer here' })).toContainText('would be lost');
  await part.getByRole('button', { name: 'Go back to it' }).click();
  await expect(page.getByLabel('Password')).toBeVisible({ timeout: 60_000 });
  server.cookie = (await cookiesFor(server.url, OWNER)) ?? '';
  const asked = async (id: string) => (await server.fetch(`/jobs/${id}`)).status;
  expect([await asked(kept), await asked(lost)]).toEqual([200, 404]);
});

test('a month is opened from a figure to its jobs', async ({ server, page }) => {
  const id = await sceneWithJob(server);
  const fitted = { placement: {}, setting: 'standard', version: 0 };
  await send(server, 'PUT', `/jobs/${id}/snapshots/as-fitted`, fitted);
  const { version } = (await (await server.fetch(`/jobs/${id}`)).json()) as { version: number };
  await send(server, 'POST', `/jobs/${id}/close`, { version });
  await page.goto(server.url);
  await page.getByRole('navigation', { name: 'Main' }).getByRole('link', { name: 'Shop' }).click();
  await page.getByRole('link', { name: 'Month', exact: true }).click();
  const short = page.getByRole('region', { name: 'The month in short' });
  await expect(short).toContainText('only 1: too few to tell');
  await short.getByRole('button', { name: /^Handed over: 1 job/ }).click();
  const saved = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Stretches of jobs handed over as CSV' }).click();
  expect((await saved).suggestedFilename()).toMatch(/^turn-round-20\d\d-\d\d\.csv$/);
  await short.getByRole('link', { name: /^\d{4}$/ }).click();
  await expect(page).toHaveURL(new RegExp(`/jobs/${id}`));
});
