import { inflateSync } from 'node:zlib';

/** Lengths of headers and of a table's entry, bytes. */
const WOFF = { header: 44, entry: 20 } as const;
const PLAIN = { header: 12, entry: 16 } as const;

const padded = (length: number) => (length + 3) & ~3;

/**
 * A font as it was before it was packed for the web. What prints asks a packed one for its table of
 * shapes at every letter, and unpacks all of it each time: most of a document's time went there.
 *
 * @param packed - a WOFF 1.0 file (W3C Recommendation, “WOFF File Format 1.0”)
 * @returns the OpenType file, tables by their tags
 * @throws Error where it is none
 */
export function plainFont(packed: Buffer): Buffer {
  if (packed.toString('latin1', 0, 4) !== 'wOFF') throw new Error('expected a WOFF font');
  const count = packed.readUInt16BE(12);
  const tables = Array.from({ length: count }, (_, at) => {
    const entry = WOFF.header + at * WOFF.entry;
    const [from, stored, length] = [4, 8, 12].map((by) => packed.readUInt32BE(entry + by)) as [
      number,
      number,
      number,
    ];
    const bytes = packed.subarray(from, from + stored);
    return {
      tag: packed.subarray(entry, entry + 4),
      checksum: packed.readUInt32BE(entry + 16),
      // What packing would not make smaller is stored as it is.
      bytes: stored === length ? bytes : inflateSync(bytes),
    };
  });
  let end = PLAIN.header + count * PLAIN.entry;
  const offsets = tables.map(({ bytes }) => (end += padded(bytes.length)) - padded(bytes.length));
  const font = Buffer.alloc(end);
  packed.copy(font, 0, 4, 8);
  const halvings = Math.floor(Math.log2(count));
  const searched = 16 * 2 ** halvings;
  for (const [at, value] of [count, searched, halvings, 16 * count - searched].entries())
    font.writeUInt16BE(value, 4 + 2 * at);
  for (const [at, { tag, checksum, bytes }] of tables.entries()) {
    const entry = PLAIN.header + at * PLAIN.entry;
    const offset = offsets[at] ?? 0;
    tag.copy(font, entry);
    for (const [of, value] of [checksum, offset, bytes.length].entries())
      font.writeUInt32BE(value, entry + 4 + 4 * of);
    bytes.copy(font, offset);
  }
  return font;
}
