import { describe, expect, test } from 'vitest';
import { desktop, labelled, running } from '../../test/support/builders.ts';
import { fingerprint, inferChannels, judgeGain, judgeShownRate, proveChange } from './index.ts';
import type { Measurement } from './index.ts';
import { tPoint } from './statistics.ts';
import { seededRandom } from '../units/index.ts';

/** Normal noise around a mean, from a seed. */
function noisy(seed: number, centre: number, sd: number, n: number): number[] {
  const random = seededRandom(seed);
  const normal = () => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
  return Array.from({ length: n }, () => centre * (1 + sd * normal()));
}

describe('gain', () => {
  test('a clear change is a gain whichever way the figure counts; the seed fixes the interval', () => {
    const higher = judgeGain([19.8, 20, 20.2], [39, 39.4, 39.2], 'higher', 7);
    expect(higher.verdict).toBe('gain');
    expect(higher.factor).toBeCloseTo(1.96, 2);
    expect(judgeGain([19.8, 20, 20.2], [39, 39.4, 39.2], 'higher', 7)).toEqual(higher);
    expect(judgeGain([39, 39.4, 39.2], [19.8, 20, 20.2], 'higher', 7).verdict).toBe('loss');
    expect(judgeGain([4.1, 4, 4.2], [2, 2.1, 2.05], 'lower', 7)).toMatchObject({ verdict: 'gain' });
  });

  test('inside noise says how many runs would settle it, or that none would', () => {
    const near = judgeGain([100, 104, 96], [106, 110, 102], 'higher', 1);
    expect(near).toMatchObject({ verdict: 'inside noise', toSettle: { type: 'runs' } });
    const same = judgeGain([100, 104, 96], [100.2, 103, 97], 'higher', 1);
    expect(same.toSettle).toEqual({ type: 'too small to settle', limit: 30 });
  });

  test('the runs it asks for do settle an effect of that size, most times', () => {
    const more = judgeGain([100, 104, 96], [106, 110, 102], 'higher', 1).toSettle;
    const n = 3 + (more?.type === 'runs' ? more.before : 0);
    const settled = Array.from({ length: 200 }, (_, seed) =>
      judgeGain(noisy(seed, 100, 0.04, n), noisy(seed + 900, 106, 0.04, n), 'higher', seed),
    ).filter(({ verdict }) => verdict === 'gain').length;
    expect(settled / 200).toBeGreaterThan(0.45);
  });

  test('one run alone is no evidence', () => {
    expect(judgeGain([20], [40, 41], 'higher', 1)).toMatchObject({
      verdict: 'too few runs',
      toSettle: { type: 'runs', before: 2, after: 1 },
    });
  });
});

describe('channels from bandwidth', () => {
  const side = (runs: number[], channelPeak = 19.2, populated = 2) => ({
    ...{ runs, channelPeak, populated },
    ...{ isRateConfirmed: true, isQuiet: true, isPlateau: true },
  });

  test('with a baseline the ratio tells paired from one wide', () => {
    const before = side([14.1, 14.2, 14], 19.2, 1);
    expect(inferChannels(side([27.9, 28.1, 28]), before).verdict).toEqual({
      type: 'paired',
      width: 2,
    });
    expect(inferChannels(side([14.3, 14.2, 14.4]), before).verdict).toEqual({
      type: 'one wide',
      width: 1,
    });
  });

  test('a baseline that was paired itself fixes the efficiency as well', () => {
    const before = side([30, 30.2, 29.9]);
    expect(inferChannels(side([15.1, 15.3, 15.2]), before).verdict.type).toBe('one wide');
    expect(inferChannels(side([31, 31.2, 30.9]), before).verdict.type).toBe('paired');
  });

  test('without a baseline a figure in between cannot tell; one above a single channel can', () => {
    expect(inferChannels(side([16.4, 16.5, 16.3])).verdict.type).toBe("can't tell");
    expect(inferChannels(side([27, 27.2, 27.1])).verdict.type).toBe('paired');
  });

  test('probabilities sum to one, and a baseline sharpens them', () => {
    const after = side([27, 26.8, 27.1], 19.2, 4);
    const alone = inferChannels(after);
    const based = inferChannels(after, side([13.5, 13.6, 13.4], 19.2, 1));
    for (const { widths, neither } of [alone, based])
      expect(widths.reduce((sum, { probability }) => sum + probability, neither)).toBeCloseTo(1, 9);
    const top = (x: typeof alone) => Math.max(...x.widths.map(({ probability }) => probability));
    expect(top(based)).toBeGreaterThan(top(alone));
    expect(based.verdict).toEqual({ type: 'partly', width: 2 });
  });

  test('more than the bus can carry is no bandwidth of this machine', () => {
    expect(inferChannels(side([60, 61])).verdict).toMatchObject({ type: 'above the bus' });
    expect(inferChannels(side([14], 19.2, 1)).verdict.type).toBe('only one channel holds memory');
  });
});

