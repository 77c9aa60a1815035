/** How days are written: `25 Nov 2026, 14:05`, `Nov 25, 2026, 2:05 PM`, `2026-11-25 14:05`. */
export const DATE_STYLES = ['day first', 'month first', 'year first'] as const;
/** See {@link DATE_STYLES}. */
export type DateStyle = (typeof DATE_STYLES)[number];

/** How numbers are written: `1,234.50`, `1.234,50`, `1 234,50`, `1’234.50`. */
export const NUMBER_STYLES = ['point', 'comma', 'comma and spaces', 'point and marks'] as const;
/** See {@link NUMBER_STYLES}. */
export type NumberStyle = (typeof NUMBER_STYLES)[number];

/** How the shop writes days and numbers. The words stay; only these follow the place. */
export interface Writing {
  readonly dates: DateStyle;
  readonly numbers: NumberStyle;
}

/** Before the owner has said anything. */
export const DEFAULT_WRITING: Writing = { dates: 'day first', numbers: 'point' };

/** What stands between whole and decimals, and between thousands. A space here never breaks a line. */
const SIGNS: Readonly<Record<NumberStyle, { readonly decimal: string; readonly group: string }>> = {
  point: { decimal: '.', group: ',' },
  comma: { decimal: ',', group: '.' },
  'comma and spaces': { decimal: ',', group: '\u00A0' },
  'point and marks': { decimal: '.', group: '’' },
};

/**
 * One shop is served by a process and shown by a page, so how it writes is known to the whole of
 * either, and no sentence has to hand it on.
 */
let current: Writing = DEFAULT_WRITING;

/** From here on everything said by this process or page is written so. */
export function writeAs({ dates, numbers }: Writing): void {
  current = { dates, numbers };
}

/** How this process or page writes. */
export const writing = (): Writing => current;

/** The signs numbers are written with. */
export const numberSigns = (): { readonly decimal: string; readonly group: string } =>
  SIGNS[current.numbers];

/**
 * A figure of the trade, its decimals as the shop writes them; thousands stay together, as on labels
 * and screens: `0,25`, `12800`.
 *
 * @param digits - a number, or its digits with a point
 */
export const decimals = (digits: number | string): string =>
  String(digits).replace('.', numberSigns().decimal);

/** A whole number for reading: `12,800`. */
export const wholeNumber = (value: number): string =>
  String(Math.round(value)).replaceAll(/(?<=\d)(?=(?:\d{3})+$)/g, numberSigns().group);

/** The space between a figure and its unit. */
const BETWEEN =
  /(?<=\d) (?=(?:%|°C|[kMGT]?B|[MG][TB]\/s|[mnp]?s|[mk]?[VW]|[MG]Hz|min|h|days?|runs?)(?![A-Za-z]))/g;

/** The same text, its figures kept on one line with their units, by spaces no line is broken at. */
export const figuresTogether = (text: string): string => text.replaceAll(BETWEEN, '\u00a0');
