import { describe, expect, test } from 'vitest';
import { Dice, channelCase, frameLog, sittings } from '../../test/support/verdictWorlds.ts';
import {
  inferChannels,
  judgeFrames,
  judgeGain,
  levelSpread,
  readRuns,
  runSetOf,
  runsText,
  sittingsOf,
  stepOf,
  summariseFrames,
} from './index.ts';
import type { Measurement, RunSet } from './index.ts';

describe('a sitting has its own level', () => {
  const world = { runs: 9, run: 'calm' };

  test('a second sitting is asked for where it would decide, not more runs of the first', () => {
    const calm = (centre: number) => Array.from({ length: 9 }, (_, at) => centre + 0.01 * (at % 3));
    expect(judgeGain(calm(20), calm(20.5), 'higher', 1)).toMatchObject({
      verdict: 'inside noise',
      toSettle: { type: 'sittings' },
    });
    const two = (centre: number): RunSet => ({ sittings: [calm(centre), calm(centre * 1.002)] });
    expect(judgeGain(two(20), two(20.5), 'higher', 1).verdict).toBe('gain');
  });

  test('a page that was not sure of its windows is trusted less', () => {
    const runs = [20, 20.1, 19.9, 20, 20.05];
    const after = runs.map((run) => run * 1.035);
    const plain = judgeGain({ sittings: [runs] }, { sittings: [after] }, 'higher', 1);
    const doubtful = judgeGain(
      { sittings: [runs] },
      { sittings: [after], isDoubtful: true },
      'higher',
      1,
    );
    expect([plain.verdict, doubtful.verdict]).toEqual(['gain', 'inside noise']);
  });

  test('the shop’s own spread is found from repeated sittings, and not from too few', () => {
    const dice = new Dice(8);
    const sides = Array.from({ length: 60 }, () =>
      sittings(dice, 20, { ...world, spread: 0.02, count: 2 }),
    );
    expect(levelSpread(sides)?.sd).toBeCloseTo(0.02, 2);
    expect(levelSpread(sides)?.degrees).toBe(60);
    expect(levelSpread(sides.slice(0, 2))).toBeUndefined();
    // What is within sittings is no difference between them.
    const same = Array.from({ length: 60 }, () =>
      sittings(dice, 20, { ...world, run: 'restless', spread: 0, count: 2 }),
    );
    expect(levelSpread(same)?.sd ?? 1).toBeLessThan(0.009);
  });
});

describe('rounded figures', () => {
  const exact = { sd: 1e-6, degrees: Infinity, from: 'assumed' } as const;

  test('figures all alike leave an interval of some width', () => {
    const { interval, verdict } = judgeGain([12, 12, 12], [12, 12, 12], 'lower', 1, exact);
    expect((interval?.high ?? 0) - (interval?.low ?? 0)).toBeGreaterThan(0.05);
    expect(verdict).toBe('inside noise');
  });

  test.each([
    [[12, 13], 1],
    [[12.5, 13], 0.1],
    [[750], 1],
    [[0.001, 1e-7], 1e-7],
  ])('%j were rounded to %d', (figures, step) => {
    expect(stepOf(figures)).toBeCloseTo(step, 12);
  });
});

describe('runs unlike one another', () => {
  test('runs that drift are said to, and taken about their drift', () => {
    const drifting = Array.from({ length: 12 }, (_, at) => 20 - 0.1 * at + 0.01 * (at % 2));
    const { trends, interval } = judgeGain(drifting, drifting, 'higher', 1);
    expect(trends.map(({ side }) => side)).toEqual(['before', 'after']);
    expect(trends[0]?.perRun).toBeCloseTo(-0.1 / 19.45, 3);
    expect(interval?.low).toBeLessThan(1);
    expect(judgeGain([20, 20.1, 19.9, 20, 20.1, 19.9], [20, 20, 20.1], 'higher', 1).trends).toEqual(
      [],
    );
  });
});

