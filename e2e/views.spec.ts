import { isAnew } from '../test/support/draws.ts';
import { expect, test } from './support/bench.ts';
import { broken, fingerOn, smallTargets, tooWide, unseenByKeyboard } from './support/looks.ts';
import { VIEWS } from './support/views.ts';

const PARTS = 4;

/** As wide as a window of 1280 enlarged four times (WCAG 2.2, 1.4.10): what keeps to it mostly keeps to more. */
const NARROWEST = [320, 640] as const;
/** Looked at by night. */
const BETWEEN = [
  [1024, 768],
  [768, 1024],
] as const;

/** Pages with the answer first and the tools folded. */
const LAYERED = /^(inspect|prove)/;

// In parts, so that two cores share them; opening a view takes longer than looking at it every way.
for (let part = 0; part < PARTS; part++)
  test(`every view can be read by anybody, keeps to its width, can be hit with a thumb and logs no error, part ${part + 1}`, async ({
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
    const finger = await fingerOn(page);
    const soon = expect.configure({ soft: true });
    const views = VIEWS.filter((_, at) => at % PARTS === part);
    for (const [at, { name, open }] of views.entries()) {
      // By night the colours of both themes; by day, of every other view, those of one.
      const [isLight, isDark] = [isAnew || at % 4 === 0, isAnew || at % 4 === 2];
      await page.emulateMedia({ colorScheme: 'light' });
      await page.setViewportSize({ width: 1280, height: 800 });
      await open(page, demo.url);
      const all = isLight ? 'all' : 'all but colours';
      expect.soft(await broken(page, all), name).toEqual([]);
      if (LAYERED.test(name)) {
        const height = await page.evaluate(() => document.documentElement.scrollHeight);
        expect.soft(height, `${name} is longer than two screens`).toBeLessThanOrEqual(1600);
      }
      await page.emulateMedia({ colorScheme: 'dark' });
      if (isDark) expect.soft(await broken(page, 'colours'), `${name}, dark`).toEqual([]);
      for (const [width, height] of isAnew ? [...BETWEEN, NARROWEST] : [NARROWEST]) {
        await page.setViewportSize({ width, height });
        // A table becomes a list only once the page has heard of its new width.
        await soon
          .poll(() => tooWide(page), { message: `${name} is wider than ${width}` })
          .toBeLessThanOrEqual(0);
      }
      // As on the phone it has the width of by now.
      await finger(true);
      await soon.poll(() => smallTargets(page), { message: `${name}, targets` }).toEqual([]);
      await finger(false);
    }
    expect(problems).toEqual([]);
  });

for (let part = 0; part < PARTS; part++)
  test(`what the keyboard reaches on any view can be seen, part ${part + 1} @night`, async ({
    page,
    demo,
  }) => {
    test.setTimeout(900_000);
    for (const { name, open } of VIEWS.filter((_, at) => at % PARTS === part))
      for (const [width, height] of [
        [1280, 800],
        [390, 700],
      ] as const) {
        await page.setViewportSize({ width, height });
        await open(page, demo.url);
        expect.soft(await unseenByKeyboard(page, 130), `${name}, ${width} wide`).toEqual([]);
      }
  });
