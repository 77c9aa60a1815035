/**
 * Text of a file in any usual encoding: UTF-8 or UTF-16 by their marks, UTF-16 without one by its
 * zero bytes, otherwise UTF-8 with bytes that are none of it read as Latin-1. Line ends become `\n`.
 */
export function decodeText(bytes: Uint8Array): string {
  return decode(bytes)
    .replace(/^\uFEFF/, '')
    .replaceAll(/\r\n?/g, '\n');
}

function decode(bytes: Uint8Array): string {
  const [a, b] = bytes;
  if (a === 0xff && b === 0xfe) return new TextDecoder('utf-16le').decode(bytes);
  if (a === 0xfe && b === 0xff) return utf16be(bytes);
  const zeros = { even: 0, odd: 0 };
  const probe = Math.min(bytes.length, 512);
  for (let at = 0; at < probe; at++) if (bytes[at] === 0) zeros[at % 2 === 0 ? 'even' : 'odd']++;
  if (zeros.odd > probe / 4 && zeros.even === 0) return new TextDecoder('utf-16le').decode(bytes);
  if (zeros.even > probe / 4 && zeros.odd === 0) return utf16be(bytes);
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return new TextDecoder('latin1').decode(bytes);
  }
}

/** Swapped by hand: not every runtime has a decoder for this byte order. */
function utf16be(bytes: Uint8Array): string {
  const swapped = new Uint8Array(bytes.length & ~1);
  for (let at = 0; at < swapped.length; at += 2) {
    swapped[at] = bytes[at + 1] ?? 0;
    swapped[at + 1] = bytes[at] ?? 0;
  }
  return new TextDecoder('utf-16le').decode(swapped);
}

/** Whether bytes look like text: few control characters among the first ones. */
export function looksLikeText(bytes: Uint8Array): boolean {
  const probe = bytes.subarray(0, 4096);
  if (probe.length === 0) return false;
  // Images and tables give themselves away before anything is decoded: by control characters, and
  // by zeros at even and odd places alike, where UTF-16 has them on one side only.
  let control = 0;
  const zeros = [0, 0];
  for (let at = 0; at < probe.length; at++) {
    const byte = probe[at] ?? 0;
    if (byte === 0) zeros[at & 1] = 1;
    else if (byte < 0x20 && (byte < 9 || byte > 13)) control++;
  }
  if (control > probe.length / 50 || (zeros[0] === 1 && zeros[1] === 1)) return false;
  const text = decodeText(probe);
  let odd = 0;
  for (const sign of text) {
    const code = sign.codePointAt(0) ?? 0;
    if (
      (code < 0x20 && code !== 9 && code !== 10) ||
      code === 0xfffd ||
      (code > 0x7e && code < 0xa0)
    )
      odd++;
  }
  return odd <= text.length / 50;
}

/**
 * Bytes written as hex: two digits a byte in rows, as dump tools print them. Offsets before a colon
 * or of eight digits, a header row of column numbers, and the printable text behind two spaces are
 * left out.
 *
 * @returns `undefined` when the text is no such dump
 */
export function bytesFromHexText(text: string): Uint8Array | undefined {
  const found: number[] = [];
  for (const line of text.split('\n')) {
    const offsetGone = line
      .trim()
      .replace(/^(0x)?[0-9a-f]+\s*[:|]\s*/i, '')
      .replace(/^[0-9a-f]{4,8}\s{1,}(?=[0-9a-f]{2}(\s|$))/i, '');
    // Cut by hand: a pattern of blanks before a bar tries every run of blanks from every place.
    const bar = offsetGone.search(/[|│]/);
    const row = (bar < 0 ? offsetGone : offsetGone.slice(0, bar))
      .trimEnd()
      .replace(/(?<=[0-9a-f]{2})\s{2,}(?![0-9a-f]{2}(\s|$)).*$/i, '');
    if (row.trim() === '' || /^\s*#/.test(row)) continue;
    const pieces = row.split(/[\s,]+/).filter(Boolean);
    // A header of column numbers: 00 01 02 … on a row without an offset is data; 0 1 2 … is not.
    if (pieces.length >= 8 && pieces.every((one, at) => one.toLowerCase() === at.toString(16)))
      continue;
    for (const piece of pieces) {
      const digits = piece.replace(/^0x/i, '');
      if (!/^([0-9a-f]{2})+$/i.test(digits)) return undefined;
      for (let at = 0; at < digits.length; at += 2)
        found.push(parseInt(digits.slice(at, at + 2), 16));
      if (found.length > 1 << 20) return undefined;
    }
  }
  return found.length >= 64 ? Uint8Array.from(found) : undefined;
}
