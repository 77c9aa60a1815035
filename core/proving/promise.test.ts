import { describe, expect, test } from 'vitest';
import { desktop, labelled, running } from '../../test/support/builders.ts';
import type { Machine } from '../machine/index.ts';
import { dataRate } from '../units/index.ts';
import { physicalLimit, promisedBand } from './promise.ts';

const slow = labelled('8GB 1Rx8 PC4-2400T-UA1-11');
const fast = labelled('8GB 1Rx8 PC4-3200AA-UA1-11');
const kit = labelled('8GB 1Rx8 PC4-2133P-UA1-11 profile 3600MT/s CL16-18-18-36 1.35V');
const one = running(desktop(), { a1: slow });
const pair = running(desktop(), { a1: slow, b1: slow });

describe('bandwidth', () => {
  test('scales with the peak, and the band is how far efficiency wanders', () => {
    const band = promisedBand('bandwidth', 14, one, pair);
    // A doubling brings 0.86 of double at least, and efficiency wanders besides.
    expect(band?.low).toBeCloseTo((28 * 0.86) / Math.exp(1.96 * 0.06), 6);
    expect(band?.high).toBeCloseTo(28 * Math.exp(1.96 * 0.06), 6);
  });

  test('never promises more than the bus carries', () => {
    expect(promisedBand('bandwidth', 19, one, pair)?.high).toBeCloseTo(38.4, 9);
    expect(physicalLimit('bandwidth', pair)).toBeCloseTo(38.4, 9);
  });

  test('of a second channel leaves a single one out, and narrows alike the other way', () => {
    expect(promisedBand('bandwidth', 14, one, pair)?.low).toBeGreaterThan(14 * 1.3);
    const narrower = promisedBand('bandwidth', 28, pair, one);
    expect(narrower?.low).toBeLessThan(14);
    expect(narrower?.high).toBeGreaterThan(17);
    expect(promisedBand('bandwidth', 28, pair, pair)?.low).toBeGreaterThan(24);
  });

  test('promises less where the change costs rate', () => {
    const machine = desktop({ firmwareCap: dataRate(2133) });
    const band = promisedBand('bandwidth', 28, pair, running(machine, { a1: slow, b1: slow }));
    expect(band?.low).toBeLessThan(28);
  });
});

describe('latency', () => {
  test('never promises less than the first word, and calls that the limit', () => {
    expect(physicalLimit('latency', pair)).toBeCloseTo(14.167, 3);
    expect(promisedBand('latency', 10, one, pair)?.low).toBeCloseTo(14.167, 3);
  });

  test('moves with the timings, at least by a first word and at most by a row', () => {
    const before = running(desktop(), { a1: slow });
    const after = running(desktop(), { a1: kit }, 'profile');
    // First word 14.17 → 8.89 ns; a row of 17-17-17 is 42.5 ns, of 16-18-18 28.89 ns.
    const band = promisedBand('latency', 90, before, after);
    expect(band?.low).toBeCloseTo(90 - (42.5 - 28.889) - 90 * 0.0392, 2);
    expect(band?.high).toBeCloseTo(90 + 90 * 0.0392, 2);
  });

  test('a controller that halves its clock adds up to a tenth', () => {
    const tied = desktop({ sync: { limit: dataRate(3200), fabricClock: true } });
    const calm = promisedBand(
      'latency',
      90,
      running(desktop(), { a1: kit }),
      running(desktop(), { a1: kit }, 'profile'),
    );
    const halved = promisedBand(
      'latency',
      90,
      running(tied, { a1: kit }),
      running(tied, { a1: kit }, 'profile'),
    );
    expect((halved?.high ?? 0) - (calm?.high ?? 0)).toBeCloseTo(9, 6);
    expect(halved?.low).toBeCloseTo(calm?.low ?? 0, 6);
  });

  test('one that no longer halves it takes up to a tenth away', () => {
    const tied = desktop({ sync: { limit: dataRate(3200), fabricClock: true } });
    const back = (machine: Machine) =>
      promisedBand(
        'latency',
        90,
        running(machine, { a1: kit }, 'profile'),
        running(machine, { a1: kit }),
      );
    const [freed, calm] = [back(tied), back(desktop())];
    expect((freed?.low ?? 0) - (calm?.low ?? 0)).toBeCloseTo(-9, 6);
    expect(freed?.high).toBeCloseTo(calm?.high ?? 0, 6);
  });

  test.each(['trcd', 'trp'])('a row without its %s is taken for three first words', (unknown) => {
    const before = running(desktop(), { a1: slow });
    const after = running(desktop(), { a1: kit }, 'profile');
    const { [unknown as 'trp']: _, ...cycles } = after.timings.cycles;
    const half = { ...after, timings: { ...after.timings, cycles } };
    // A row of 17-17-17 before; three times 8.89 ns after.
    const least = 90 - (42.5 - 3 * after.timings.firstWord);
    expect(promisedBand('latency', 90, before, half)?.low).toBeCloseTo(least - 90 * 0.0392, 2);
  });
});

test.each(['duration', 'frames'] as const)(
  'no promise and no limit for %s: too much else plays a part',
  (metric) => {
    const before = running(desktop(), { a1: fast });
    expect(promisedBand(metric, 10, before, pair)).toBeUndefined();
    expect(physicalLimit(metric, pair)).toBeUndefined();
  },
);

describe('a promise that was made beforehand', () => {
  const made = (stream: number, reply: number) => ({
    simulated: {
      ratios: {
        bandwidth: { stream, triad: 1, random: 1, graphics: 1, desktop: 1 },
        reply: { idle: 1, loaded: 1 },
      },
      reply,
    },
    gains: [{ kind: 'compression', low: 15, high: 30 }],
  });

  test('goes by what was simulated: chips and ranks count, where the peak knows none', () => {
    const same = promisedBand('bandwidth', 30, pair, pair);
    const wide = promisedBand('bandwidth', 30, pair, pair, { made: made(0.8, 0) });
    expect(wide?.low).toBeCloseTo((same?.low ?? 0) * 0.8, 9);
    expect([same?.basis, wide?.basis]).toEqual(['reckoned', 'simulated']);
    // Never beyond what the bus carries, whatever was simulated.
    expect(promisedBand('bandwidth', 30, pair, pair, { made: made(3, 0) })?.high).toBe(pair.peak);
  });

  test('moves a reply by what was simulated, three nanoseconds more or less', () => {
    const band = promisedBand('latency', 90, pair, pair, { made: made(1, -8) });
    expect(band?.low).toBeCloseTo(90 - 8 - 3 - 90 * 0.0392, 2);
    expect(band?.high).toBeCloseTo(90 - 8 + 3 + 90 * 0.0392, 2);
  });

  test('holds a timed test against its kind of work, whichever way it counts', () => {
    const band = (sense: 'higher' | 'lower', kind: string | null) =>
      promisedBand('duration', 60, one, pair, { made: made(2, 0), kind, sense });
    expect(band('lower', 'compression')).toMatchObject({ low: 60 / 1.3, high: 60 / 1.15 });
    expect(band('higher', 'compression')).toMatchObject({ low: 69, high: 78 });
    expect(band('lower', 'office')).toBeUndefined();
    expect(band('lower', null)).toBeUndefined();
    // Which way it counts is not known: nothing is promised, rather than the wrong way round.
    const terms = { made: made(2, 0), kind: 'compression' };
    expect(promisedBand('duration', 60, one, pair, terms)).toBeUndefined();
  });

  test('was none for any other kind of figure', () => {
    expect(promisedBand('duration', 60, one, pair)).toBeUndefined();
  });
});
