import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { cpus, tmpdir } from 'node:os';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { chromium } from '@playwright/test';
import type { Browser } from '@playwright/test';
import config from '../playwright.config.ts';
import { median } from '../core/proving/statistics.ts';
import type { ProbeResult } from '#core/proving';
import type { Row } from './table.ts';

const PAGE = 'dist/probe/index.html';
const ROUNDS = 5;
/** As the page's quick setting has it. */
const QUICK = { mib: 128, windowMs: 250, repeats: 9 } as const;

/** One quick measurement of the page from file://, as its own file tells it. */
async function measureByPage(browser: Browser): Promise<ProbeResult> {
  const page = await browser.newPage();
  await page.goto(pathToFileURL(PAGE).href);
  await page.click('#quick');
  await page.waitForSelector('#result:not([hidden])', { timeout: 180_000 });
  const [download] = await Promise.all([page.waitForEvent('download'), page.click('#save')]);
  const result = JSON.parse(readFileSync(await download.path(), 'utf8')) as ProbeResult;
  await page.close();
  return result;
}

/**
 * The page against plain C loops built by the system compiler at -O3: turn by turn, so that both
 * see the same minutes of the machine; the median of the ratios counts.
 */
export async function benchNative(): Promise<Row[]> {
  const folder = mkdtempSync(join(tmpdir(), 'tembrix-native-'));
  const plain = join(folder, 'plain');
  const size = readFileSync(PAGE).length;
  const rows: Row[] = [
    {
      what: 'measuring page, one file',
      measured: `${(size / 1000).toFixed(1)} kB`,
      ...{ wanted: '≤ 120 kB', holds: size <= 120_000, yardstick: 'font 34 kB as base64 included' },
    },
  ];
  try {
    execFileSync('cc', ['-O3', '-pthread', '-o', plain, 'bench/native/plain.c']);
  } catch {
    console.log('No C compiler: the page is not compared with plain loops.');
    return rows;
  }
  const threads = cpus().length;
  const byC = (kind: string) => {
    const { mib, windowMs, repeats } = QUICK;
    const figures = [threads, mib, windowMs, repeats].map(String);
    const said = execFileSync(plain, [kind, ...figures], { encoding: 'utf8' });
    return median(said.trim().split('\n').map(Number));
  };
  const browser = await chromium.launch(config.use?.launchOptions ?? {});
  const seen: Record<'multiplyAdd' | 'read' | 'reply', [page: number, c: number][]> = {
    ...{ multiplyAdd: [], read: [], reply: [] },
  };
  let posted = 0;
  try {
    for (let round = 0; round < ROUNDS; round++) {
      const result = await measureByPage(browser);
      posted = Math.max(posted, JSON.stringify({ token: 'x'.repeat(14), result }).length);
      seen.multiplyAdd.push([median(result.multiplyAdd), byC('multiplyAdd')]);
      seen.read.push([median(result.read), byC('read')]);
      seen.reply.push([median(result.reply), byC('chase')]);
    }
  } finally {
    await browser.close();
    rmSync(folder, { recursive: true, force: true });
  }
  const ratioOf = (name: keyof typeof seen) => median(seen[name].map(([page, c]) => page / c));
  const row = (
    name: keyof typeof seen,
    what: string,
    wanted: string,
    holds: (ratio: number) => boolean,
    unit: string,
  ): Row => {
    const ratio = ratioOf(name);
    const each = seen[name].map(([page, c]) => (page / c).toFixed(2)).join(' ');
    const [page, c] = [0, 1].map((at) => median(seen[name].map((pair) => pair[at] ?? NaN)));
    return {
      ...{ what, measured: `× ${ratio.toFixed(2)}`, wanted, holds: holds(ratio) },
      yardstick: `page ${page?.toPrecision(3)} ${unit}, C ${c?.toPrecision(3)} ${unit}; each round ${each}`,
    };
  };
  const name = `${threads} threads, page ÷ C`;
  return [
    ...rows,
    {
      what: 'what the page posts',
      measured: `${posted} B`,
      ...{ wanted: '< 4 kB', holds: posted < 4000, yardstick: `the fullest of ${ROUNDS}` },
    },
    row(
      'multiplyAdd',
      `multiply-add plateau, ${name}`,
      '≥ × 0.90',
      (ratio) => ratio >= 0.9,
      'GB/s',
    ),
    row('read', `read plateau, ${name}`, '≥ × 0.85', (ratio) => ratio >= 0.85, 'GB/s'),
    row(
      ...(['reply', 'dependent reply, page ÷ C', '× 0.85 to × 1.15'] as const),
      (ratio) => Math.abs(ratio - 1) <= 0.15,
      'ns',
    ),
  ];
}
