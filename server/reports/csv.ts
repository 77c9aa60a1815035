import Papa from 'papaparse';
import { isQuotedCell, writtenCell } from '#core/explaining';

/** One line of a CSV file (RFC 4180), with its end; see {@link writtenCell}. */
export const csvLine = (cells: readonly (string | number)[]): string =>
  `${Papa.unparse([cells.map(writtenCell)], { newline: '\r\n', quotes: isQuotedCell })}\r\n`;
