import type { Minor } from '../planning/index.ts';

/**
 * Decimals a currency is written with: 2 for most, 0 or 3 for some (ISO 4217, as the running system
 * knows them); 2 where it knows nothing of the currency.
 */
export function minorDigits(currency: string): number {
  if (!isCurrency(currency)) return 2;
  const { maximumFractionDigits } = new Intl.NumberFormat('en', {
    style: 'currency',
    currency,
  }).resolvedOptions();
  return maximumFractionDigits ?? 2;
}

/** Whether three letters name a currency in use, such as EUR (ISO 4217). */
export function isCurrency(code: string): boolean {
  return Intl.supportedValuesOf('currency').includes(code);
}

/** Minor units as a plain number for fields and tables: `45.00`, or `45` where there are none. */
export function amountText(amount: Minor, currency: string): string {
  const digits = minorDigits(currency);
  return (amount / 10 ** digits).toFixed(digits);
}

/**
 * An amount shared out over so many pieces in whole minor units, as evenly as it goes: the shares add up
 * to the amount, and the earlier pieces bear what does not divide.
 */
export function sharesOf(amount: Minor, pieces: number): Minor[] {
  const least = Math.floor(amount / pieces);
  return Array.from({ length: pieces }, (_, at) =>
    at < amount - least * pieces ? least + 1 : least,
  );
}

/** More than memory costs in any currency: such a figure is a slip. Minor units. */
const MOST = 99_999_999;

/**
 * Reads an amount with as many decimals as the currency has at most, point or comma, as minor units.
 *
 * @returns null for an empty text, `undefined` for anything that is no amount in this currency
 */
export function readAmount(text: string, currency: string): Minor | null | undefined {
  if (text.trim() === '') return null;
  const digits = minorDigits(currency);
  const match = /^(\d{1,8})(?:[.,](\d+))?$/.exec(text.trim());
  const [, whole = '', decimals = ''] = match ?? [];
  if (!match || decimals.length > digits) return undefined;
  const amount = Number(whole + decimals.padEnd(digits, '0'));
  return amount <= MOST ? amount : undefined;
}
