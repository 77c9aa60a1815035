import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { BenchInput } from '#contract/bench';
import { jobProof } from '#contract/jobProof';
import type { Ledger, LedgerShares } from '#contract/ledger';
import type { Job } from '#contract/records';
import { CARRIED_STEP, carryCode, simulateProbe } from '#core/proving';
import type { ProbeResult } from '#core/proving';
import { Api, module } from './support/api.ts';
import { desktop, running } from './support/builders.ts';

let api: Api;
beforeAll(async () => {
  api = await Api.start();
});
afterAll(() => api.server.stop());

let visit = 0;
const machine = desktop();
const point = running(machine, { a1: module });
const result = (more: Partial<ProbeResult> = {}): ProbeResult => ({
  ...simulateProbe(machine, point, 'none', ++visit),
  ...{ marks: [], ...more },
});
const common = { kind: 'as-found', power: 'mains, full power' } as const;
const carry = (job: Job, more: object) =>
  api.ok('POST', `/jobs/${job.id}/carried`, { ...common, ...more });
const reads = ({ measurements }: Job) =>
  measurements.find(({ test: name }) => name === 'measuring page: read');
const typed = (job: Job, more: object) =>
  api.ok('POST', `/jobs/${job.id}/measurements`, {
    ...{ kind: 'as-found', metric: 'bandwidth', test: 'copy', runs: [14, 14.1], warmUp: 0 },
    ...{ conditions: '', ...more },
  });

describe('results of the measuring page', () => {
  test('each is a sitting of its own', async () => {
    const job = await api.jobWithFound();
    const first = await carry(job, { file: result() });
    expect(reads(first)?.sittings).toEqual([]);
    const second = await carry(job, { file: result() });
    expect(reads(second)).toMatchObject({ sittings: [9, 9], runs: { length: 18 } });
    const third = await carry(job, { file: result() });
    expect(reads(third)?.sittings).toEqual([9, 9, 9]);
  });

  test('fed otherwise, a later one takes the place of the earlier', async () => {
    const job = await api.jobWithFound();
    await carry(job, { file: result() });
    const changed = await carry(job, { file: result(), power: 'battery' });
    expect(reads(changed)).toMatchObject({ sittings: [], runs: { length: 9 } });
  });

  test('what the page doubted stays with its runs, from any of its sittings', async () => {
    const job = await api.jobWithFound();
    await carry(job, { file: result({ marks: ['slowing'] }) });
    const both = await carry(job, { file: result({ marks: ['noisy', 'hidden'] }) });
    expect([...(reads(both)?.doubts ?? [])].sort()).toEqual(['noisy', 'slowing']);
  });

  test('a code says what it rounded to, a file leaves it to its digits', async () => {
    const job = await api.jobWithFound();
    const code = carryCode(result());
    const byCode = reads(await carry(job, { code }));
    const mean = (byCode?.runs ?? []).reduce((sum, run) => sum + run, 0) / 5;
    expect(byCode?.step).toBeCloseTo(mean * CARRIED_STEP, 6);
    const other = await api.jobWithFound();
    expect(reads(await carry(other, { file: result() }))?.step).toBeNull();
  });

  test('more sittings than can be kept let the oldest go, and still add up', async () => {
    const job = await api.jobWithFound();
    let now: Job = job;
    for (let at = 0; at < 5; at++)
      now = await carry(job, {
        file: result({ read: Array.from({ length: 60 }, (_, one) => 14 + one / 100) }),
      });
    const { sittings = [], runs = [] } = reads(now) ?? {};
    expect(runs).toHaveLength(200);
    expect(sittings).toEqual([20, 60, 60, 60]);
    expect(sittings.reduce((sum, one) => sum + one, 0)).toBe(runs.length);
  });
});

