import { eq, sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { queryForJob } from '#contract/jobPlan';
import type { Ledger, LedgerShares } from '#contract/ledger';
import type { Job, MachineRecord } from '#contract/records';
import { MOST_JOBS } from '#core/ledger';
import { judgeMatch } from '#core/matching';
import { DEFAULT_TERMS } from '#core/quoting';
import { fillLedger, simulateLedger } from '../server/store/operations/ledger.ts';
import { jobs, ledger } from '../server/store/schema/index.ts';
import { oddLedger } from './support/anyLedger.ts';
import { Api } from './support/api.ts';
import { labelled } from './support/builders.ts';
import { pdfText } from './support/pdfText.ts';

let api: Api;
beforeAll(async () => {
  api = await Api.start();
});
afterAll(() => api.server.stop());

const part = labelled('8GB 1Rx8 PC4-2400T-UA1-11 ORL-8U24');

/** A job with 8 GB found and two such modules fitted, measured, tested and closed. */
async function closedJob(): Promise<Job> {
  const job = await api.jobWithFound();
  const path = `/jobs/${job.id}`;
  await api.ok('PUT', `${path}/snapshots/as-fitted`, {
    ...{ placement: { a1: part, b1: part }, setting: 'standard', version: 0 },
  });
  for (const [kind, runs] of [
    ['as-found', [14, 14.1, 13.9]],
    ['as-fitted', [27.5, 27.6, 27.4]],
  ] as const)
    await api.ok('POST', `${path}/measurements`, {
      ...{ kind, metric: 'bandwidth', test: 'copy', runs, warmUp: 0, conditions: '' },
    });
  await api.ok('POST', `${path}/memory-tests`, {
    ...{ kind: 'before the system starts', minutes: 300, passes: 4, errors: 0 },
    ...{ tool: 'pre-boot test', conditions: '' },
  });
  const { version } = await api.ok('GET', path);
  return api.ok('POST', `${path}/close`, { version });
}

test('what a job proved counts as listed when the same machine is planned again, until it is reopened', async () => {
  const first = await closedJob();
  const { lines } = await api.ok<Ledger>('GET', '/ledger');
  const { shares } = await api.ok<LedgerShares>('GET', '/ledger/shares');
  expect(lines).toMatchObject([
    {
      ...{ jobId: first.id, days: 0, cameBack: false },
      entry: { mode: 'paired', rate: 2400, stable: { minutes: 300 }, isSimulated: false },
    },
  ]);
  expect(shares.every(({ isRefitted }) => !isRefitted)).toBe(true);

  // The same machine comes in again, with another customer.
  const again = await api.ok('POST', '/jobs', {
    ...{ customer: { name: 'Harbour choir', contact: '' }, machineId: first.machine.id },
    complaint: 'Slow too',
  });
  const listOf = async () => {
    const job = await api.ok('GET', `/jobs/${again.id}`);
    const { machine } = queryForJob(job, [], [], DEFAULT_TERMS);
    const stance = { need: undefined, capacityFirst: false, memoryTestPassed: true };
    const { schools } = judgeMatch(machine, { a1: part, b1: part }, 'standard', stance);
    return Object.fromEntries(
      schools.map(({ school, rows }) => [
        school,
        rows.find(({ question }) => question === 'verified list')?.judgement,
      ]),
    );
  };
  const other = await api.ok<MachineRecord>('POST', '/machines', {
    machine: first.machine.machine,
  });
  expect(other.provenParts).toEqual([]);
  expect(await listOf()).toMatchObject({ strict: 'accept', balanced: 'accept' });

  await api.ok('POST', `/jobs/${first.id}/reopen`, { version: first.version });
  expect((await api.ok<Ledger>('GET', '/ledger')).lines).toEqual([]);
  expect(await listOf()).toMatchObject({ strict: 'refuse', balanced: 'caution' });
});

test('a job closed before there was a ledger is entered at the next start', async () => {
  const { id } = await closedJob();
  const linesOf = async () => (await api.ok<Ledger>('GET', '/ledger')).lines;
  const [line] = await linesOf();
  await api.server.db.delete(ledger).where(eq(ledger.jobId, id));
  expect(await linesOf()).not.toContainEqual(line);
  expect(await fillLedger(api.server.db)).toBe(1);
  expect(await linesOf()).toContainEqual(line);
  expect(await fillLedger(api.server.db)).toBe(0);
});

test('a line entered without a simulation is simulated once, and predictions go by it', async () => {
  const { id } = await closedJob();
  const ratiosOf = async () =>
    (await api.ok<Ledger>('GET', '/ledger')).lines.find(({ jobId }) => jobId === id)?.entry.ratios;
  expect(await ratiosOf()).not.toHaveProperty('simulated');
  expect(await simulateLedger(api.server.db, () => true)).toBe(0);
  expect(await simulateLedger(api.server.db)).toBeGreaterThan(0);
  const ratios = await ratiosOf();
  // A second equal module: what streams doubles, a reply at rest stays as it was.
  expect(ratios?.simulated?.bandwidth.stream).toBeGreaterThan(1.85);
  expect(ratios?.simulated?.bandwidth.stream).toBeLessThan(2.1);
  expect(Math.abs((ratios?.simulated?.reply.idle ?? 0) - 1)).toBeLessThan(0.04);
  expect(await simulateLedger(api.server.db)).toBe(0);
});

test('the report says what was, what was done and how sure it is; the appendix has every run', async () => {
  const job = await closedJob();
  const response = await api.fetch(`/jobs/${job.id}/report.pdf`);
  expect(response.headers.get('content-type')).toContain('application/pdf');
  const pages = await pdfText(new Uint8Array(await response.arrayBuffer()));
  expect(pages).toHaveLength(2);
  // A slash is a place to break a line, so it ends a piece of text.
  const text = pages.join(' ').replaceAll('/ s', '/s');
  for (const words of [
    'Your machine had 8 GB of memory',
    'It now has 16 GB of memory',
    'Better than before, and measured: ×1.96 in “copy”',
    '14 GB/s',
    '27.5 GB/s',
    '19 times in 20',
    'The modules work side by side',
    'A full memory test passed',
    'Warranty on the fitted parts: as the law',
    'For the technician',
    '27.5 27.6 27.4 GB/s',
    'ORL-8U24',
    'CL 17',
    '300 min, 4 passes, 0 errors: passed',
  ])
    expect(text).toContain(words);
});

describe('a ledger of very many lines', () => {
  const LINES = 250;

  beforeAll(async () => {
    const { machine, customer } = await api.jobWithFound();
    const { db } = api.server;
    const rows = oddLedger(LINES, 60).map((entry, at) => ({
      ...{ id: `old-${at}`, customerId: customer.id, machineId: machine.id, complaint: '' },
      closedAt: new Date(Date.UTC(2020, 0, 1) + at * 3_600_000),
      entry: {
        ...entry,
        mode: at % 2 === 0 ? ('paired' as const) : ('one channel wide' as const),
        stable: at % 5 === 0 ? { minutes: 60, passes: 1 } : null,
        machineName: at === 7 ? 'Harbour 100%_mast' : 'Winter board',
      },
    }));
    await db.insert(jobs).values(rows.map(({ entry: _entry, ...job }) => job));
    await db.insert(ledger).values(
      rows.map(({ id, machineId, closedAt, entry }) => ({
        ...{ jobId: id, machineId, closedAt, proven: [], entry },
      })),
    );
  });

  const read = (query: string) => api.ok<Ledger>('GET', `/ledger?${query}`);
  const shares = () => api.ok<LedgerShares>('GET', '/ledger/shares');

  test('comes a page at a time, each line once, the latest first', async () => {
    const pages = await Promise.all(
      [0, 100, 200].map((offset) => read(`search=winter+board&limit=100&offset=${offset}`)),
    );
    const lines = pages.flatMap((page) => page.lines);
    expect(new Set(lines.map(({ jobId }) => jobId)).size).toBe(LINES - 1);
    expect(pages[0]?.total).toBe(LINES - 1);
    const closed = lines.map(({ closedAt }) => closedAt);
    expect(closed).toEqual([...closed].sort().reverse());
  });

  test('is searched on the server: every word, any order, signs as they stand', async () => {
    const ids = async (query: string) => (await read(query)).lines.map(({ jobId }) => jobId);
    expect(await ids('search=MAST+harbour')).toEqual(['old-7']);
    expect(await ids(`search=${encodeURIComponent('0%_m')}`)).toEqual(['old-7']);
    expect(await ids('search=machineName')).toEqual([]);
    expect((await read('mode=paired&search=winter+board')).total).toBe(LINES / 2);
    expect((await read('isTested=true&mode=paired&search=winter+board')).total).toBe(LINES / 10);
    for (const wrong of ['mode=sideways', 'limit=0', 'limit=9999', 'isTested=perhaps'])
      expect((await api.send('GET', `/ledger?${wrong}`)).status).toBe(422);
  });

  test('judges by its latest jobs: an absurd one of long ago has no say, and is not named', async () => {
    const own = ({ shares: all }: LedgerShares) => all.find(({ isRefitted }) => isRefitted);
    expect(own(await shares())).toMatchObject({ jobs: MOST_JOBS, odd: [] });
    // Later ones left out let it in again, and the answer follows each change.
    const { db } = api.server;
    const late = sql`${ledger.jobId} like 'old-2__'`;
    await db.update(ledger).set({ isLeftOut: true }).where(late);
    const fewer = await shares();
    expect(fewer.odd.map(({ jobId }) => jobId)).toEqual(['old-0']);
    expect(fewer.leftOut).toHaveLength(50);
    const again = await api.ok<LedgerShares>('PUT', '/ledger/old-0/left-out', { isLeftOut: true });
    expect(again.odd).toEqual([]);
    expect(again.leftOut.map(({ jobId }) => jobId)).toContain('old-0');
  });
});
