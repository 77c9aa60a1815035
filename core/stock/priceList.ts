import { readLabel } from '../memory/index.ts';
import type { MemoryModule } from '../memory/index.ts';
import type { Minor } from '../planning/index.ts';
import { amountText, minorDigits } from '../quoting/index.ts';

/** What a row of a supplier's list says that the bench can use. */
export const LIST_FIELDS = ['article', 'cost', 'label', 'units', 'stock', 'leadDays'] as const;
/** See {@link LIST_FIELDS}. */
export type ListField = (typeof LIST_FIELDS)[number];
/** Heading of the column each field stands in; only `article` and `cost` must have one. */
export type ListColumns = { readonly [Field in ListField]?: string | undefined };

/** Rows one list has at most. */
export const LIST_ROW_LIMIT = 20_000;

/** An offer the catalogue has of this supplier. */
export interface KnownOffer {
  readonly id: string;
  readonly article: string;
  readonly cost: Minor | null;
}

/** What the list says of one article. */
export interface ListedPrice {
  readonly row: number;
  readonly article: string;
  readonly cost: Minor;
  /** Absent where the list has no such column, `null` where it does not say. */
  readonly stock?: number | null;
  readonly leadDays?: number | null;
}

/** A module of the list the catalogue does not have yet. */
export interface ListedModule extends ListedPrice {
  readonly label: string;
  readonly module: MemoryModule;
  readonly units: number;
}

/** Why a row was left out; `row` as the file counts its lines of data, the heading being row 1. */
export type ListFault =
  | { readonly type: 'no-article'; readonly row: number }
  | {
      readonly type: 'no-amount';
      readonly row: number;
      readonly text: string;
      readonly like: string;
    }
  | {
      readonly type: 'no-count';
      readonly row: number;
      readonly field: ListField;
      readonly text: string;
    }
  | {
      readonly type: 'twice';
      readonly row: number;
      readonly article: string;
      readonly first: number;
    };

/** A cost so far from the last one that it is rather a slip. */
export interface CostJump {
  readonly row: number;
  readonly article: string;
  readonly from: Minor;
  readonly to: Minor;
}

/** A price list as read: what changes, what could be added, and what was left out and why. */
export interface PriceList {
  readonly changes: readonly (ListedPrice & { readonly id: string })[];
  readonly additions: readonly ListedModule[];
  /** Rows of other goods: no article of ours, and no module by their text. */
  readonly otherGoods: number;
  readonly faults: readonly ListFault[];
  readonly jumps: readonly CostJump[];
}

/** Words suppliers head their columns with; the first that fits is proposed. */
const HEADINGS: Readonly<Record<ListField, RegExp>> = {
  article: /^(?:article|art|item|sku|part|product|order)\b.*|^(?:no|number|code)\.?$/i,
  cost: /\b(?:cost|net|dealer|price|rate)\b/i,
  label: /\b(?:label|description|designation|name|text|what)\b/i,
  units: /\b(?:pack|units?|per pack|pieces in)\b/i,
  stock: /\b(?:stock|available|availability|qty|quantity|on hand)\b/i,
  leadDays: /\b(?:lead|days|delivery)\b/i,
};

/** Which column holds what, as far as headings tell; each column is taken once. */
export function guessColumns(heads: readonly string[]): ListColumns {
  const free = new Set(heads.map((head) => head.trim()).filter((head) => head !== ''));
  const columns: { [Field in ListField]?: string } = {};
  for (const field of LIST_FIELDS) {
    const found = [...free].find((head) => HEADINGS[field].test(head));
    if (found === undefined) continue;
    columns[field] = found;
    free.delete(found);
  }
  return columns;
}

/** Fields that must have a column and have none in a file with these headings. */
export const lackingColumns = (columns: ListColumns, heads: readonly string[]): ListField[] =>
  (['article', 'cost'] as const).filter(
    (field) => !heads.some((head) => head.trim() === columns[field]),
  );

/** More than memory costs in any currency: such a figure is a slip. Minor units. */
const MOST = 99_999_999;

/**
 * An amount as lists write it: with a currency, thousands apart by points, commas, spaces or
 * apostrophes, decimals after the last point or comma. `1.234` is over a thousand: three digits after
 * the only sign are thousands, unless the currency has three decimals.
 *
 * @returns minor units; `undefined` for what is no amount in this currency
 */
