import { expect } from 'vitest';
import type { Explanation } from '#core/explaining';

/** What slips into words when a value is missing or of the wrong kind. */
export const SLIPS = /undefined|NaN|null|\[object|Infinity|\$\{| {2}| \.|,,/;

/** Whether words for a verdict are whole: nothing slipped in, a title without a stop, a reason with one. */
export function expectSound({ title, why, mend = '', source = '' }: Explanation): void {
  const slips = [
    ...[title, why, mend, source].filter((text) => SLIPS.test(text)),
    ...(title.endsWith('.') || title.length >= 140 ? [title] : []),
    ...(/[.?!]$/.test(why) ? [] : [why]),
  ];
  // Tens of thousands are looked at: one look is a hundredth of one expectation.
  if (slips.length > 0) expect(slips).toEqual([]);
}
