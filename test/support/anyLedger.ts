import type { LedgerEntry } from '#core/ledger';
import { dataRate } from '#core/units';
import { Dice } from './verdictWorlds.ts';

/**
 * Jobs of one kind of work that follow one law, β = 0.4 and λ = 0.1, with a scatter of 2 %; of the first
 * the figures are off by a factor.
 */
export function oddLedger(jobs: number, slip: number, seed = 3): LedgerEntry[] {
  const dice = new Dice(seed);
  return Array.from({ length: jobs }, (_, at): LedgerEntry => {
    const [bandwidth, latency] = [dice.pick([1, 1.5, 2]), dice.even(0.9, 1.1)];
    const law = 1 / (1 + 0.4 * (1 / bandwidth - 1) + 0.1 * (latency - 1));
    const factor = law * Math.exp(0.02 * dice.normal()) * (at === 0 ? slip : 1);
    const gain = { test: 'open', metric: 'duration', activity: 'compression' } as const;
    return {
      ...{ machineName: 'Test board', modules: [], setting: 'standard', rate: dataRate(2400) },
      ...{ mode: 'paired', stable: null, fittedBefore: true, isSimulated: false },
      gains: [{ ...gain, factor, low: factor * 0.97, high: factor * 1.03 }],
      ratios: { bandwidth, latency, reply: latency },
    };
  });
}
