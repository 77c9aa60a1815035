import { act, screen, waitFor } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import type { Job } from '#contract/records';
import type { Side } from '#core/promising';
import { DEFAULT_TERMS } from '#core/quoting';
import type { Profile } from '#core/timing-simulation';
import { aJob } from '../../../test/support/aJob.ts';
import { desktop, labelled } from '../../../test/support/builders.ts';
import { show } from '../../../test/support/screen.tsx';
import { WhyProvider } from '../../ui/Why.tsx';
import type { SimulationAnswer, SimulationRequest } from '../../workers/simulation.worker.ts';
import { DrawCap, measuredDraw } from './DrawCap.tsx';
import { LimitsSheet } from './LimitsSheet.tsx';
import { PromiseSheet } from './PromiseSheet.tsx';
import { usePromises } from './usePromises.ts';

const eight = labelled('8GB 1Rx8 PC4-2400T-UA1-11');
const PAIR: Side = { placement: { a1: eight, b1: eight }, setting: 'standard' };
const WANTED = [PAIR];
const side = (bandwidth: number): Profile => ({
  bandwidth: {
    ...{ stream: bandwidth, triad: bandwidth, random: bandwidth },
    ...{ graphics: bandwidth, desktop: bandwidth },
  },
  reply: { idle: 80, loaded: 80 },
});

/** A worker that answers when a test says so. */
class StillWorker {
  static last: StillWorker | undefined;
  asked: SimulationRequest[] = [];
  private hear: (event: { data: SimulationAnswer }) => void = () => undefined;
  constructor() {
    StillWorker.last = this;
  }
  addEventListener(type: string, hear: (event: { data: SimulationAnswer }) => void): void {
    if (type === 'message') this.hear = hear;
  }
  postMessage(request: SimulationRequest): void {
    this.asked.push(request);
  }
  terminate(): void {
    this.asked = [];
  }
  say(answer: SimulationAnswer): void {
    act(() => this.hear({ data: answer }));
  }
}
beforeEach(() => vi.stubGlobal('Worker', StillWorker));
afterEach(() => vi.unstubAllGlobals());
const worker = () => StillWorker.last ?? new StillWorker();

function Sheet({ job }: { readonly job: Job }) {
  const promises = usePromises(job, WANTED);
  return (
    <WhyProvider>
      <PromiseSheet plan={PAIR} job={job} promises={promises} />
    </WhyProvider>
  );
}
const sheet = (more: Partial<Job>, answers = {}) => {
  const job = aJob(more, desktop());
  return show(<Sheet job={job} />, {
    readShares: { shares: [], odd: [], leftOut: [] },
    ...answers,
  });
};
const doing = (...names: string[]): Partial<Job> => ({
  need: 6,
  needInput: {
    ...{ idle: { low: 2, high: 3 }, peak: null, drive: 'spinning', graphicsShort: false },
    activities: names.map((name) => ({ name, low: 1, high: 2 })),
  },
});

describe('what a plan promises', () => {
  test('is reckoned at once, says so, and is replaced by the simulation when that is there', async () => {
    sheet(doing('Games'));
    const line = () => screen.getByText(/Reckoned from rate, channels and times/);
    expect(line().textContent).toContain('simulating, 0');
    const ticket = worker().asked.at(-1)?.ticket ?? -1;
    worker().say({ type: 'progress', ticket, share: 0.37 });
    expect(line().textContent).toContain('simulating, 35');
    const profiles = { before: side(20), after: side(20) };
    worker().say({ type: 'done', ticket, at: 0, profiles });
    worker().say({ type: 'over', ticket });
    await screen.findByText(/Simulated, both sides/);
    // Twice the channels, and still nothing gained: by what was simulated, not by the ratio.
    expect(screen.getByText(/bandwidth × 1, reply × 1/)).toBeDefined();
  });

  test('only this customer’s work stands there; the rest is one press away', () => {
    sheet(doing('Packing and unpacking'));
    expect(screen.getByText('Packing and unpacking files')).toBeDefined();
    const rest = screen.getByText('Rendering on the processor');
    expect(rest.closest('details')?.open).toBe(false);
    expect(screen.getByText('Packing and unpacking files').closest('details')).toBeNull();
  });

  test('room comes first where the work did not fit, with the drive it spills to', () => {
    sheet({ ...doing('Office and mail'), need: 10 });
    const first = screen.getByText(/All of the work fits, no more spilling to the drive/);
    expect(first.parentElement?.textContent).toContain('about a hundred thousand times as long');
    const speed = screen.getByText(/For work that fitted before:/);
    expect(first.compareDocumentPosition(speed)).toBe(Node.DOCUMENT_POSITION_FOLLOWING);
  });

  test('a worker that broke off is said, and can be asked again', async () => {
    vi.useFakeTimers({ shouldAdvanceTime: true });
    sheet({ ...doing('Numeric models'), need: 5 });
    void act(() => vi.advanceTimersByTime(21_000));
    expect(screen.getByText(/The simulation broke off/)).toBeDefined();
    await userEvent.click(screen.getByRole('button', { name: 'Simulate it' }));
    await waitFor(() => expect(screen.getByText(/simulating, 0/)).toBeDefined());
    vi.useRealTimers();
  });
});

