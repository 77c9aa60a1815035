import { chromium } from '@playwright/test';
import type { Browser, Page } from '@playwright/test';
import config from '../playwright.config.ts';
import { ServerProcess } from '../e2e/support/server.ts';
import { sceneWithJob } from '../e2e/support/bench.ts';
import { readLabel } from '#core/memory';
import { generator } from '../test/support/fuzzInventory.ts';
import { drawnPhoto } from './drawnPhoto.ts';
import { ms, p95, times } from './table.ts';
import type { Row } from './table.ts';

/** Stickers of a run; PHOTOS=300 is the whole set, some fifteen minutes. */
const PHOTOS = Number(process.env.PHOTOS ?? 60);

/** Type faces Chromium brings along on Debian, unlike one another. */
const FACES = [
  'bold NNpx "DejaVu Sans"',
  'NNpx "DejaVu Sans Mono"',
  'NNpx "Liberation Sans"',
  'bold NNpx "Liberation Sans Narrow"',
  'NNpx "DejaVu Sans Condensed"',
  'bold NNpx "Liberation Sans"',
] as const;
/** Never looked at while the reader was made. */
const HELD_OUT_FACES = ['bold NNpx "Liberation Mono"', 'NNpx "DejaVu Serif"'] as const;
const LABELS = [
  ...['8GB 1Rx8 PC4-2400T-UA1-11', '16GB 2Rx8 PC4-2666V-SE1-11', '8GB 2Rx8 PC4-2133P-UB1-11'],
  ...[
    '32GB 2Rx8 PC4-3200AA-SE1-11',
    '16GB 1Rx8 PC5-4800B-UA0-1010',
    '4GB 1Rx8 PC3L-12800S-11-13-B4',
  ],
];
/** Never looked at while the reader was made. */
const HELD_OUT = [
  '64GB 2Rx4 PC4-2933Y-RA2-12',
  '32GB 2Rx8 PC5-5600B-SA0-1010',
  '2GB 2Rx8 PC3-10600S-9-10-F2',
];

interface Sticker {
  readonly label: string;
  readonly face: string;
  readonly size: number;
  readonly turned: number;
  /** Degrees the camera stands aside. */
  readonly angle: number;
  readonly blur: number;
  readonly quality: number;
  readonly glare: boolean;
  readonly wear: number;
  readonly isHeldOut: boolean;
}

function stickers(count: number): Sticker[] {
  const below = generator(20_26);
  const pick = <T>(list: readonly T[]): T => list[below(list.length)] as T;
  return Array.from({ length: count }, (_, at) => {
    const isHeldOut = at % 4 === 3;
    return {
      isHeldOut,
      label: pick(isHeldOut ? HELD_OUT : LABELS),
      face: pick<string>(isHeldOut ? HELD_OUT_FACES : FACES),
      size: 14 + below(31),
      turned: below(13) - 6,
      angle: below(41) - 20,
      blur: below(16) / 10,
      quality: 0.4 + below(51) / 100,
      glare: below(3) === 0,
      wear: below(40),
    };
  });
}

/** A sticker as a camera sees it. */
function draw(page: Page, sticker: Sticker, seed: number): Promise<Buffer> {
  const { label, face, size, turned, angle, blur, quality, glare, wear } = sticker;
  const font = face.replace('NN', String(size));
  return drawnPhoto(page, {
    ...{ turned, angle, blur, quality, glare, wear, seed },
    sheet: { width: 1200, height: 260 },
    lines: [
      { text: label, font, y: 110 },
      { text: 'S/N 0BADCAFE  MADE 4416', font, y: 110 + size * 1.8 },
    ],
  });
}

interface Outcome {
  readonly sticker: Sticker;
  readonly isRight: boolean;
  /** Wrong in size, generation or rate, and nothing marked. */
  readonly isSilentlyWrong: boolean;
  readonly took: number;
}

