import { partKey } from '../matching/index.ts';
import { readLabel } from '../memory/index.ts';
import type { MemoryModule } from '../memory/index.ts';
import type { Minor } from '../planning/index.ts';
import { amountText, readAmount } from './amounts.ts';

/** A catalogue entry as it goes in and out of tables. */
export interface TabledEntry {
  /** Of the entry it changes; absent for a new one. */
  readonly id?: string | undefined;
  readonly label: string;
  readonly module: MemoryModule;
  readonly supplier: string;
  readonly article: string;
  readonly units: number;
  readonly price: Minor | null;
  readonly stock: number | null;
  readonly leadDays: number | null;
  /** Of the pack, without tax; absent where the table has no column for it. */
  readonly cost?: Minor | null | undefined;
}

/** Columns of the table, in order; only the label must be there. */
export const CATALOGUE_COLUMNS = [
  'id',
  'label',
  'supplier',
  'article',
  'modules in pack',
  'price',
  'stock',
  'lead days',
  'cost',
] as const;

/** What is wrong with a table, by row counted from 1 (the header is row 1). */
export type CatalogueFault =
  | { readonly type: 'column-missing'; readonly row: 1; readonly column: string }
  | { readonly type: 'label'; readonly row: number; readonly text: string }
  | {
      readonly type: 'number';
      readonly row: number;
      readonly column: string;
      readonly text: string;
      readonly wanted: string;
    }
  | { readonly type: 'too-many'; readonly row: number; readonly limit: number };

/** Entries of one part number that describe different modules: one of them is wrong. */
export interface Contradiction {
  readonly part: string;
  readonly rows: readonly number[];
}

/** Rows one import takes. */
export const CATALOGUE_ROW_LIMIT = 10_000;

/** Catalogue entries as rows of text, header first; prices with the currency's decimals. */
export function catalogueToRows(entries: readonly TabledEntry[], currency: string): string[][] {
  const text = (value: number | null) => (value === null ? '' : String(value));
  return [
    [...CATALOGUE_COLUMNS],
    ...entries.map(({ id, label, supplier, article, units, price, stock, leadDays, cost }) => [
      ...[id ?? '', label, supplier, article, String(units)],
      ...[price === null ? '' : amountText(price, currency), text(stock), text(leadDays)],
      cost == null ? '' : amountText(cost, currency),
    ]),
  ];
}

/**
 * Reads rows of text with a header into catalogue entries. Columns may stand in any order. Rows at
 * fault are named with what was wanted, the others are read; whether to take them is the caller's.
 */
export function catalogueFromRows(
  rows: readonly (readonly string[])[],
  currency: string,
): {
  entries: TabledEntry[];
  faults: CatalogueFault[];
  contradictions: Contradiction[];
} {
  const [header = [], ...body] = rows;
  const names = header.map((name) => name.trim().toLowerCase());
  const faults: CatalogueFault[] = [];
  if (!names.includes('label')) {
    faults.push({ type: 'column-missing', row: 1, column: 'label' });
    return { entries: [], faults, contradictions: [] };
  }
  if (body.length > CATALOGUE_ROW_LIMIT)
    faults.push({ type: 'too-many', row: CATALOGUE_ROW_LIMIT + 2, limit: CATALOGUE_ROW_LIMIT });
  const parts = new Map<string, { readonly row: number; readonly like: string }[]>();
  const entries = body.slice(0, CATALOGUE_ROW_LIMIT).flatMap((cells, at): TabledEntry[] => {
    const row = at + 2;
    const cell = (name: string) => (cells[names.indexOf(name)] ?? '').trim();
    if (cells.every((text) => text.trim() === '')) return [];
    const before = faults.length;
    const label = cell('label');
    const { module } = readLabel(label);
    if (!module) faults.push({ type: 'label', row, text: label.slice(0, 60) });
    const whole = (column: (typeof CATALOGUE_COLUMNS)[number], least: number, most: number) => {
      const text = cell(column);
      if (text === '') return null;
      const value = /^\d{1,7}$/.test(text) ? Number(text) : NaN;
      if (value >= least && value <= most) return value;
      const wanted = `a whole number from ${least} to ${most}`;
      faults.push({ type: 'number', row, column, text: text.slice(0, 20), wanted });
      return null;
    };
    const units = whole('modules in pack', 1, 16) ?? 1;
    const stock = whole('stock', 0, 100_000);
    const leadDays = whole('lead days', 0, 365);
    const money = (column: 'price' | 'cost') => {
      const amount = readAmount(cell(column), currency);
      if (amount === undefined)
        faults.push({
          ...{ type: 'number', row, column, text: cell(column).slice(0, 20) },
          wanted: `an amount such as ${amountText(2190, currency)}`,
        });
      return amount;
    };
    const price = money('price');
    const cost = money('cost');
    if (!module || price === undefined || faults.length > before) return [];
    const part = partKey(module);
    if (part !== undefined)
      parts.set(part, [...(parts.get(part) ?? []), { row, like: JSON.stringify(module) }]);
    const id = cell('id');
    return [
      {
        ...(id === '' ? {} : { id }),
        ...{ label, module, units, price, stock, leadDays },
        ...(names.includes('cost') ? { cost } : {}),
        supplier: cell('supplier').slice(0, 80),
        article: cell('article').slice(0, 80),
      },
    ];
  });
  const contradictions = [...parts].flatMap(([part, list]): Contradiction[] =>
    new Set(list.map(({ like }) => like)).size > 1
      ? [{ part: String((JSON.parse(part) as unknown[])[1]), rows: list.map(({ row }) => row) }]
      : [],
  );
  return { entries, faults, contradictions };
}
