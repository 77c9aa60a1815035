// @vitest-environment happy-dom
import { screen, waitFor } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { describe, expect, test } from 'vitest';
import type { LedgerEntry } from '#core/ledger';
import { refitShares } from '#core/ledger';
import { oddLedger } from '../../test/support/anyLedger.ts';
import { show } from '../../test/support/screen.tsx';
import { LedgerPage } from './LedgerPage.tsx';

/** The ledger as the server gives it, some of its jobs left out. */
function ledgerOf(entries: readonly LedgerEntry[], leftOut: readonly number[] = []) {
  const counted = entries.flatMap((entry, at) => (leftOut.includes(at) ? [] : [{ entry, at }]));
  const shares = refitShares(counted.map(({ entry }) => entry));
  return {
    lines: entries.map((entry, at) => ({
      ...{
        jobId: `job-${at}`,
        jobNumber: at + 1,
        machineId: 'm',
        closedAt: '2026-05-04T12:00:00Z',
      },
      ...{ days: 3, cameBack: false, isLeftOut: leftOut.includes(at), entry },
    })),
    shares,
    odd: shares.flatMap(({ assumed, odd }) =>
      odd.map(({ at, factor, expected }) => ({
        ...{ jobId: `job-${counted[at]?.at}`, jobNumber: (counted[at]?.at ?? 0) + 1 },
        ...{ activity: assumed.id, factor, expected },
      })),
    ),
  };
}

describe('the ledger', () => {
  test('names an absurd job, and one press leaves it out', async () => {
    let left: number[] = [];
    const entries = oddLedger(12, 60);
    const { server } = show(<LedgerPage />, {
      readLedger: () => ledgerOf(entries, left),
      leaveOut: ({ body }: { body: { isLeftOut: boolean } }) => {
        left = body.isLeftOut ? [0] : [];
        return ledgerOf(entries, left);
      },
    });
    expect(await screen.findByText(/Job 0001 is unlike the others/)).toBeDefined();
    expect(screen.getByText(/Minutes for seconds/)).toBeDefined();
    await userEvent.click(screen.getByRole('button', { name: 'Leave job 0001 out' }));
    await waitFor(() => expect(server.sent('leaveOut')).toEqual([{ isLeftOut: true }]));
    expect(await screen.findByText(/Job 0001 is left out of predictions/)).toBeDefined();
    await waitFor(() => expect(screen.queryByText(/is unlike the others/)).toBeNull());
    await userEvent.click(screen.getByRole('button', { name: 'Count it again' }));
    await waitFor(() => expect(server.sent('leaveOut')).toHaveLength(2));
    expect(await screen.findByText(/Job 0001 is unlike the others/)).toBeDefined();
  });

  test('finds lines by any of their words, and says when none fits', async () => {
    show(<LedgerPage />, { readLedger: ledgerOf(oddLedger(3, 1)) });
    const find = await screen.findByLabelText('Find');
    await userEvent.type(find, 'test board 2400');
    expect(screen.queryByText('No line fits.')).toBeNull();
    await userEvent.type(find, ' teapot');
    expect(await screen.findByText('No line fits.')).toBeDefined();
  });

  test('is empty in words, and says so when the server is away', async () => {
    const { unmount } = show(<LedgerPage />, { readLedger: { lines: [], shares: [], odd: [] } });
    expect(await screen.findByText('Nothing is proven yet.')).toBeDefined();
    unmount();
    show(<LedgerPage />, { readLedger: { status: 500 } });
    expect((await screen.findAllByText(/ledger/)).length).toBeGreaterThan(0);
  });
});
