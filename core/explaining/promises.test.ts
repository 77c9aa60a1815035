import { expect, test } from 'vitest';
import { KINDS_OF_WORK } from '../promising/index.ts';
import { explainGainRange, explainRatios } from './index.ts';

test('what was simulated is told in factors, and what cannot be told apart in words', () => {
  const { why, mend } = explainRatios({
    bandwidth: { stream: 2.004, triad: 1.98, random: 1.03, graphics: 0.66, desktop: 1.1 },
    reply: { idle: 0.99, loaded: 0.85 },
  });
  expect(why).toContain('reading on and on × 2');
  expect(why).toContain('single lines anywhere no change to tell');
  expect(why).toContain('built-in graphics × 0.66');
  expect(why).toContain('at rest no change to tell, under the same load × 0.85');
  expect(mend).toContain('Measure before and after');
});

test('every kind of work says why it waits for memory as much as it does', () => {
  for (const kind of KINDS_OF_WORK)
    expect(explainGainRange({ kind, low: 0, high: 9 }).why, kind.id).toMatch(
      /^[A-Z].{20,}\. Assumes/,
    );
});
