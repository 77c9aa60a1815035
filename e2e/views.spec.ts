import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';
import { expect, test } from './support/bench.ts';
import { VIEWS } from './support/views.ts';

const PARTS = 4;

/** What of accessibility a page breaks as it stands, each with the element it is broken at. */
async function broken(page: Page, rules?: string[]): Promise<string[]> {
  const builder = new AxeBuilder({ page });
  const { violations } = await (rules ? builder.withRules(rules) : builder).analyze();
  return violations.map(({ id, nodes }) => `${id} at ${nodes.map(({ html }) => html).join(' ')}`);
}

// In parts, so that two cores share them; opening a view takes longer than looking at it every way.
for (let part = 0; part < PARTS; part++)
  test(`every view can be read by anybody in both themes, keeps to its width and logs no error, part ${part + 1}`, async ({
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
    for (const { name, open } of VIEWS.filter((_, at) => at % PARTS === part)) {
      await page.emulateMedia({ colorScheme: 'light' });
      await page.setViewportSize({ width: 1280, height: 800 });
      await open(page, demo.url);
      expect.soft(await broken(page), name).toEqual([]);
      await page.emulateMedia({ colorScheme: 'dark' });
      // Colours alone differ between the themes.
      expect.soft(await broken(page, ['color-contrast']), `${name}, dark`).toEqual([]);
      await page.setViewportSize({ width: 1024, height: 768 });
      const [wide, seen] = await page.evaluate(() => [
        document.documentElement.scrollWidth,
        innerWidth,
      ]);
      expect.soft(wide, `${name} at 1024 × 768`).toBeLessThanOrEqual(seen ?? 0);
    }
    expect(problems).toEqual([]);
  });
