import { screen } from '@testing-library/react';
import { expect, test } from 'vitest';
import type { Job } from '#contract/records';
import { fingerprint } from '#core/proving';
import { aJob } from '../../test/support/aJob.ts';
import { desktop, labelled } from '../../test/support/builders.ts';
import { show } from '../../test/support/screen.tsx';
import { WhyProvider } from '../ui/Why.tsx';
import { ProveStep } from './ProveStep.tsx';

const eight = labelled('8GB 1Rx8 PC4-2400T-UA1-11');
const [found] = aJob().snapshots;
if (!found) throw new Error('expected what was found');
const pair = { ...found, placement: { ...found.placement, b1: eight } };
const planned = { ...pair, kind: 'planned' as const };
const fitted = { ...pair, kind: 'as-fitted' as const };

const baseline = {
  ...{ id: 'm1', version: 1, kind: 'as-found', metric: 'bandwidth', test: 'copy', tool: '' },
  ...{ runs: [17.1, 17.2, 17], warmUp: 0, conditions: '', power: 'unknown', resolution: '' },
  ...{ fingerprint: fingerprint(desktop(), found.placement), takenAt: '2026-05-04T12:00:00.000Z' },
};

const proving = (more: Partial<Job>) =>
  show(
    <WhyProvider>
      <ProveStep job={aJob(more)} />
    </WhyProvider>,
    {},
  );

test.each([
  ['planned and not agreed to', { snapshots: [found, planned] }, 'Next: quote', 'quote'],
  ['agreed to', { snapshots: [found, planned], acceptedQuote: 1 }, 'Next: fit', 'fit'],
  ['fitted', { snapshots: [found, planned, fitted] }, 'Next: hand over', 'hand-over'],
  ['left as it was', { snapshots: [found] }, 'Next: hand over', 'hand-over'],
])('what was %s leads on to what comes of it', (_what, more, name, step) => {
  proving(more);
  const link = screen.getByRole('link', { name });
  expect(link.getAttribute('href')).toBe(`/jobs/job-1/${step}`);
});

test('what is missing of a comparison is said by what there is', () => {
  proving({ snapshots: [] });
  expect(screen.getByText('Record what was found first.')).toBeDefined();
});

test('a baseline is asked for until there is one', () => {
  const { unmount } = proving({});
  expect(screen.getByText('Nothing is fitted yet: measure the baseline below.')).toBeDefined();
  unmount();
  proving({ measurements: [baseline as unknown as Job['measurements'][number]] });
  expect(screen.getByText('The baseline is measured; nothing is fitted yet.')).toBeDefined();
});
