import { decodeText, readInventory, readScreen, unpackCollected } from '../inventory/index.ts';
import type {
  BoardFacts,
  Collected,
  DeviceClaim,
  InventoryFinding,
  InventoryKind,
  InventoryReading,
} from '../inventory/index.ts';
import type { SlotId } from '../machine/index.ts';
import { readLabel } from '../memory/index.ts';
import type { LabelFinding, MemoryModule } from '../memory/index.ts';
import type { Evidence, EvidenceSource } from './evidence.ts';

/** How evidence comes in: a file, a label typed or read off a photo, a firmware screen typed, a look into the case. */
export const DOCUMENT_KINDS = ['file', 'sticker', 'photo', 'screen', 'eyes'] as const;
/** See {@link DOCUMENT_KINDS}. */
export type DocumentKind = (typeof DOCUMENT_KINDS)[number];

/** Evidence as it is stored: bytes, never interpreted, and what a person said of where it belongs. */
export interface EvidenceDocument {
  readonly id: string;
  readonly kind: DocumentKind;
  readonly name: string;
  /** A file as it is; otherwise what was typed, as UTF-8. Of a look: `empty` or `module`. */
  readonly bytes: Uint8Array;
  readonly slotIds?: readonly (SlotId | undefined)[] | undefined;
}

/** A document read: evidence, and what its reader had to say. */
export interface ReadDocument {
  readonly evidence: Evidence;
  readonly kind: InventoryKind | Exclude<DocumentKind, 'file'>;
  readonly board?: BoardFacts | undefined;
  /** Figures of the running system, of a collected file. */
  readonly collected?: Collected | undefined;
  readonly findings: readonly InventoryFinding[];
  readonly labelFindings: readonly LabelFinding[];
}

const SOURCE_OF: Readonly<Record<InventoryKind, EvidenceSource>> = {
  spd: 'spd',
  smbios: 'smbios',
  'smbios-listing': 'smbios',
  cim: 'cim',
  // An operating system's own account, like CIM; a collected file's parts are evidence, not it.
  'hardware-report': 'cim',
  collected: 'cim',
  unknown: 'smbios',
};

/** What a file says, as evidence. */
export function evidenceOfReading(
  base: Pick<Evidence, 'id' | 'name' | 'slotIds'>,
  { kind, devices, images }: InventoryReading,
): Evidence {
  return { ...base, source: SOURCE_OF[kind], devices, ...(images ? { images } : {}) };
}

/** Reads a stored document. Any bytes are accepted; nothing throws. */
export function readDocument({ id, kind, name, bytes, slotIds }: EvidenceDocument): ReadDocument {
  const base = { id, name, ...(slotIds ? { slotIds } : {}) };
  if (kind === 'file') {
    const reading = readInventory(bytes);
    const { kind: found, board, findings, collected } = reading;
    const evidence = evidenceOfReading(base, reading);
    return {
      ...{ evidence, kind: found, findings, labelFindings: [] },
      ...(board ? { board } : {}),
      ...(collected ? { collected } : {}),
    };
  }
  const text = decodeText(bytes);
  const typed = (source: EvidenceSource, devices: readonly DeviceClaim[]) => ({
    evidence: { ...base, source, devices },
    kind,
    findings: [] as InventoryFinding[],
    labelFindings: [] as LabelFinding[],
  });
  if (kind === 'screen') {
    const { devices, findings } = readScreen(text);
    return { ...typed('firmware', devices), findings };
  }
  if (kind === 'sticker' || kind === 'photo') {
    const { module, findings } = readLabel(text);
    return { ...typed(kind, module ? [claimOfModule(module)] : []), labelFindings: findings };
  }
  return typed('eyes', [{ state: text === 'empty' ? 'empty' : 'module', verified: true }]);
}

/** A document read, and behind a collected file each of its parts as a document of its own. */
export function readWithParts(document: EvidenceDocument): ReadDocument[] {
  const { id, kind, name, bytes } = document;
  const [, ...parts] = kind === 'file' ? unpackCollected({ name, bytes }) : [];
  return [
    readDocument(document),
    ...parts.map((part, at) => readDocument({ id: `${id}-${at + 1}`, kind, ...part })),
  ];
}

/** What a module's label says of its place; what the label's reader assumed is no claim. */
function claimOfModule(module: MemoryModule): DeviceClaim {
  const { generation, formFactor, buffering, ecc, capacity, ranks, chipWidth, partNumber } = module;
  return {
    state: 'module',
    ...{ generation, formFactor, buffering, ecc, capacity, partNumber, module, verified: true },
    ...(ranks === 'unknown' ? {} : { ranks }),
    ...(chipWidth === 'unknown' ? {} : { chipWidth }),
    ...(module.assumed?.includes('rate') ? {} : { ratedShown: module.rate }),
  };
}
