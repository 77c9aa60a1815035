import AxeBuilder from '@axe-core/playwright';
import type { JobSummary } from '#contract/records';
import { expect, test } from './support/bench.ts';
import { VIEWS } from './support/views.ts';

for (const theme of ['light', 'dark'] as const)
  test(`no view breaks a rule of accessibility, loads from elsewhere or logs an error: ${theme}`, async ({
    page,
    demo,
  }) => {
    test.setTimeout(360_000);
    const problems: string[] = [];
    page.on('console', (message) => message.type() === 'error' && problems.push(message.text()));
    page.on('pageerror', ({ message }) => problems.push(message));
    page.on('request', (request) => {
      // Workers of the measuring page are blobs of its own making.
      const isOwn = [demo.url, 'data:', `blob:${demo.url}`].some((start) =>
        request.url().startsWith(start),
      );
      if (!isOwn) problems.push(request.url());
    });
    await page.emulateMedia({ colorScheme: theme });
    for (const { name, open } of VIEWS) {
      await open(page, demo.url);
      const { violations } = await new AxeBuilder({ page }).analyze();
      const found = violations.map(
        ({ id, nodes }) => `${name}: ${id} at ${nodes.map(({ html }) => html).join(' ')}`,
      );
      expect.soft(found).toEqual([]);
    }
    expect(problems).toEqual([]);
  });

test('no view scrolls sideways at 1024 × 768, whatever the names', async ({ page, demo }) => {
  await page.setViewportSize({ width: 1024, height: 768 });
  const { jobs } = (await (await fetch(`${demo.url}/api/jobs?search=Seaweed`)).json()) as {
    jobs: JobSummary[];
  };
  expect(jobs).toHaveLength(1);
  for (const { name, open } of VIEWS) {
    await open(page, demo.url);
    const [wide, seen] = await page.evaluate(() => [
      document.documentElement.scrollWidth,
      innerWidth,
    ]);
    expect.soft(wide, name).toBeLessThanOrEqual(seen ?? 0);
  }
});
