import type { DrawerState } from '../planning/index.ts';
import type { CostJump, ListFault, ListField } from '../stock/index.ts';
import { momentText } from './dates.ts';
import { money } from './money.ts';
import { count } from './words.ts';
import type { Explanation } from './words.ts';

/** Fields of a price list, as they are chosen. */
export const LIST_FIELD_WORDS: Readonly<Record<ListField, string>> = {
  article: 'Article number',
  cost: 'Cost without tax',
  label: 'Description',
  units: 'Modules in a pack',
  stock: 'In stock',
  leadDays: 'Days to deliver',
};

/** What a quote says of a module that is in stock. */
export const stockText = (state: DrawerState, isNew: boolean): string =>
  isNew
    ? 'new, in stock'
    : state === 'tested'
      ? 'used, tested here'
      : 'used, tested before it goes in';

/** Why a row of a supplier's list was left out. */
export function explainListFault(fault: ListFault): Explanation {
  switch (fault.type) {
    case 'no-article':
      return {
        title: `Row ${fault.row} has no article number`,
        why: 'By it the row is found in the catalogue, and ordered.',
        mend: 'Ask the supplier for the number, or take the row out.',
      };
    case 'no-amount':
      return {
        title: `Row ${fault.row}: “${fault.text}” is no amount`,
        why: `A cost looks like ${fault.like}.`,
        mend: 'Correct the cell, or choose the column the cost stands in.',
      };
    case 'no-count':
      return {
        title: `Row ${fault.row}: “${fault.text}” under ${LIST_FIELD_WORDS[fault.field].toLowerCase()}`,
        why: 'A whole number was expected.',
        mend: 'Correct the cell, or leave it empty where it is not known.',
      };
    case 'twice':
      return {
        title: `Row ${fault.row}: article ${fault.article} stands in row ${fault.first} already`,
        why: 'Two costs of one article: nobody can tell which is right. The first was read.',
        mend: 'Keep one of the two rows.',
      };
  }
}

/** A cost that moved so far that it is rather a slip. */
export function explainJump({ row, article, from, to }: CostJump, currency: string): Explanation {
  const percent = Math.round((to / from - 1) * 100);
  return {
    title: `Row ${row}: ${article} went from ${money(from, currency)} to ${money(to, currency)}`,
    why: `${percent > 0 ? '+' : '−'}${Math.abs(percent)} %: a slip of the decimals, or another pack size, looks like this.`,
    mend: 'Compare it with the supplier’s own page before you take the list.',
  };
}

const HOUR_MS = 3_600_000;

/**
 * How old something is, in the words one would use: `just now`, `20 minutes old`, `3 hours old`, `5
 * days old`.
 *
 * @param now - ms since 1970
 */
export function ageText(at: string, now: number): string {
  const ms = now - Date.parse(at);
  // A clock that was set back: the moment itself says more than a negative age.
  if (ms < -60_000) return `of ${momentText(at)}`;
  if (ms < 60_000) return 'just now';
  if (ms < HOUR_MS) return `${count(Math.floor(ms / 60_000), 'minute')} old`;
  if (ms < 48 * HOUR_MS) return `${count(Math.floor(ms / HOUR_MS), 'hour')} old`;
  return `${count(Math.floor(ms / (24 * HOUR_MS)), 'day')} old`;
}
