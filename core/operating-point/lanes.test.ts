import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { anyDdr4, anyFourChannelMachine, anyPlacement } from '../../test/support/arbitraries.ts';
import { desktop, labelled, running } from '../../test/support/builders.ts';
import { lanesOf, operatingPoint } from './index.ts';

describe('lanes of a small picture', () => {
  test('are as long as their channels are full, and side by side as far as the core says', () => {
    fc.assert(
      fc.property(anyFourChannelMachine, anyPlacement(anyDdr4), (machine, placement) => {
        const point = operatingPoint(machine, placement, 'standard');
        if (point.type !== 'runs') return;
        const longest = Math.max(...point.loads.map(({ capacity }) => capacity));
        const lanes = lanesOf(point);
        lanes.forEach(({ segments }, at) => {
          const length = segments.reduce((sum, { share }) => sum + share, 0);
          expect(length * longest).toBeCloseTo(point.loads[at]?.capacity ?? 0, 6);
        });
        const paired = lanes
          .flatMap(({ segments }) => segments)
          .filter(({ width }) => width > 1)
          .reduce((sum, { share }) => sum + share * longest, 0);
        const [layout] = point.layouts;
        if (layout.reading === 'zone') expect(paired).toBeGreaterThanOrEqual(point.paired - 1e-6);
        else expect(paired).toBe(0);
      }),
    );
  });

  test('16 GB beside 8 GB: half of the long lane has no partner', () => {
    const big = labelled('16GB 2Rx8 PC4-2400T-UB1-11');
    const small = labelled('8GB 1Rx8 PC4-2400T-UA1-11');
    expect(lanesOf(running(desktop(), { a1: big, b1: small }))).toEqual([
      {
        channel: 'A',
        segments: [
          { share: 0.5, width: 2 },
          { share: 0.5, width: 1 },
        ],
      },
      { channel: 'B', segments: [{ share: 0.5, width: 2 }] },
    ]);
  });
});
