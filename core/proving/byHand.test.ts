import { describe, expect, test } from 'vitest';
import { desktop, labelled } from '../../test/support/builders.ts';
import { Dice, frameLog } from '../../test/support/verdictWorlds.ts';
import type { Placement } from '../machine/index.ts';
import {
  conditionsText,
  distributionOf,
  figuresOf,
  fingerprint,
  inferChannels,
  judgeFrames,
  judgeMemoryTest,
  levelSpread,
  memoryTestState,
  proveChange,
  readFrames,
  runSetOf,
  runsFromRows,
  summariseFrames,
  testFieldsFromRows,
} from './index.ts';
import type { Measurement, MemoryTest } from './index.ts';
import { METRIC_TRAITS, differingConditions } from './measurement.ts';

// Figures anybody can work out on paper, held to the last digit or to what theory says of them.

describe('frames of 1 to 200 ms, in any order', () => {
  const times = Float64Array.from({ length: 200 }, (_, at) => ((at * 77) % 200) + 1);

  test('have the mean, the percentiles and the lows of their definition', () => {
    const { frames, seconds, fps, lowAverage, lowPercentile, percentiles } = summariseFrames(times);
    expect({ frames, seconds }).toEqual({ frames: 200, seconds: 20.1 });
    expect(fps).toBeCloseTo(200_000 / 20_100, 9);
    expect(percentiles).toEqual({ 50: 100, 90: 180, 95: 190, 99: 198 });
    expect(lowPercentile.percent1).toBeCloseTo(1000 / 198, 9);
    expect(lowPercentile.percent01).toBeCloseTo(5, 9);
    expect(lowAverage.percent1).toBeCloseTo(2000 / 399, 9);
    expect(lowAverage.percent01).toBeCloseTo(5, 9);
  });

  test('are drawn in equal steps, what is over in the last', () => {
    const shares = distributionOf(Float64Array.of(5, 15, 25, 95, 200), 100, 10);
    expect(shares).toEqual([0.2, 0.2, 0.2, 0, 0, 0, 0, 0, 0, 0.4]);
    expect(distributionOf(Float64Array.of(), 100, 4)).toEqual([0, 0, 0, 0]);
  });
});

describe('a stutter', () => {
  const among = (base: number, one: number) =>
    summariseFrames(Float64Array.from({ length: 61 }, (_, at) => (at === 30 ? one : base)))
      .stutters;

  test('takes more than twice the median around it, and 8 ms more at least', () => {
    expect([among(10, 20), among(10, 20.1)]).toEqual([0, 1]);
    expect([among(4, 11.9), among(4, 12)]).toEqual([0, 1]);
    expect([among(1, 8.9), among(1, 9)]).toEqual([0, 1]);
  });
});

test('a column of which words are more than half is none of frames', () => {
  // Eight lines over and over, so many of them words.
  const log = (words: number) =>
    readFrames(
      Array.from({ length: 800 }, (_, at) =>
        (at * 3) % 8 < words ? 'word' : `${16 + (at % 5)}`,
      ).join('\n'),
    );
  expect('type' in log(3)).toBe(false);
  expect('type' in log(5)).toBe(true);
});