test.each([
  [1600, 'as expected', 'clock'],
  [3200, 'as expected', 'data rate'],
  [1596.3, 'as expected', 'clock'],
  [1333, 'slower', 'clock'],
  [2400, 'slower', 'data rate'],
  [5600, 'faster', 'data rate'],
])('a DDR4-3200 pair shown as %f is %s, read as %s', (reading, type, readAs) => {
  const fast = labelled('8GB 1Rx8 PC4-3200AA-UA1-11');
  const point = running(desktop(), { a1: fast, b1: fast });
  expect(judgeShownRate(reading, point)).toMatchObject({ type, taken: { readAs } });
  expect(judgeShownRate(7, point).type).toBe('no rate');
});

describe('proof', () => {
  const machine = desktop();
  const module = labelled('8GB 1Rx8 PC4-2400T-UA1-11');
  const found = { a1: module };
  const fitted = { a1: module, b1: module };
  const runs = (
    placement: typeof found,
    values: number[],
    more: Partial<Measurement> = {},
  ): Measurement => ({
    ...{
      metric: 'bandwidth',
      test: 'copy',
      runs: values,
      warmUp: 0,
      conditions: 'mains',
      power: 'unknown',
      resolution: '',
      tool: '',
    },
    fingerprint: fingerprint(machine, placement),
    ...more,
  });
  const side = (placement: typeof found, ...measurements: Measurement[]) =>
    ({ placement, setting: 'standard', measurements }) as const;

  test('a second module in the other channel doubles the bandwidth, as promised', () => {
    const proof = proveChange(
      machine,
      side(found, runs(found, [9, 14, 14.1, 13.9], { warmUp: 1 })),
      side(fitted, runs(fitted, [27.5, 27.6, 27.4])),
      42,
    );
    expect(proof.headline.type).toBe('gain');
    expect(proof.channels?.verdict).toEqual({ type: 'paired', width: 2 });
    expect(proof.metrics[0]).toMatchObject({ againstPromise: 'inside', before: [14, 14.1, 13.9] });
    expect(proof.metrics[0]?.limit).toBeCloseTo(38.4, 6);
  });

  test('a baseline on other modules is refused, with what was measured and what was expected', () => {
    const other = { a1: labelled('4GB 1Rx8 PC4-2400T-UA1-11') };
    const proof = proveChange(
      machine,
      side(found, runs(other, [14, 14])),
      side(fitted, runs(fitted, [27, 28])),
      1,
    );
    expect(proof.headline.type).toBe('no comparison');
    expect(proof.metrics[0]?.cautions).toMatchObject([{ type: 'baseline-on-other-modules' }]);
    expect(proof.channels?.withBaseline).toBe(false);
  });

  test('a gain in one test and a loss in another is called mixed', () => {
    const timed = (placement: typeof found, values: number[]) =>
      runs(placement, values, { metric: 'duration', test: 'open' });
    const proof = proveChange(
      machine,
      side(found, runs(found, [14, 14.1, 13.9]), timed(found, [40, 41, 40.5])),
      side(fitted, runs(fitted, [12, 12.1, 11.9]), timed(fitted, [18, 18.3, 17.9])),
      1,
    );
    expect(proof.headline).toMatchObject({
      type: 'mixed',
      gained: { test: 'open' },
      lost: { test: 'copy' },
    });
  });

  test('a latency promise spans the least and the most the timings can move it', () => {
    const faster = { a1: labelled('8GB 1Rx8 PC4-3200AA-UA1-11') };
    const latency = { metric: 'latency', test: 'walk' } as const;
    const proof = proveChange(
      machine,
      side(found, runs(found, [90, 91, 92], latency)),
      side(faster, runs(faster, [89, 90, 91], latency)),
      1,
    );
    // 2400 CL17 is 14.17 ns, 3200 CL22 13.75 ns: a first word gains 0.4 ns, a row change 1.25.
    // Either side gets 1.96 × 2 % for ranks, refresh and page layout.
    expect(proof.metrics[0]?.promised?.low).toBeCloseTo(91 - 1.25 - 91 * 0.0392, 2);
    expect(proof.metrics[0]?.promised?.high).toBeCloseTo(91 + 91 * 0.0392, 2);
    expect(proof.metrics[0]?.againstPromise).toBe('inside');
    expect(proof.metrics[0]).toMatchObject({
      gain: { verdict: 'inside noise' },
      cautions: [],
    });
  });

  test('under other conditions nothing is compared, and what differs is said', () => {
    const proof = proveChange(
      machine,
      side(found, runs(found, [14, 14.1, 13.9])),
      side(fitted, runs(fitted, [27, 28, 27.5], { power: 'battery', resolution: '4 threads' })),
      1,
    );
    expect(proof.headline).toMatchObject({ type: 'not comparable' });
    expect(proof.metrics[0]).toMatchObject({
      before: [14, 14.1, 13.9],
      cautions: [{ type: 'conditions-differ', fields: ['power', 'resolution'] }],
    });
    expect(proof.metrics[0]?.gain).toBeUndefined();
    expect(proof.channels?.withBaseline).toBe(false);
  });

  test('a score counts as declared, and the peak in use is held against what there is', () => {
    const score = (placement: typeof found, values: number[], sense: 'higher' | 'lower') =>
      runs(placement, values, { metric: 'score', test: 'points', sense });
    const peak = (placement: typeof found, value: number) =>
      runs(placement, [value], { metric: 'peak', test: 'stitching' });
    const prove = (sense: 'higher' | 'lower') =>
      proveChange(
        machine,
        side(found, score(found, [100, 101, 99], 'lower'), peak(found, 7.8)),
        side(fitted, score(fitted, [50, 51, 50], sense), peak(fitted, 9.5)),
        1,
      ).metrics;
    const [lower, use] = prove('lower');
    expect(lower?.gain).toMatchObject({ verdict: 'gain' });
    expect(lower?.gain?.factor).toBeCloseTo(300 / 151, 6);
    expect(use?.use).toEqual({
      before: { peak: 7.8, usable: 8 },
      after: { peak: 9.5, usable: 16 },
    });
    expect(prove('higher')[0]?.cautions).toMatchObject([{ fields: ['sense'] }]);
  });

  test('several comparisons are judged together: a lucky one does not stand alone', () => {
    const idle = (placement: typeof found, name: string, values: number[]) =>
      runs(placement, values, { metric: 'duration', test: name });
    const proof = proveChange(
      machine,
      side(
        found,
        runs(found, [14, 14.1, 13.9]),
        idle(found, 'a', [10, 10.1, 10.2]),
        idle(found, 'b', [20, 20.3, 19.8]),
      ),
      side(
        fitted,
        runs(fitted, [27, 27.2, 27.1]),
        idle(fitted, 'a', [9.8, 9.9, 9.85]),
        idle(fitted, 'b', [20.1, 20, 19.9]),
      ),
      1,
    );
    expect(proof.metrics.map(({ standsTogether }) => standsTogether)).toEqual([true, false, false]);
  });
});

