/**
 * Texts that cost a careless reader far more than their length: long runs of one thing, things that
 * open and never close, and lines that almost fit. Each is repeated to the size asked for.
 */
export const AWKWARD: Readonly<Record<string, { readonly head?: string; readonly unit: string }>> =
  {
    spaces: { unit: ' ' },
    'spaces after a hex row': { head: '00 01 02 03', unit: ' ' },
    tabs: { unit: '\t' },
    newlines: { unit: '\n' },
    returns: { unit: '\r' },
    'spaces and newlines': { unit: ' \n' },
    'spaces between letters': { unit: '   a' },
    digits: { unit: '0' },
    'hex digits': { unit: '4f' },
    'hex rows': { unit: '0000: 92 13 0b 02 04 21 00 09 0b 52 01 08 0a 00 fc 00  ........\n' },
    'hex with bars': { unit: '00 |' },
    bars: { unit: '|' },
    'opening brackets': { unit: '[' },
    'opening braces': { unit: '{"a":' },
    'unknown keys': { head: '[{', unit: '"key":1,' },
    'rows without a meaning': { head: '[', unit: '{"a":1},' },
    quotes: { unit: '"' },
    backslashes: { head: '"', unit: '\\' },
    commas: { unit: ',' },
    semicolons: { unit: ';' },
    'comma cells': { head: 'Capacity,Speed\n', unit: '1,' },
    colons: { unit: 'a : ' },
    'key and value': { unit: 'Capacity : 8589934592\n' },
    'empty blocks': { unit: 'DeviceLocator : \n\n' },
    tags: { unit: '<a>' },
    'a tag never closed': { head: '<INSTANCE ', unit: 'a="b" ' },
    entities: { unit: '&amp;' },
    dashes: { unit: '-' },
    'long words': { unit: 'MemoryDevice' },
    zeros: { unit: '\0' },
    'high bytes': { unit: '\u00ff' },
  };

/** About so many bytes of one of them. */
export function awkward(name: string, size: number): Uint8Array {
  const { head = '', unit } = AWKWARD[name] ?? { unit: ' ' };
  const text = head + unit.repeat(Math.ceil(size / unit.length));
  return new TextEncoder().encode(text.slice(0, size));
}
