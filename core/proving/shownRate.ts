import type { Running } from '../operating-point/index.ts';
import { generationTraits } from '../memory/index.ts';
import { RATE_RANGE, compareRates, readRate } from '../units/index.ts';
import type { DataRate, RateReading } from '../units/index.ts';

/** A rate read off a screen against the rate that should run. */
export type ShownRate =
  | { readonly type: 'no rate'; readonly reading: number }
  | {
      readonly type: 'as expected' | 'slower' | 'faster';
      readonly reading: number;
      readonly expected: DataRate;
      readonly taken: RateReading;
    };

/**
 * Judges a rate that a firmware screen or program shows. Half the expected figure is the clock of
 * the very same rate, and is not called slow.
 *
 * @param reading - the figure on the screen, MHz or MT/s
 */
export function judgeShownRate(reading: number, point: Running): ShownRate {
  if (!(reading >= RATE_RANGE.min && reading <= RATE_RANGE.max))
    return { type: 'no rate', reading };
  const expected = point.rate;
  const taken = readRate(reading, expected, generationTraits(point.generation).standardRates);
  const order = compareRates(taken.rate, expected);
  const type = order === 0 ? 'as expected' : order < 0 ? 'slower' : 'faster';
  return { type, reading, expected, taken };
}
