/** What a spreadsheet takes for the beginning of a formula, ASCII and full-width (OWASP, CSV injection). */
const FORMULA = /^'*[=+\-@\t\r\n＝＋－＠]/;

/**
 * A cell of a table that is taken away. One that a spreadsheet would run as a formula gets an
 * apostrophe before it: customers and part numbers come from outside.
 */
export const writtenCell = (cell: unknown): unknown =>
  FORMULA.test(String(cell)) ? `'${String(cell)}` : cell;

/** A cell as it was before {@link writtenCell}. */
export const readCell = (cell: string): string =>
  cell.startsWith("'") && FORMULA.test(cell) ? cell.slice(1) : cell;

/** Text in quotes, numbers bare: what stands inside quotes is never taken for where a cell begins. */
export const isQuotedCell = (cell: unknown): boolean =>
  typeof cell === 'string' && !/^(?:\d+(?:\.\d+)?)?$/.test(cell);
