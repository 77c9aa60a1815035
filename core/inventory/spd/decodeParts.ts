import { exactRate, dataRate, RATE_RANGE } from '../../units/index.ts';
import type { DataRate } from '../../units/index.ts';
import { generationTraits, transfersPerClock } from '../../memory/index.ts';
import type { Generation } from '../../memory/index.ts';
import type { ByteView } from '../byteView.ts';
import type { TimeField } from './layouts.ts';
import type { SpdTimeName, SpdTimes } from './types.ts';

/** Timebases of the medium and fine units, ps. */
export interface Timebases {
  readonly mtb: number;
  readonly ftb: number;
}

/** 125 ps and 1 ps: fixed for DDR4 and LPDDR, and what DDR3 uses in practice. */
export const STANDARD_TIMEBASES: Timebases = { mtb: 125, ftb: 1 };

/** Times of a layout; a field left at 0 was not written. */
export function readTimes(
  view: ByteView,
  fields: readonly TimeField[],
  { mtb, ftb }: Timebases = STANDARD_TIMEBASES,
): SpdTimes {
  const times: Partial<Record<SpdTimeName, number>> = {};
  for (const { name, mtb: at, high, fine } of fields) {
    const units = view.u8(at) + (high ? view.bits(high.at, high.shift, high.bits) * 256 : 0);
    if (units === 0 || !view.has(at)) continue;
    const ps = units * mtb + (fine === undefined ? 0 : view.i8(fine) * ftb);
    if (ps > 0) times[name] = Math.round(ps);
  }
  return times;
}

/** Bits set in a mask of several bytes, low byte first. */
export function setBits(view: ByteView, at: number, bytes: number): number[] {
  const found: number[] = [];
  for (let bit = 0; bit < bytes * 8; bit++)
    if ((view.u8(at + (bit >> 3)) >> (bit & 7)) & 1) found.push(bit);
  return found;
}

/**
 * The rate of a clock period in ps: the standard rate within 1 % of it, otherwise the nearest
 * multiple of 66⅔ (DDR5: of 200) within 1 %, otherwise the plain figure. Periods are rounded to the ps or worse.
 */
export function rateOfPeriod(
  generation: Generation,
  tckPs: number | undefined,
): DataRate | undefined {
  if (tckPs === undefined || tckPs <= 0) return undefined;
  const raw = (transfersPerClock(generation) * 1_000_000) / tckPs;
  if (raw < RATE_RANGE.min || raw > RATE_RANGE.max) return undefined;
  const near = (rate: number) => Math.abs(rate - raw) <= raw / 100;
  const standard = generationTraits(generation).standardRates.find((rate) => near(exactRate(rate)));
  if (standard !== undefined) return standard;
  // Above 9000 MT/s a ps is more than a step of 66⅔; where rates lie further apart that is no loss.
  const step = generationTraits(generation).rateStep;
  const multiple = Math.round(raw / step) * step;
  return dataRate(near(multiple) ? Math.floor(multiple + 1e-6) : Math.round(raw));
}

/** Year and week of manufacture, in binary-coded decimal; `undefined` where no date stands there. */
export function madeFromBcd(
  year: number,
  week: number,
): { year: number; week: number } | undefined {
  const digits = (byte: number) =>
    byte >> 4 > 9 || (byte & 15) > 9 ? undefined : (byte >> 4) * 10 + (byte & 15);
  const [y, w] = [digits(year), digits(week)];
  return y !== undefined && w !== undefined && w >= 1 && w <= 53
    ? { year: 2000 + y, week: w }
    : undefined;
}
