import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { desktop, labelled, running } from '../../test/support/builders.ts';
import type { Profile, Profiles } from '../timing-simulation/index.ts';
import { KINDS_OF_WORK, predict, predictSimulated, replyOf, speedRatio } from './index.ts';

const board = desktop();
const point = running(board, { a1: labelled('8GB 1Rx8 PC4-3200AA-UA2-11') });
const side = (bandwidth: number, idle: number, loaded: number): Profile => ({
  bandwidth: {
    ...{ stream: bandwidth, triad: bandwidth, random: bandwidth },
    ...{ graphics: bandwidth, desktop: bandwidth },
  },
  reply: { idle, loaded },
});
const OLD = side(20, 80, 100);
/** Both sides, by what is new over what was. */
const ratios = (bandwidth: number, idle: number, loaded = idle): Profiles => ({
  before: OLD,
  after: side(20 * bandwidth, 80 * idle, 100 * loaded),
});
const gainOf = (found: Profiles, id: string) => {
  const { gains } = predictSimulated(point, point, found);
  const gain = gains.find(({ kind }) => kind.id === id);
  if (!gain) throw new Error(`expected ${id}`);
  return gain;
};

describe('what is promised from a simulation', () => {
  test('nothing changed is nothing gained, for every kind of work', () => {
    for (const { low, high } of predictSimulated(point, point, ratios(1, 1)).gains) {
      expect(low).toBeCloseTo(0, 9);
      expect(high).toBeCloseTo(0, 9);
    }
  });

  test('each kind goes by the way it moves memory', () => {
    const still = side(20, 80, 100);
    const after = { ...still, bandwidth: { ...still.bandwidth, graphics: 40 } };
    const mixed = { before: OLD, after };
    expect(gainOf(mixed, 'integrated').low).toBeGreaterThan(20);
    expect(gainOf(mixed, 'compression').high).toBeCloseTo(0, 9);
  });

  test('the range spans the shares, and the reply from rest to loaded', () => {
    const narrow = gainOf(ratios(2, 0.98), 'compression');
    const wide = gainOf(ratios(2, 0.98, 0.8), 'compression');
    expect(wide.low).toBeCloseTo(narrow.low, 9);
    expect(wide.high).toBeGreaterThan(narrow.high);
  });

  test('faster memory never promises less, slower never more', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.3, max: 3, noNaN: true }),
        fc.double({ min: 1, max: 2, noNaN: true }),
        fc.double({ min: 0.6, max: 1.4, noNaN: true }),
        (bandwidth, more, reply) => {
          for (const { id } of KINDS_OF_WORK) {
            const one = gainOf(ratios(bandwidth, reply), id);
            const other = gainOf(ratios(bandwidth * more, reply / more), id);
            expect(other.low).toBeGreaterThanOrEqual(one.low - 1e-9);
            expect(other.high).toBeGreaterThanOrEqual(one.high - 1e-9);
            expect(one.high).toBeGreaterThanOrEqual(one.low);
          }
        },
      ),
    );
  });

  test('a controller clock that is halved makes every reply a tenth longer', () => {
    const fast = { ...point, clocks: 'in step' as const };
    const halved = { ...point, clocks: 'halved' as const };
    expect(predictSimulated(fast, halved, ratios(1, 1)).latencyRatio).toBeCloseTo(1.1, 9);
    expect(predictSimulated(halved, fast, ratios(1, 1)).latencyRatio).toBeCloseTo(1 / 1.1, 9);
  });

  test('what is drawn at most caps both sides: beyond it nothing is gained', () => {
    const of = (cap: number | undefined) => {
      const { gains } = predictSimulated(point, point, ratios(2, 1), KINDS_OF_WORK, cap);
      return gains.find(({ kind }) => kind.id === 'numeric') ?? { low: NaN, high: NaN };
    };
    expect(of(20).high).toBeCloseTo(0, 9);
    expect(of(10).high).toBeCloseTo(0, 9);
    expect(of(30).high).toBeLessThan(of(undefined).high);
    expect(of(30).low).toBeGreaterThan(0);
    expect(of(1000)).toEqual(of(undefined));
  });

  test('other controllers widen what changed, and leave alone what did not', () => {
    const width = ({ low, high }: { low: number; high: number }) => high - low;
    const exact = (b: number) => {
      const kind = KINDS_OF_WORK.find(({ id }) => id === 'integrated');
      if (!kind) throw new Error('expected built-in graphics');
      return [kind.bandwidth.low, kind.bandwidth.high].map(
        (beta) => (speedRatio(beta, 0, b, 1) - 1) * 100,
      );
    };
    const [least = 0, most = 0] = exact(2);
    const told = gainOf(ratios(2, 1), 'integrated');
    expect(told.low).toBeLessThan(least);
    expect(told.high).toBeGreaterThan(most);
    expect(width(gainOf(ratios(1, 1), 'integrated'))).toBeCloseTo(0, 9);
  });
});

describe('the reply', () => {
  const tight = running(board, { a1: labelled('8GB 1Rx8 PC4-3200AA-UA2-11') });
  const slow = { ...tight, timings: { ...tight.timings, cycles: { cl: 32, trcd: 32, trp: 32 } } };

  test('is controller, fabric, row, column and transfer: of DDR4-3200 CL22 some 70 ns', () => {
    // 40 + (22 + 22) × 0.625 + 2.5.
    expect(replyOf(tight)).toBeCloseTo(70, 5);
  });

  test('grows far less than its CAS time, which is a part of it', () => {
    const same = { point: tight, bandwidth: 20 };
    const { latencyRatio } = predict(same, { point: slow, bandwidth: 20 });
    // 32 / 22 is 1.45.
    expect(latencyRatio).toBeCloseTo((40 + 64 * 0.625 + 2.5) / 70, 5);
    expect(latencyRatio).toBeLessThan(1.2);
  });
});

describe('what is reckoned at once', () => {
  test('twice the bandwidth at the same times: much for built-in graphics, nothing for the office', () => {
    const two = running(board, {
      a1: labelled('8GB 1Rx8 PC4-3200AA-UA2-11'),
      b1: labelled('8GB 1Rx8 PC4-3200AA-UA2-11'),
    });
    const { gains, bandwidthRatio } = predict(
      { point, bandwidth: point.peak },
      { point: two, bandwidth: two.peak },
    );
    expect(bandwidthRatio).toBe(2);
    const of = (id: string) => gains.find(({ kind }) => kind.id === id);
    // β 0.72 … 0.80, and B 2 less and more a tenth in logarithms.
    expect(of('integrated')?.low).toBeCloseTo(100 / (1 - 0.72 + 0.36 * Math.exp(0.1)) - 100, 1);
    expect(of('integrated')?.high).toBeCloseTo(100 / (1 - 0.8 + 0.4 * Math.exp(-0.1)) - 100, 1);
    expect(of('office')?.high).toBeLessThan(2);
  });
});