describe('frame logs of which every frame is by itself', () => {
  const dice = new Dice(4);
  const [n, sd] = [20_000, 0.1];
  const log = () => Float64Array.from({ length: n }, () => 10 * (1 + sd * dice.normal()));
  const [before, after] = [log(), log()];
  const judged = () =>
    judgeFrames(
      before,
      after.map((time) => time * 0.8),
    );

  test('the interval of the rate is as wide as the scatter of two means', () => {
    const scaled = judged();
    const wide = (Math.log(scaled.high) - Math.log(scaled.low)) / 2;
    const expected = 1.96 * Math.sqrt(2 / n) * sd;
    expect(wide / expected).toBeGreaterThan(0.7);
    expect(wide / expected).toBeLessThan(1.5);
    expect(scaled.low).toBeLessThan(1.25);
    expect(scaled.high).toBeGreaterThan(1.25);
  });

  test('they remember no longer than a bin, and are long enough', () => {
    const scaled = judged();
    expect(scaled.memory).toBeGreaterThan(0.02);
    expect(scaled.memory).toBeLessThan(0.1);
    expect(scaled.record).toEqual({ before: undefined, after: undefined });
  });

  test('the lows are scaled with them, within an interval that is narrow and not nothing', () => {
    const same = judgeFrames(
      before,
      before.map((time) => time * 0.8),
    );
    for (const low of [same.lowAverage, same.lowPercentile]) {
      expect(low.factor).toBeCloseTo(1.25, 2);
      expect(low.low).toBeGreaterThan(1.2);
      expect(low.low).toBeLessThan(1.25);
      expect(low.high).toBeGreaterThan(1.25);
      expect(low.high).toBeLessThan(1.3);
    }
  });

  test('one that remembers for a while says how long, and how much longer to record', () => {
    const halfLife = 1;
    const long = frameLog(new Dice(2), { mean: 16, seconds: 900, halfLife });
    const { memory } = judgeFrames(long, long);
    // Half as alike after a second: the correlations add up to 1 ÷ ln 2 s on either side.
    expect(memory / (halfLife / Math.LN2)).toBeGreaterThan(0.6);
    expect(memory / (halfLife / Math.LN2)).toBeLessThan(1.6);
    const short = frameLog(new Dice(5), { mean: 16, seconds: 40, halfLife: 5 });
    const { record } = judgeFrames(short, long);
    expect(record.after).toBeUndefined();
    expect((record.before ?? 0) % 30).toBe(0);
    expect(record.before).toBeGreaterThan(40);
    expect(record.before).toBeLessThan(1000);
  });
});

describe('what rounding leaves unknown', () => {
  const rounding = (runs: number[], step: number) => {
    const { rounding: share, mean } = figuresOf({ sittings: [runs], step });
    return share * mean ** 2;
  };

  test('is a twelfth of the squared step where all round alike, and fades with the scatter', () => {
    expect(rounding([12, 12, 12], 1)).toBeCloseTo(1 / 12, 12);
    expect(rounding([12, 12, 12], 0.1)).toBeCloseTo(0.01 / 12, 12);
    // Two runs ± x about 12 have a variance of 2x²; a tenth of a step² beyond that of rounding.
    const x = Math.sqrt((0.1 + 1 / 12) / 2);
    const fading = Math.exp(-2 * Math.PI ** 2 * 0.1) / 12;
    expect(rounding([12 - x, 12 + x], 1)).toBeCloseTo(fading, 12);
    expect(rounding([10, 12, 14], 1)).toBeLessThan(1e-20);
  });

  test('a side of one sitting tells nothing of levels', () => {
    const two = {
      sittings: [
        [10, 10, 10],
        [10.2, 10.2, 10.2],
      ],
    };
    const one = { sittings: [[5, 9, 14]] };
    const shop = levelSpread([two, two, two, two]);
    expect(shop?.degrees).toBe(4);
    expect(levelSpread([two, one, two, one, two, two])).toEqual(shop);
  });
});

