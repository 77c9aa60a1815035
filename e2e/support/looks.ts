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

/** By how many pixels a page, or a table that becomes cards on it, is wider than there is room for. */
export const tooWide = (page: Page): Promise<number> =>
  page.evaluate(() => {
    const cards = document.querySelectorAll('.overflow-x-auto:has(> .stacks)');
    const beyond = [document.documentElement, ...(innerWidth < 640 ? cards : [])].map(
      ({ scrollWidth, clientWidth }) => scrollWidth - clientWidth,
    );
    return Math.max(...beyond);
  });

/**
 * Presses Tab through a page; what it reaches and nobody can see, by its words: covered, or without a
 * ring that says where the keyboard is (WCAG 2.2, 2.4.7 and 2.4.11).
 */
export async function unseenByKeyboard(page: Page, presses: number): Promise<string[]> {
  const unseen = new Set<string>();
  await page.evaluate(() => {
    scrollTo(0, 0);
    (document.activeElement as HTMLElement).blur();
  });
  for (let press = 0; press < presses; press++) {
    await page.keyboard.press('Tab');
    const found = await page.evaluate(() => {
      const reached = document.activeElement;
      if (!reached || reached === document.body) return undefined;
      const box = reached.closest('label') ?? reached;
      const { left, top, width, height } = reached.getBoundingClientRect();
      const isShown = [0.1, 0.5, 0.9].some((across) =>
        [0.15, 0.5, 0.85].some((down) =>
          box.contains(document.elementFromPoint(left + across * width, top + down * height)),
        ),
      );
      const hasRing = [reached, box].some((one) => {
        const { outlineStyle, boxShadow } = getComputedStyle(one);
        return outlineStyle !== 'none' || boxShadow !== 'none';
      });
      const words = `${reached.tagName} ${(reached.ariaLabel ?? reached.textContent).trim().slice(0, 60)}`;
      if (!isShown) return `${words}: covered or out of sight`;
      return hasRing ? '' : `${words}: no ring`;
    });
    if (found === undefined) break;
    if (found !== '') unseen.add(found);
  }
  return [...unseen];
}
