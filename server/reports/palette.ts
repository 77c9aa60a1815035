import type { Content } from 'pdfmake/interfaces.js';
import type { ShopTerms } from '#core/quoting';

/** Colours of what is printed: the workshop's ink and board green on white paper. */
export const INK = '#1b2a2c';
export const TEAL = '#0f5c55';
export const LINE = '#c9c2b2';
export const COPPER = '#9a4a17';
export const MUTED = '#55605f';

/** Thin lines between rows, nothing between columns. */
export const quietTable = {
  hLineWidth: (at: number) => (at === 0 ? 0 : 0.6),
  vLineWidth: () => 0,
  hLineColor: () => LINE,
  paddingLeft: () => 0,
  paddingRight: () => 8,
  paddingTop: () => 3,
  paddingBottom: () => 3,
};

/** The head of whatever a customer gets: the shop's sign where it has one, its name, and its address
 * line by line.
 *
 * @param logo - a data address
 */
export const shopHead = (
  { name, address }: Pick<ShopTerms, 'name' | 'address'>,
  logo?: string,
): Content => ({
  columnGap: 10,
  columns: [
    ...(logo === undefined
      ? []
      : [{ width: 'auto' as const, stack: [{ image: logo, fit: [120, 40] as [number, number] }] }]),
    {
      ...{ text: name, bold: true, fontSize: name.length > 40 ? 12 : 15, color: TEAL },
      // Shares of the page: left to itself, a long name takes the address's room.
      width: logo === undefined ? '56%' : '32%',
    },
    { text: address, alignment: 'right', color: MUTED, width: '*' },
  ],
});
