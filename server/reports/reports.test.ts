import { describe, expect, test } from 'vitest';
import { jobReport } from '#contract/jobReport';
import type { Quote } from '#contract/quotes';
import type { Job, MeasurementRecord } from '#contract/records';
import { operatingPoint } from '#core/operating-point';
import { fingerprint } from '#core/proving';
import { DEFAULT_TERMS, PAPERS } from '#core/quoting';
import type { Placement } from '#core/machine';
import { aJob } from '../../test/support/aJob.ts';
import { desktop, labelled } from '../../test/support/builders.ts';
import { makePdf } from './makePdf.ts';
import { pdfLines, pdfText } from '../../test/support/pdfText.ts';
import { quotePdf } from './quotePdf.ts';
import { reportPdf } from './reportPdf.ts';

const NOON = '2026-05-04T12:00:00.000Z';
const LONG = 'Schlickrutschenbahnbetriebsgesellschaft am unteren Hafenbecken mit angeschlossener';
const module = labelled('16GB 2Rx8 PC4-2933Y-UB1-12 ORLVANE-16R29-XQ');
const small = labelled('8GB 1Rx8 PC4-2666V-UA2-11');

/** Four channels, eight slots with names as long as boards print them. */
const bare = desktop({ name: LONG.slice(0, 80) }, 4, 2);
const workstation = {
  ...bare,
  slots: bare.slots.map((slot) => ({ ...slot, printedName: `DIMM_${slot.printedName} (far)` })),
};
const found: Placement = { a1: small, b1: small, c1: small, d1: small };
const fitted: Placement = Object.fromEntries(workstation.slots.map(({ id }) => [id, module]));

const runsOf = (kind: 'as-found' | 'as-fitted', at: number): MeasurementRecord => ({
  ...{ id: `${kind}${at}`, version: 1, kind, metric: at % 2 ? 'duration' : 'bandwidth' },
  ...{ sense: null, activity: null, test: `${LONG.slice(0, 50)} ${at}`, warmUp: 1 },
  runs: [20, 20.2, 19.9, 20.1, 20.3].map((run) => run * (kind === 'as-found' ? 1 : 1.6)),
  ...{ isLowerBound: false, sittings: [], step: null, doubts: [], power: 'mains, full power' },
  ...{ resolution: '3840 × 2160', tool: 'bench page', conditions: LONG.repeat(2) },
  fingerprint: fingerprint(workstation, kind === 'as-found' ? found : fitted),
  takenAt: NOON,
});

/** All that a job can hold, as long as it may be. */
function awkward(tests: number): Job {
  const at = [...Array(tests).keys()];
  return aJob(
    {
      complaint: `${LONG}. `.repeat(8).slice(0, 300),
      customer: { id: 'customer-1', version: 1, name: LONG.slice(0, 80), contact: '' },
      snapshots: (
        [
          ['as-found', found],
          ['as-fitted', fitted],
        ] as const
      ).map(([kind, placement]) => ({
        ...{ kind, version: 1, placement, setting: 'standard', savedAt: NOON },
      })),
      measurements: at.flatMap((one) => [runsOf('as-found', one), runsOf('as-fitted', one)]),
    },
    workstation,
  );
}

const terms = {
  ...DEFAULT_TERMS,
  name: LONG.slice(0, 80),
  address: 'Ticket hall\nFerry terminal\nUpper quay 4\nTolvarra',
  warranty: `${LONG}. `.repeat(4).slice(0, 300),
};

const quote: Quote = {
  ...{ id: 'quote-1', jobId: 'job-1', number: 1, issuedAt: NOON, validUntil: '2026-05-18' },
  choice: {
    setting: 'standard',
    units: workstation.slots.map(({ id }, copy) => ({
      ...{ slotId: id, module, source: { type: 'offer', offerId: 'offer-1', copy } as const },
    })),
  },
  lines: [...Array(8).keys()].map(() => ({
    ...{ kind: 'part' as const, text: LONG, quantity: 8, each: 123456 },
  })),
  ...{ total: 999999, tax: 166666, taxPercent: 20, currency: 'EUR', leadDays: 12 },
  promise: {
    ...{ now: '32 GB usable, DDR4-2666 · CL 19, 32 GB quad-channel' },
    ...{ then: '128 GB usable, DDR4-2933 · CL 21, 128 GB quad-channel', room: `${LONG}.` },
    gains: [...Array(5).keys()].map(() => `${LONG}: 5 to 12 % faster`),
    not: [...Array(4).keys()].map(() => `${LONG} ${LONG}.`),
  },
  ...{ note: `${LONG}. `.repeat(6).slice(0, 500), answer: null },
};

