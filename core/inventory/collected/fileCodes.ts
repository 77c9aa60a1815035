import { deflateSync, inflateSync, strFromU8, strToU8 } from 'fflate';
import { memoryOfTable } from '../smbios/structures.ts';
import { COLLECTED_LIMIT } from '../limits.ts';
import { digestOf } from './format.ts';
import type { Collected, CollectedPart } from './readCollected.ts';
import { writeCollected } from './writeCollected.ts';

/**
 * A collected file as a row of codes, for machines from which no file can be carried away. Each reads
 * `tembrix-file:1:<id>:<number>:<of how many>:<base64>`; put together in order, the base64 is the
 * DEFLATE stream (RFC 1951) of the file. The id is the first eight digits of the SHA-256 of the file,
 * so that codes of two files never mix and a slip of a digit is noticed.
 */
const MARK = 'tembrix-file';
const VERSION = 1;
/** Base64 digits a code carries: a camera still reads it off a screen at arm's length. */
const DIGITS = 420;
/** Longer rows than this nobody scans to the end. */
const MOST_CODES = 24;
const ID_DIGITS = 8;

/** A file in codes, and what was left out so that they stay few. */
export interface FileInCodes {
  readonly codes: readonly string[];
  /** Parts by kind and place, those that tell least about memory first. */
  readonly leftOut: readonly string[];
}

/** What goes first when a file is too long: a module's image says more than the others need. */
const DISPENSABLE = ['spd-image', 'hardware-report', 'memory-instances', 'smbios-table'] as const;

/** The part of a collected file that tells of memory, as codes to show one after the other. */
export function codesOfFile(collected: Collected): FileInCodes {
  const parts = collected.parts.map((part): CollectedPart => {
    if (part.kind !== 'smbios-table') return part;
    return { ...part, bytes: memoryOfTable(part.bytes) };
  });
  const leftOut: string[] = [];
  for (;;) {
    const codes = codesOfText(writeCollected({ ...collected, parts }));
    const kind = DISPENSABLE.find((one) => parts.some((part) => part.kind === one));
    if (codes.length <= MOST_CODES || kind === undefined) return { codes, leftOut };
    const at = parts.findLastIndex((part) => part.kind === kind);
    leftOut.push(`${kind}, ${parts[at]?.from ?? ''}`);
    parts.splice(at, 1);
  }
}

function codesOfText(text: string): string[] {
  const bytes = deflateSync(strToU8(text), { level: 9 });
  const packed = btoa(Array.from(bytes, (byte) => String.fromCharCode(byte)).join(''));
  const pieces = packed.match(new RegExp(`.{1,${DIGITS}}`, 'g')) ?? [];
  const id = digestOf(text).slice(0, ID_DIGITS);
  return pieces.map((piece, at) => [MARK, VERSION, id, at + 1, pieces.length, piece].join(':'));
}

/** One code of a row, read. */
export interface FileCode {
  readonly id: string;
  /** From 1. */
  readonly number: number;
  readonly total: number;
  readonly piece: string;
}

const CODE = new RegExp(
  `^${MARK}:(\\d{1,3}):([0-9a-f]{${ID_DIGITS}}):(\\d{1,3}):(\\d{1,3}):([A-Za-z0-9+/]+=*)$`,
);

/** Reads a code that was scanned; `newer` for one a later version wrote, nothing for any other text. */
export function readFileCode(text: string): FileCode | 'newer' | undefined {
  const [, version, id, number, total, piece] = CODE.exec(text.trim()) ?? [];
  if (id === undefined || piece === undefined) return undefined;
  if (Number(version) > VERSION) return 'newer';
  const code = { id, number: Number(number), total: Number(total), piece };
  return code.number >= 1 && code.number <= code.total ? code : undefined;
}

/** Codes of one file seen so far. */
export interface SeenCodes {
  readonly id: string;
  readonly total: number;
  readonly pieces: ReadonlyMap<number, string>;
}

/** With one more code; a code of another file starts anew. */
export function withCode(seen: SeenCodes | undefined, code: FileCode): SeenCodes {
  const { id, total, number, piece } = code;
  const before = seen?.id === id && seen.total === total ? seen.pieces : [];
  return { id, total, pieces: new Map([...before, [number, piece]]) };
}

/** Numbers of the codes not seen yet. */
export const missingOf = ({ total, pieces }: SeenCodes): readonly number[] =>
  Array.from({ length: total }, (_, at) => at + 1).filter((number) => !pieces.has(number));

/**
 * The file all codes make, as text; `undefined` while one is missing, and where they do not make the
 * file they name.
 */
export function fileOfCodes(seen: SeenCodes): string | undefined {
  if (missingOf(seen).length > 0) return undefined;
  const packed = Array.from({ length: seen.total }, (_, at) => seen.pieces.get(at + 1)).join('');
  try {
    const bytes = Uint8Array.from(atob(packed), (sign) => sign.charCodeAt(0));
    // Of a known length at most: a few codes must not unpack into memory without end.
    const text = strFromU8(inflateSync(bytes, { out: new Uint8Array(COLLECTED_LIMIT) }));
    return digestOf(text).startsWith(seen.id) ? text : undefined;
  } catch {
    return undefined;
  }
}
