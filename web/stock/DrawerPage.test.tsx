// @vitest-environment happy-dom
import { screen, waitFor } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { Route, Routes } from 'react-router';
import { describe, expect, test } from 'vitest';
import { DEFAULT_TERMS } from '#core/quoting';
import { labelled } from '../../test/support/builders.ts';
import { show } from '../../test/support/screen.tsx';
import { DrawerPage } from './DrawerPage.tsx';

const LABEL = '8GB 1Rx8 PC4-2400T-UA1-11 OR-8';
const piece = {
  ...{ id: 'd1', version: 3, label: LABEL, module: labelled(LABEL), state: 'untested' },
  ...{ price: 900, origin: 'pulled in job 0007', reservedFor: null },
};
const shop = { terms: DEFAULT_TERMS, version: 1 };
const field = (label: string | RegExp) => screen.getByLabelText<HTMLInputElement>(label);
const page = (more: object = {}) =>
  show(<DrawerPage />, {
    ...{ listDrawer: [piece], readShop: shop, addToDrawer: [piece], changeInDrawer: [piece] },
    ...{ takeFromDrawer: [], ...more },
  });

describe('the drawer', () => {
  test('takes a module in by its label alone', async () => {
    const { server } = page({ listDrawer: [] });
    await screen.findByText('The drawer is empty.');
    await userEvent.type(field('Put a module in by its label'), LABEL);
    await userEvent.type(field(/^Price/), '9,00');
    await userEvent.click(screen.getByRole('button', { name: 'Put it in' }));
    await waitFor(() => expect(server.sent('addToDrawer')).toHaveLength(1));
    expect(server.sent('addToDrawer')[0]).toMatchObject({
      ...{ label: LABEL, price: 900, state: 'untested', module: { capacity: 8, ranks: 1 } },
    });
    await waitFor(() => expect(field('Put a module in by its label').value).toBe(''));
  });

  test('a label that does not suffice and an amount that is none are said; nothing is sent', async () => {
    const { server } = page();
    await userEvent.type(field('Put a module in by its label'), 'a biscuit');
    await userEvent.type(field(/^Price/), '12.345');
    await userEvent.click(screen.getByRole('button', { name: 'Put it in' }));
    expect(await screen.findByText(/The label is incomplete/)).toBeDefined();
    expect(screen.getByText(/An amount such as 21.90/)).toBeDefined();
    expect(server.sent('addToDrawer')).toEqual([]);
    expect(field('Put a module in by its label').value).toBe('a biscuit');
  });

  test('a scanned tag shows its module; one that has gone is said to be gone', async () => {
    const other = { ...piece, id: 'd2', origin: 'bought at the quay' };
    const at = (id: string) =>
      show(
        <Routes>
          <Route path="/drawer/:pieceId?" element={<DrawerPage />} />
        </Routes>,
        { listDrawer: [piece, other], readShop: shop },
        `/drawer/${id}`,
      );
    const { unmount } = at('d2');
    const row = (await screen.findByText('bought at the quay')).closest('tr');
    expect(row?.getAttribute('aria-current')).toBe('true');
    expect(screen.getByText('pulled in job 0007').closest('tr')?.ariaCurrent ?? null).toBeNull();
    unmount();
    at('d9');
    expect(await screen.findByText(/not in the drawer any more/)).toBeDefined();
  });

  test('a state is changed with the version it was shown at', async () => {
    const { server } = page();
    await userEvent.selectOptions(await screen.findByLabelText(/^State of/), 'tested');
    await waitFor(() => expect(server.sent('changeInDrawer')).toHaveLength(1));
    expect(server.sent('changeInDrawer')[0]).toMatchObject({ state: 'tested', version: 3 });
  });

  test('what is held for a job leads there, and a refusal says why', async () => {
    const problem = {
      ...{ type: 'about:blank#state', title: 'Cannot be done yet', status: 409 },
      ...{ detail: 'It is held for job 0012.', mend: 'Decline the quote first.' },
    };
    const held = { ...piece, reservedFor: { jobId: 'job-12', number: 12 } };
    page({ listDrawer: [held], takeFromDrawer: problem });
    const link = await screen.findByRole<HTMLAnchorElement>('link', { name: 'job 0012' });
    expect(link.getAttribute('href')).toBe('/jobs/job-12');
    await userEvent.click(screen.getByRole('button', { name: /^Take out/ }));
    expect(await screen.findByText(/Decline the quote first/)).toBeDefined();
  });
});