describe.each(PAPERS)('on %s', (paper) => {
  test.each([0, 1, 20])(
    'the customer’s report is one page with %d tests measured',
    async (tests) => {
      const job = awkward(tests);
      const report = jobReport(job, { terms, pulledTo: 'customer', results: [] });
      const pages = await pdfText(await reportPdf(job, report, { ...terms, paper }));
      expect(pages[1]).toContain('For the technician');
      expect(pages.slice(2).join(' ')).not.toContain('What to watch');
      expect(pages[0]).toContain(report.foot);
    },
  );

  test('the quote is one page, with every slot before and after', async () => {
    const pages = await pdfText(await quotePdf(awkward(0), quote, { ...terms, paper }));
    expect(pages).toHaveLength(1);
    for (const { printedName } of workstation.slots)
      expect(pages[0]?.replaceAll(' ', '')).toContain(printedName.replaceAll(' ', ''));
    expect(pages[0]).toContain('16 GB new');
    expect(pages[0]).toContain('Accepted:');
  });

  test.each([terms.name, 'Slip 4 repairs', 'W'.repeat(80)])(
    'the shop’s address keeps its lines beside the name “%s”',
    async (name) => {
      const [page] = await pdfLines(await quotePdf(awkward(0), quote, { ...terms, paper, name }));
      // The first stands beside the name.
      for (const line of terms.address.split('\n'))
        expect(
          page?.some((one) => one.endsWith(line)),
          line,
        ).toBe(true);
      expect(page?.join('').replaceAll(' ', '')).toContain(name.slice(-5));
    },
  );
});

test('a figure and its unit stand on one line, wherever lines are broken', async () => {
  const figures = [
    '5 to 12 %',
    '32.2 GB/s',
    'DDR4-2933 at 2933 MT/s',
    '13.75 ns',
    '128 GB',
    '12 days',
  ];
  const text = (lead: number) => figures.map((one) => `${'in '.repeat(lead)}${one}`);
  const lines = (
    await pdfLines(
      await makePdf({
        content: [...Array(60).keys()].map((lead) => ({ ul: text(lead), fontSize: 11 })),
      }),
    )
  ).flat();
  expect(lines.filter((line) => /^(?:%|GB|MT|ns|days|s )|\/$/.test(line))).toEqual([]);
  expect(lines.filter((line) => line.includes('12 %')).length).toBe(60);
});

describe('a report', () => {
  const job = awkward(2);
  const report = jobReport(job, { terms, pulledTo: 'customer', results: [] });

  test('shows the customer lanes and bars, and leaves statistics to the technician', async () => {
    const [page = '', ...appendix] = await pdfText(await reportPdf(job, report, terms));
    expect(page).toContain('Channel D');
    // A hyphen or a slash is a place to break a line, so it ends a piece of text.
    const text = page.replaceAll(/(?<=[-/]) /g, '');
    for (const words of ['32 GB quad-channel', '20.1 GB/s', '32.2 GB/s'])
      expect(text).toContain(words);
    for (const words of ['19 times in 20', 'by chance']) {
      expect(page).not.toContain(words);
      expect(appendix.join(' ')).toContain(words);
    }
  });

  test('has every figure: six on the page, all of them in the appendix', () => {
    const many = jobReport(awkward(20), { terms, pulledTo: 'customer', results: [] });
    const bars = many.page.find(({ type }) => type === 'bars');
    expect(bars?.type === 'bars' && bars.rows).toHaveLength(6);
    expect(JSON.stringify(many.page)).toContain('14 more figures');
    const sure = many.appendix.find(({ title }) => title === 'How sure each change is');
    expect(sure?.type === 'table' && sure.rows).toHaveLength(20);
  });

  test('draws lanes as long as the memory runs', () => {
    const lanes = report.page.find(({ type }) => type === 'lanes');
    expect(lanes?.type === 'lanes' && lanes.point).toEqual(
      operatingPoint(workstation, fitted, 'standard'),
    );
  });
});
