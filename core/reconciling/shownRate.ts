import { generationTraits } from '../memory/index.ts';
import type { Generation } from '../memory/index.ts';
import { RATE_RANGE, dataRate, exactRate, readRate } from '../units/index.ts';
import type { DataRate } from '../units/index.ts';

/** A figure on an inventory, as the rate it means. */
export interface RateMeant {
  readonly rate: DataRate;
  readonly isClock: boolean;
  readonly ambiguous: boolean;
}

/**
 * What a rate printed by an inventory means. Against a known rating the clock trap is minded as on
 * any screen; without one the standard asks for MT/s, and a figure that is no standard rate while
 * its double is one is the clock.
 *
 * @returns `undefined` for a figure no memory has
 */
export function rateMeant(
  shown: number,
  generation: Generation | undefined,
  rated?: DataRate,
): RateMeant | undefined {
  if (!(shown >= RATE_RANGE.min && shown <= RATE_RANGE.max)) return undefined;
  const standard = generation === undefined ? [] : generationTraits(generation).standardRates;
  if (rated !== undefined) {
    const { rate, readAs, ambiguous } = readRate(shown, rated, standard);
    return { rate, isClock: readAs === 'clock', ambiguous };
  }
  const near = (figure: number) =>
    standard.find((rate) => Math.abs(exactRate(rate) - figure) <= figure * 0.01);
  const asData = near(shown);
  const asClock = near(shown * 2);
  if (asData !== undefined)
    return { rate: asData, isClock: false, ambiguous: asClock !== undefined };
  if (asClock !== undefined) return { rate: asClock, isClock: true, ambiguous: false };
  return { rate: dataRate(Math.round(shown)), isClock: false, ambiguous: false };
}