async function readOne(page: Page, sticker: Sticker, seed: number): Promise<Outcome> {
  const buffer = await draw(page, sticker, seed);
  const started = performance.now();
  await page
    .getByLabel('Read it off a photo')
    .setInputFiles({ name: 'sticker.jpg', mimeType: 'image/jpeg', buffer });
  await page.getByText('Reading the photo …').waitFor();
  await page.getByText('Reading the photo …').waitFor({ state: 'detached', timeout: 120_000 });
  const took = performance.now() - started;
  const row = page.getByRole('list', { name: 'Labels on the photo' }).getByRole('listitem').first();
  if ((await row.count()) === 0) return { sticker, took, isRight: false, isSilentlyWrong: false };
  const words = await row.innerText();
  const isMarked = words.includes('Look twice');
  await row.getByRole('button', { name: 'Take it' }).click();
  const read = readLabel(await page.getByLabel('Label of a module').inputValue()).module;
  await page.getByLabel('Label of a module').fill('');
  const truth = readLabel(sticker.label).module;
  const isSame = (keys: readonly ('capacity' | 'generation' | 'rate' | 'ranks' | 'chipWidth')[]) =>
    keys.every((key) => read?.[key] === truth?.[key]);
  return {
    ...{ sticker, took },
    isRight: isSame(['capacity', 'generation', 'rate', 'ranks', 'chipWidth']),
    isSilentlyWrong: !isMarked && !isSame(['capacity', 'generation', 'rate']),
  };
}

async function readAll(browser: Browser, shop: ServerProcess, path: string): Promise<Outcome[]> {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  await context.addCookies(shop.browserCookies);
  const page = await context.newPage();
  await page.goto(shop.url + path);
  await page.getByLabel('Read it off a photo').waitFor({ state: 'attached' });
  const [first] = stickers(1);
  if (first) await readOne(page, first, 0); // fetches the reader
  const outcomes: Outcome[] = [];
  for (const [at, sticker] of stickers(PHOTOS).entries())
    outcomes.push(await readOne(page, sticker, at));
  return outcomes;
}

/** Rendered stickers through the page itself: how many lines are right, and none silently wrong. */
export async function benchPhotos(): Promise<Row[]> {
  const shop = await ServerProcess.start();
  const browser = await chromium.launch(config.use?.launchOptions);
  try {
    const id = await sceneWithJob(shop);
    const all = await readAll(browser, shop, `/jobs/${id}/inspect`);
    const share = (some: readonly Outcome[]) =>
      some.filter(({ isRight }) => isRight).length / Math.max(1, some.length);
    const row = (what: string, some: readonly Outcome[], wanted: number): Row => ({
      what: `${what}: whole line right`,
      measured: `${(100 * share(some)).toFixed(1)} % of ${some.length}`,
      wanted: `≥ ${wanted} %`,
      holds: share(some) * 100 >= wanted,
      yardstick: '–',
    });
    const large = all.filter(({ sticker }) => sticker.size >= 20);
    const silent = all.filter(({ isSilentlyWrong }) => isSilentlyWrong).length;
    const usual = p95(all.filter(({ isRight }) => isRight).map(({ took }) => took));
    return [
      row(
        'letters of 20 dots and more',
        large.filter(({ sticker }) => !sticker.isHeldOut),
        92,
      ),
      row(
        'the same, held-out faces and labels',
        large.filter(({ sticker }) => sticker.isHeldOut),
        92,
      ),
      row(
        'smaller letters',
        all.filter(({ sticker }) => sticker.size < 20),
        0,
      ),
      {
        what: 'wrong in size, generation or rate without a mark',
        measured: `${((100 * silent) / all.length).toFixed(1)} % of ${all.length}`,
        wanted: '≤ 0.5 %',
        holds: silent / all.length <= 0.005,
        yardstick: '–',
      },
      {
        what: 'a photo read, p95 of those read, after the first',
        measured: ms(usual),
        wanted: '≤ 2500 ms',
        holds: usual <= 2500,
        yardstick: `the slowest took ${times(Math.max(...all.map(({ took }) => took)), usual)}`,
      },
    ];
  } finally {
    await browser.close();
    await shop.dispose();
  }
}
