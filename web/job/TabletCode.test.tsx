import { act, fireEvent, screen } from '@testing-library/react';
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import { show } from '../../test/support/screen.tsx';
import { useTabletCode } from './TabletCode.tsx';

const NOW = Date.parse('2026-05-04T12:00:00Z');
beforeEach(
  () =>
    void vi.useFakeTimers({
      toFake: ['Date', 'setTimeout', 'clearTimeout'],
      now: NOW,
      shouldAdvanceTime: true,
    }),
);
afterEach(() => void vi.useRealTimers());

function Tag() {
  const { button, panel } = useTabletCode('j');
  return (
    <>
      {button}
      {panel}
    </>
  );
}
const link = (address: string | null) => ({
  address,
  expiresAt: new Date(NOW + 10 * 60_000).toISOString(),
});

describe('the code for a tablet', () => {
  test('is made at a press, put away at another, and each press makes a new one', async () => {
    const { server } = show(<Tag />, {
      letTabletIn: link('https://192.0.2.7:4871/jobs/j/fit#tablet=abcdefghijklmnopqrstuvwxyz'),
    });
    fireEvent.click(screen.getByText('Open on a tablet'));
    await screen.findByText(/for this job alone/);
    fireEvent.click(screen.getByText('Put the code away'));
    expect(screen.queryByRole('group')).toBeNull();
    fireEvent.click(screen.getByText('Open on a tablet'));
    await screen.findByRole('group');
    expect(server.sent('letTabletIn')).toEqual([{}, {}]);
  });

  test('is taken off the screen when its ten minutes are over', async () => {
    show(<Tag />, { letTabletIn: link('https://192.0.2.7:4871/jobs/j/fit#tablet=x') });
    fireEvent.click(screen.getByText('Open on a tablet'));
    await screen.findByText(/for this job alone/);
    await act(() => vi.advanceTimersByTimeAsync(10 * 60_000 + 1));
    expect(screen.queryByText(/for this job alone/)).toBeNull();
    expect(screen.getByText('This code has expired')).toBeDefined();
  });

  test('without a way to the bench it is said who opens one, and where', async () => {
    show(<Tag />, { letTabletIn: link(null) });
    fireEvent.click(screen.getByText('Open on a tablet'));
    await screen.findByText('No other device reaches this bench yet');
    expect(screen.getByRole('link', { name: 'Shop › Network' }).getAttribute('href')).toBe(
      '/network',
    );
    expect(screen.queryByRole('img', { name: 'The link, to scan' })).toBeNull();
  });

  test('a closed job gives none, and the refusal says what would', async () => {
    show(<Tag />, {
      letTabletIn: {
        ...{ type: 'about:blank#state', title: 'Cannot be done yet', status: 409 },
        ...{ detail: 'This job is closed.', mend: 'Open it again before a tablet works on it.' },
      },
    });
    fireEvent.click(screen.getByText('Open on a tablet'));
    await screen.findByText(/Open it again before/);
  });
});
