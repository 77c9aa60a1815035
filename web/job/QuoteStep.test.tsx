import { fireEvent, screen, waitFor } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import type { Job } from '#contract/records';
import { DEFAULT_TERMS } from '#core/quoting';
import { aJob } from '../../test/support/aJob.ts';
import { labelled } from '../../test/support/builders.ts';
import { show } from '../../test/support/screen.tsx';
import type { Answers } from '../../test/support/screen.tsx';
import { WhyProvider } from '../ui/Why.tsx';
import { QuoteStep } from './QuoteStep.tsx';

/** Nothing is simulated here: what a quote says until then is what counts. */
class DeafWorker {
  addEventListener(): void {}
  postMessage(): void {}
  terminate(): void {}
}
beforeEach(() => vi.stubGlobal('Worker', DeafWorker));
afterEach(() => vi.unstubAllGlobals());

const eight = labelled('8GB 1Rx8 PC4-2400T-UA1-11');
const used = {
  ...{ id: 'd1', version: 1, label: '8GB 1Rx8 PC4-2400T-UA1-11', module: eight, state: 'tested' },
  ...{ price: 900, cost: null, origin: 'bought at the quay', place: '', isNew: false },
  ...{ supplier: '', pulledIn: null, reservedFor: null, createdAt: '2026-05-01T10:00:00Z' },
};
const quoted = (more: Partial<Job> = {}, answers: Answers = {}) => {
  const [found] = aJob().snapshots;
  if (!found) throw new Error('expected what was found');
  const placement = { ...found.placement, b1: eight };
  const job = aJob({
    need: 10,
    snapshots: [found, { ...found, kind: 'planned', placement }],
    ...more,
  });
  return show(
    <WhyProvider>
      <QuoteStep job={job} />
    </WhyProvider>,
    {
      ...{ listModules: [], listDrawer: [used], listQuotes: [], issueQuote: [] },
      ...{ readShop: { terms: DEFAULT_TERMS, version: 1 } },
      readShares: { shares: [], odd: [], leftOut: [] },
      ...answers,
    },
  );
};
const issue = () => screen.findByRole<HTMLButtonElement>('button', { name: 'Issue the quote' });

test.each(['listQuotes', 'listDrawer', 'readShop'] as const)(
  'without an answer of %s that is said instead of waited for, and asked again',
  async (route) => {
    const { server } = quoted({}, { [route]: { status: 503 } });
    const again = await screen.findByRole('button', { name: 'Try again' });
    const is = {
      listQuotes: [],
      listDrawer: [used],
      readShop: { terms: DEFAULT_TERMS, version: 1 },
    };
    server.answers = { ...server.answers, [route]: is[route] };
    await userEvent.click(again);
    await issue();
  },
);

test('pressed twice while the server simulates, one quote is issued', async () => {
  const { server } = quoted();
  const button = await issue();
  fireEvent.click(button);
  expect(screen.getByRole<HTMLButtonElement>('button', { name: /Simulating/ }).disabled).toBe(true);
  fireEvent.click(button);
  await waitFor(() => expect(server.sent('issueQuote')).toHaveLength(1));
  await issue();
  expect(server.sent('issueQuote')).toHaveLength(1);
});

test('what limits the machine is printed only where the shop ticks it', async () => {
  const { server } = quoted();
  await issue();
  await userEvent.click(screen.getByLabelText(/Print what limits this machine/));
  await userEvent.click(await issue());
  await waitFor(() => expect(server.sent('issueQuote')).toHaveLength(1));
  expect(server.sent('issueQuote')[0]).toMatchObject({ withLimits: true });
});

test('room is told first, and the model says that it is still at work', async () => {
  quoted();
  const told = await screen.findByText(/Now 4.5 GB of it does not fit and spills to the drive/);
  const model = screen.getByText(/Being simulated, 0/);
  expect(told.compareDocumentPosition(model)).toBe(Node.DOCUMENT_POSITION_FOLLOWING);
});
