import fc from 'fast-check';
import { expect, test } from 'vitest';
import { anyDdr4, anyFourChannelMachine, anyPlacement } from '../../test/support/arbitraries.ts';
import { naivePoint } from '../../test/support/naivePoint.ts';
import { operatingPoint } from './index.ts';

test('rate, CL and regions agree with the same rules written a second, plainer way', () => {
  let ran = 0;
  fc.assert(
    fc.property(anyFourChannelMachine, anyPlacement(anyDdr4), (machine, placement) => {
      const zoned = { ...machine, unevenChannels: 'zone' as const };
      const point = operatingPoint(zoned, placement, 'standard');
      const naive = naivePoint(zoned, placement);
      if (point.type === 'blocked') {
        expect(point.blockers.map(({ type }) => type)).toEqual(['no-standard-rate']);
        expect(naive.rate).toBeUndefined();
        return;
      }
      ran++;
      expect([point.rate, point.timings.cycles.cl]).toEqual([naive.rate, naive.cl]);
      const widths = point.layouts[0].regions.flatMap(({ channels, capacity }) =>
        Array.from({ length: capacity / channels.length }, () => channels.length),
      );
      expect(widths).toEqual(naive.widths);
    }),
    { numRuns: 600, interruptAfterTimeLimit: 120_000 },
  );
  expect(ran).toBeGreaterThan(300);
});
