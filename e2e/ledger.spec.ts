import { expect, test } from './support/bench.ts';

test('what was proven is found, compared and explained, with the keyboard alone', async ({
  page,
  demo,
}) => {
  await page.goto(`${demo.url}/ledger`);
  const lines = page.getByRole('table', { name: 'What closed jobs proved' }).getByRole('row');
  const shown = async () => (await lines.count()) - 1;
  await expect(page.getByText('Packing and unpacking files: refitted from 6 jobs')).toBeVisible();
  const all = await shown();
  expect(all).toBeGreaterThan(8);

  // Every word must stand somewhere in the line, in any order.
  const find = page.getByRole('searchbox', { name: 'Find' });
  await find.focus();
  await page.keyboard.type('film tenor');
  await expect.poll(shown).toBe(6);
  await page.keyboard.type(' nowhere');
  await expect(page.getByText('No line fits.')).toBeVisible();
  await find.fill('');
  await expect.poll(shown).toBe(all);

  // A job that came back says after how long, and is no proof of standing.
  await expect(lines.filter({ hasText: 'Keelson' })).toContainText(/came back after \d+ days/);

  await page.getByLabel('Ran').focus();
  await page.keyboard.type('single');
  await expect(page.getByText('No line fits.')).toBeVisible();
  await page.keyboard.press('Home');
  await expect.poll(shown).toBe(all);

  for (const machine of ['Keelson', 'Gambit']) {
    await lines.filter({ hasText: machine }).getByRole('checkbox').focus();
    await page.keyboard.press('Space');
  }
  const side = page.getByRole('table', { name: 'Side by side' });
  await expect(side.getByRole('columnheader')).toHaveCount(2);
  await expect(side.getByRole('row', { name: /analyse one game/ })).toContainText(
    /not measured.*×1\.\d\d/,
  );

  // What predictions go by: the shop's own figures first, each with its reason.
  const shares = page.getByRole('complementary', { name: 'Reasons' }).getByRole('listitem');
  await expect(shares.first()).toContainText(/inside bands \d+ % wide before, \d+ % inside \d/);
  await shares.first().getByRole('button', { name: /why/ }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByText(/Each job predicted without itself/)).toBeVisible();
  await shares.last().getByRole('button', { name: /why/ }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByText(/0 jobs of the 6 it takes/)).toBeVisible();

  await lines.filter({ hasText: 'Gambit' }).getByRole('link').focus();
  await page.keyboard.press('Enter');
  await expect(page.getByText('Proof strip')).toBeVisible();
});
