import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';

/** To find out whether words can be told from what is behind them takes most of the time. */
const COLOURS = 'color-contrast';

/**
 * What of accessibility a page breaks as it stands, each with the element it is broken at.
 *
 * @param looked - colours are all that differs between the themes
 */
export async function broken(
  page: Page,
  looked: 'all' | 'colours' | 'all but colours' = 'all',
): Promise<string[]> {
  // No page here frames another, so nothing is put together on a page of its own, which took as long again.
  const builder = new AxeBuilder({ page }).setLegacyMode().options({ resultTypes: ['violations'] });
  if (looked === 'colours') builder.withRules(COLOURS);
  if (looked === 'all but colours') builder.disableRules(COLOURS);
  const { violations } = await builder.analyze();
  return violations.map(({ id, nodes }) => `${id} at ${nodes.map(({ html }) => html).join(' ')}`);
}

/** Has a page taken for one under a finger, or a pointer again: coarse pointers have targets of their own. */
export async function fingerOn(page: Page): Promise<(enabled: boolean) => Promise<void>> {
  const devTools = await page.context().newCDPSession(page);
  return async (enabled) => {
    await devTools.send('Emulation.setTouchEmulationEnabled', { enabled });
  };
}

/** What a finger has to hit and can hardly, by its words; links within a sentence are let be. */
export const smallTargets = (page: Page): Promise<string[]> =>
  page.evaluate(() =>
    [...document.querySelectorAll('button, select, summary, nav a, input, textarea')].flatMap(
      (target) => {
        const box = target.closest('label') ?? target;
        const { width, height } = (
          target.matches('[type=checkbox], [type=radio], .sr-only') ? box : target
        ).getBoundingClientRect();
        const isShown = width > 1 && height > 1;
        return isShown && height < 43.5
          ? [`${target.tagName} ${(target.textContent || target.ariaLabel) ?? ''} ${height}`]
          : [];
      },
    ),
  );

/** By how many pixels a page is wider than its window. */
export const tooWide = (page: Page): Promise<number> =>
  page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth);
