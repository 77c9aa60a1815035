import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { fetched } from './fetched.ts';
import { store } from './store.ts';

let isAway = false;
const isSaidAway = () => !store.getState().connection.online;

beforeEach(() => {
  isAway = false;
  vi.useFakeTimers();
  vi.stubGlobal('fetch', () =>
    isAway
      ? Promise.reject(new TypeError('away'))
      : Promise.resolve(new Response(JSON.stringify({ ok: true, isDemo: false }))),
  );
});
afterEach(() => vi.useRealTimers());

/** What is to be had only while the bench is there. */
const load = vi.fn(() => (isAway ? Promise.reject(new Error('away')) : Promise.resolve('a part')));
beforeEach(() => load.mockClear());

test('what is there is taken, and nobody is asked whether the bench is', async () => {
  await expect(fetched(load)).resolves.toBe('a part');
  expect(load).toHaveBeenCalledTimes(1);
});

test('while the bench is away it is waited for, and that is said', async () => {
  isAway = true;
  const part = fetched(load);
  await vi.advanceTimersByTimeAsync(30_000);
  expect(isSaidAway()).toBe(true);
  isAway = false;
  await vi.advanceTimersByTimeAsync(2000);
  await expect(part).resolves.toBe('a part');
});

test('a bench that came back between two questions is asked once more', async () => {
  load.mockRejectedValueOnce(new Error('away'));
  await expect(fetched(load)).resolves.toBe('a part');
  expect(load).toHaveBeenCalledTimes(2);
});

test('a part the bench does not have is not waited for: it says why', async () => {
  const gone = vi.fn(() => Promise.reject(new Error('404')));
  await expect(fetched(gone)).rejects.toThrow(/was updated since you opened it/);
  expect(gone).toHaveBeenCalledTimes(2);
});