describe('channels', () => {
  const peak = { channelPeak: 19.2, populated: 2 };
  const open = (side: object) => {
    const { verdict } = inferChannels({ ...peak, runs: [0], ...side });
    return 'open' in verdict ? verdict.open : verdict.type;
  };

  test('one run alone is as good as two that scatter by five per cent of their mean', () => {
    const widths = (runs: number[]) => inferChannels({ ...peak, runs }).widths;
    expect(widths([24])).toEqual(widths([24 * 0.95, 24 * 1.05]));
    expect(widths([24])).not.toEqual(widths([24 * 0.99, 24 * 1.01]));
  });

  test('of four, two wide is explained by a rate that doubles it, and not by one near the expected', () => {
    const four = { ...peak, populated: 4, runs: [27, 27.1, 26.9, 27], isPlateau: true };
    const before = { channelPeak: 19.2, populated: 1, runs: [13.5, 13.6, 13.4, 13.5] };
    const asked = (more: object) => {
      const { verdict } = inferChannels({ ...four, isQuiet: true, ...more }, before);
      return 'open' in verdict ? verdict.open : verdict.type;
    };
    expect(asked({ lowerRates: [0.5] })).toContain('rate');
    expect(asked({ lowerRates: [0.9] })).not.toContain('rate');
    expect(asked({ isRateConfirmed: true })).not.toContain('rate');
  });

  test('where all channels are likelier, though not sure, nothing narrower is asked about', () => {
    const unsure = [17, 18.5, 19].map((figure) => ({
      figure,
      told: inferChannels({ ...peak, runs: [figure, figure * 1.01] }),
    }));
    const torn = unsure.filter(
      ({ told: { widths } }) =>
        (widths[0]?.probability ?? 0) > (widths[1]?.probability ?? 0) &&
        (widths[0]?.probability ?? 0) < 0.9,
    );
    expect(torn.map(({ figure }) => figure)).toEqual([18.5, 19]);
    for (const { figure } of torn)
      expect(open({ runs: [figure, figure * 1.01] })).toEqual(['baseline']);
    expect(open({ runs: [17, 17.2] })).toEqual(['rate', 'quiet', 'cores', 'baseline']);
  });
});

describe('conditions', () => {
  const one: Measurement = {
    ...{ metric: 'bandwidth', test: 'copy', runs: [9, 14, 14.1, 14.2], warmUp: 1, step: null },
    ...{ fingerprint: '', power: 'unknown', resolution: '  ', tool: ' page ', conditions: 'mains' },
  };

  test('are said without what nobody stated, and compared without the spaces around them', () => {
    expect(conditionsText(one)).toBe('page · mains');
    expect(conditionsText({ ...one, conditions: 'unknown' })).toBe('page');
    expect(differingConditions(one, { ...one, tool: 'page', conditions: ' mains ' })).toEqual([]);
    expect(differingConditions(one, { ...one, tool: '', power: 'mains' as never })).toEqual([
      'power',
      'tool',
    ]);
  });

  test('runs by sitting start after the warm-up, which none of a later sitting belongs to', () => {
    expect(runSetOf(one)).toEqual({
      sittings: [[14, 14.1, 14.2]],
      step: undefined,
      isDoubtful: false,
    });
    const set = (more: Partial<Measurement>) => runSetOf({ ...one, ...more });
    expect(set({ step: 0.1 }).step).toBe(0.1);
    expect(set({ doubts: ['noisy'] }).isDoubtful).toBe(true);
    expect(set({ sittings: [2, 2] }).sittings).toEqual([[14], [14.1, 14.2]]);
    // All of the first sitting is warm-up: what is left is one.
    expect(set({ sittings: [1, 3] }).sittings).toEqual([[14, 14.1, 14.2]]);
  });

  test('modules without part number and kit are told by what they are, with nothing behind it', () => {
    const module = labelled('8GB 1Rx8 PC4-2400T-UA1-11');
    expect(fingerprint(desktop(), { a1: module })).toMatch(/^a1=8GB \S.*\S$/);
    expect(fingerprint(desktop(), { a1: { ...module, kitId: 'k1' } })).toMatch(/ {2}k1$/);
    expect(fingerprint(desktop(), {})).toBe('');
  });
});

