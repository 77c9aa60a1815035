import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { often } from '../../test/support/draws.ts';
import { seededRandom } from '../units/index.ts';
import { distributionOf, judgeFrames, readFrames, stretchesOf, summariseFrames } from './index.ts';
import type { FrameLog } from './index.ts';

const read = (text: string): FrameLog => {
  const log = readFrames(text);
  if ('type' in log) throw new Error(JSON.stringify(log));
  return log;
};
const rows = (values: readonly (number | string)[], header = '') =>
  [header, ...values].filter((line) => line !== '').join('\n');
const steady = (n: number, ms = 16) => Array.from({ length: n }, (_, at) => ms + (at % 3) * 0.5);

describe('reading a frame log', () => {
  test('finds column, unit and kind in whatever a recorder writes', () => {
    const times = steady(200);
    let at = 0;
    const stamps = times.map((ms) => (at += ms));
    for (const [text, kind, unit] of [
      [rows(times, 'FrameTime'), 'frame time', 'ms'],
      [rows(times.map((ms) => ms / 1000)), 'frame time', 's'],
      [
        rows(
          times.map((ms) => ms * 1000),
          'duration (us)',
        ),
        'frame time',
        'µs',
      ],
      [
        rows(
          stamps.map((ms) => ms / 1000),
          'Zeitstempel',
        ),
        'time stamp',
        's',
      ],
      [rows(stamps, 'elapsed'), 'time stamp', 'ms'],
      [
        rows(
          times.map((ms) => 1000 / ms),
          'FPS',
        ),
        'frame rate',
        'ms',
      ],
      // Decimal commas, semicolons, a header in another language, a name and a comment beside it.
      [
        [
          '# comment',
          'Spiel;Bildzeit;Breite',
          ...times.map((ms) => `Fahrt;${String(ms).replace('.', ',')};1920`),
        ].join('\r\n'),
        'frame time',
        'ms',
      ],
      [
        rows(
          times.map((ms) => String(ms).replace('.', ',')),
          'ms',
        ),
        'frame time',
        'ms',
      ],
      [
        ['a,time,ms per frame', ...times.map((ms, one) => `x,${stamps[one] ?? 0},${ms}`)].join(
          '\n',
        ),
        'frame time',
        'ms',
      ],
    ] as const) {
      const log = read(text);
      expect(log.reading, text.slice(0, 60)).toMatchObject({ kind, unit });
      expect(summariseFrames(log.times).fps, text.slice(0, 60)).toBeCloseTo(1000 / 16.5, 0);
    }
  });

  test('leaves out what is no time and says how many; finds logs put together', () => {
    const odd = read(rows([...steady(100), 'NaN', -3, 0, '', 'x', ...steady(50)], 'ms'));
    expect([odd.times.length, odd.skipped]).toEqual([150, 4]);
    let at = 0;
    const stamps = steady(100).map((ms) => (at += ms));
    const two = read(rows([...stamps, ...stamps], 'elapsed'));
    expect(two.restarts).toEqual([99]);
    expect(two.times.every((ms) => ms > 0)).toBe(true);
  });

  test('says why a text is no log', () => {
    expect(readFrames('')).toEqual({ type: 'no numbers' });
    expect(readFrames('a,b\nc,d')).toEqual({ type: 'no numbers' });
    expect(readFrames(rows(Array(50).fill(1920), 'width'))).toMatchObject({
      type: 'no frame column',
      columns: ['width'],
    });
    expect(readFrames(rows([16, 17], 'ms'))).toEqual({ type: 'too few frames', frames: 2 });
  });

  test('never throws, whatever the text', () => {
    fc.assert(
      fc.property(
        fc.oneof(
          fc.string(),
          fc.array(fc.string().map((one) => `${one},16.6`)).map((all) => all.join('\n')),
        ),
        (text) => {
          const log = readFrames(text);
          if (!('type' in log)) expect(log.times.every((ms) => ms > 0)).toBe(true);
        },
      ),
    );
  });
});

