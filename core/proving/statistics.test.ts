import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { mean, median, t95, tPoint, tailChance, variance, welchDegrees } from './statistics.ts';

// Every verdict rests on these few functions: each is held against another way to the same figure.

describe('a list of figures', () => {
  test('has a mean, a middle and a spread', () => {
    const values = [9, 4, 1, 2, 7];
    expect([mean(values), median(values)]).toEqual([4.6, 4]);
    // (4.4² + 3.6² + 0.6² + 2.6² + 2.4²) / 4
    expect(variance(values)).toBeCloseTo(11.3, 12);
    expect(values).toEqual([9, 4, 1, 2, 7]);
  });

  test('of an even length has the upper of two in its middle, by size and not by spelling', () => {
    expect(median([100, 20, 9, 3])).toBe(20);
  });

  test('of one or none has no spread', () => {
    expect([variance([]), variance([7]), variance([7, 9])]).toEqual([0, 0, 2]);
    expect([mean([]), median([])]).toEqual([NaN, NaN]);
  });
});

/** Both tails of Student's t for whole degrees of freedom (Abramowitz & Stegun 26.7.3 and 26.7.4). */
function tailsOf(t: number, degrees: number): number {
  const angle = Math.atan(t / Math.sqrt(degrees));
  const [sin, cos] = [Math.sin(angle), Math.cos(angle)];
  const isOdd = degrees % 2 === 1;
  let term = isOdd ? cos : 1;
  let sum = degrees === 1 ? 0 : term;
  for (let n = isOdd ? 3 : 2; n <= degrees - 2; n += 2) {
    term *= (cos ** 2 * (n - 1)) / n;
    sum += term;
  }
  return 1 - (isOdd ? (2 / Math.PI) * (angle + sin * sum) : sin * sum);
}

describe('Student’s t', () => {
  test('holds what its series gives, for all whole degrees of freedom', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 60 }),
        fc.double({ min: 0.001, max: 12, noNaN: true }),
        (degrees, t) => {
          expect(tailChance(t, degrees)).toBeCloseTo(tailsOf(t, degrees), 11);
          expect(tailChance(-t, degrees)).toBe(tailChance(t, degrees));
        },
      ),
      { numRuns: 2000 },
    );
  });

  test('between whole degrees lies between theirs, and never turns back', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 1, max: 40, noNaN: true }),
        fc.double({ min: 0.01, max: 8, noNaN: true }),
        (degrees, t) => {
          const chance = tailChance(t, degrees);
          expect(chance).toBeLessThanOrEqual(tailsOf(t, Math.floor(degrees)) + 1e-10);
          expect(chance).toBeGreaterThanOrEqual(tailsOf(t, Math.ceil(degrees)) - 1e-10);
          expect(tailChance(t + 0.1, degrees)).toBeLessThan(chance);
        },
      ),
    );
  });

  test.each([
    [1, 12.7062],
    [2, 4.3027],
    [5, 2.5706],
    [10, 2.2281],
    [30, 2.0423],
    [Infinity, 1.96],
  ])('with %s degrees of freedom its 95 % point is %s', (degrees, point) => {
    expect(t95(degrees)).toBeCloseTo(point, 4);
  });

  test('has no 95 % point farther out than that of one degree', () => {
    expect([t95(0.2), t95(0)]).toEqual([t95(1), t95(1)]);
  });

  test('its points undo its tails', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 1e-6, max: 0.999, noNaN: true }),
        fc.double({ min: 1, max: 1000, noNaN: true }),
        (chance, degrees) => {
          expect(tailChance(tPoint(chance, degrees), degrees) / chance).toBeCloseTo(1, 8);
        },
      ),
    );
  });

  test('ends: all lies outside nothing, nothing outside everything', () => {
    for (const degrees of [1, 7.5, 1e9])
      expect([tailChance(0, degrees), tailChance(1e200, degrees)]).toEqual([1, 0]);
  });
});

describe('degrees of freedom of a difference (Welch and Satterthwaite)', () => {
  test('are those of both together where they are alike', () => {
    expect(welchDegrees({ error: 3, n: 6 }, { error: 3, n: 6 })).toBeCloseTo(10, 12);
  });

  test('are those of the wilder side where it alone scatters', () => {
    expect(welchDegrees({ error: 5, n: 4 }, { error: 0, n: 90 })).toBeCloseTo(3, 12);
    expect(welchDegrees({ error: 0, n: 90 }, { error: 5, n: 4 })).toBeCloseTo(3, 12);
    // (2 + 1)² / (2² / 4 + 1² / 9)
    expect(welchDegrees({ error: 2, n: 5 }, { error: 1, n: 10 })).toBeCloseTo(8.1, 12);
  });

  test('have no end where nothing scatters', () => {
    expect(welchDegrees({ error: 0, n: 5 }, { error: 0, n: 5 })).toBe(Infinity);
  });
});