describe('runs typed', () => {
  test('keep their sittings; sizes that do not add up are refused at their field', async () => {
    const job = await api.jobWithFound();
    const kept = await typed(job, { runs: [14, 14.1, 13.9], sittings: [1, 2] });
    expect(kept.measurements[0]?.sittings).toEqual([1, 2]);
    const wrong = await api.problem('POST', `/jobs/${job.id}/measurements`, {
      ...{ kind: 'as-found', metric: 'bandwidth', test: 'other', runs: [14, 14.1], warmUp: 0 },
      ...{ conditions: '', sittings: [3] },
    });
    expect(wrong.fields).toMatchObject([{ path: 'sittings' }]);
    expect(wrong.detail).toContain('do not add up');
  });

  test('from several jobs in repeated sittings tell the shop’s own spread', async () => {
    const before = await api.jobWithFound();
    for (let at = 0; at < 4; at++) {
      const job = await api.jobWithFound();
      const low = [14, 14.02, 13.98];
      await typed(job, { runs: [...low, ...low.map((run) => run * 1.03)], sittings: [3, 3] });
    }
    const { levelSpread } = await api.ok('GET', `/jobs/${before.id}`);
    expect(levelSpread).toMatchObject({ from: 'shop' });
    expect(levelSpread?.degrees).toBeGreaterThanOrEqual(4);
    expect(levelSpread?.sd).toBeGreaterThan(0.003);
    expect(levelSpread?.sd).toBeLessThan(0.04);
  });

  test('are judged by that spread, and a closed job keeps the one it was closed with', async () => {
    const job = await api.jobWithFound();
    await api.ok('PUT', `/jobs/${job.id}/snapshots/as-fitted`, {
      ...{ placement: { a1: module, b1: module }, setting: 'standard', version: 0 },
    });
    await typed(job, {});
    const open = await typed(job, { kind: 'as-fitted', runs: [27, 27.2, 27.1] });
    expect(jobProof(open)?.metrics[0]?.gain?.level).toEqual(open.levelSpread);
    const closed = await api.ok('POST', `/jobs/${job.id}/close`, { version: open.version });
    expect(closed.result?.level).toEqual(open.levelSpread);
    expect(jobProof({ ...closed, levelSpread: null })?.metrics[0]?.gain?.level).toEqual(
      open.levelSpread,
    );
  });
});

describe('the rate a screen showed', () => {
  let count = 0;
  const note = (job: Job, more: BenchInput['note']) => {
    const input = { id: `sitting-note-${count++}`, note: more };
    return api.ok('POST', `/jobs/${job.id}/bench`, input).then(() => input.id);
  };
  const shown = async (job: Job) => (await api.ok('GET', `/jobs/${job.id}`)).shownRate;
  const reading = (value: number) =>
    ({ type: 'reading', kind: 'rate', value }) as BenchInput['note'];

  test('is the last one read, until it is taken back or the machine is opened again', async () => {
    const job = await api.jobWithFound();
    expect(await shown(job)).toBeNull();
    await note(job, reading(1200));
    const second = await note(job, reading(2400));
    expect(await shown(job)).toBe(2400);
    await note(job, { type: 'undo', of: second });
    expect(await shown(job)).toBe(1200);
    await note(job, { type: 'begin', purpose: 'reseat', slotIds: [] });
    expect(await shown(job)).toBeNull();
  });
});

describe('an odd job of the ledger', () => {
  test('is left out and counted again; one that is not there is said', async () => {
    const job = await api.jobWithFound();
    await api.ok('PUT', `/jobs/${job.id}/snapshots/as-fitted`, {
      ...{ placement: { a1: module, b1: module }, setting: 'standard', version: 0 },
    });
    await typed(job, {});
    const open = await typed(job, { kind: 'as-fitted', runs: [27, 27.2, 27.1] });
    await api.ok('POST', `/jobs/${job.id}/close`, { version: open.version });
    const isLeftOut = ({ leftOut }: LedgerShares) => leftOut.some(({ jobId }) => jobId === job.id);
    expect(isLeftOut(await api.ok<LedgerShares>('GET', '/ledger/shares'))).toBe(false);
    const path = `/ledger/${job.id}/left-out`;
    expect(isLeftOut(await api.ok<LedgerShares>('PUT', path, { isLeftOut: true }))).toBe(true);
    const { lines } = await api.ok<Ledger>('GET', '/ledger');
    expect(lines.find(({ jobId }) => jobId === job.id)?.isLeftOut).toBe(true);
    expect(isLeftOut(await api.ok<LedgerShares>('PUT', path, { isLeftOut: false }))).toBe(false);
    const { status } = await api.send('PUT', '/ledger/nobody/left-out', { isLeftOut: true });
    expect(status).toBe(404);
  });
});