describe('what a log comes down to', () => {
  const anyTimes = fc
    .array(fc.double({ min: 1, max: 400, noNaN: true }), { minLength: 20, maxLength: 400 })
    .map((times) => Float64Array.from(times));

  test('rates are frames over time, lows are lower, and the tenth of a percent lower still', () => {
    fc.assert(
      fc.property(anyTimes, (times) => {
        const all = summariseFrames(times);
        const total = times.reduce((sum, one) => sum + one, 0);
        expect(all.fps).toBeCloseTo((1000 * times.length) / total);
        expect(all.lowAverage.percent1).toBeLessThanOrEqual(all.fps + 1e-9);
        expect(all.lowAverage.percent01).toBeLessThanOrEqual(all.lowAverage.percent1 + 1e-9);
        expect(all.lowPercentile.percent01).toBeLessThanOrEqual(all.lowPercentile.percent1 + 1e-9);
        // The average of the slowest is slower than where they begin.
        expect(all.lowAverage.percent1).toBeLessThanOrEqual(all.lowPercentile.percent1 + 1e-9);
        const { 50: p50, 90: p90, 95: p95, 99: p99 } = all.percentiles;
        expect([p50, p90, p95, p99]).toEqual([p50, p90, p95, p99].sort((a, b) => a - b));
      }),
    );
  });

  test('half the frames slow is not the mean of rates: 100 fps and 25 fps make 40', () => {
    const times = Float64Array.from({ length: 1000 }, (_, at) => (at % 2 === 0 ? 10 : 40));
    expect(summariseFrames(times).fps).toBeCloseTo(40);
  });

  test('a stutter stands out of its surroundings; a steady slow scene is none', () => {
    const times = Float64Array.from({ length: 400 }, (_, at) =>
      at === 100 || at === 300 ? 50 : 16,
    );
    expect(summariseFrames(times).stutters).toBe(2);
    const scene = Float64Array.from({ length: 400 }, (_, at) => (at < 200 ? 16 : 50));
    expect(summariseFrames(scene).stutters).toBe(0);
    expect(
      summariseFrames(Float64Array.from({ length: 400 }, (_, at) => (at === 9 ? 6 : 2))).stutters,
    ).toBe(0);
  });
});

test('pictures of a log lose neither a hitch nor a frame', () => {
  fc.assert(
    fc.property(
      fc.array(fc.double({ min: 0.5, max: 300, noNaN: true }), { minLength: 1, maxLength: 500 }),
      fc.integer({ min: 1, max: 60 }),
      (values, stretches) => {
        const times = Float64Array.from(values);
        const drawn = stretchesOf(times, stretches);
        expect(drawn.length).toBeLessThanOrEqual(stretches);
        expect(Math.max(...drawn.map(({ most }) => most))).toBe(Math.max(...values));
        expect(Math.min(...drawn.map(({ least }) => least))).toBe(Math.min(...values));
        const shares = distributionOf(times, 100, 40);
        expect(shares.reduce((sum, one) => sum + one, 0)).toBeCloseTo(1);
      },
    ),
  );
});

test('the block interval covers the true gain where frames resemble their neighbours', () => {
  const random = seededRandom(6);
  const normal = () => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
  // Scenes: a slow wander of the frame time, correlated over about 20 frames.
  const log = (mean: number) => {
    let drift = 0;
    return Float64Array.from({ length: 3000 }, () => {
      drift = 0.95 * drift + 0.4 * normal();
      return Math.max(1, mean + drift + 0.5 * normal());
    });
  };
  const pairs = often(30);
  const covered = Array.from({ length: pairs }, () => {
    const { low, high, factor } = judgeFrames(log(20), log(16));
    expect(low).toBeLessThanOrEqual(factor);
    expect(high).toBeGreaterThanOrEqual(factor);
    return low <= 1.25 && high >= 1.25;
  }).filter(Boolean).length;
  expect(covered / pairs).toBeGreaterThan(0.86);
});