describe('what the processor draws at most', () => {
  const runs = (values: number[], more = {}) => ({
    ...{
      id: String(values[0]),
      version: 1,
      kind: 'as-found',
      metric: 'bandwidth',
      test: 'all cores',
    },
    ...{ sense: null, activity: null, runs: values, warmUp: 0, power: 'unknown', tool: '' },
    ...{ resolution: '', conditions: '', isLowerBound: false, sittings: [], step: null },
    ...{ fingerprint: 'x', takenAt: '2026-05-04T12:00:00.000Z', doubts: [], ...more },
  });
  const measured = (...sets: ReturnType<typeof runs>[]) =>
    ({ measurements: sets }) as unknown as Pick<Job, 'measurements'>;

  test('is offered as measured, the highest; a bound from below has no say', () => {
    expect(measuredDraw(measured())).toBeUndefined();
    expect(measuredDraw(measured(runs([14, 14.2]), runs([18, 18.2])))).toBeCloseTo(18.1, 9);
    expect(measuredDraw(measured(runs([14]), runs([30], { isLowerBound: true })))).toBe(14);
    expect(measuredDraw(measured(runs([70], { metric: 'latency' })))).toBeUndefined();
  });

  test('is stored with a press, in either way of writing decimals, and left out again', async () => {
    const { server, reshow } = show(<DrawCap job={aJob()} />, { changeJob: aJob({ version: 2 }) });
    await userEvent.click(screen.getByText(/draw less than memory gives/));
    await userEvent.type(screen.getByLabelText(/draws at most/), '18,5');
    await userEvent.click(screen.getByRole('button', { name: 'Count it in' }));
    expect(server.sent('changeJob')).toEqual([{ version: 1, drawCap: 18.5 }]);
    reshow(<DrawCap job={aJob({ drawCap: 18.5, version: 2 })} />);
    expect(screen.getByText(/18\.5 GB\/s/)).toBeDefined();
    await userEvent.click(screen.getByRole('button', { name: 'leave it out' }));
    expect(server.sent('changeJob').at(-1)).toEqual({ version: 2, drawCap: null });
  });

  test('what is no figure is refused at the field, and nothing is sent', async () => {
    const { server } = show(<DrawCap job={aJob()} />);
    await userEvent.click(screen.getByText(/draw less than memory gives/));
    for (const typed of ['fast', '0', '5000']) {
      await userEvent.clear(screen.getByLabelText(/draws at most/));
      await userEvent.type(screen.getByLabelText(/draws at most/), typed);
      await userEvent.click(screen.getByRole('button', { name: 'Count it in' }));
      expect(screen.getByText(/GB\/s (?:or more|or less)|Enter a figure/)).toBeDefined();
    }
    expect(server.sent('changeJob')).toEqual([]);
  });
});

test('what limits a machine says where the catalogue cannot be fetched, and asks again', async () => {
  const { server } = show(
    <WhyProvider>
      <LimitsSheet job={aJob()} />
    </WhyProvider>,
    {
      ...{ listModules: { status: 503 }, listDrawer: [] },
      ...{ readShop: { terms: DEFAULT_TERMS, version: 1 }, readShares: { shares: [] } },
    },
  );
  const again = await screen.findByRole('button', { name: 'Try again' });
  server.answers = { ...server.answers, listModules: [] };
  await userEvent.click(again);
  await screen.findByText(/Second channel/i);
});
