import { refitShares } from '#core/ledger';
import {
  ASSUMED_LEVEL,
  inferChannels,
  judgeFrames,
  judgeGain,
  levelSpread,
  standTogether,
} from '#core/proving';
import type { LevelSpread } from '#core/proving';
import { oddLedger } from '../test/support/anyLedger.ts';
import {
  CHANNEL_WORLDS,
  Dice,
  RUN_WORLDS,
  channelCase,
  frameLog,
  sittings,
} from '../test/support/verdictWorlds.ts';
import type { Row } from './table.ts';

/** Comparisons a cell; `npm run bench verdicts` takes some minutes. */
const TRIALS = 1000;
const percent = (share: number, digits = 1) => `${(share * 100).toFixed(digits)} %`;

interface Cell {
  readonly covered: number;
  readonly claimed: number;
  readonly missed: number;
}

/** Unchanged, and changed by a twentieth. */
function cell(
  side: (centre: number) => Parameters<typeof judgeGain>[0],
  levelOf: () => LevelSpread | undefined,
): Cell {
  let [covered, claimed, missed] = [0, 0, 0];
  for (let at = 0; at < TRIALS; at++) {
    const level = levelOf();
    const { interval, verdict } = judgeGain(side(20), side(20), 'higher', at, level);
    if (interval && interval.low <= 1 && interval.high >= 1) covered++;
    if (verdict === 'gain' || verdict === 'loss') claimed++;
    if (judgeGain(side(20), side(21), 'higher', at, level).verdict !== 'gain') missed++;
  }
  return { covered: covered / TRIALS, claimed: claimed / TRIALS, missed: missed / TRIALS };
}

function benchSittings(): Row[] {
  return [0.005, 0.01, 0.015, 0.03].flatMap((spread) =>
    [1, 2, 3].map((count): Row => {
      const dice = new Dice(spread * 1e5 + count);
      const side = (centre: number, many = count) =>
        sittings(dice, centre, { spread, count: many, runs: 9, run: 'calm' });
      // One sitting a side shows no spread: the shop's own, from eight repeated sides, is used.
      const own = () =>
        count > 1 ? ASSUMED_LEVEL : levelSpread(Array.from({ length: 8 }, () => side(20, 2)));
      const { covered, claimed, missed } = cell(side, own);
      const alone = count > 1 ? undefined : cell(side, () => undefined);
      return {
        what: `levels differ by ${percent(spread)}, ${count} sitting${count > 1 ? 's' : ''} a side: interval holds the truth`,
        measured: percent(covered),
        ...{ wanted: '93 to 97 %', holds: covered >= 0.93 && covered <= 0.97 },
        yardstick: `a change claimed that is none ${percent(claimed)}; 5 % missed ${percent(missed, 0)}${alone ? `; with 1 % assumed: holds ${percent(alone.covered)}, claimed ${percent(alone.claimed)}` : ''}`,
      };
    }),
  );
}

function benchRunWorlds(): Row[] {
  const exact = { sd: 1e-6, degrees: Infinity, from: 'assumed' } as const;
  return Object.keys(RUN_WORLDS).flatMap((run) =>
    [5, 10, 20].map((runs): Row => {
      const dice = new Dice(run.length * 100 + runs);
      const side = (centre: number) => sittings(dice, centre, { spread: 0, count: 1, runs, run });
      const { covered, claimed, missed } = cell(side, () => exact);
      let families = 0;
      for (let at = 0; at < 40; at++) {
        const chances = Array.from(
          { length: 16 },
          (_, one) => judgeGain(side(20), side(20), 'higher', at * 16 + one, exact).chance,
        );
        if (standTogether(chances).some(Boolean)) families++;
      }
      return {
        what: `${run}, ${runs} runs a side, levels alike: interval holds the truth`,
        measured: percent(covered),
        ...{ wanted: '≥ 92 %', holds: covered >= 0.92 },
        yardstick: `claimed ${percent(claimed)}; 5 % missed ${percent(missed, 0)}; of families of 16 idle tests ${percent(families / 40, 0)} claim one`,
      };
    }),
  );
}

