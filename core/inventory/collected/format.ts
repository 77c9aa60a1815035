import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';

/**
 * The collected file: what a system's own commands tell of its memory, in one JSON file that the
 * collecting scripts write. An open format; docs/formats.md describes it.
 */
export const COLLECTED_FORMAT = 'tembrix-collected';
/** The newest version read here. */
export const COLLECTED_VERSION = 1;

/** Kinds of system shell a file is collected with: one with CIM, a Unix one, one with a report command. */
export const COLLECTING_SHELLS = ['cim', 'unix', 'report'] as const;
/** See {@link COLLECTING_SHELLS}. */
export type CollectingShell = (typeof COLLECTING_SHELLS)[number];

/** What a part is: a file of its own, as it would be read if it were dropped alone. */
export const COLLECTED_PARTS = [
  'memory-instances',
  'smbios-table',
  'spd-image',
  'hardware-report',
] as const;
/** See {@link COLLECTED_PARTS}. */
export type CollectedPartKind = (typeof COLLECTED_PARTS)[number];

/** Figures about the running system, each with the unit it is written in. */
export const COLLECTED_FACTS = {
  /** All memory the system may use. */
  'memory-visible': 'KiB',
  /** In use while collecting, file cache not counted. */
  'memory-in-use': 'KiB',
  /** The most in use while the script watched. */
  'memory-peak': 'KiB',
  'watched-for': 's',
  'page-file-in-use': 'KiB',
  /** Brought back from the drive while the script watched. */
  'paged-in': 'KiB',
  /** Held by built-in graphics. */
  'graphics-share': 'KiB',
  /** Width of the system: 32 or 64. */
  'system-bits': 'bit',
  /** Of the drive the system lies on. */
  'drive-kind': 'word',
  'power-source': 'word',
  'power-mode': 'word',
} as const;
/** See {@link COLLECTED_FACTS}. */
export type CollectedFactName = keyof typeof COLLECTED_FACTS;

/** A figure as the file writes it. */
export interface CollectedFact {
  readonly name: CollectedFactName;
  readonly value: string;
  /** The command or file it was read from. */
  readonly from: string;
}

/** SHA-256 (FIPS 180-4) of a text as UTF-8, in hex. */
export const digestOf = (text: string): string => bytesToHex(sha256(utf8ToBytes(text)));

/** What the checksum of the facts is taken over: a line each. */
export const linesOfFacts = (facts: readonly { name: string; value: string }[]): string =>
  facts.map(({ name, value }) => `${name}=${value}\n`).join('');
