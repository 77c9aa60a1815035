import { isQuotedCell, readCell, writtenCell } from '#core/explaining';
import { decodeText } from '#core/inventory';
import { download } from './download.ts';

/** Rows as comma-separated text (RFC 4180); see {@link writtenCell}. */
export async function writeTable(rows: readonly (readonly unknown[])[]): Promise<string> {
  const { default: papa } = await import('papaparse');
  return papa.unparse(
    rows.map((row) => row.map(writtenCell)),
    { quotes: isQuotedCell },
  );
}

/** Rows of a table as {@link writeTable} wrote it, or as any other program did; empty lines are left out. */
export async function readTable(bytes: ArrayBuffer): Promise<string[][]> {
  const { default: papa } = await import('papaparse');
  const text = decodeText(new Uint8Array(bytes));
  // What parts the cells stands between them: a tab or a semicolon inside quotes says nothing of it.
  const bare = text.replaceAll(/"[^"]*"/g, 'x');
  const { delimiter } = papa.parse<string[]>(bare, { preview: 50 }).meta;
  const { data } = papa.parse<string[]>(text, { skipEmptyLines: true, delimiter });
  return data.map((row) => row.map(readCell));
}

/** Offers rows as a file. */
export async function saveTable(
  name: string,
  rows: readonly (readonly unknown[])[],
): Promise<void> {
  download(name, 'text/csv', await writeTable(rows));
}
