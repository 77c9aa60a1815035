import { hexToBytes, utf8ToBytes } from '@noble/hashes/utils.js';
import type { InventoryFinding } from '../findings.ts';
import type { InventoryReading } from '../inventory.ts';
import { looksLikeJson } from '../readCim.ts';
import {
  COLLECTED_FACTS,
  COLLECTED_FORMAT,
  COLLECTED_PARTS,
  COLLECTED_VERSION,
  COLLECTING_SHELLS,
  digestOf,
  linesOfFacts,
} from './format.ts';
import type {
  CollectedFact,
  CollectedFactName,
  CollectedPartKind,
  CollectingShell,
} from './format.ts';

/** A part of a collected file whose checksum holds. */
export interface CollectedPart {
  readonly kind: CollectedPartKind;
  /** The command or file it was read from. */
  readonly from: string;
  /** The part as a file of its own. */
  readonly bytes: Uint8Array;
}

/** A collected file, read. */
export interface Collected {
  readonly shell: CollectingShell;
  readonly collectedAt?: string | undefined;
  readonly parts: readonly CollectedPart[];
  readonly facts: readonly CollectedFact[];
  /** What could not be read there, and why, in the script's words. */
  readonly notRead: readonly { readonly what: string; readonly why: string }[];
}

const MOST = { parts: 64, facts: 64, notes: 64, text: 200 } as const;

const NAMED = /"format"\s*:\s*"tembrix-collected"/;

/** As it was before a terminal broke its lines: inside JSON strings there are no line ends. */
const withoutLineEnds = (text: string) => text.replaceAll('\n', '');

/** Whether JSON names itself a collected file, in whatever order its fields stand. */
export const isCollected = (text: string): boolean =>
  looksLikeJson(text) && (NAMED.test(text) || NAMED.test(withoutLineEnds(text)));

/**
 * Reads a collected file. Parts and facts whose checksum does not hold are named and left out; what
 * an older script did not write is simply absent. Any text is accepted; nothing throws.
 */
export function readCollected(text: string): InventoryReading {
  const findings: InventoryFinding[] = [];
  const place = { part: 'file' } as const;
  const parsed = parseWrapped(text, findings);
  if (!isObject(parsed) || parsed.format !== COLLECTED_FORMAT) {
    findings.push({ type: 'collected-cut', severity: 'error', place });
    return { kind: 'collected', devices: [], findings };
  }
  const version = typeof parsed.version === 'number' ? parsed.version : 0;
  if (version > COLLECTED_VERSION) {
    findings.push({
      ...{ type: 'newer-version', severity: 'error', place },
      ...{ version, newest: COLLECTED_VERSION },
    });
    return { kind: 'collected', devices: [], findings };
  }
  const shell = COLLECTING_SHELLS.find((one) => one === parsed.shell) ?? 'unix';
  const collected: Collected = {
    shell,
    ...(typeof parsed.collectedAt === 'string'
      ? { collectedAt: parsed.collectedAt.slice(0, 40) }
      : {}),
    parts: listOf(parsed.parts, MOST.parts, 'parts', findings).flatMap(
      (part, at) => readPart(part, at + 1, findings) ?? [],
    ),
    facts: readFacts(parsed, findings),
    notRead: listOf(parsed.notRead, MOST.notes, 'notRead', findings).flatMap((one) =>
      isObject(one) ? [{ what: textOf(one.what), why: textOf(one.why) }] : [],
    ),
  };
  if (
    collected.parts.length + collected.facts.length === 0 &&
    findings.every(({ severity }) => severity !== 'error')
  )
    findings.push({ type: 'no-memory-devices', severity: 'error', place });
  return { kind: 'collected', devices: [], findings, collected };
}

function parseWrapped(text: string, findings: InventoryFinding[]): unknown {
  try {
    return JSON.parse(text);
  } catch {
    try {
      const parsed: unknown = JSON.parse(withoutLineEnds(text));
      findings.push({ type: 'lines-wrapped', severity: 'note', place: { part: 'file' } });
      return parsed;
    } catch {
      return undefined;
    }
  }
}

function readPart(
  part: unknown,
  number: number,
  findings: InventoryFinding[],
): CollectedPart | undefined {
  const place = { part: 'item', number } as const;
  const kind = isObject(part) ? COLLECTED_PARTS.find((one) => one === part.kind) : undefined;
  if (!isObject(part) || !kind) {
    const wanted = `one of ${COLLECTED_PARTS.join(', ')}`;
    findings.push({ type: 'wrong-shape', severity: 'error', place, wanted });
    return undefined;
  }
  const from = textOf(part.from);
  const isHex = typeof part.hex === 'string';
  const content = isHex ? part.hex : part.text;
  if (typeof content !== 'string' || (isHex && !/^(?:[\da-f]{2})+$/i.test(content))) {
    const wanted = isHex ? 'bytes in hex, two digits each' : 'hex or text';
    findings.push({ type: 'wrong-shape', severity: 'error', place, wanted });
    return undefined;
  }
  if (!holds(part.sha256, content)) {
    findings.push({ type: 'part-edited', severity: 'error', place, what: `${kind}, ${from}` });
    return undefined;
  }
  return { kind, from, bytes: isHex ? hexToBytes(content) : utf8ToBytes(content) };
}

function readFacts(
  file: Readonly<Record<string, unknown>>,
  findings: InventoryFinding[],
): CollectedFact[] {
  const place = { part: 'file', field: 'facts' } as const;
  const items = listOf(file.facts, MOST.facts, 'facts', findings).filter(isObject);
  const written = items.map(({ name, value }) => ({
    name: String(name),
    value: String(value),
  }));
  if (items.length > 0 && !holds(file.factsSha256, linesOfFacts(written))) {
    findings.push({ type: 'part-edited', severity: 'error', place, what: 'figures' });
    return [];
  }
  return items.flatMap(({ name, value, unit, from }): CollectedFact[] => {
    const known = isFactName(name) ? name : undefined;
    // A later script may know more; what this version cannot use is passed over.
    if (!known) return [];
    const wanted = COLLECTED_FACTS[known];
    const isFigure = wanted !== 'word';
    if (unit !== wanted || (isFigure && !/^\d{1,15}(?:\.\d+)?$/.test(String(value)))) {
      findings.push({
        ...{ type: 'wrong-value', severity: 'caution', place: { part: 'file', field: known } },
        ...{ text: `${String(value)} ${String(unit)}`.slice(0, 40) },
        wanted: isFigure ? `a number of ${wanted}` : 'a word',
      });
      return [];
    }
    return [{ name: known, value: textOf(value), from: textOf(from) }];
  });
}

/** A checksum that is absent is no fault: some systems have no program for it. */
const holds = (digest: unknown, content: string): boolean =>
  digest === undefined ||
  digest === '-' ||
  (typeof digest === 'string' && digest.toLowerCase() === digestOf(content));

function listOf(
  value: unknown,
  most: number,
  field: string,
  findings: InventoryFinding[],
): unknown[] {
  if (!Array.isArray(value)) return [];
  if (value.length > most)
    findings.push({
      ...{ type: 'too-many-items', severity: 'caution', place: { part: 'file', field } },
      limit: most,
    });
  return value.slice(0, most);
}

const isFactName = (value: unknown): value is CollectedFactName =>
  typeof value === 'string' && Object.hasOwn(COLLECTED_FACTS, value);

const isObject = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

const textOf = (value: unknown): string =>
  typeof value === 'string' || typeof value === 'number' ? String(value).slice(0, MOST.text) : '';