export function readListAmount(text: string, currency: string): Minor | undefined {
  const bare = text.replaceAll(/\p{Sc}|[A-Z]{3}\b|[\s'’]/gu, '');
  const digits = minorDigits(currency);
  const [, whole = '', decimals = ''] = /^(\d[\d.,]*?)(?:[.,](\d+))?$/.exec(bare) ?? [];
  if (whole === '') return undefined;
  const areThousands = decimals.length === 3 && digits !== 3;
  if (!areThousands && decimals.length > digits) return undefined;
  const groups = (areThousands ? `${whole},${decimals}` : whole).split(/[.,]/);
  // Thousands stand in threes; anything else is two numbers, or a date.
  if (groups.slice(1).some((group) => group.length !== 3)) return undefined;
  const amount = Number(groups.join('') + (areThousands ? '' : decimals).padEnd(digits, '0'));
  return amount <= MOST ? amount : undefined;
}

/** A number of pieces or days: `12`, `>10`, `10+`, `3 days`, `sold out`; `null` where it is not said. */
export function readListCount(text: string): number | null | undefined {
  const bare = text.trim().toLowerCase();
  if (/^(?:|-|–|\?|n\/?a|unknown|on request|in stock|yes)$/.test(bare)) return null;
  if (/^(?:no|none|sold out|out of stock)$/.test(bare)) return 0;
  const [, digits] =
    /^[<>≥≤~]?\s*(\d{1,6})(?:[.,]0+)?\s*\+?\s*(?:pcs|pieces|packs|days?|d)?$/.exec(bare) ?? [];
  return digits === undefined ? undefined : Number(digits);
}

/** A cost that moved by more than this share, up or down, is asked about. */
const JUMP = 0.4;

/**
 * Reads a supplier's price list. Rows at fault are named with what was wanted and left out; all others
 * are read.
 *
 * @param rows - text, headings first
 * @param known - what the catalogue has of this supplier
 */
export function readPriceList(
  rows: readonly (readonly string[])[],
  columns: ListColumns,
  known: readonly KnownOffer[],
  currency: string,
): PriceList {
  const [heads = [], ...body] = rows;
  const at = new Map(heads.map((head, index) => [head.trim(), index]));
  const indexOf = (field: ListField) => at.get(columns[field] ?? '');
  const byArticle = new Map(known.map((offer) => [offer.article.toLowerCase(), offer]));
  const seen = new Map<string, number>();
  const changes: PriceList['changes'][number][] = [];
  const additions: ListedModule[] = [];
  const faults: ListFault[] = [];
  const jumps: CostJump[] = [];
  let otherGoods = 0;
  body.slice(0, LIST_ROW_LIMIT).forEach((cells, index) => {
    const row = index + 2;
    const cell = (field: ListField) => (cells[indexOf(field) ?? -1] ?? '').trim();
    if (cells.every((text) => text.trim() === '')) return;
    const article = cell('article').slice(0, 80);
    if (article === '') return void faults.push({ type: 'no-article', row });
    const offer = byArticle.get(article.toLowerCase());
    const label = cell('label').slice(0, 400);
    const { module } = offer ? {} : readLabel(label);
    // A list has cables and drives too; only what concerns memory is held to be right.
    if (!offer && !module) return void otherGoods++;
    const first = seen.get(article.toLowerCase());
    if (first !== undefined) return void faults.push({ type: 'twice', row, article, first });
    const cost = readListAmount(cell('cost'), currency);
    if (cost === undefined)
      return void faults.push({
        ...{ type: 'no-amount', row, text: cell('cost').slice(0, 30) },
        like: amountText(2190, currency),
      });
    const counts: { stock?: number | null; leadDays?: number | null } = {};
    for (const [field, most] of [
      ['stock', 100_000],
      ['leadDays', 365],
    ] as const) {
      if (indexOf(field) === undefined) continue;
      const value = readListCount(cell(field));
      if (value === undefined || (value !== null && value > most))
        return void faults.push({ type: 'no-count', row, field, text: cell(field).slice(0, 30) });
      counts[field] = value;
    }
    const units = indexOf('units') === undefined ? 1 : (readListCount(cell('units')) ?? 1);
    if (units === undefined || units < 1 || units > 16)
      return void faults.push({
        type: 'no-count',
        row,
        field: 'units',
        text: cell('units').slice(0, 30),
      });
    seen.set(article.toLowerCase(), row);
    if (module) return void additions.push({ row, article, cost, ...counts, label, module, units });
    if (!offer) return;
    changes.push({ id: offer.id, row, article, cost, ...counts });
    const { cost: from } = offer;
    if (from !== null && from > 0 && Math.abs(cost / from - 1) > JUMP)
      jumps.push({ row, article, from, to: cost });
  });
  return { changes, additions, otherGoods, faults, jumps };
}
