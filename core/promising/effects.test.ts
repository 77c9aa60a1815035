import { describe, expect, test } from 'vitest';
import { anySystem, GIB_LINES } from '../../test/support/memorySystems.ts';
import { isAnew } from '../../test/support/draws.ts';
import { desktop, labelled, running } from '../../test/support/builders.ts';
import { compareSystems } from '../timing-simulation/index.ts';
import type { MemorySystem, Memo } from '../timing-simulation/index.ts';
import { isNoticed, KINDS_OF_WORK, predictSimulated } from './index.ts';

// What such changes are seen to give, by kind of work: each row of the table must contain it.

const GENERATIONS = [
  ['DDR4', { generation: 'DDR4', rate: 3200, cl: 22 }],
  ['DDR5', { generation: 'DDR5', rate: 5600, cl: 46 }],
] as const;

const point = running(desktop(), { a1: labelled('8GB 1Rx8 PC4-3200AA-UA2-11') });
const memo: Memo = new Map();

function change(before: MemorySystem, after: MemorySystem) {
  const profiles = compareSystems(before, after, memo);
  const { gains, bandwidthRatio } = predictSimulated(point, point, profiles);
  const of = (id: string) => {
    const gain = gains.find(({ kind }) => kind.id === id);
    if (!gain) throw new Error(`expected ${id}`);
    return { low: gain.low, high: gain.high, middle: (gain.low + gain.high) / 2 };
  };
  return { gains, bandwidthRatio, of };
}

describe.each(GENERATIONS)('%s', { timeout: 300_000 }, (name, base) => {
  const both = anySystem(base);
  const ids = KINDS_OF_WORK.map(({ id }) => id);
  const still = ['office', 'rendering', 'graphics'];
  const bound = ['integrated', 'games-low', 'compression', 'numeric'];

  test('a second equal module at the same rate', () => {
    const { of, bandwidthRatio } = change(anySystem({ ...base, channels: 1 }), both);
    expect(bandwidthRatio).toBeGreaterThan(1.85);
    expect(bandwidthRatio).toBeLessThan(2.1);
    const seen = [
      ['integrated', 40, 90],
      ['games', 5, 30],
      ['compression', 15, 40],
    ] as const;
    for (const [id, least, most] of seen) {
      const { low, high, middle } = of(id);
      // Within a point or two of what is seen, and over most of it.
      expect(low, id).toBeGreaterThan(least - 2);
      expect(high, id).toBeLessThan(most + 2);
      expect(high - low, id).toBeGreaterThan(0.5 * (most - least));
      expect(middle, id).toBeGreaterThan(least);
    }
    expect(of('games-low').low).toBeGreaterThan(of('games').low);
    expect(of('games-low').high).toBeGreaterThan(of('games').high);
    for (const id of still) expect(of(id).high, id).toBeLessThan(3);
  });

  // Each row is two more systems to simulate: by day of one generation.
  const row = name === 'DDR4' || isAnew ? test : test.skip;

  row('a second rank at the same rate: 0 to 8 %', () => {
    const { of } = change(both, anySystem({ ...base, ranks: 2 }));
    for (const id of ids) {
      expect(of(id).middle, id).toBeGreaterThan(-3);
      expect(of(id).high, id).toBeLessThan(8);
    }
  });

  row('chips of 16 bits instead of 8: a loss of 3 to 15 % where memory matters', () => {
    const { of } = change(both, anySystem({ ...base, chipWidth: 16 }));
    for (const id of bound) {
      expect(of(id).middle, id).toBeLessThan(-3);
      expect(of(id).middle, id).toBeGreaterThan(-15);
    }
    for (const id of still) expect(isNoticed(of(id)), id).toBe(false);
  });

  row('an uneven tail inside the need is a loss', () => {
    const uneven = anySystem({
      ...base,
      zones: [
        { channels: [0, 1], lines: 8 * GIB_LINES },
        { channels: [0], lines: 8 * GIB_LINES },
      ],
    });
    const even = anySystem({ ...base, zones: [{ channels: [0, 1], lines: 16 * GIB_LINES }] });
    const { of } = change(even, uneven);
    for (const id of bound) expect(of(id).high, id).toBeLessThan(-1);
    for (const id of ids) expect(of(id).middle, id).toBeLessThan(0.5);
  });

  row('two cycles less: under 4 % everywhere, and nothing to notice', () => {
    const { gains } = change(both, anySystem({ ...base, cl: base.cl - 2 }));
    for (const { kind, low, high } of gains) {
      // Rounding to whole cycles may cost a little.
      expect(low, kind.id).toBeGreaterThan(-2);
      expect(high, kind.id).toBeLessThan(4);
    }
  });
});

test('no kind waits for more than all of its time', () => {
  for (const { bandwidth, latency, name } of KINDS_OF_WORK) {
    expect(bandwidth.low).toBeLessThanOrEqual(bandwidth.high);
    expect(latency.low).toBeLessThanOrEqual(latency.high);
    expect(bandwidth.high + latency.high, name).toBeLessThan(1);
  }
});
