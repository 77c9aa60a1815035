import { act, cleanup, render, screen, within } from '@testing-library/react';
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import { Others } from '#web/ui/Others.tsx';
import { LineToBench } from './lineToBench.ts';
import { tagsOf } from './Live.tsx';
import { forgetHere, noteHere } from './presence.ts';

afterEach(() => {
  cleanup();
  act(forgetHere);
  vi.unstubAllGlobals();
  vi.useRealTimers();
});

describe('who else is at a job', () => {
  const at = { tab: 'a', name: 'Bram Oddmund', jobId: 'j', step: 'fit', draft: null };
  // Read out as it changes, which is heard only of a place that was there before; a list stays a list in it.
  const list = () => {
    const lists = within(screen.getByRole('status')).queryAllByRole('list');
    return lists.flatMap((one) =>
      within(one)
        .getAllByRole('listitem')
        .map(({ textContent }) => textContent),
    );
  };

  test('is said by name and step, follows them, and goes when they go', () => {
    render(<Others jobId="j" stepName={(step) => step.toUpperCase()} />);
    expect(list()).toEqual([]);
    act(() => {
      noteHere(at);
      noteHere({ ...at, tab: 'b', jobId: 'other' });
    });
    expect(list()).toEqual(['Bram Oddmund is at FIT on another screen.']);
    act(() => noteHere({ ...at, step: 'plan', draft: 'the plan: 16 GB in a1' }));
    expect(list()).toEqual([
      'Bram Oddmund is at PLAN on another screen, with a draft that is not saved – the plan: 16 GB in a1.',
    ]);
    act(() => noteHere({ ...at, jobId: null }));
    expect(list()).toEqual([]);
  });
});

describe('what a change elsewhere makes old', () => {
  test('of a job: all that is shown of it; of a table: what comes from it; of none known: everything', () => {
    expect(tagsOf({ job: 'j', table: 'bench_log' })).toEqual(
      expect.arrayContaining(['job', 'jobs', 'bench', 'evidence', 'quotes', 'drawer']),
    );
    expect(tagsOf({ job: null, table: 'makers' })).toEqual(['makers']);
    expect(tagsOf({ job: null, table: 'something new' })).toContain('machines');
  });
});

describe('the line to the bench', () => {
  /** A stream as a browser has it, which a test can talk through. */
  class FakeSource {
    static all: FakeSource[] = [];
    onopen: (() => void) | undefined;
    onerror: (() => void) | undefined;
    isClosed = false;
    readonly heard = new Map<string, (event: { data: string }) => void>();
    constructor(readonly address: string) {
      FakeSource.all.push(this);
    }
    addEventListener(event: string, then: (event: { data: string }) => void): void {
      this.heard.set(event, then);
    }
    close(): void {
      this.isClosed = true;
    }
    say(event: string, data: unknown): void {
      this.heard.get(event)?.({ data: JSON.stringify(data) });
    }
  }
  const open = () => FakeSource.all.filter(({ isClosed }) => !isClosed);
  const look = (state: 'visible' | 'hidden') => {
    vi.spyOn(document, 'visibilityState', 'get').mockReturnValue(state);
    document.dispatchEvent(new Event('visibilitychange'));
  };
  let opened: boolean[];
  let line: LineToBench;

  beforeEach(() => {
    FakeSource.all = [];
    opened = [];
    vi.useFakeTimers();
    vi.stubGlobal('EventSource', FakeSource);
    vi.spyOn(document, 'visibilityState', 'get').mockReturnValue('visible');
    line = new LineToBench((isAgain) => `/api/live${isAgain ? '?again' : ''}`, ['beat', 'change'], {
      onEvent: () => undefined,
      onOpen: (isAgain) => opened.push(isAgain),
    });
    FakeSource.all[0]?.onopen?.();
  });
  afterEach(() => {
    line.close();
    vi.restoreAllMocks();
  });

  test('one while the tab is seen, none while it is not; the second time all is looked at again', () => {
    look('hidden');
    expect(open()).toHaveLength(0);
    look('visible');
    look('visible');
    expect(open()).toHaveLength(1);
    open()[0]?.onopen?.();
    expect(opened).toEqual([false, true]);
    expect(FakeSource.all.map(({ address }) => address)).toEqual(['/api/live', '/api/live?again']);
  });

  test('silent for longer than its beats, as after sleep, it is dialled anew; with beats it stays', () => {
    const [first] = open();
    for (let beat = 0; beat < 5; beat++) {
      vi.advanceTimersByTime(14_000);
      first?.say('beat', 15_000);
    }
    expect(first?.isClosed).toBe(false);
    vi.advanceTimersByTime(40_000);
    expect(first?.isClosed).toBe(true);
    expect(open()).toHaveLength(1);
  });

  test('refused or broken, it tries again, and not once it was closed', () => {
    open()[0]?.onerror?.();
    expect(open()).toHaveLength(0);
    vi.advanceTimersByTime(2500);
    expect(open()).toHaveLength(1);
    open()[0]?.onerror?.();
    line.close();
    vi.advanceTimersByTime(60_000);
    expect(open()).toHaveLength(0);
  });
});
