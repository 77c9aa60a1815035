import { expect, part, sceneWithJob, test } from './support/bench.ts';

const log = (frames: number, ms: number) =>
  Array.from({ length: frames }, (_, at) =>
    (ms + Math.sin(at / 40) + (at % 211 === 0 ? 30 : 0)).toFixed(3),
  );

test('frame logs before and after: found out, put right, compared, and refused in words', async ({
  page,
  server,
}) => {
  const id = await sceneWithJob(server);
  await page.goto(`${server.url}/jobs/${id}/prove`);
  await page.getByRole('heading', { name: 'Frame logs' }).click();
  const put = async (side: string, text: string) =>
    page.getByLabel(new RegExp(`^${side}:`)).setInputFiles({
      ...{ name: `${side.toLowerCase()}.csv`, mimeType: 'text/csv', buffer: Buffer.from(text) },
    });
  await put(
    'Before',
    ['Spiel;Bildzeit', ...log(6000, 20).map((ms) => `Fahrt;${ms.replace('.', ',')}`)].join('\r\n'),
  );
  await expect(page.getByText('“Bildzeit” as frame times in ms')).toBeVisible();
  let at = 0;
  const stamps = log(6000, 16).map((ms) => (at += Number(ms) / 1000).toFixed(6));
  await put('After', ['elapsed', ...stamps].join('\n'));
  await expect(page.getByText('“elapsed” as time stamps in s')).toBeVisible();
  await expect(page.getByText(/^Faster: ×1\.2/)).toBeVisible();
  const table = page.getByRole('table', { name: 'Frame logs, before and after' });
  await expect(table.getByRole('row', { name: /Mean, fps 49\.\d 61\.\d/ })).toBeVisible();
  await expect(table.getByRole('row', { name: /^Stutters/ })).toContainText('28');
  // Read otherwise than it was meant, the same file gives another figure; put right again, the same.
  await page.getByLabel('Unit, after').selectOption('ms');
  await expect(page.getByText('“elapsed” as time stamps in ms')).toBeVisible();
  await page.getByLabel('Unit, after').selectOption('s');
  await expect(page.getByText(/^Faster: ×1\.2/)).toBeVisible();
  // Kept as a run: its mean and its lows stand among the baseline's runs.
  await page.getByLabel('Test, before').fill('ferry ride');
  await page.getByRole('button', { name: 'Keep as a run' }).click();
  await expect(page.getByRole('button', { name: 'Kept as a run' })).toBeVisible();
  const baseline = part(page, 'Baseline');
  await expect(baseline.getByText('ferry ride: mean', { exact: true })).toBeVisible();
  await expect(baseline.getByText('ferry ride: mean of the slowest')).toBeVisible();
  await expect(page.getByText('To keep it as a run, save what was fitted first.')).toBeVisible();
  await put('After', 'name,size\na,b');
  await expect(page.getByRole('alert')).toContainText('There are no numbers in it');
});
