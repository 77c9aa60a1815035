import { MODELLED_GENERATIONS, WORKLOADS } from '#core/timing-simulation';
import type { ControllerChoices, MemorySystem } from '#core/timing-simulation';
import { checked } from '../test/support/checkedRun.ts';
import { anySystem, GIB_LINES } from '../test/support/memorySystems.ts';
import { Dice } from '../test/support/verdictWorlds.ts';
import type { NightRow } from './writers.ts';

/** Those the checker has limits of. */
const RATES = {
  DDR3: [1600],
  DDR4: [2400, 2666, 3200],
  DDR5: [3200, 4800, 5200, 5600, 6400, 7200],
} as const;
const MILLION = 1e6;

/** A memory system as no bench would draw it up: any rate, times, ranks, chips, and capacity uneven or not. */
function drawn(dice: Dice): MemorySystem {
  const generation = dice.pick([...MODELLED_GENERATIONS]);
  const rate = dice.pick<number>([...RATES[generation]]);
  // From 8 to 20 ns.
  const cycles = () => Math.max(5, Math.round((dice.even(8, 20) * rate) / 2000));
  const channels = dice.pick([1, 2, 3, 4, 6, 8]);
  const base = anySystem({
    ...{ generation, rate, cl: cycles(), channels, ranks: dice.pick([1, 2, 4]) },
    chipWidth: dice.pick([4, 8, 16]),
  });
  const [rcd, rp] = [cycles(), cycles()];
  const all = base.ranks.map((_, at) => at);
  const zones =
    channels > 1 && dice.even(0, 1) < 0.4
      ? [
          { channels: all, lines: GIB_LINES * channels },
          { channels: all.slice(1), lines: GIB_LINES * (channels - 1) },
        ]
      : base.zones;
  return { ...base, rcd, rp, zones };
}

/** Other controllers than the usual one. */
const choicesOf = (dice: Dice): Partial<ControllerChoices> => ({
  queue: dice.pick([16, 64, 128]),
  ...dice.pick([
    { drainFrom: 12, drainTo: 4 },
    { drainFrom: 14, drainTo: 8 },
  ]),
  pageTimeout: dice.pick([20, 150, 2000]),
  perCore: dice.pick([2, 10, 24]),
});

/** Replays commands of systems and controllers drawn at random against every limit of their standards. */
export function checkCommands(millions: number): NightRow {
  let commands = 0;
  let systems = 0;
  const broken = new Map<string, number>();
  for (let seed = 1; commands < millions * MILLION; seed++) {
    const dice = new Dice(seed);
    const system = drawn(dice);
    const choices = choicesOf(dice);
    for (const workload of WORKLOADS) {
      const seen = checked(system, workload, { seed, choices, requests: 6000 });
      commands += seen.commands;
      for (const rule of seen.rules) broken.set(`${rule} (seed ${seed}, ${workload})`, seed);
      if (seen.served !== seen.requests) broken.set(`requests lost (seed ${seed})`, seed);
    }
    systems++;
  }
  const found = `${(commands / MILLION).toFixed(1)} million commands of ${systems} systems, ${
    broken.size === 0 ? 'no rule broken' : [...broken.keys()].slice(0, 5).join('; ')
  }`;
  return { what: 'memory commands', found, holds: broken.size === 0 };
}
