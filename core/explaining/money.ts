import { amountText, minorDigits } from '../quoting/index.ts';

/** Minor units as an amount: `€45.00`, `¥4,500`. */
export function money(amount: number, currency: string): string {
  const format = new Intl.NumberFormat('en-GB', { style: 'currency', currency });
  return format.format(amount / 10 ** minorDigits(currency));
}

/** What mends an amount that cannot be read: `An amount such as 21.90.` */
export function amountHint(currency: string): string {
  const example = `An amount such as ${amountText(2190, currency)}`;
  return minorDigits(currency) === 0
    ? `${example}: ${currency} is written without decimals.`
    : `${example}.`;
}
