/** Shorter texts are sizes and rates; longer ones are of something else. */
const SERIAL = /^[A-Z0-9][A-Z0-9-]{5,39}$/i;

/**
 * The serial number among codes read off a module: a text of letters and digits with a digit in it that
 * is no part number of the catalogue. Of several the longest, since makers put the part and the serial
 * number into codes of their own; `undefined` where two are as long, since then nobody can tell.
 *
 * @example serialAmong(['TV-8U24', '0921AB77F300'], ['TV-8U24']) // '0921AB77F300'
 */
export function serialAmong(
  codes: readonly string[],
  partNumbers: readonly string[],
): string | undefined {
  const parts = new Set(partNumbers.map((part) => part.toUpperCase()));
  const [longest, next] = [...new Set(codes.map((code) => code.trim()))]
    .filter((code) => SERIAL.test(code) && /\d/.test(code) && !parts.has(code.toUpperCase()))
    .sort((a, b) => b.length - a.length);
  return longest?.length === next?.length ? undefined : longest;
}
