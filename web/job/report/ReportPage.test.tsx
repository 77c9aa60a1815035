import { screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { Route, Routes } from 'react-router';
import { describe, expect, test } from 'vitest';
import type { MeasurementRecord } from '#contract/records';
import { fingerprint } from '#core/proving';
import { DEFAULT_TERMS } from '#core/quoting';
import { aJob } from '../../../test/support/aJob.ts';
import { desktop, labelled } from '../../../test/support/builders.ts';
import { show } from '../../../test/support/screen.tsx';
import type { Answers } from '../../../test/support/screen.tsx';
import { ReportPage } from './ReportPage.tsx';

const NOON = '2026-05-04T12:00:00.000Z';
const eight = labelled('8GB 1Rx8 PC4-2400T-UA1-11');
const sides = { 'as-found': { a1: eight }, 'as-fitted': { a1: eight, b1: eight } } as const;

const runs = (kind: 'as-found' | 'as-fitted', of: readonly number[]): MeasurementRecord => ({
  ...{ id: kind, version: 1, kind, metric: 'bandwidth', sense: null, activity: null },
  ...{ test: 'memory copy', runs: [...of], warmUp: 0, isLowerBound: false, sittings: [] },
  ...{ step: null, doubts: [], power: 'unknown', resolution: '', tool: '', conditions: '' },
  ...{ fingerprint: fingerprint(desktop(), sides[kind]), takenAt: NOON },
});

function report(measurements: readonly MeasurementRecord[], more: Answers = {}) {
  const job = aJob({
    snapshots: (['as-found', 'as-fitted'] as const).map((kind) => ({
      ...{ kind, version: 1, placement: sides[kind], setting: 'standard', savedAt: NOON },
    })),
    measurements: [...measurements],
  });
  return show(
    <Routes>
      <Route path="/jobs/:id/report" element={<ReportPage />} />
    </Routes>,
    {
      ...{ readJob: job, readShop: { terms: DEFAULT_TERMS, version: 1 } },
      readBench: { entries: [], pulledTo: 'customer' },
      ...more,
    },
    '/jobs/job-1/report',
  );
}
const part = async (title: string) => {
  const found = (await screen.findByRole('heading', { name: title })).closest('section');
  if (!found) throw new Error(`expected the part ${title}`);
  return within(found);
};

describe('the report on the page', () => {
  test.each([
    ['the shop', 'readShop', { terms: { ...DEFAULT_TERMS, name: 'Quay repairs' }, version: 1 }],
    ['whose the pulled modules are', 'readBench', { entries: [], pulledTo: 'drawer' }],
  ])(
    'supposes nothing of %s: without it there is none, and it is asked for again',
    async (_what, route, is) => {
      const { server } = report([], { [route]: { status: 503 } });
      await screen.findByText('Could not fetch the report');
      expect(screen.queryByRole('article')).toBeNull();
      server.answers = { ...server.answers, [route]: is };
      await userEvent.click(screen.getByRole('button', { name: 'Try again' }));
      await screen.findByRole('article');
    },
  );

  test('shows lanes and bars, each figure with its unit, and no statistics', async () => {
    report([runs('as-found', [14, 14.1, 13.9]), runs('as-fitted', [27.5, 27.6, 27.4])]);
    const lanes = await part('How the memory lies now');
    expect(lanes.getByText('Channel B')).toBeDefined();
    const bars = await part('What was measured');
    expect(bars.getByText('14 GB/s')).toBeDefined();
    expect(bars.getByText('27.5 GB/s')).toBeDefined();
    expect(bars.getByText(/×1.96 better/)).toBeDefined();
    expect(screen.queryByText(/19 times in 20/)).toBeNull();
  });

  test('claims nothing where nothing was measured, and says it is a draft', async () => {
    report([]);
    const proven = await part('What was proven');
    expect(proven.getByText('Nothing was measured, so no gain is claimed.')).toBeDefined();
    expect(screen.queryByRole('heading', { name: 'What was measured' })).toBeNull();
    expect(screen.getByText('draft: job still open')).toBeDefined();
  });
});
