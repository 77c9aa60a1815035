import { expect, test } from 'vitest';
import { compareSystems } from '#core/timing-simulation';
import { anySystem } from '../../test/support/memorySystems.ts';
import { simulateChange } from './simulateChange.ts';

test('a simulation says what the core says, and others go on meanwhile', async () => {
  const before = anySystem({ channels: 1 });
  const after = anySystem({ channels: 2 });
  let turns = 0;
  let longest = 0;
  let last = performance.now();
  const ticking = setInterval(() => {
    turns++;
    longest = Math.max(longest, performance.now() - last);
    last = performance.now();
  }, 1);
  const began = performance.now();
  const profiles = await simulateChange({ before, after, needed: undefined });
  const took = performance.now() - began;
  clearInterval(ticking);
  expect(profiles).toEqual(compareSystems(before, after));
  expect(profiles.after.bandwidth.stream).toBeGreaterThan(profiles.before.bandwidth.stream);
  // In one go on this thread there would be no turn at all.
  expect(turns).toBeGreaterThan(20);
  expect(longest).toBeLessThan(took);
});
