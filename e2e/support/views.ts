import type { Page } from '@playwright/test';
import type { JobSummary } from '#contract/records';
import { dayOf, daysLater } from '#core/units';

/** A view of the demo world worth checking and picturing. */
interface View {
  readonly name: string;
  /** Checked like all, but not among the pictures of the docs. */
  readonly isUnpictured?: boolean;
  readonly open: (page: Page, base: string) => Promise<void>;
}

async function jobId(base: string, search: string, state = 'open'): Promise<string> {
  const answer = await fetch(
    `${base}/api/jobs?state=${state}&search=${encodeURIComponent(search)}`,
  );
  const { jobs } = (await answer.json()) as { jobs: JobSummary[] };
  if (!jobs[0]) throw new Error(`expected a job of ${search} in the demo world`);
  return jobs[0].id;
}

/** A heading stands once the page has run; a slow machine can be idle before that. */
const settle = async (page: Page) => {
  await page.getByRole('heading').first().waitFor();
  await page.waitForLoadState('networkidle');
  // A search for plans is done in a moment; a picture of it half done would differ each time.
  await page.getByRole('progressbar').waitFor({ state: 'detached' });
};

const at = (name: string, path: string): View => ({
  name,
  open: async (page, base) => {
    await page.goto(base + path);
    await settle(page);
  },
});

const ofJob = (name: string, search: string, step: string, state?: string): View => ({
  name,
  open: async (page, base) => {
    await page.goto(`${base}/jobs/${await jobId(base, search, state)}/${step}`);
    await settle(page);
  },
});

const unpictured = (view: View): View => ({ ...view, isUnpictured: true });

/** The ticket window's desktop, open on the practice bench. */
async function atPractice(page: Page, base: string): Promise<void> {
  await page.goto(`${base}/practice/ticket-window`);
  const again = page.getByRole('button', { name: 'Start again' });
  await again.waitFor();
  if (await again.isEnabled()) await again.click();
  for (const name of ['Pull the lead', 'Hold 5 s', 'Wear it', 'Open, plastic tool'])
    await page.getByRole('button', { name, exact: true }).click();
}

/** Every main view, in the order of the walk; the names are those of the pictures in the docs. */
export const VIEWS: readonly View[] = [
  at('bench', '/'),
  unpictured(at('new-job', '/jobs/new')),
  ofJob('intake', 'Lighthouse', 'intake'),
  ofJob('inspect', 'post office', 'inspect'),
  unpictured(ofJob('inspect-eight-slots', 'Seaweed', 'inspect')),
  ofJob('need', 'Lighthouse', 'need'),
  ofJob('plan', 'Keelson', 'plan'),
  unpictured(ofJob('plan-all', 'Seaweed', 'plan?view=all')),
  ofJob('plan-by-hand', 'Gannet', 'plan?view=hand'),
  unpictured(ofJob('plan-eight-slots', 'Seaweed', 'plan?view=hand')),
  unpictured(ofJob('plan-compare', 'Keelson', 'plan?view=compare')),
  unpictured(ofJob('plan-why-not', 'Keelson', 'plan?view=why-not')),
  ofJob('quote', 'Seaweed', 'quote'),
  {
    name: 'batch',
    open: async (page, base) => {
      await page.goto(base);
      await page.getByRole('link', { name: 'plan them together' }).click();
      await page.getByRole('heading', { name: 'Together' }).waitFor();
    },
  },
  ofJob('fit', 'Gannet', 'fit'),
  {
    name: 'reading',
    isUnpictured: true,
    open: async (page, base) => {
      await page.goto(`${base}/jobs/${await jobId(base, 'Gannet')}/fit/read`);
      await page.getByText('Pull 8 GB out of SO-1').waitFor();
    },
  },
  unpictured(ofJob('first-start', 'School', 'fit')),
  ofJob('fault', 'post office', 'fault'),
  unpictured(ofJob('fault-first', 'Harbour', 'fault')),
  ofJob('prove', 'choir', 'prove', 'closed'),
  {
    name: 'measuring',
    open: async (page, base) => {
      await page.goto(`${base}/measure/?short`);
      await page.getByRole('button', { name: /^Measure / }).click();
      await page.getByRole('heading', { name: 'Carry it to the bench' }).waitFor();
    },
  },
  unpictured(ofJob('hand-over', 'Boatyard', 'hand-over', 'closed')),
  ofJob('report', 'choir', 'report', 'closed'),
  unpictured(at('machines', '/machines')),
  {
    name: 'machine',
    open: async (page, base) => {
      await page.goto(`${base}/machines`);
      await page.getByRole('link', { name: /^Stitch S5/ }).click();
      await settle(page);
    },
  },
  {
    name: 'cover',
    isUnpictured: true,
    open: async (page, base) => {
      await page.goto(`${base}/jobs/${await jobId(base, 'Gannet')}/fit`);
      await page.getByRole('link', { name: /^Cover map/ }).click();
      await page.getByRole('heading', { name: /^Cover of/ }).waitFor();
    },
  },
  unpictured(at('makers', '/makers')),
  {
    name: 'evidence',
    open: async (page, base) => {
      await page.goto(`${base}/jobs/${await jobId(base, 'post office')}/inspect`);
      await settle(page);
      await page
        .getByRole('heading', { name: 'Evidence' })
        .evaluate((heading) => heading.scrollIntoView());
    },
  },
  at('modules', '/modules'),
  unpictured(at('drawer', '/drawer')),
  unpictured(at('returns', '/returns')),
  unpictured(at('orders', '/orders')),
  unpictured(at('suppliers', '/suppliers')),
  unpictured(at('count', '/count')),
  unpictured(at('gone', '/gone')),
  unpictured(at('practice-list', '/practice')),
  unpictured(at('sandbox', '/sandbox')),
  {
    name: 'practice',
    open: async (page, base) => {
      await atPractice(page, base);
      await page.getByRole('button', { name: 'Look along the slots' }).click();
      await page.evaluate(() => scrollTo(0, 0));
    },
  },
  {
    name: 'debrief',
    isUnpictured: true,
    open: async (page, base) => {
      await atPractice(page, base);
      for (const name of ['Press home', 'Close it', 'Put the lead in', 'Switch on', 'Wait 1 min'])
        await page.getByRole('button', { name, exact: true }).last().click();
      for (const name of ['Firmware screen', 'Hand over', 'Hand it over'])
        await page.getByRole('button', { name, exact: true }).click();
      await page.getByRole('heading', { name: /solved/i }).waitFor();
    },
  },
  unpictured(at('calculators', '/calculators')),
  at('ledger', '/ledger'),
  unpictured(at('shop', '/shop')),
  // The month of what was handed over last: at the beginning of one, nothing was yet.
  at('month', `/month?m=${daysLater(dayOf(Date.now()), -12).slice(0, 7)}`),
  unpictured(at('people', '/people')),
  unpictured(at('customers', '/customers')),
  unpictured(at('network', '/network')),
  unpictured(at('changes', '/changes')),
  unpictured(at('your-account', '/me')),
  {
    name: 'why',
    isUnpictured: true,
    open: async (page, base) => {
      await page.goto(`${base}/jobs/${await jobId(base, 'Gannet')}/plan?view=hand`);
      await page.getByRole('button', { name: /^why: Slowest module/ }).click();
    },
  },
  {
    name: 'palette',
    isUnpictured: true,
    open: async (page, base) => {
      await page.goto(base);
      await settle(page);
      await page.keyboard.press('Control+k');
      await page.getByPlaceholder(/Job number/).waitFor();
    },
  },
];
