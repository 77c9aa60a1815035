import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { desktop, labelled, running } from '../../test/support/builders.ts';
import { channelLoads, fittedParts, pairedCapacity, peakAtLoad } from './index.ts';
import type { Running } from './index.ts';

const sized = (size: number) => labelled(`${size}GB 1Rx8 PC4-2400T-UA1-11`);

/** A running set with so many GiB on each of four channels, in modules of 4 to 64 GiB. */
function withLoads(
  heights: readonly number[],
  unevenChannels: 'zone' | 'single' | 'unknown' = 'zone',
): Running {
  const machine = desktop({ unevenChannels }, 4, 1);
  const entries = heights.flatMap((height, at) =>
    height > 0 ? [[`${'abcd'[at]}1`, { ...sized(4), capacity: height as never }] as const] : [],
  );
  return running(machine, Object.fromEntries(entries));
}

describe('water-filling four channels', () => {
  test.each([
    [[8, 8, 8, 8], [[4, 32]]],
    [
      [8, 8, 8, 16],
      [
        [4, 32],
        [1, 8],
      ],
    ],
    [
      [8, 16, 16, 16],
      [
        [4, 32],
        [3, 24],
      ],
    ],
    [
      [4, 8, 16, 32],
      [
        [4, 16],
        [3, 12],
        [2, 16],
        [1, 16],
      ],
    ],
    [[8, 8, 0, 0], [[2, 16]]],
    [
      [8, 0, 0, 16],
      [
        [2, 16],
        [1, 8],
      ],
    ],
    [[0, 0, 32, 0], [[1, 32]]],
  ])('%j gives %j', (heights, regions) => {
    const [layout] = withLoads(heights).layouts;
    expect(layout.regions.map(({ channels, capacity }) => [channels.length, capacity])).toEqual(
      regions,
    );
  });

  test('each region’s peak is its width times one channel', () => {
    for (const { channels, peak } of withLoads([4, 8, 16, 32]).layouts[0].regions)
      expect(peak).toBeCloseTo(channels.length * 19.2, 9);
  });

  test('the paired zone is what all populated channels share', () => {
    const paired = (heights: number[]) => withLoads(heights).paired;
    expect([paired([8, 8, 0, 0]), paired([4, 8, 16, 32]), paired([0, 0, 32, 0])]).toEqual([
      16, 16, 0,
    ]);
    const [layout] = withLoads([8, 8, 0, 0]).layouts;
    expect(pairedCapacity(layout, 3)).toBe(0);
  });
});

describe('the peak where a load lies', () => {
  const [layout] = withLoads([4, 8, 16, 32]).layouts;

  test.each([
    [0, 76.8],
    [16, 76.8],
    [16.001, 57.6],
    [28, 57.6],
    [44, 38.4],
    [60, 19.2],
    [1000, 19.2],
  ])('of %f GB is %f GB/s', (load, peak) => {
    expect(peakAtLoad(layout, load)).toBeCloseTo(peak, 9);
  });

  test('never rises with the load', () => {
    const height = fc.constantFrom(0, 4, 8, 16, 32);
    const anyHeights = fc
      .tuple(height, height, height, height)
      .filter((heights) => heights.some((one) => one > 0));
    fc.assert(
      fc.property(anyHeights, fc.nat(128), fc.nat(64), (heights, load, more) => {
        const [own] = withLoads(heights).layouts;
        expect(peakAtLoad(own, load + more)).toBeLessThanOrEqual(peakAtLoad(own, load) + 1e-9);
      }),
    );
  });
});

describe('the uneven trait', () => {
  test.each([
    ['zone', ['zone'], 38.4],
    ['single', ['single'], 19.2],
    ['unknown', ['single', 'zone'], 19.2],
  ] as const)('%s lays out as %j', (trait, readings, peak) => {
    const point = withLoads([8, 16, 0, 0], trait);
    expect(point.layouts.map(({ reading }) => reading)).toEqual(readings);
    expect(point.peak).toBeCloseTo(peak, 9);
    const paired = trait === 'single' ? 0 : 16;
    expect(point.flags[0]).toMatchObject({ trait, paired, tail: 24 - paired });
  });

  test('does not matter to even channels', () => {
    for (const trait of ['zone', 'single', 'unknown'] as const)
      expect(withLoads([8, 8, 8, 8], trait).layouts).toHaveLength(1);
  });
});

test('loads count soldered memory as one module, and spread a two-channel module over both', () => {
  const part = { ...sized(8), formFactor: 'soldered' as const };
  const machine = desktop({ soldered: [{ channel: 'A', part }] });
  const loads = channelLoads(
    machine,
    fittedParts(machine, { a1: sized(4), b1: { ...sized(4), ranks: 'unknown' } }),
  );
  expect(loads).toEqual([
    { channel: 'A', capacity: 12, modules: 2, ranks: 2 },
    { channel: 'B', capacity: 4, modules: 1, ranks: 'unknown' },
  ]);
  const wide = desktop({ slots: [{ id: 'c', printedName: 'C', channels: ['A', 'B'] }] });
  const spread = (channels: number | undefined) =>
    channelLoads(wide, fittedParts(wide, { c: { ...sized(8), channels } })).map(
      ({ capacity }) => capacity,
    );
  expect([spread(2), spread(1), spread(undefined)]).toEqual([
    [4, 4],
    [8, 0],
    [8, 0],
  ]);
});
