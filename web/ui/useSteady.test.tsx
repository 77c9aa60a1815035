import { cleanup, renderHook } from '@testing-library/react';
import { afterEach, describe, expect, test, vi } from 'vitest';
import { accessRoutes } from '#contract/accessRoutes';
import { addRoutes, baseQuery } from '#web/app/baseQuery.ts';
import { useBase, useSteady } from './useSteady.ts';

afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

let count = 0;
/** A row of its own for each test. */
const aRow = (version: number, id = `row ${count}`) => ({ id, version });
const newRow = () => {
  count++;
  return aRow(1);
};

/** This tab saves a row; the server answers with the next version. */
async function ownSave(id: string, version: number): Promise<void> {
  const account = {
    id,
    version,
    isActive: true,
    name: 'x',
    role: 'counter',
    createdAt: '2026-01-01T00:00:00Z',
    seenAt: null,
    sessions: 0,
  };
  vi.stubGlobal('fetch', () => Promise.resolve(new Response(JSON.stringify([account]))));
  addRoutes(accessRoutes);
  await baseQuery(
    { route: 'setPassword', params: { id }, body: {} },
    { signal: new AbortController().signal } as never,
    {},
  );
}

describe('a row that is being edited', () => {
  test('stays as it was when somebody else saves it', () => {
    const row = newRow();
    const { result, rerender } = renderHook(({ one }) => useSteady(one), {
      initialProps: { one: row },
    });
    rerender({ one: aRow(2, row.id) });
    expect(result.current.version).toBe(1);
  });

  test('follows this tab’s own saves, and no further than those go', async () => {
    const row = newRow();
    const { result, rerender } = renderHook(({ one }) => useSteady(one), {
      initialProps: { one: row },
    });
    await ownSave(row.id, 2);
    rerender({ one: aRow(2, row.id) });
    expect(result.current.version).toBe(2);
    // Version 3 is somebody else’s, 4 this tab’s again: between them lies what was not seen.
    await ownSave(row.id, 4);
    rerender({ one: aRow(4, row.id) });
    expect(result.current.version).toBe(2);
  });

  test('another row is another one, and one nobody touched follows everybody', () => {
    const row = newRow();
    const { result, rerender } = renderHook(({ one, isTouched }) => useSteady(one, isTouched), {
      initialProps: { one: row, isTouched: false },
    });
    rerender({ one: aRow(5, row.id), isTouched: false });
    expect(result.current.version).toBe(5);
    rerender({ one: aRow(1, 'another'), isTouched: true });
    expect(result.current.id).toBe('another');
  });
});

describe('a form', () => {
  test('that nobody typed into is filled anew; one being typed into is left, with the version it began from', () => {
    const row = newRow();
    const fill = vi.fn();
    const { result, rerender } = renderHook(({ one, isTouched }) => useBase(one, isTouched, fill), {
      initialProps: { one: row, isTouched: false },
    });
    expect(fill).not.toHaveBeenCalled();
    rerender({ one: aRow(2, row.id), isTouched: false });
    expect([result.current, fill.mock.calls.length]).toEqual([2, 1]);
    rerender({ one: aRow(3, row.id), isTouched: true });
    expect([result.current, fill.mock.calls.length]).toEqual([2, 1]);
  });
});
