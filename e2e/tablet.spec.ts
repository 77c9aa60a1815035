import type { TabletLink } from '#contract/accounts';
import { expect, sceneToFit, test } from './support/bench.ts';

const PHONE = { width: 390, height: 844 };

test('a tablet scans the code, fits the job while the bench watches, and is out when it is closed', async ({
  page,
  server,
  browser,
}) => {
  const id = await sceneToFit(server);
  const other = await sceneToFit(server);

  // Nothing reaches the bench yet, and it is said where that is changed.
  await page.goto(`${server.url}/jobs/${id}/fit`);
  await page.getByRole('button', { name: 'Open on a tablet' }).click();
  await expect(page.getByText('No other device reaches this bench yet')).toBeVisible();
  await page.getByRole('link', { name: 'Shop › Network' }).click();
  await page.getByLabel('Address of this computer').selectOption('127.0.0.1');
  await page.getByLabel('Port').fill(String(20_000 + Math.floor(Math.random() * 20_000)));
  await page.getByRole('button', { name: 'Turn on network access' }).click();
  await expect(page.getByText(/^On, at https:/)).toBeVisible();
  await expect(page.getByText(/SHA-256/)).toBeVisible();

  await page.goto(`${server.url}/jobs/${id}/fit`);
  const made = page.waitForResponse((answer) => answer.url().endsWith('/tablet'));
  await page.getByRole('button', { name: 'Open on a tablet' }).click();
  await expect(
    page.getByRole('group', { name: 'Code for a tablet' }).getByRole('img'),
  ).toBeVisible();
  const { address } = (await (await made).json()) as TabletLink;

  // It does not trust the shop’s certificate here; otherwise it is a phone like any.
  const tablet = await (
    await browser.newContext({ viewport: PHONE, ignoreHTTPSErrors: true })
  ).newPage();
  await tablet.goto(address ?? '');
  await expect(tablet).toHaveURL(new RegExp(`/jobs/${id}/fit$`));
  await expect(page.getByText('Ottoline V. is at Fit on another screen.')).toBeVisible();
  await tablet.getByRole('checkbox', { name: 'Unplug it' }).check();
  await expect(page.getByRole('checkbox', { name: 'Unplug it' })).toBeChecked();
  await page.getByRole('checkbox', { name: 'Put on the wrist strap' }).check();
  await expect(tablet.getByRole('checkbox', { name: 'Put on the wrist strap' })).toBeChecked();

  // This job and no other; every step of it fits the screen.
  for (const step of ['intake', 'inspect', 'need', 'plan', 'quote', 'fit', 'prove', 'hand-over']) {
    await tablet.goto(`${new URL(address ?? '').origin}/jobs/${id}/${step}`);
    await expect(tablet.getByRole('navigation', { name: 'Steps of this job' })).toBeVisible();
    const wide = await tablet.evaluate(
      () => document.documentElement.scrollWidth > document.documentElement.clientWidth,
    );
    expect([step, wide]).toEqual([step, false]);
  }
  await tablet.goto(`${new URL(address ?? '').origin}/jobs/${other}/fit`);
  await expect(tablet.getByText('It was let in for one job')).toBeVisible();
  // The code serves once.
  const second = await (await browser.newContext({ ignoreHTTPSErrors: true })).newPage();
  await second.goto(address ?? '');
  await expect(second.getByText('This code is used up')).toBeVisible();

  // Signed out from the bench, under one’s own name.
  await page.goto(`${server.url}/me`);
  const row = page.getByRole('listitem').filter({ hasText: /for job \d+ alone/ });
  await row.getByRole('button', { name: 'Sign it out' }).click();
  await expect(row).toHaveCount(0);
  await tablet.goto(`${new URL(address ?? '').origin}/jobs/${id}/fit`);
  await expect(tablet.getByRole('heading', { name: 'Sign in' })).toBeVisible();
});
