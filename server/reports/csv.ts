import Papa from 'papaparse';

/** A cell a spreadsheet would run as a formula is one it shows instead (OWASP, CSV injection). */
const OPTIONS = { newline: '\r\n', escapeFormulae: true } as const;

/** One line of a CSV file (RFC 4180), with its end. */
export const csvLine = (cells: readonly (string | number)[]): string =>
  `${Papa.unparse([[...cells]], OPTIONS)}\r\n`;
