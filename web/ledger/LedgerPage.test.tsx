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
  const named = (at: number) => ({ jobId: `job-${at}`, jobNumber: at + 1 });
  const counted = entries.flatMap((entry, at) => (leftOut.includes(at) ? [] : [{ entry, at }]));
  const shares = refitShares(counted.map(({ entry }) => entry));
  const lines = entries.map((entry, at) => ({
    ...{ ...named(at), machineId: 'm', closedAt: '2026-05-04T12:00:00Z' },
    ...{ days: 3, cameBack: false, isLeftOut: leftOut.includes(at), entry },
  }));
  const odd = shares.flatMap((one) =>
    one.odd.map(({ at, factor, expected }) => ({
      ...named(counted[at]?.at ?? 0),
      ...{ activity: one.assumed.id, factor, expected },
    })),
  );
  return { lines, shares: { shares, odd, leftOut: leftOut.map(named) } };
}

describe('the ledger', () => {
  test('names an absurd job, and one press leaves it out', async () => {
    let left: number[] = [];
    const entries = oddLedger(12, 60);
    const { server } = show(<LedgerPage />, {
      readLedger: () => ({ lines: ledgerOf(entries, left).lines, total: 12 }),
      readShares: () => ledgerOf(entries, left).shares,
      leaveOut: ({ body }: { body: { isLeftOut: boolean } }) => {
        left = body.isLeftOut ? [0] : [];
        return ledgerOf(entries, left).shares;
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

  const { lines, shares } = ledgerOf(oddLedger(60, 1));
  /** A server that gives so many lines as are asked for, and none where nothing has the words. */
  const paged = ({ query }: { query: URLSearchParams }) =>
    query.get('search')?.includes('teapot')
      ? { lines: [], total: 0 }
      : { lines: lines.slice(0, Number(query.get('limit'))), total: 60 };

  test('has its lines found on the server, and says when none fits', async () => {
    const { server } = show(<LedgerPage />, { readLedger: paged, readShares: shares });
    const find = await screen.findByLabelText('Find');
    await userEvent.type(find, 'teapot');
    expect(await screen.findByText('No line fits.')).toBeDefined();
    await userEvent.clear(find);
    await userEvent.selectOptions(screen.getByLabelText('Ran'), 'paired');
    await userEvent.click(screen.getByLabelText('memory test passed'));
    await waitFor(() => {
      const last = server.asked.filter(({ route }) => route === 'readLedger').at(-1)?.query;
      expect(Object.fromEntries(last ?? [])).toMatchObject({ mode: 'paired', isTested: 'true' });
    });
  });

  test('shows a page of them, more when asked, and keeps what is compared', async () => {
    show(<LedgerPage />, { readLedger: paged, readShares: shares });
    expect(await screen.findByText('50 of 60 shown.')).toBeDefined();
    await userEvent.click(screen.getByLabelText('Compare job 0001'));
    await userEvent.click(screen.getByLabelText('Compare job 0002'));
    expect(screen.getByText('Side by side')).toBeDefined();
    await userEvent.click(screen.getByRole('button', { name: 'Show more' }));
    expect(await screen.findByLabelText('Compare job 0060')).toBeDefined();
    expect(screen.queryByRole('button', { name: 'Show more' })).toBeNull();
    expect(screen.getByText('Side by side')).toBeDefined();
  });

  test('is empty in words, and says so when the server is away', async () => {
    const none = { lines: [], total: 0 };
    const { unmount } = show(<LedgerPage />, { readLedger: none, readShares: shares });
    expect(await screen.findByText('Nothing is proven yet.')).toBeDefined();
    unmount();
    show(<LedgerPage />, { readLedger: { status: 500 } });
    expect((await screen.findAllByText(/ledger/)).length).toBeGreaterThan(0);
  });
});
