import { act, render, screen } from '@testing-library/react';
import { MemoryRouter } from 'react-router';
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import type { BenchLog } from '#contract/bench';
import type { JobSummary } from '#contract/records';
import { START } from '#core/fitting';
import { DEFAULT_TERMS } from '#core/quoting';
import { aJob } from '../../test/support/aJob.ts';
import { labelled } from '../../test/support/builders.ts';
import { show } from '../../test/support/screen.tsx';
import { inAnyZone } from '../../test/support/zone.ts';
import { Marks, waiting } from '../bench/jobParts.tsx';
import { FitStep } from '../job/FitStep.tsx';
import { WhyProvider } from '../ui/Why.tsx';
import { benchNow, hearClock } from './benchClock.ts';

const moveTo = inAnyZone();
/** This machine’s clock is set; the bench’s is heard of apart from it. */
const clockTo = (at: string) => void vi.useFakeTimers({ toFake: ['Date'], now: new Date(at) });
beforeEach(() => clockTo('2026-11-25T12:00:00Z'));
afterEach(() => {
  hearClock(new Date().toUTCString());
  vi.useRealTimers();
});

describe('the bench’s clock', () => {
  test.each([
    ['20 minutes behind it', '2026-11-25T12:20:00Z', 20 * 60_000],
    ['an hour ahead of it', '2026-11-25T11:00:00Z', -60 * 60_000],
    ['with it, but for the way', '2026-11-25T11:59:58Z', 0],
  ])('is kept by a machine %s', (_name, told, apart) => {
    hearClock(new Date(told).toUTCString());
    expect(benchNow() - Date.now()).toBe(apart);
  });

  test('stays what it was where an answer names none, or nonsense', () => {
    hearClock('Wed, 25 Nov 2026 13:00:00 GMT');
    hearClock(null);
    hearClock('soon');
    expect(benchNow() - Date.now()).toBe(60 * 60_000);
    hearClock('Wed, 25 Nov 2026 12:00:00 GMT');
    expect(benchNow()).toBe(Date.now());
  });

  test('a first start just begun is not called too long by a tablet that is an hour ahead', async () => {
    const [found] = aJob().snapshots;
    if (!found) throw new Error('expected what was found');
    const placement = { ...found.placement, b1: labelled('8GB 1Rx8 PC4-2400T-UA1-11') };
    const job = aJob({ snapshots: [found, { ...found, kind: 'planned', placement }] });
    const log: BenchLog = {
      pulledTo: 'customer',
      entries: [
        {
          ...{ id: 'entry-000001', by: 'Bram Oddmund', at: '2026-11-25T10:59:30.000Z' },
          note: { type: 'tick', stepId: START },
        },
      ],
    };
    hearClock('Wed, 25 Nov 2026 11:00:00 GMT');
    show(
      <WhyProvider>
        <FitStep job={job} />
      </WhyProvider>,
      { readBench: log, readShop: { terms: DEFAULT_TERMS, version: 1 } },
    );
    const timer = await screen.findByRole('timer');
    expect(timer.textContent).toMatch(/^0:3\d$/);
    expect(screen.queryByText(/too long/)).toBeNull();
    // The same tablet, where the bench agrees with it: the start is an hour old.
    hearClock('Wed, 25 Nov 2026 12:00:00 GMT');
    await act(() => new Promise((settle) => setTimeout(settle, 1100)));
    expect(timer.textContent).toMatch(/^60:/);
    screen.getByText(/too long/);
  });
});

describe.each(['Etc/GMT+11', 'UTC', 'Etc/GMT-14'])('a shop at %s', (zone) => {
  const marks = (deadline: string) => {
    const summary = { isStopped: false, deadline, batch: null } as unknown as JobSummary;
    const { container, unmount } = render(
      <MemoryRouter>
        <Marks job={summary} />
      </MemoryRouter>,
    );
    const text = container.textContent;
    unmount();
    return text;
  };
  const shopTime = (day: number, hour: number, minute = 0) => {
    moveTo(zone);
    const at = new Date(2026, 10, day, hour, minute);
    clockTo(at.toISOString());
    return at.toISOString();
  };

  test('a job is late from the midnight after the day it was promised for', () => {
    shopTime(25, 23, 59);
    expect(marks('2026-11-25')).toBe('ready by 25 Nov');
    shopTime(26, 0, 1);
    expect(marks('2026-11-25')).toBe('✕ late: ready by 25 Nov');
    expect(marks('2026-11-26')).toBe('ready by 26 Nov');
  });

  test('a job taken in yesterday evening waits a day in the morning', () => {
    const evening = shopTime(24, 18);
    expect(waiting(evening)).toBe('today');
    shopTime(25, 8);
    expect(waiting(evening)).toBe('1 day');
    shopTime(27, 8);
    expect(waiting(evening)).toBe('3 days');
  });
});
