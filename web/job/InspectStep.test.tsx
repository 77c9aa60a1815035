import { screen, waitFor, within } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { expect, test } from 'vitest';
import type { Job } from '#contract/records';
import { aJob } from '../../test/support/aJob.ts';
import { show } from '../../test/support/screen.tsx';
import { WhyProvider } from '../ui/Why.tsx';
import { InspectStep } from './InspectStep.tsx';

const inspect = (job: Job) =>
  show(
    <WhyProvider>
      <InspectStep job={job} />
    </WhyProvider>,
    { readEvidence: { documents: [], decisions: [] }, listMakers: [], listResults: [] },
  );
const answer = () => within(screen.getByRole('region', { name: 'What runs today' }));

test('a board nobody has filled is no fault: it says what to do, and nothing is red', async () => {
  inspect(aJob({ snapshots: [] }));
  expect(await answer().findByText('Nothing recorded yet')).toBeDefined();
  expect(screen.getByText(/Drop an inventory or firmware file/)).toBeDefined();
  expect(screen.queryByText(/does not run/i)).toBeNull();
});

test('a machine saved without memory does not run, and says why', async () => {
  const [found] = aJob().snapshots;
  if (!found) throw new Error('expected a configuration');
  inspect(aJob({ snapshots: [{ ...found, placement: {} }] }));
  expect(await answer().findByText(/Does not run: 1 reason/)).toBeDefined();
  expect(screen.getByText(/No memory is fitted/)).toBeDefined();
});

test('taken out again, it is as it was: nothing recorded', async () => {
  inspect(aJob({ snapshots: [] }));
  await answer().findByText('Nothing recorded yet');
  await userEvent.type(screen.getByLabelText(/^A1, channel A: empty/), '{Enter}');
  await userEvent.keyboard('8GB 1Rx8 PC4-2400T-UA1-11{Enter}');
  expect(await answer().findByText(/DDR4-2400/)).toBeDefined();
  await userEvent.click(screen.getByRole('button', { name: /Undo/ }));
  await waitFor(() => expect(answer().getByText('Nothing recorded yet')).toBeDefined());
});
