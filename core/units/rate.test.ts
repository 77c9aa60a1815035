import { describe, expect, test } from 'vitest';
import {
  dataRate,
  exactRate,
  firstWordNs,
  gib,
  isNonBinary,
  peakBandwidth,
  readRate,
} from './index.ts';

describe('rate names', () => {
  test.each([
    [533, 1600 / 3],
    [666, 2000 / 3],
    [667, 2000 / 3],
    [1066, 3200 / 3],
    [1067, 3200 / 3],
    [1333, 4000 / 3],
    [1866, 5600 / 3],
    [2133, 6400 / 3],
    [2400, 2400],
    [2666, 8000 / 3],
    [2933, 8800 / 3],
    [3200, 3200],
    [3733, 11200 / 3],
    [5600, 5600],
    [7500, 7500],
  ])('%i stands for %f MT/s', (name, exact) => {
    expect(exactRate(dataRate(name))).toBeCloseTo(exact, 9);
  });

  test('peak of one 64-bit channel is r × 8, decimal', () => {
    expect(peakBandwidth(dataRate(3200), 64)).toBeCloseTo(25.6, 9);
    expect(peakBandwidth(dataRate(6400), 128)).toBeCloseTo(102.4, 9);
  });

  test('a lower CL at a lower rate can be the same time', () => {
    expect(firstWordNs(16, dataRate(3200))).toBeCloseTo(10, 9);
    expect(firstWordNs(18, dataRate(3600))).toBeCloseTo(10, 9);
  });
});

describe('readings of a screen', () => {
  const ddr4 = [1600, 1866, 2133, 2400, 2666, 2933, 3200].map(dataRate);

  test.each([
    // reading, rated, means, read as, ambiguous
    [1600, 3200, 3200, 'clock', false],
    [1596, 3200, 3200, 'clock', false],
    [3200, 3200, 3200, 'data rate', false],
    [1333, 2666, 2666, 'clock', false],
    [1600, 3600, 3200, 'clock', true],
    [1066, 3200, 2133, 'clock', false],
    [2133, 3200, 2133, 'data rate', false],
  ] as const)('%i on a kit rated %i means %i (%s)', (reading, rated, rate, readAs, ambiguous) => {
    expect(readRate(reading, dataRate(rated), ddr4)).toEqual({ rate, readAs, ambiguous });
  });
});

test('24 GB is non-binary, half a GB is not', () => {
  expect(isNonBinary(gib(24))).toBe(true);
  expect([0.5, 1, 16, 64].map((x) => isNonBinary(gib(x)))).toEqual([false, false, false, false]);
});
