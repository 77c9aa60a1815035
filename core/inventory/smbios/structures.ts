import { ByteView } from '../byteView.ts';
import type { InventoryFinding } from '../findings.ts';

/** One SMBIOS structure: its formatted area and its strings. */
export interface Structure {
  readonly type: number;
  readonly handle: number;
  /** The formatted area, from the type byte on. */
  readonly data: ByteView;
  readonly strings: readonly string[];
  /** Where it lies in the file with its strings: from the first byte to before the last. */
  readonly span: readonly [from: number, to: number];
}

/** A table found in a file. */
export interface FoundTable {
  readonly structures: readonly Structure[];
  /** `3.2`, where an entry point states it. */
  readonly version?: string | undefined;
  readonly findings: readonly InventoryFinding[];
}

const MOST_STRUCTURES = 4096;
/** DSP0134, section 5: anchors of the 32-bit and the 64-bit entry point. */
const ANCHORS = { old: '_SM_', new: '_SM3_' } as const;

interface EntryPoint {
  readonly at: number;
  readonly version: string;
  readonly address: number;
  /** Bytes of the table; a maximum only in the 64-bit form. */
  readonly size: number;
  readonly sizeIsMaximum: boolean;
}

/** Looks for an entry point on the 16-byte steps firmware keeps it on, within the first 64 KiB. */
function findEntryPoint(bytes: Uint8Array): EntryPoint | undefined {
  const limit = Math.min(bytes.length - 24, 65_536);
  for (let at = 0; at <= limit; at += 16) {
    if (bytes[at] !== 0x5f || bytes[at + 1] !== 0x53 || bytes[at + 2] !== 0x4d) continue;
    const view = new ByteView(bytes, at);
    if (view.ascii(0, 5) === ANCHORS.new)
      return {
        at,
        version: `${view.u8(7)}.${view.u8(8)}`,
        address: view.u64(0x10),
        size: view.u32(0x0c),
        sizeIsMaximum: true,
      };
    if (view.ascii(0, 4) === ANCHORS.old)
      return {
        at,
        version: `${view.u8(6)}.${view.u8(7)}`,
        address: view.u32(0x18),
        size: view.u16(0x16),
        sizeIsMaximum: false,
      };
  }
  return undefined;
}

/**
 * The SMBIOS table of a dump: behind an entry point (2.x or 3.x), or raw from the first byte.
 *
 * @returns `undefined` when the bytes hold no such table
 */
export function findTable(bytes: Uint8Array): FoundTable | undefined {
  const entry = findEntryPoint(bytes);
  if (!entry) {
    const raw = walk(bytes, 0, bytes.length);
    return looksSound(raw.structures) ? raw : undefined;
  }
  // In a dump the address points into the machine's memory, not the file, unless a tool rewrote it.
  const starts = [entry.address, entry.at + 32, entry.at + 16].filter(
    (start) => start > entry.at && start < bytes.length,
  );
  const walks = starts.map((start) => ({
    there: bytes.length - start,
    ...walk(bytes, start, Math.min(bytes.length, start + (entry.size || bytes.length))),
  }));
  const found = walks.find(({ structures }) => structures.length > 0) ?? walks[0];
  const there = found?.there ?? 0;
  const cut: InventoryFinding[] =
    there < entry.size && !entry.sizeIsMaximum
      ? [
          {
            type: 'table-cut',
            severity: 'caution',
            place: { part: 'file' },
            wanted: entry.size,
            there,
          },
        ]
      : [];
  return {
    structures: found?.structures ?? [],
    version: entry.version,
    findings: [...cut, ...(found?.findings ?? [])],
  };
}

/**
 * The types that tell of memory and of what it sits in (DSP0134, clause 7): system, board, processors,
 * memory arrays and devices with their mapping, and the end.
 */
const OF_MEMORY: readonly number[] = [1, 2, 4, 16, 17, 18, 19, 20, 127];

/** A table with nothing in it but what tells of memory; bytes that hold no table come back unchanged. */
export function memoryOfTable(bytes: Uint8Array): Uint8Array {
  const kept = findTable(bytes)?.structures.filter(({ type }) => OF_MEMORY.includes(type));
  return kept
    ? Uint8Array.from(kept.flatMap(({ span: [from, to] }) => [...bytes.subarray(from, to)]))
    : bytes;
}

/** A raw table has no anchor; what it must have is known types, and memory or an end among them. */
function looksSound(structures: readonly Structure[]): boolean {
  const known = structures.filter(({ type }) => type <= 46 || type >= 126).length;
  return (
    structures.length >= 2 &&
    known > structures.length * 0.8 &&
    structures.some(({ type }) => type === 17 || type === 16) &&
    structures.every(({ handle }) => handle <= 0xffff)
  );
}

/** Walks structures until the end marker, the end of the bytes, or one whose length cannot be. */
function walk(bytes: Uint8Array, from: number, to: number): FoundTable {
  const structures: Structure[] = [];
  const findings: InventoryFinding[] = [];
  const handles = new Set<number>();
  let at = from;
  while (at + 4 <= to && structures.length < MOST_STRUCTURES) {
    const header = new ByteView(bytes, at);
    const [type, length, handle] = [header.u8(0), header.u8(1), header.u16(2)];
    // DSP0134, 6.1.2: a length below 4 or beyond the table lies; nothing behind it can be found.
    if (length < 4 || at + length > to) {
      const place = { part: 'structure', number: handle } as const;
      findings.push({ type: 'structure-damaged', severity: 'caution', place, length });
      break;
    }
    const { strings, next } = readStrings(bytes, at + length, to);
    const span = [at, next] as const;
    structures.push({ type, handle, data: new ByteView(bytes, at, length), strings, span });
    if (type === 127) break;
    if (handles.has(handle))
      findings.push({
        ...{ type: 'handle-twice', severity: 'caution' },
        place: { part: 'structure', number: handle },
      });
    handles.add(handle);
    at = next;
  }
  return { structures, findings };
}

function readStrings(
  bytes: Uint8Array,
  from: number,
  to: number,
): { strings: string[]; next: number } {
  const strings: string[] = [];
  let at = from;
  let text = '';
  while (at < to) {
    const byte = bytes[at] ?? 0;
    at += 1;
    if (byte !== 0) {
      // Beyond any real string: a table of noise must not build megabytes of text.
      if (text.length < 256) text += byte >= 0x20 && byte < 0x7f ? String.fromCharCode(byte) : ' ';
      continue;
    }
    if (text === '') {
      // Two zeros end the set; a set of none is the two zeros alone.
      return { strings, next: strings.length === 0 ? at + (bytes[at] === 0 ? 1 : 0) : at };
    }
    strings.push(text.trim());
    text = '';
    if (bytes[at] === 0) return { strings, next: at + 1 };
  }
  return { strings, next: to };
}

/** A string by its 1-based index; 0 is none, and an index without a string is said. */
export function stringOf(
  { data, strings, handle }: Structure,
  at: number,
  findings: InventoryFinding[],
): string | undefined {
  const index = data.u8(at);
  if (index === 0) return undefined;
  const text = strings[index - 1];
  if (text === undefined)
    findings.push({
      ...{ type: 'string-missing', severity: 'caution' },
      ...{ place: { part: 'structure', number: handle, field: `${at}` } as const },
      ...{ index, count: strings.length },
    });
  return text === '' ? undefined : text;
}
