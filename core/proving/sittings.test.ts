import { describe, expect, test } from 'vitest';
import { desktop, labelled, running } from '../../test/support/builders.ts';
import { Dice, channelCase, frameLog, sittings } from '../../test/support/verdictWorlds.ts';
import type { ChannelWorld } from '../../test/support/verdictWorlds.ts';
import {
  inferChannels,
  judgeFrames,
  judgeGain,
  levelSpread,
  readRuns,
  runSetOf,
  runsText,
  sittingsOf,
  standTogether,
  stepOf,
  summariseFrames,
} from './index.ts';
import type { Measurement, RunSet } from './index.ts';
import { promisedBand } from './promise.ts';

const TRIALS = 400;

/** How often a true factor lies in the interval, and how often a change is claimed. */
function tally(draw: (at: number) => { gain: ReturnType<typeof judgeGain>; truth: number }) {
  let [covered, claimed] = [0, 0];
  for (let at = 0; at < TRIALS; at++) {
    const { gain, truth } = draw(at);
    if (gain.interval && gain.interval.low <= truth && gain.interval.high >= truth) covered++;
    if (gain.verdict === 'gain' || gain.verdict === 'loss') claimed++;
  }
  return { covered: covered / TRIALS, claimed: claimed / TRIALS };
}

describe('a sitting has its own level', () => {
  const world = { runs: 9, run: 'calm' };

  test.each([
    [0.005, 2],
    [0.01, 3],
    [0.03, 2],
    [0.03, 3],
  ])(
    'levels that differ by %d, %i sittings a side: the truth is held, and no change stays none',
    (spread, count) => {
      const dice = new Dice(count * 1000 + spread * 1e5);
      const side = () => sittings(dice, 20, { ...world, spread, count });
      const { covered, claimed } = tally((at) => ({
        gain: judgeGain(side(), side(), 'higher', at),
        truth: 1,
      }));
      expect(covered).toBeGreaterThan(0.91);
      expect(claimed).toBeLessThan(0.09);
    },
  );

  test.each([0.005, 0.015, 0.03])(
    'with one sitting a side and the shop’s own spread of %d',
    (spread) => {
      const dice = new Dice(spread * 1e6);
      const side = (count = 1) => sittings(dice, 20, { ...world, spread, count });
      const { covered, claimed } = tally((at) => {
        const level = levelSpread(Array.from({ length: 8 }, () => side(2)));
        return { gain: judgeGain(side(), side(), 'higher', at, level), truth: 1 };
      });
      expect(covered).toBeGreaterThan(0.91);
      expect(covered).toBeLessThan(0.985);
      expect(claimed).toBeLessThan(0.09);
    },
  );

  test('with one sitting a side and nothing known a spread of one per cent is assumed, and said', () => {
    const dice = new Dice(4);
    const side = () => sittings(dice, 20, { ...world, spread: 0.01, count: 1 });
    const { claimed } = tally((at) => ({
      gain: judgeGain(side(), side(), 'higher', at),
      truth: 1,
    }));
    expect(claimed).toBeLessThan(0.09);
    const { level, sittings: counted } = judgeGain(
      [20, 20.1, 19.9],
      [20.2, 20.3, 20.1],
      'higher',
      1,
    );
    expect(level).toMatchObject({ sd: 0.01, from: 'assumed' });
    expect(counted).toEqual({ before: 1, after: 1 });
  });

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

  test.each([
    [1, 3, 0.001],
    [1, 10, 0.005],
    [1, 5, 0.02],
    [0.1, 3, 0.001],
    [0.1, 10, 0.005],
  ])('to %d, %i runs with a scatter of %d: the truth is held', (step, runs, scatter) => {
    const dice = new Dice(step * 100 + runs);
    const side = (level: number) =>
      Array.from(
        { length: runs },
        () => Math.round((level * (1 + scatter * dice.normal())) / step) * step,
      );
    const { covered } = tally((at) => {
      const [level, truth] = [dice.even(10, 20), dice.even(1, 1.1)];
      const figures = (one: number) => side(one).map((value) => Number(value.toFixed(1)));
      const gain = judgeGain(figures(level), figures(level * truth), 'higher', at, exact);
      return { gain, truth };
    });
    expect(covered).toBeGreaterThan(0.9);
  });

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
  test.each(['outliers', 'two humps', 'skewed'])(
    '%s: ten runs a side still hold the truth',
    (run) => {
      const dice = new Dice(run.length);
      const side = () => sittings(dice, 20, { spread: 0.005, count: 1, runs: 10, run });
      const { covered } = tally((at) => ({
        gain: judgeGain(side(), side(), 'higher', at),
        truth: 1,
      }));
      expect(covered).toBeGreaterThan(0.93);
    },
  );

  test('of sixteen idle tests with two humps each, judged together, hardly any family claims one', () => {
    const dice = new Dice(16);
    const side = () => sittings(dice, 20, { spread: 0.005, count: 1, runs: 5, run: 'two humps' });
    let families = 0;
    for (let at = 0; at < 60; at++) {
      const chances = Array.from(
        { length: 16 },
        (_, one) => judgeGain(side(), side(), 'higher', at * 16 + one).chance,
      );
      if (standTogether(chances).some(Boolean)) families++;
    }
    expect(families).toBeLessThanOrEqual(6);
  });

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

describe('channel mode over many made-up machines', () => {
  const verdicts = (world: ChannelWorld, known: boolean) => {
    const dice = new Dice(world.length * 7 + Number(known));
    let [wrong, right, open] = [0, 0, 0];
    for (let at = 0; at < TRIALS; at++) {
      const { before, after, truth } = channelCase(dice, world, known);
      const { verdict } = inferChannels(after, before);
      if (verdict.type === "can't tell") {
        open++;
        expect(verdict.open.length).toBeGreaterThan(0);
      } else if ('width' in verdict && verdict.width === truth) right++;
      else if ('width' in verdict) wrong++;
    }
    return { wrong: wrong / TRIALS, right: right / TRIALS, open: open / TRIALS };
  };

  test('clean ones are told where rate and reply are known', () => {
    const { wrong, right } = verdicts('clean', true);
    expect(wrong).toBeLessThanOrEqual(0.01);
    expect(right).toBeGreaterThan(0.8);
  });

  test.each<[ChannelWorld, boolean]>([
    ['clean', false],
    ['uneven zone', true],
    ['uneven zone', false],
    ['lower rate', true],
    ['lower rate', false],
    ['one core limits', true],
    ['one core limits', false],
    ['busy before', true],
    ['busy before', false],
    ['busy after', true],
    ['busy after', false],
  ])('%s, rate and reply known: %s – hardly ever wrong', (world, known) => {
    expect(verdicts(world, known).wrong).toBeLessThanOrEqual(0.01);
  });

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

describe('what a second channel promises', () => {
  const machine = desktop();
  const module = labelled('8GB 1Rx8 PC4-2400T-UA1-11');
  const [one, two] = [
    running(machine, { a1: module }),
    running(machine, { a1: module, b1: module }),
  ];

  test('truly paired machines that reach 0.8 to 1.0 of double are hardly ever called short', () => {
    const dice = new Dice(22);
    let short = 0;
    for (let at = 0; at < TRIALS; at++) {
      const before = 14 * (1 + 0.01 * dice.normal());
      const after = before * 2 * dice.even(0.8, 1) * (1 + 0.01 * dice.normal());
      const band = promisedBand('bandwidth', before, one, two);
      if (band && after < band.low) short++;
    }
    expect(short / TRIALS).toBeLessThan(0.05);
  });

  test('the band still leaves a single channel out, and narrows alike the other way', () => {
    const wider = promisedBand('bandwidth', 14, one, two);
    expect(wider?.low).toBeGreaterThan(14 * 1.3);
    const narrower = promisedBand('bandwidth', 28, two, one);
    expect(narrower?.low).toBeLessThan(14);
    expect(narrower?.high).toBeGreaterThan(17);
    const same = promisedBand('bandwidth', 28, two, two);
    expect(same?.low).toBeGreaterThan(24);
  });
});

describe('frames that resemble one another', () => {
  test.each([
    [0.5, 120],
    [2, 300],
  ])('half as alike after %d s, over %i s: the truth is held', (halfLife, seconds) => {
    const dice = new Dice(halfLife * 10);
    const trials = 40;
    let covered = 0;
    for (let at = 0; at < trials; at++) {
      const log = (mean: number) => frameLog(dice, { mean, seconds, halfLife });
      const { low, high } = judgeFrames(log(16), log(14));
      if (low <= 16 / 14 && high >= 16 / 14) covered++;
    }
    expect(covered / trials).toBeGreaterThan(0.85);
  });

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

  test('the lows have an interval that holds the truth', () => {
    const dice = new Dice(6);
    let [covered, claimed] = [0, 0];
    for (let at = 0; at < 40; at++) {
      const log = () => frameLog(dice, { mean: 12, seconds: 120, halfLife: 0.5 });
      const { lowAverage, lowPercentile } = judgeFrames(log(), log());
      if (lowAverage.low <= 1 && lowAverage.high >= 1) covered++;
      if (lowPercentile.low > 1 || lowPercentile.high < 1) claimed++;
    }
    expect(covered / 40).toBeGreaterThan(0.8);
    expect(claimed / 40).toBeLessThan(0.2);
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
