import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { seededRandom } from '../units/index.ts';
import { inferChannels, judgeGain, readRuns } from './index.ts';
import type { BandwidthSide } from './index.ts';

const anyRuns = fc.array(fc.double({ min: 5, max: 500, noNaN: true }), {
  minLength: 2,
  maxLength: 12,
});
const anySeed = fc.integer();

describe('gain', () => {
  test('another unit changes nothing, and the interval holds the factor', () => {
    fc.assert(
      fc.property(
        anyRuns,
        anyRuns,
        fc.double({ min: 0.01, max: 100, noNaN: true }),
        anySeed,
        (a, b, unit, seed) => {
          const gain = judgeGain(a, b, 'higher', seed);
          const scaled = judgeGain(
            a.map((run) => run * unit),
            b.map((run) => run * unit),
            'higher',
            seed,
          );
          expect(scaled.factor).toBeCloseTo(gain.factor, 6);
          expect(scaled.interval?.low).toBeCloseTo(gain.interval?.low ?? 0, 6);
          expect(gain.interval?.low ?? 0).toBeLessThanOrEqual(gain.factor * (1 + 1e-9));
          expect(gain.interval?.high ?? 0).toBeGreaterThanOrEqual(gain.factor * (1 - 1e-9));
        },
      ),
    );
  });

  test('counting the other way round turns the factor over', () => {
    fc.assert(
      fc.property(anyRuns, anyRuns, anySeed, (a, b, seed) => {
        const [up, down] = [judgeGain(a, b, 'higher', seed), judgeGain(a, b, 'lower', seed)];
        expect(up.factor * down.factor).toBeCloseTo(1, 9);
      }),
    );
  });

  test('no change is seldom called one: about 5 in 100 with three runs a side', () => {
    let claimed = 0;
    const trials = 500;
    for (let seed = 0; seed < trials; seed++) {
      const random = seededRandom(seed * 7 + 1);
      // Skewed, as real runs are: mostly quick, now and then held up.
      const run = () => 100 / (1 + 0.03 * -Math.log(1 - random()));
      const side = () => [run(), run(), run()];
      if (judgeGain(side(), side(), 'higher', seed).verdict !== 'inside noise') claimed++;
    }
    expect(claimed / trials).toBeLessThan(0.1);
  });
});

describe('channels', () => {
  /** Benches as the assumptions have them: an efficiency of its own, carried over with a little wander. */
  function bench(seed: number, widths: { before: number; after: number }) {
    const random = seededRandom(seed);
    const normal = () => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
    const efficiency = Math.min(0.95, Math.max(0.35, 0.7 + 0.12 * normal()));
    const peak = 19.2;
    const side = (width: number, share: number, populated: number): BandwidthSide => ({
      runs: Array.from({ length: 3 }, () => peak * width * share * (1 + 0.01 * normal())),
      channelPeak: peak,
      populated,
    });
    const before = side(widths.before, efficiency, widths.before);
    const after = side(widths.after, Math.min(1, efficiency * Math.exp(0.05 * normal())), 2);
    return { before, after };
  }

  test.each([
    ['one wide before, paired now', { before: 1, after: 2 }, 'paired'],
    ['one wide before and still', { before: 1, after: 1 }, 'one wide'],
    ['paired before and still', { before: 2, after: 2 }, 'paired'],
    ['paired before, one wide now', { before: 2, after: 1 }, 'one wide'],
  ] as const)('%s: seldom wrong, and mostly sure with a baseline', (_name, widths, truth) => {
    let wrong = 0;
    let sure = 0;
    const trials = 300;
    for (let seed = 1; seed <= trials; seed++) {
      const { before, after } = bench(seed, widths);
      // A screen showed the rate, and nothing else was busy.
      const known = { isRateConfirmed: true, isQuiet: true, isPlateau: true };
      const { verdict } = inferChannels({ ...after, ...known }, { ...before, ...known });
      if (verdict.type === truth) sure++;
      else if (verdict.type !== "can't tell") wrong++;
    }
    expect(wrong / trials).toBeLessThan(0.05);
    // A paired baseline could itself have run one wide, so it settles less than a one-channel one.
    expect(sure / trials).toBeGreaterThan(widths.before === 1 ? 0.85 : 0.5);
  });

  test('without a baseline it is rarely wrong: it would rather not tell', () => {
    let wrong = 0;
    const trials = 400;
    for (let seed = 1; seed <= trials; seed++) {
      const after = 1 + (seed % 2);
      const { verdict } = inferChannels(bench(seed, { before: 1, after }).after);
      if (verdict.type === (after === 2 ? 'one wide' : 'paired')) wrong++;
    }
    expect(wrong / trials).toBeLessThan(0.06);
  });

  test('more bandwidth never makes the widest mode less likely, up to the bus', () => {
    const likely = (measured: number) =>
      inferChannels({ runs: [measured, measured * 1.01], channelPeak: 19.2, populated: 2 })
        .widths[0]?.probability ?? 0;
    let last = 0;
    for (let measured = 8; measured < 36; measured += 0.5) {
      expect(likely(measured)).toBeGreaterThanOrEqual(last - 0.02);
      last = likely(measured);
    }
    expect(last).toBeGreaterThan(0.9);
  });

  test('probabilities are probabilities, whatever is measured', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 0.1, max: 200, noNaN: true }), { minLength: 1, maxLength: 6 }),
        fc.integer({ min: 1, max: 8 }),
        fc.boolean(),
        (runs, populated, based) => {
          const side = { runs, channelPeak: 25.6, populated };
          const { widths, neither, verdict } = inferChannels(side, based ? side : undefined);
          if (widths.length === 0) {
            expect(['above the bus', 'only one channel holds memory']).toContain(verdict.type);
            return;
          }
          for (const { probability } of widths) {
            expect(probability).toBeGreaterThanOrEqual(0);
            expect(probability).toBeLessThanOrEqual(1);
          }
          expect(widths.reduce((sum, { probability }) => sum + probability, neither)).toBeCloseTo(
            1,
            6,
          );
        },
      ),
    );
  });
});

test('figures printed in a row are read back, whichever way they are separated', () => {
  const anyFigure = fc.integer({ min: 1, max: 99_999 }).map((tenths) => tenths / 10);
  fc.assert(
    fc.property(
      fc.array(anyFigure, { minLength: 1, maxLength: 20 }),
      fc.constantFrom(' ', '\n', '; ', ' | ', '\t'),
      fc.boolean(),
      (runs, separator, comma) => {
        const text = runs
          .map((run) => (comma ? String(run).replace('.', ',') : String(run)))
          .join(separator);
        expect(readRuns(text)).toEqual({ runs, sittings: [], faults: [] });
      },
    ),
  );
});
