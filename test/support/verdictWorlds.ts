import type { BandwidthSide, RunSet } from '#core/proving';
import { seededRandom } from '#core/units';

/** Draws for made-up machines, the same from the same seed. */
export class Dice {
  readonly #random: () => number;

  constructor(seed: number) {
    this.#random = seededRandom(seed);
  }

  /** Even between two figures. */
  even(low = 0, high = 1): number {
    return low + (high - low) * this.#random();
  }

  /** Normal, around 0, with a standard deviation of 1. */
  normal(): number {
    return Math.sqrt(-2 * Math.log(1 - this.#random())) * Math.cos(2 * Math.PI * this.#random());
  }

  chance(share: number): boolean {
    return this.#random() < share;
  }

  pick<T>(list: readonly T[]): T {
    return list[Math.floor(this.#random() * list.length)] as T;
  }
}

/** How one run of a world lies about its level; a factor with a mean near 1. */
export const RUN_WORLDS: Readonly<Record<string, (dice: Dice) => number>> = {
  calm: (dice) => 1 + 0.005 * dice.normal(),
  restless: (dice) => 1 + 0.03 * dice.normal(),
  outliers: (dice) => (1 + 0.01 * dice.normal()) * (dice.chance(0.05) ? 0.85 : 1),
  'two humps': (dice) => (1 + 0.005 * dice.normal()) * (dice.chance(0.3) ? 0.94 : 1),
  skewed: (dice) => 1 / (1 + 0.03 * -Math.log(1 - dice.even())),
};

/** Sittings of one configuration: each at its own level, runs about it as the world has them. */
export function sittings(
  dice: Dice,
  centre: number,
  { spread, count, runs, run }: { spread: number; count: number; runs: number; run: string },
): RunSet {
  return {
    sittings: Array.from({ length: count }, () => {
      const level = centre * Math.exp(spread * dice.normal());
      return Array.from({ length: runs }, () => level * (RUN_WORLDS[run]?.(dice) ?? 1));
    }),
    step: 1e-9,
  };
}

/** What a made-up machine may do to a bandwidth, and what a page then sees. */
export const CHANNEL_WORLDS = [
  'clean',
  'uneven zone',
  'lower rate',
  'one core limits',
  'busy after',
  'busy before',
] as const;
export type ChannelWorld = (typeof CHANNEL_WORLDS)[number];

/** A machine of which one module became two, with what is really the case. */
export interface ChannelCase {
  readonly before: BandwidthSide;
  readonly after: BandwidthSide;
  /** Channels really side by side; `zone` where it is neither. */
  readonly truth: number | 'zone';
}

/**
 * One bench: a one-channel baseline, then two channels filled, paired or not.
 *
 * @param known - a screen showed the rates, and the reply was measured beside
 */
export function channelCase(dice: Dice, world: ChannelWorld, known: boolean): ChannelCase {
  const efficiency = Math.min(0.95, Math.max(0.4, 0.72 + 0.1 * dice.normal()));
  const peak = 19.2;
  const isPaired = dice.chance(0.7);
  const scatter = dice.pick([0.004, 0.01, 0.02]);
  const runs = (level: number) =>
    Array.from({ length: 5 }, () => level * (1 + scatter * dice.normal()));
  const level = (width: number) =>
    peak *
    width *
    efficiency *
    Math.exp(0.03 * dice.normal()) *
    (width > 1 ? dice.even(0.86, 1) : 1);
  let [first, second] = [level(1), level(isPaired ? 2 : 1)];
  let truth: ChannelCase['truth'] = isPaired ? 2 : 1;
  let [isQuiet, wasQuiet] = known ? [true, true] : [undefined, undefined];
  let isLowerBound = false;
  const isUneven = world === 'uneven zone';
  if (isUneven) {
    second = level(1 + dice.pick([0, 0, 0.5, 1, 1]));
    truth = 'zone';
  }
  let isRateConfirmed = known;
  if (world === 'lower rate') {
    second *= dice.pick([0.83, 0.75, 0.67, 0.59, 0.5]);
    isRateConfirmed = false;
  }
  if (world === 'one core limits') {
    const cap = first * dice.even(1.0, 1.5);
    second = Math.min(second, cap);
    // The page sees that more threads still bring more.
    isLowerBound = known;
  }
  // What a busy program takes of the bandwidth it adds to the reply.
  if (world === 'busy after') {
    second *= dice.even(0.4, 0.9);
    isQuiet = known ? false : undefined;
  }
  if (world === 'busy before') {
    first *= dice.even(0.6, 0.9);
    wasQuiet = known ? false : undefined;
  }
  const lowerRates = [0.89, 0.83, 0.75, 0.67, 0.5];
  return {
    before: {
      ...{ runs: runs(first), channelPeak: peak, populated: 1, isRateConfirmed, lowerRates },
      isQuiet: wasQuiet,
    },
    after: {
      ...{ runs: runs(second), channelPeak: peak, populated: 2, isRateConfirmed, lowerRates },
      ...{ isUneven, isQuiet, isLowerBound },
      isPlateau: known ? !isLowerBound : undefined,
    },
    truth,
  };
}

/** A frame log whose frames resemble one another for a while. `halfLife` and `seconds` in s, `mean` in ms. */
export function frameLog(
  dice: Dice,
  { mean, seconds, halfLife }: { mean: number; seconds: number; halfLife: number },
): Float64Array {
  const times: number[] = [];
  const keep = Math.exp((-Math.LN2 * (mean / 1000)) / halfLife);
  let wander = dice.normal();
  for (let spent = 0; spent < seconds * 1000; spent += times.at(-1) ?? mean) {
    wander = keep * wander + Math.sqrt(1 - keep * keep) * dice.normal();
    times.push(mean * Math.exp(0.15 * wander + 0.08 * dice.normal()));
  }
  return Float64Array.from(times);
}