function benchRounding(): Row[] {
  const exact = { sd: 1e-6, degrees: Infinity, from: 'assumed' } as const;
  return [1, 0.1].flatMap((step) =>
    [3, 10].map((runs): Row => {
      const dice = new Dice(step * 50 + runs);
      let [covered, narrow] = [0, 0];
      for (let at = 0; at < TRIALS; at++) {
        const [level, truth, scatter] = [
          dice.even(10, 20),
          dice.even(1, 1.1),
          dice.pick([0.001, 0.005, 0.02]),
        ];
        const side = (centre: number) =>
          Array.from({ length: runs }, () =>
            Number((Math.round((centre * (1 + scatter * dice.normal())) / step) * step).toFixed(1)),
          );
        const { interval } = judgeGain(side(level), side(level * truth), 'higher', at, exact);
        if (interval && interval.low <= truth && interval.high >= truth) covered++;
        if (interval && interval.high - interval.low < 1e-6) narrow++;
      }
      return {
        what: `figures rounded to ${step}, ${runs} runs a side: interval holds the truth`,
        measured: percent(covered / TRIALS),
        ...{ wanted: '≥ 92 %', holds: covered / TRIALS >= 0.92 },
        yardstick: `of no width ${percent(narrow / TRIALS)}`,
      };
    }),
  );
}

function benchFrameWorlds(): Row[] {
  return [
    [0.5, 60],
    [2, 120],
    [2, 300],
    [5, 300],
  ].map(([halfLife = 1, seconds = 60]): Row => {
    const dice = new Dice(halfLife * 7 + seconds);
    const trials = 120;
    let [covered, long, lows, asked] = [0, 0, 0, 0];
    for (let at = 0; at < trials; at++) {
      const log = () => frameLog(dice, { mean: 12, seconds, halfLife });
      const { low, high, record, lowAverage } = judgeFrames(log(), log());
      if (low <= 1 && high >= 1) covered++;
      if (lowAverage.low <= 1 && lowAverage.high >= 1) lows++;
      const more = Math.max(record.before ?? 0, record.after ?? 0);
      if (more === 0) long++;
      asked += more;
    }
    return {
      what: `frames half as alike after ${halfLife} s, ${seconds} s recorded: interval of the mean holds`,
      measured: percent(covered / trials),
      ...{ wanted: '≥ 90 %', holds: covered / trials >= 0.9 },
      yardstick: `the low's ${percent(lows / trials)}; long enough ${percent(long / trials, 0)}${long < trials ? `, else asked for ${Math.round(asked / (trials - long))} s` : ''}`,
    };
  });
}

function benchChannelWorlds(): Row[] {
  return CHANNEL_WORLDS.flatMap((world) =>
    [true, false].map((known): Row => {
      const dice = new Dice(world.length * 31 + Number(known));
      const trials = 4 * TRIALS;
      let [right, wrong] = [0, 0];
      for (let at = 0; at < trials; at++) {
        const { before, after, truth } = channelCase(dice, world, known);
        const { verdict } = inferChannels(after, before);
        if (!('width' in verdict)) continue;
        if (verdict.width === truth) right++;
        else wrong++;
      }
      return {
        what: `channel mode, ${world}, rate and reply ${known ? 'known' : 'not known'}: surely wrong`,
        measured: percent(wrong / trials, 2),
        ...{ wanted: '≤ 0.5 %', holds: wrong / trials <= 0.005 },
        yardstick: `right ${percent(right / trials)}, can’t tell ${percent(1 - (right + wrong) / trials)}`,
      };
    }),
  );
}

function benchRefit(): Row[] {
  const width = (odd: boolean) => {
    const found = refitShares(oddLedger(50, odd ? 60 : 1)).find(({ isRefitted }) => isRefitted);
    if (!found) throw new Error('expected a class refitted');
    const { low, high } = found.refitted.bandwidth;
    return { width: high - low, odd: found.odd.length };
  };
  const [plain, slipped] = [width(false), width(true)];
  return [
    {
      what: 'one absurd job of 50: width of the refitted share',
      measured: percent(slipped.width),
      ...{ wanted: `≤ 1.3 × ${percent(plain.width)}`, holds: slipped.width <= 1.3 * plain.width },
      yardstick: `${slipped.odd} named as odd; without the slip ${plain.odd}`,
    },
  ];
}

/** How verdicts do over many made-up worlds, wider than they assume. */
export function benchVerdicts(): Row[] {
  return [
    ...benchSittings(),
    ...benchRunWorlds(),
    ...benchRounding(),
    ...benchFrameWorlds(),
    ...benchChannelWorlds(),
    ...benchRefit(),
  ];
}
