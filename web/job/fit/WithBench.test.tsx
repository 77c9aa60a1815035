import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { Route, Routes } from 'react-router';
import { describe, expect, test } from 'vitest';
import type { BenchLog } from '#contract/bench';
import { jobBench } from '#contract/jobBench';
import { effectOf } from '#core/fitting';
import { aJob } from '../../../test/support/aJob.ts';
import { labelled } from '../../../test/support/builders.ts';
import { show } from '../../../test/support/screen.tsx';
import { WhyProvider } from '../../ui/Why.tsx';
import { FitStep } from '../FitStep.tsx';
import { FaultPage } from '../fault/FaultPage.tsx';
import { ReadingPage } from './ReadingPage.tsx';

const [found] = aJob().snapshots;
if (!found) throw new Error('expected what was found');
const placement = { ...found.placement, b1: labelled('8GB 1Rx8 PC4-2400T-UA1-11') };
const job = aJob({ snapshots: [found, { ...found, kind: 'planned', placement }] });
const NOTHING: BenchLog = { entries: [], pulledTo: 'customer' };
const { steps } = jobBench(job, NOTHING).sheet;
const [first, second] = steps;
type Step = (typeof steps)[number];
if (!first || !second) throw new Error('expected steps');
const ticked = (step: Step): BenchLog => ({
  ...NOTHING,
  entries: [
    {
      ...{ id: 'entry-000001', by: 'Bram Oddmund', at: '2026-05-04T12:10:00.000Z' },
      note: { type: 'tick', stepId: step.id, effect: effectOf(step) },
    },
  ],
});
const oneDone = ticked(first);

/** A page of the job, the answer on its bench work as a test has it come. */
const open = (page: React.ReactNode, readBench: unknown) =>
  show(
    <WhyProvider>
      <Routes>
        <Route path="/jobs/:id" element={page} />
      </Routes>
    </WhyProvider>,
    { readJob: job, readBench },
    '/jobs/job-1',
  );

describe.each([
  ['fit', <FitStep key="fit" job={job} />, 'd', /1 of \d+ done/],
  ['reading mode', <ReadingPage key="reading" />, ' ', /2 of \d+/],
])('%s', (_name, page, press, told) => {
  test('shows what is next only once it is known what was done: a press before ticks nothing', async () => {
    let answer: (log: BenchLog) => void = () => undefined;
    const held = new Promise<BenchLog>((settle) => {
      answer = settle;
    });
    const { server } = open(page, () => held);
    await screen.findByText('Fetching what was done so far …');
    await userEvent.keyboard(press);
    expect(screen.queryByRole('button', { name: /Done/ })).toBeNull();
    answer(oneDone);
    await screen.findByText(told);
    expect(server.sent('addBenchNote')).toEqual([]);
    // The same press ticks the step that is next, now that it is there.
    await userEvent.keyboard(press);
    await waitFor(() =>
      expect(server.sent('addBenchNote')).toMatchObject([{ note: { stepId: second.id } }]),
    );
  });

  test('says where it cannot be fetched, and asks again', async () => {
    const { server } = open(page, { status: 503 });
    await userEvent.click(await screen.findByRole('button', { name: 'Try again' }));
    expect(screen.queryByRole('button', { name: /Done/ })).toBeNull();
    server.answers = { ...server.answers, readBench: oneDone };
    await userEvent.click(screen.getByRole('button', { name: 'Try again' }));
    await screen.findByText(told);
  });
});

test('a fault is asked about with what the log says of whose hands were in', async () => {
  const seats = steps.find((step) => effectOf(step)?.type === 'slot');
  if (!seats) throw new Error('expected a module to be moved');
  open(<FaultPage />, () => Promise.resolve(ticked(seats)));
  const hands = await screen.findByRole('checkbox', { name: /opened since/ });
  expect(hands).toHaveProperty('checked', true);
});
