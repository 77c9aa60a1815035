import { act, screen, waitFor } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { expect, test, vi } from 'vitest';
import type { MadeTicket } from '#contract/measuring';
import { serverSeen } from '#web/app/connectionSlice.ts';
import { show } from '../../../test/support/screen.tsx';
import { PageLink } from './PageLink.tsx';

const made: MadeTicket = {
  ...{ id: 't1', brings: 'result', kind: 'as-found', power: 'unknown', by: 'Ottoline V.' },
  ...{ createdAt: '2026-11-02T09:00:00.000Z', expiresAt: '2026-11-02T10:00:00.000Z' },
  ...{ state: 'waiting', token: 'abcd-efgh-2345', link: null },
};

test('a link counts as withdrawn once the bench has heard of it, and not before', async () => {
  const onDone = vi.fn();
  const { server, store } = show(<PageLink jobId="j1" made={made} onDone={onDone} />, {
    listTickets: [made],
    withdrawTicket: [],
  });
  server.isAway = true;
  await userEvent.click(screen.getByRole('button', { name: 'withdraw the link' }));
  expect((await screen.findByRole('alert')).textContent).toContain('Not saved yet');
  expect(onDone).not.toHaveBeenCalled();
  server.isAway = false;
  act(() => void store.dispatch(serverSeen({ online: true })));
  await waitFor(() => expect(onDone).toHaveBeenCalledOnce());
  expect(server.asked.some(({ route }) => route === 'withdrawTicket')).toBe(true);
});
