import { decodeText } from '#core/inventory';
import { download } from './download.ts';

/** What a spreadsheet takes for the beginning of a formula, ASCII and full-width. */
const FORMULA = /^'*[=+\-@\t\r\n＝＋－＠]/;

/**
 * Rows as comma-separated text (RFC 4180). A cell that a spreadsheet would run as a formula gets an
 * apostrophe before it: customers and part numbers come from outside.
 */
export async function writeTable(rows: readonly (readonly unknown[])[]): Promise<string> {
  const { default: papa } = await import('papaparse');
  const guarded = rows.map((row) =>
    row.map((cell) => (FORMULA.test(String(cell)) ? `'${String(cell)}` : cell)),
  );
  // Text in quotes, numbers bare: what stands inside quotes is never taken for where a cell begins.
  return papa.unparse(guarded, {
    quotes: (cell) => typeof cell === 'string' && !/^(?:\d+(?:\.\d+)?)?$/.test(cell),
  });
}

/** Rows of a table as {@link writeTable} wrote it, or as any other program did; empty lines are left out. */
export async function readTable(bytes: ArrayBuffer): Promise<string[][]> {
  const { default: papa } = await import('papaparse');
  const { data } = papa.parse<string[]>(decodeText(new Uint8Array(bytes)), {
    skipEmptyLines: true,
  });
  return data.map((row) =>
    row.map((cell) => (cell.startsWith("'") && FORMULA.test(cell) ? cell.slice(1) : cell)),
  );
}

/** Offers rows as a file. */
export async function saveTable(
  name: string,
  rows: readonly (readonly unknown[])[],
): Promise<void> {
  download(name, 'text/csv', await writeTable(rows));
}
