import { render, screen, waitFor } from '@testing-library/react';
import { describe, expect, test, vi } from 'vitest';
import { Provider } from 'react-redux';
import { RouterProvider, createMemoryRouter, useLocation } from 'react-router';
import fc from 'fast-check';
import { carryCode, simulateProbe } from '#core/proving';
import { desktop, labelled, running } from '../../test/support/builders.ts';
import { FakeServer, freshStore } from '../../test/support/screen.tsx';
import { keysOf, press } from '../../test/support/scanner.ts';
import { Shell } from './Shell.tsx';
import { useShortcuts } from './keys.ts';
import { meaningOf } from './scanned.ts';

/** A layout with y and z changed and other signs beside the letters. */
const elsewhere = (sign: string) =>
  ({ y: 'z', z: 'y', Y: 'Z', Z: 'Y', ':': 'Ö', '/': '-', '-': 'ß', _: '?' })[sign] ?? sign;

describe('what was scanned', () => {
  test('a tag is known in any layout, whatever the address of the bench and the job’s name', () => {
    fc.assert(
      fc.property(
        fc.stringMatching(/^[A-Za-z0-9_-]{12}$/),
        fc.constantFrom('http://127.0.0.1:4800', 'https://bench.example', 'http://zy-1:80'),
        fc.constantFrom(['jobs', ''], ['jobs', '/fit'], ['drawer', '']),
        (id, host, [place = '', step = '']) => {
          for (const layout of [(sign: string) => sign, elsewhere])
            expect(meaningOf(keysOf(`${host}/${place}/${id}${step}`, layout))).toEqual({
              type: 'page',
              path: `/${place}/${id}${step}`,
            });
        },
      ),
    );
  });

  test('a result of the measuring page is known for one in any layout', () => {
    const machine = desktop();
    const point = running(machine, { a1: labelled('8GB 1Rx8 PC4-2400T-UA1-11') });
    for (const seed of [1, 2, 3, 4, 5]) {
      const code = carryCode(simulateProbe(machine, point, 'none', seed));
      for (const layout of [(sign: string) => sign, elsewhere])
        expect(meaningOf(keysOf(code, layout))).toEqual({ type: 'result' });
    }
  });

  test.each(['NX-16U-SV', '0026', 'https://elsewhere.example/jobs', 'http://x/jobs/a'])(
    '%s is to be looked for',
    (text) => expect(meaningOf(keysOf(text))).toEqual({ type: 'words', words: text }),
  );
});

function Page({ saved }: { readonly saved: () => void }) {
  useShortcuts([{ keys: 'S', does: 'Save', run: saved }]);
  return (
    <>
      <p data-testid="place">{useLocation().pathname}</p>
      <button type="button">Delete all</button>
      <input aria-label="Serial" />
    </>
  );
}

function bench() {
  const saved = vi.fn();
  const server = new FakeServer({
    ...{ listJobs: { jobs: [], total: 0 }, listMachines: [] },
    health: { ok: true, isDemo: false },
  });
  vi.stubGlobal('fetch', server.fetch);
  // The shell asks its router whether a page is on its way; only this kind can tell.
  const router = createMemoryRouter([
    { element: <Shell />, children: [{ path: '*', element: <Page saved={saved} /> }] },
  ]);
  render(
    <Provider store={freshStore()}>
      <RouterProvider router={router} />
    </Provider>,
  );
  return saved;
}
describe('a scanner that types', () => {
  test('opens the job of a tag from anywhere, and no letter of it is taken for a shortcut', async () => {
    const saved = bench();
    press(keysOf('http://127.0.0.1:4800/jobs/SsSsSsSsSsSs'));
    await waitFor(() => expect(screen.getByTestId('place').textContent).toBe('/jobs/SsSsSsSsSsSs'));
    await new Promise((settle) => setTimeout(settle, 120));
    expect(saved).not.toHaveBeenCalled();
  });

  test('anything else is looked for, and what has the focus is not pressed', async () => {
    bench();
    const button = screen.getByRole('button', { name: 'Delete all' });
    expect(press(keysOf('NX-16U-SV'), 1, button)).toBe(true);
    const field = await screen.findByPlaceholderText<HTMLInputElement>(/Job number, customer/);
    expect(field.value).toBe('NX-16U-SV');
  });

  test('a result of the measuring page is said to be one, and where it is taken', async () => {
    bench();
    press(keysOf(Array.from({ length: 8 }, () => '2B7K').join('-')));
    expect(await screen.findByText('This is a result of the measuring page')).toBeDefined();
    expect(screen.queryByPlaceholderText(/Job number, customer/)).toBeNull();
  });

  test('fingers are no scanner: a letter alone still does what it does', async () => {
    const saved = bench();
    expect(press(keysOf('S'), 200)).toBe(false);
    await waitFor(() => expect(saved).toHaveBeenCalledTimes(1));
    expect(press(keysOf('abcdef'), 200)).toBe(false);
    expect(screen.queryByRole('dialog')).toBeNull();
  });

  test('a field takes what is scanned into it', () => {
    bench();
    expect(press(keysOf('0BADCAFE'), 1, screen.getByLabelText('Serial'))).toBe(false);
    expect(screen.queryByRole('dialog')).toBeNull();
  });
});
