import { amountText, minorDigits } from '../quoting/index.ts';
import { decimals, numberSigns } from '../units/index.ts';

const formats = new Map<string, Intl.NumberFormat>();

function formatOf(currency: string): Intl.NumberFormat {
  let format = formats.get(currency);
  if (!format) {
    format = new Intl.NumberFormat('en-GB', { style: 'currency', currency });
    formats.set(currency, format);
  }
  return format;
}

/** Minor units as an amount, in the shop's signs: `€45.00`, `¥4,500`. */
export function money(amount: number, currency: string): string {
  const { decimal, group } = numberSigns();
  return formatOf(currency)
    .formatToParts(amount / 10 ** minorDigits(currency))
    .map(({ type, value }) => (type === 'decimal' ? decimal : type === 'group' ? group : value))
    .join('');
}

/** Minor units as they are typed into a field, in the shop's signs: `45.00`; `45` without decimals. */
export const amountField = (amount: number, currency: string): string =>
  decimals(amountText(amount, currency));

/** What mends an amount that cannot be read: `An amount such as 21.90.` */
export function amountHint(currency: string): string {
  const example = `An amount such as ${amountField(2190, currency)}`;
  return minorDigits(currency) === 0
    ? `${example}: ${currency} is written without decimals.`
    : `${example}.`;
}
