import { expect, test } from 'vitest';
import { figuresTogether } from './index.ts';

test.each([
  ['add 4 × 16 GB in A2 (64 GB)', 'add 4 × 16~GB in A2 (64~GB)'],
  ['5 to 12 % faster, at 2933 MT/s and 13.75 ns', '5 to 12~% faster, at 2933~MT/s and 13.75~ns'],
  ['it takes 1 day, 12 days, 90 s; 1.35 V', 'it takes 1~day, 12~days, 90~s; 1.35~V'],
  // A number before a word is no figure.
  ['Slip 4 repairs, 2 hands, 8 sockets, A1 being empty', undefined],
])('figures of “%s” stay with their units, and nothing else does', (text, shown = text) => {
  expect(figuresTogether(text).replaceAll('\u00a0', '~')).toBe(shown);
});
