import type { Minor } from '../planning/index.ts';
import { taxWithin } from '../quoting/index.ts';

/** How the shop makes a price of what a part costs it. */
export interface PricingRule {
  /** On the cost, %; `null` = prices are typed, none is made. */
  readonly marginPercent: number | null;
  /** Contained in prices, not in costs, %. */
  readonly taxPercent: number;
  /** Prices are whole multiples of it, rounded up; minor units, 1 or more. */
  readonly roundPricesTo: Minor;
}

/** Percentages are exact to a hundredth of one. */
const hundredths = (percent: number) => BigInt(Math.round(percent * 100));
const WHOLE = 10_000n;

/**
 * The price of a part by what it costs: margin, then tax, then rounded up to the shop's step. Exact:
 * whole numbers throughout.
 *
 * @param cost - without tax, minor units
 * @returns tax included; `null` where the shop sets prices by hand
 * @example priceFromCost(2000, { marginPercent: 25, taxPercent: 20, roundPricesTo: 50 }) // 3000
 */
export function priceFromCost(
  cost: Minor,
  { marginPercent, taxPercent, roundPricesTo }: PricingRule,
): Minor | null {
  if (marginPercent === null) return null;
  const step = BigInt(Math.max(1, roundPricesTo)) * WHOLE * WHOLE;
  const exact =
    BigInt(cost) * (WHOLE + hundredths(marginPercent)) * (WHOLE + hundredths(taxPercent));
  return Number((exact + step - 1n) / step) * Math.max(1, roundPricesTo);
}

/** What is left of a price once the tax and the part are paid; negative below cost. Minor units. */
export const earnedOn = (price: Minor, cost: Minor, taxPercent: number): Minor =>
  price - taxWithin(price, taxPercent) - cost;
