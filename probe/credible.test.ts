import { expect, test } from 'vitest';
import { PROBE_BOUNDS } from '../core/proving/probe.ts';
import type { ProbeMark } from '../core/proving/probe.ts';
import { credible } from './credible.ts';

/** Windows that say these one after the other, and how many were taken. */
function windows(...says: readonly number[]) {
  let taken = 0;
  const once = () => Promise.resolve(says[Math.min(taken++, says.length - 1)] ?? NaN);
  return { once, taken: () => taken };
}

test('a window that says what memory does stands, and is taken once', async () => {
  const marks = new Set<ProbeMark>();
  const { once, taken } = windows(92.5);
  expect(await credible(once, PROBE_BOUNDS.reply, marks)).toBe(92.5);
  expect([taken(), [...marks]]).toEqual([1, []]);
});

test('one in which the thread was kept waiting is taken again, and said', async () => {
  const marks = new Set<ProbeMark>();
  const { once, taken } = windows(2_000_000, Infinity, NaN, 92.5);
  expect(await credible(once, PROBE_BOUNDS.reply, marks)).toBe(92.5);
  expect([taken(), [...marks]]).toEqual([4, ['noisy']]);
});

test('where no window ever says what memory does, it gives up in words', async () => {
  const { once, taken } = windows(0);
  await expect(credible(once, PROBE_BOUNDS.rate, new Set())).rejects.toThrow(/no time/);
  expect(taken()).toBe(10);
});