describe('runs by sitting', () => {
  test('are typed with // between, and come out as they went in', () => {
    const read = readRuns('14.1 14.2 // 14.0 14.3; 14,1');
    expect(read).toEqual({ runs: [14.1, 14.2, 14, 14.3, 14.1], sittings: [2, 3], faults: [] });
    expect(readRuns(runsText(read.runs, read.sittings))).toEqual(read);
    expect(readRuns('// 14.1 14.2').sittings).toEqual([]);
    expect(runsText([1, 2])).toBe('1 2');
  });

  test('sizes that do not add up lose no run', () => {
    expect(sittingsOf([1, 2, 3, 4], [1, 2])).toEqual([[1], [2, 3], [4]]);
    expect(sittingsOf([1, 2], [5, 5])).toEqual([[1, 2]]);
    expect(sittingsOf([], [1])).toEqual([]);
  });

  test('only the first sitting warms up', () => {
    const one: Measurement = {
      ...{ metric: 'bandwidth', test: 'copy', runs: [9, 14, 14.1, 14.2, 14.3], warmUp: 1 },
      ...{ sittings: [3, 2], fingerprint: '', power: 'unknown', resolution: '', tool: '' },
      conditions: '',
    };
    expect(runSetOf(one).sittings).toEqual([
      [14, 14.1],
      [14.2, 14.3],
    ]);
  });
});

describe('channel mode', () => {
  test('an uneven set is never told for sure, and the question says why', () => {
    const { before, after } = channelCase(new Dice(3), 'uneven zone', true);
    expect(inferChannels(after, before).verdict).toEqual({ type: "can't tell", open: ['uneven'] });
  });

  test('a half that a lower rate would explain asks for the rate, and for quiet', () => {
    const before = { runs: [14.1, 14.2, 14], channelPeak: 19.2, populated: 1 };
    const half = { runs: [14.2, 14.1, 14.3], channelPeak: 19.2, populated: 2, isPlateau: true };
    const open = (more: object) => inferChannels({ ...half, ...more }, before).verdict;
    expect(open({})).toMatchObject({ open: ['rate', 'quiet'] });
    expect(open({ isRateConfirmed: true })).toMatchObject({ open: ['quiet'] });
    expect(open({ lowerRates: [0.67], isQuiet: true })).toMatchObject({ type: 'one wide' });
    expect(open({ isRateConfirmed: true, isQuiet: true })).toMatchObject({ type: 'one wide' });
    expect(open({ isRateConfirmed: true, isQuiet: true, isPlateau: undefined })).toMatchObject({
      open: ['cores'],
    });
    // A baseline taken while something else was busy is none.
    expect(
      inferChannels({ ...half, isQuiet: true }, { ...before, isQuiet: false }).withBaseline,
    ).toBe(false);
  });
});

describe('frames that resemble one another', () => {
  test('a log too short for its memory asks for more, with how much', () => {
    const dice = new Dice(5);
    const short = frameLog(dice, { mean: 16, seconds: 60, halfLife: 5 });
    const { record, memory } = judgeFrames(
      short,
      frameLog(dice, { mean: 16, seconds: 60, halfLife: 0.05 }),
    );
    expect(record.before ?? 0).toBeGreaterThan(60);
    expect(record.after).toBeUndefined();
    expect(memory).toBeGreaterThan(1);
  });

  test('a scene that repeats is judged by its rounds, and long enough', () => {
    const log = (ms: number) =>
      Float64Array.from({ length: 6000 }, (_, at) => ms + Math.sin(at / 40));
    const { factor, low, high, record } = judgeFrames(log(20), log(16));
    expect(record).toEqual({ before: undefined, after: undefined });
    expect(factor).toBeCloseTo(1.25, 2);
    expect(low).toBeGreaterThan(1.2);
    expect(high).toBeLessThan(1.3);
  });

  test('stutters counted without sorting are those counted with it', () => {
    const dice = new Dice(9);
    for (let at = 0; at < 40; at++) {
      const times = Float64Array.from({ length: 400 }, () =>
        dice.chance(0.1) ? dice.even(10, 60) : dice.even(4, 14),
      );
      let expected = 0;
      times.forEach((time, one) => {
        const around = times.slice(Math.max(0, one - 30), one + 31).sort();
        const median = around[Math.floor(around.length / 2)] ?? time;
        const before = times[one - 1] ?? times[one + 1] ?? time;
        const isSteady = one > 1 && time < 1.2 * before && time < 1.2 * (times[one - 2] ?? 0);
        if (time > 8 && !isSteady && time > 2 * median && time - median >= 8) expected++;
      });
      expect(summariseFrames(times).stutters).toBe(expected);
    }
  });
});
