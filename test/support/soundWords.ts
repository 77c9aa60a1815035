import { expect } from 'vitest';
import type { Explanation } from '#core/explaining';

/** What slips into words when a value is missing or of the wrong kind. */
export const SLIPS = /undefined|NaN|null|\[object|Infinity|\$\{| {2}| \.|,,/;

/** Whether words for a verdict are whole: nothing slipped in, a title without a stop, a reason with one. */
export function expectSound({ title, why, mend = '', source = '' }: Explanation): void {
  for (const text of [title, why, mend, source]) expect(text).not.toMatch(SLIPS);
  expect(title).not.toMatch(/\.$/);
  expect(why).toMatch(/[.?!]$/);
  expect(title.length).toBeLessThan(140);
}
