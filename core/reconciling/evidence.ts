import type { DeviceClaim, SpdImage } from '../inventory/index.ts';
import type { SlotId } from '../machine/index.ts';

/** Where a claim comes from. */
export const EVIDENCE_SOURCES = [
  'eyes',
  'sticker',
  'photo',
  'spd',
  'smbios',
  'cim',
  'firmware',
] as const;
/** See {@link EVIDENCE_SOURCES}. `cim` is the operating system's own account; `photo` a sticker read off one. */
export type EvidenceSource = (typeof EVIDENCE_SOURCES)[number];

/** One piece of evidence, read: a file, a label, a screen, a look. It is never changed. */
export interface Evidence {
  readonly id: string;
  readonly source: EvidenceSource;
  /** File name, or what it is called on the bench. */
  readonly name: string;
  readonly devices: readonly DeviceClaim[];
  readonly images?: readonly SpdImage[] | undefined;
  /** The slot each device was seen in, where a person said so; by position. */
  readonly slotIds?: readonly (SlotId | undefined)[] | undefined;
}

/** What may be compared between sources. */
export const CLAIM_FIELDS = [
  'presence',
  'capacity',
  'generation',
  'form factor',
  'ranks',
  'rate',
  'part number',
  'maker',
  'serial',
  'set to',
] as const;
/** See {@link CLAIM_FIELDS}. `set to` is the rate it runs at now, which is no fact of the module. */
export type ClaimField = (typeof CLAIM_FIELDS)[number];

/** Whether a difference means another module, not another setting of the same. */
export const isTelling = (field: ClaimField): boolean => field !== 'set to';

/** What a person decided about a field of a slot: which evidence to believe. */
export interface Decision {
  readonly slotId: SlotId;
  readonly field: ClaimField;
  readonly evidenceId: string;
  readonly by: string;
  readonly at: string;
}

/** Why a value counts as another than it looks. */
export type CellNote = 'half clock' | 'less a carve-out' | 'shortened' | 'unverified' | 'ambiguous';

/** What one source says of one field. */
export interface Cell {
  readonly evidenceId: string;
  readonly source: EvidenceSource;
  /** As it is shown. */
  readonly shown: string;
  /** What is compared; equal values agree. */
  readonly value: string | number;
  readonly note?: CellNote | undefined;
}

/** A field of a slot, all sources side by side. */
export interface FieldRow {
  readonly field: ClaimField;
  readonly cells: readonly Cell[];
  readonly verdict: 'agrees' | 'conflict' | 'one source';
  /** The cell that counts. */
  readonly chosen: Cell;
  readonly decision?: Decision | undefined;
}
