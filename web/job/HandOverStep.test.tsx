import { screen } from '@testing-library/react';
import { expect, test } from 'vitest';
import type { Job } from '#contract/records';
import { fingerprint } from '#core/proving';
import { aJob } from '../../test/support/aJob.ts';
import { desktop } from '../../test/support/builders.ts';
import { show } from '../../test/support/screen.tsx';
import { WhyProvider } from '../ui/Why.tsx';
import { HandOverStep } from './HandOverStep.tsx';

const [found] = aJob().snapshots;
if (!found) throw new Error('expected what was found');

const handingOver = (more: Partial<Job>) =>
  show(
    <WhyProvider>
      <HandOverStep job={aJob(more)} />
    </WhyProvider>,
    {},
  );
const leads = () =>
  screen
    .getAllByRole('link')
    .map((one) => [one.textContent, one.getAttribute('href')])
    .filter(([text]) => text?.startsWith('Record') || text?.startsWith('Look'));

test.each([
  ['nothing', [], ['Record what was found', 'Record what was fitted']],
  ['what was found', [found], ['Record what was fitted']],
  ['both', [found, { ...found, kind: 'as-fitted' as const }], []],
])(
  'with %s on record, it leads to what a job is not closed without',
  (_what, snapshots, lacking) => {
    handingOver({ snapshots });
    expect(leads().map(([text]) => text)).toEqual(lacking);
    const close = screen.getByRole<HTMLButtonElement>('button', { name: /Hand over and close/ });
    expect(close.disabled).toBe(lacking.length > 0);
  },
);

test('errors of a memory test lead to the fault', () => {
  handingOver({
    snapshots: [found],
    memoryTests: [
      {
        ...{ id: 't1', kind: 'before the system starts', minutes: 190, passes: 2, errors: 3 },
        ...{ tool: '', conditions: '', by: 'Ottoline V.', setting: 'standard' },
        ...{ fingerprint: fingerprint(desktop(), found.placement), at: found.savedAt },
      } as never,
    ],
  });
  expect(screen.getByText('A memory test found errors')).toBeDefined();
  expect(leads()).toContainEqual(['Look for the fault', '/jobs/job-1/fault']);
});
