import { describe, expect, test } from 'vitest';
import { desktop, labelled, running } from '../../test/support/builders.ts';
import { Dice, channelCase, frameLog, sittings } from '../../test/support/verdictWorlds.ts';
import type { ChannelWorld } from '../../test/support/verdictWorlds.ts';
import { isAnew, often } from '../../test/support/draws.ts';
import { inferChannels, judgeFrames, judgeGain, levelSpread, standTogether } from './index.ts';
import { promisedBand } from './promise.ts';

// Verdicts over many made-up worlds: how often the truth is held, and how often luck is taken for a change.

const TRIALS = often(200);

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

  test.runIf(isAnew)(
    'of sixteen idle tests with two humps each, judged together, hardly any family claims one',
    () => {
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
    },
  );
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
});

describe('frames that resemble one another', () => {
  test.each([[0.5, 120], ...(isAnew ? [[2, 300]] : [])])(
    'half as alike after %d s, over %i s: the truth is held',
    (halfLife, seconds) => {
      const dice = new Dice(halfLife * 10);
      const trials = 40;
      let covered = 0;
      for (let at = 0; at < trials; at++) {
        const log = (mean: number) => frameLog(dice, { mean, seconds, halfLife });
        const { low, high } = judgeFrames(log(16), log(14));
        if (low <= 16 / 14 && high >= 16 / 14) covered++;
      }
      expect(covered / trials).toBeGreaterThan(0.85);
    },
  );

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
});