describe('gain from few runs', () => {
  test('one stray run is named with its distance, and kept; a second one is not told', () => {
    const calm = [30.1, 30.3, 29.9, 30.2, 30];
    const { strays, factor, interval } = judgeGain(calm, [...calm, 12], 'higher', 1);
    expect(strays).toMatchObject([{ side: 'after', value: 12 }]);
    expect(strays[0]?.distance).toBeGreaterThan(50);
    expect(factor).toBeLessThan(0.92);
    expect(interval?.high).toBeGreaterThan(1);
    expect(judgeGain(calm, [30, 30.2, 12, 13, 30.1], 'higher', 1).strays).toEqual([]);
    // Four runs cannot tell which one strays.
    expect(judgeGain(calm, [30, 30.2, 30.1, 12], 'higher', 1).strays).toEqual([]);
    // Clocks round: runs all alike but one are no proof against it.
    expect(judgeGain(calm, [30, 30, 30, 30, 30.1], 'higher', 1).strays).toEqual([]);
  });

  test('what the runs would show shrinks as there are more of them', () => {
    const runs = [10, 10.2, 9.8, 10.1, 9.9, 10.15, 9.85, 10.05];
    const [few, many] = [3, 8].map((n) =>
      judgeGain(runs.slice(0, n), runs.slice(0, n), 'higher', 1),
    );
    expect(few?.detectable ?? 0).toBeGreaterThan(many?.detectable ?? 0);
    expect(many?.detectable ?? 0).toBeGreaterThan(1);
  });

  test.each([
    [0.05, 1, 12.706],
    [0.05, 10, 2.228],
    [0.01, 5, 4.032],
    [0.4, 4, 0.941],
    [0.05, Infinity, 1.96],
  ])('Student’s t beyond which %d lies, at %d degrees: %d', (chance, degrees, t) => {
    expect(tPoint(chance, degrees)).toBeCloseTo(t, 3);
  });
});
