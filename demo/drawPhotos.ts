import { writeFile } from 'node:fs/promises';
import { chromium } from '@playwright/test';
import config from '../playwright.config.ts';
import { drawnPhoto } from '../bench/drawnPhoto.ts';
import type { Drawn } from '../bench/drawnPhoto.ts';

/** The sticker photos of the demo world, each with something a camera on a bench adds. */
const PHOTOS: Readonly<Record<string, { part: string } & Partial<Drawn>>> = {
  bent: { part: 'QL-8U26.R2', bent: 34, turned: 2 },
  blurred: { part: 'ORL-8U26', blur: 1.4, turned: -4, angle: 7 },
  glare: { part: 'KB-8U26', glare: true, angle: -14 },
  'half-hidden': { part: 'ORL-8U26', hidden: 0.42, turned: 1 },
};

// Drawn once and kept: `npx tsx demo/drawPhotos.ts` draws them anew.
const browser = await chromium.launch(config.use?.launchOptions);
const page = await browser.newPage();
for (const [at, [name, { part, ...more }]] of Object.entries(PHOTOS).entries()) {
  const font = 'bold 26px "DejaVu Sans"';
  const photo = await drawnPhoto(page, {
    ...{ turned: 0, angle: 0, blur: 0.4, quality: 0.6, glare: false, wear: 24, seed: at },
    ...{ sheet: { width: 640, height: 170 }, size: { width: 760, height: 300 } },
    lines: [
      { text: '8GB 1Rx8 PC4-2666V-UA1-11', font, y: 60 },
      { text: `S/N 5A0000${at + 3}1   MADE 1423`, font: '20px "DejaVu Sans Mono"', y: 104 },
      { text: part, font: '22px "DejaVu Sans"', y: 144 },
    ],
    ...more,
  });
  await writeFile(new URL(`photos/${name}.jpg`, import.meta.url), photo);
  console.log(name, `${Math.round(photo.length / 1000)} kB`);
}
await browser.close();