describe('a proof', () => {
  const machine = desktop();
  const module = labelled('8GB 1Rx8 PC4-2400T-UA1-11');
  const [found, fitted] = [{ a1: module }, { a1: module, b1: module }];
  const runs = (placement: Placement, more: Partial<Measurement>): Measurement => ({
    ...{ metric: 'bandwidth', test: 'copy', runs: [14, 14.1, 13.9], warmUp: 0, power: 'unknown' },
    ...{ resolution: '', tool: '', conditions: 'mains', ...more },
    fingerprint: fingerprint(machine, placement),
  });
  const side = (placement: Placement, one: Measurement) =>
    ({ placement, setting: 'standard', measurements: [one] }) as never;
  const widths = (before: Partial<Measurement>, after: Partial<Measurement>) =>
    proveChange(machine, side(found, runs(found, before)), side(fitted, runs(fitted, after)), 1)
      .channels?.widths;

  test('a figure that may be limited by a core weighs less, on the side it belongs to', () => {
    const plain = widths({}, {});
    expect(plain?.length).toBeGreaterThan(1);
    const after = widths({}, { isLowerBound: true });
    const before = widths({ isLowerBound: true }, {});
    expect(after).not.toEqual(plain);
    expect(before).not.toEqual(plain);
    expect(before).not.toEqual(after);
    expect(widths({ isLowerBound: false }, { isLowerBound: false })).toEqual(plain);
  });

  test('the peak in use is the most of the runs', () => {
    const used = (more: Partial<Measurement>) =>
      runs(found, { metric: 'peak', test: 'drawings', runs: [5, 7, 6], ...more } as never);
    const { metrics } = proveChange(machine, side(found, used({})), side(fitted, used({})), 1);
    expect(JSON.stringify(metrics)).toContain('"peak":7');
  });
});

describe('tables', () => {
  test('of runs: measures by any capitals, long texts cut, empty rows passed over, no warm-up unless said', () => {
    const { runs, faults } = runsFromRows([
      ['Measured', 'Test', 'Tool', 'Conditions', 'Runs'],
      [
        ` ${METRIC_TRAITS.bandwidth.name.toUpperCase()} `,
        ` ${'t'.repeat(90)} `,
        'o'.repeat(90),
        'c'.repeat(400),
        '14 14.1',
      ],
      [' ', '', '  ', '', ''],
    ]);
    expect(faults).toEqual([]);
    expect(runs).toHaveLength(1);
    expect(runs[0]).toMatchObject({
      ...{ metric: 'bandwidth', test: 't'.repeat(80), tool: 'o'.repeat(80), warmUp: 0 },
      ...{ conditions: 'c'.repeat(300), runs: [14, 14.1] },
    });
    expect(
      runsFromRows([
        ['test', 'warm-up', 'runs'],
        ['copy', '1', '14 15'],
      ]).runs[0]?.warmUp,
    ).toBe(1);
    const [unknown, unit] = runsFromRows([
      ['test', 'measured', 'unit', 'runs'],
      ['copy', 'q'.repeat(60), '', '1 2'],
      ['copy', 'bandwidth', 'u'.repeat(60), '1 2'],
    ]).faults;
    expect(unknown).toMatchObject({ row: 2, text: 'q'.repeat(40) });
    expect(unit).toMatchObject({ row: 3, text: 'u'.repeat(20) });
  });

  test('of a memory test: columns of errors are added up, others with the word are none', () => {
    const fields = (header: string, ...values: string[]) =>
      testFieldsFromRows([[header], ...values.map((one) => [one])]);
    expect(fields('Errors', '2', '3')).toEqual({ errors: 5 });
    expect(fields('error', '1')).toEqual({ errors: 1 });
    expect(fields('Errors a pass', '7')).not.toHaveProperty('errors');
    expect(fields('Minutes', '90')).toEqual({ minutes: 90 });
  });
});

describe('a memory test at the edge', () => {
  const test1: MemoryTest = {
    ...{ kind: 'before the system starts', minutes: 10, passes: 1, errors: 0 },
    ...{ fingerprint: 'a', setting: 'standard' },
  };

  test('one pass is enough before the system starts, an hour and a pass in it', () => {
    expect(judgeMemoryTest(test1)).toBe('passed');
    const within = { ...test1, kind: 'in the running system' } as const;
    expect([59, 60].map((minutes) => judgeMemoryTest({ ...within, minutes }))).toEqual([
      'too short',
      'passed',
    ]);
  });

  test('on other modules at the same setting it says nothing; too short alone it says so', () => {
    const now = { fingerprint: 'b', setting: 'standard' };
    expect(memoryTestState([test1], now)).toBe('on other modules');
    expect(memoryTestState([{ ...test1, fingerprint: '*' }], now)).toBe('passed');
    expect(memoryTestState([{ ...test1, fingerprint: 'b', passes: 0 }], now)).toBe('too short');
  });
});
