/** Labels for modules: one by one from a roll, or many on a sheet. Lengths in mm. */
export interface LabelSheet {
  readonly id: string;
  readonly name: string;
  readonly page: { readonly width: number; readonly height: number };
  readonly label: { readonly width: number; readonly height: number };
  readonly columns: number;
  readonly rows: number;
  /** Of the first label. */
  readonly left: number;
  readonly top: number;
  /** From one label's edge to the next. */
  readonly gapX: number;
  readonly gapY: number;
}

const A4 = { width: 210, height: 297 };
const LETTER = { width: 215.9, height: 279.4 };

const full = (
  id: string,
  page: LabelSheet['page'],
  paper: string,
  columns: number,
  rows: number,
): LabelSheet => ({
  ...{ id, page, columns, rows, left: 0, top: 0, gapX: 0, gapY: 0 },
  name: `${columns * rows} on ${paper}, edge to edge`,
  label: { width: page.width / columns, height: page.height / rows },
});

const roll = (id: string, width: number, height: number): LabelSheet => ({
  ...{ id, columns: 1, rows: 1, left: 0, top: 0, gapX: 0, gapY: 0 },
  name: `roll, ${width} × ${height} mm`,
  page: { width, height },
  label: { width, height },
});

/** Sizes a shop chooses from: label rolls, and sheets cut edge to edge or with a margin. */
export const LABEL_SHEETS: readonly LabelSheet[] = [
  roll('roll-90-50', 90, 50),
  roll('roll-57-32', 57, 32),
  full('a4-24', A4, 'A4', 3, 8),
  full('a4-40', A4, 'A4', 4, 10),
  {
    ...{ id: 'a4-21', name: '21 on A4, with margins', page: A4, columns: 3, rows: 7 },
    ...{ label: { width: 63.5, height: 38.1 }, left: 7.2, top: 15.1, gapX: 2.6, gapY: 0 },
  },
  {
    ...{ id: 'letter-30', name: '30 on Letter, with margins', page: LETTER, columns: 3, rows: 10 },
    ...{ label: { width: 66.7, height: 25.4 }, left: 4.8, top: 12.7, gapX: 3.2, gapY: 0 },
  },
];

/** Where a label is printed: page from 0, mm from the page's upper left corner. */
export interface LabelPlace {
  readonly page: number;
  readonly x: number;
  readonly y: number;
}

/**
 * Places for labels on sheets, row by row. A sheet begun before is gone on with.
 *
 * @param used - labels already gone from the first sheet, 0 or more
 */
export function labelPlaces(sheet: LabelSheet, labels: number, used = 0): LabelPlace[] {
  const perPage = sheet.columns * sheet.rows;
  const start = used % perPage;
  return Array.from({ length: labels }, (_, index) => {
    const at = start + index;
    const onPage = at % perPage;
    return {
      page: Math.floor(at / perPage),
      x: sheet.left + (onPage % sheet.columns) * (sheet.label.width + sheet.gapX),
      y: sheet.top + Math.floor(onPage / sheet.columns) * (sheet.label.height + sheet.gapY),
    };
  });
}
