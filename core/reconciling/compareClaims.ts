import { makerKey } from '../inventory/index.ts';
import { generationName, isModuleCapacity } from '../memory/index.ts';
import type { Generation } from '../memory/index.ts';
import type { DataRate } from '../units/index.ts';
import type { Assigned } from './assignEvidence.ts';
import { CLAIM_FIELDS } from './evidence.ts';
import type { Cell, ClaimField, Decision, EvidenceSource, FieldRow } from './evidence.ts';
import { rateMeant } from './shownRate.ts';

/**
 * Whom to believe where sources differ and nobody has decided, first to last. A sticker somebody read
 * stands before one the program read off a photo; an EEPROM that fails its checksum falls behind both;
 * an operating system retells the firmware.
 */
const TRUST: Readonly<Record<EvidenceSource, number>> = {
  eyes: 0,
  spd: 1,
  sticker: 2,
  photo: 3,
  smbios: 4,
  cim: 5,
  firmware: 6,
};

/** Lower is more to be believed. */
export function distrust({ evidence, claim }: Assigned): number {
  return TRUST[evidence.source] + (claim.verified ? 0 : 2.5);
}

/** What the rates of a slot are read against: its generation and the best-known rating. */
interface RateContext {
  readonly generation: Generation | undefined;
  readonly rated: DataRate | undefined;
  readonly capacity: number | undefined;
  readonly carveOut: number;
}

type Reader = (
  one: Assigned,
  context: RateContext,
) => Pick<Cell, 'shown' | 'value' | 'note'> | undefined;

const gbText = (gib: number) =>
  gib < 1 ? `${Math.round(gib * 1024)} MB` : `${Number(gib.toFixed(2))} GB`;

const READERS: Readonly<Record<ClaimField, Reader>> = {
  presence: ({ claim: { state } }) =>
    state === 'unknown'
      ? undefined
      : { shown: state === 'module' ? 'module' : 'empty', value: state },
  capacity: ({ claim: { capacity, generation } }, context) => {
    if (capacity === undefined) return undefined;
    const best = context.capacity ?? capacity;
    const lost = best - capacity;
    // Some screens show what graphics left over: an odd size a little below a real one.
    const isRest =
      lost > 0 && lost <= Math.max(2, context.carveOut) && !isModuleCapacity(generation, capacity);
    return {
      shown: gbText(capacity),
      value: isRest ? best : capacity,
      ...(isRest ? { note: 'less a carve-out' as const } : {}),
    };
  },
  generation: ({ claim }) => {
    const { generation, module } = claim;
    if (generation === undefined) return undefined;
    return { shown: module ? generationName(module) : generation, value: generation };
  },
  'form factor': ({ claim: { formFactor, module } }) =>
    // A label that does not say its form had it assumed; that is no evidence.
    formFactor === undefined || module?.assumed?.includes('form factor')
      ? undefined
      : { shown: formFactor, value: formFactor },
  ranks: ({ claim: { ranks } }) =>
    ranks === undefined ? undefined : { shown: `${ranks}`, value: ranks },
  rate: ({ claim }, { generation, rated }) => {
    if (claim.ratedShown === undefined) return undefined;
    const meant = rateMeant(claim.ratedShown, generation, rated);
    if (!meant) return { shown: `${claim.ratedShown}`, value: claim.ratedShown };
    const note = meant.isClock ? ('half clock' as const) : undefined;
    return { shown: `${claim.ratedShown}`, value: meant.rate, ...(note ? { note } : {}) };
  },
  'part number': ({ claim: { partNumber } }) =>
    partNumber === undefined
      ? undefined
      : { shown: partNumber, value: partNumber.toUpperCase().replaceAll(/\s/g, '') },
  maker: ({ claim: { maker } }) =>
    maker === undefined ? undefined : { shown: makerKey(maker), value: makerKey(maker) },
  serial: ({ claim: { serial } }) =>
    serial === undefined
      ? undefined
      : { shown: serial, value: serial.toUpperCase().replace(/^0X|^0+/, '') },
  'set to': ({ claim }, { generation, rated }) => {
    if (claim.configuredShown === undefined) return undefined;
    const meant = rateMeant(claim.configuredShown, generation, rated);
    const note = meant?.ambiguous
      ? ('ambiguous' as const)
      : meant?.isClock
        ? ('half clock' as const)
        : undefined;
    return {
      shown: `${claim.configuredShown}`,
      value: meant?.rate ?? claim.configuredShown,
      ...(note ? { note } : {}),
    };
  },
};

/**
 * All that is said of one slot, field by field, sources side by side.
 *
 * @param claims - of this slot
 * @param decisions - of this slot, the oldest first: the last one of a field counts
 * @param carveOut - GiB graphics may have taken from a size on a screen
 */
export function compareClaims(
  claims: readonly Assigned[],
  decisions: readonly Decision[],
  carveOut: number,
): FieldRow[] {
  const byTrust = [...claims].sort((a, b) => distrust(a) - distrust(b));
  const best = <T>(find: (one: Assigned) => T | undefined): T | undefined => {
    for (const one of byTrust) {
      const found = find(one);
      if (found !== undefined) return found;
    }
    return undefined;
  };
  const context: RateContext = {
    generation: best(({ claim }) => claim.generation),
    // Only who knows the module states a rating that others are read against.
    rated: best(({ claim }) => claim.module?.rate),
    capacity: best(({ claim }) => claim.capacity),
    carveOut,
  };
  return CLAIM_FIELDS.flatMap((field) => {
    const cells = byTrust.flatMap((one): Cell[] => {
      const read = READERS[field](one, context);
      if (!read) return [];
      const note = read.note ?? (one.claim.verified ? undefined : ('unverified' as const));
      const { id, source } = one.evidence;
      return [{ evidenceId: id, source, ...read, ...(note ? { note } : {}) }];
    });
    return cells.length === 0 ? [] : [rowOf(field, shortened(field, cells), decisions)];
  });
}

/** EEPROMs keep 18 to 30 signs of a part number: one that begins as another ends is the same. */
function shortened(field: ClaimField, cells: readonly Cell[]): readonly Cell[] {
  if (field !== 'part number') return cells;
  const longest = [...cells].sort((a, b) => String(b.value).length - String(a.value).length)[0];
  return cells.map((cell) =>
    longest &&
    cell.value !== longest.value &&
    String(cell.value).length >= 6 &&
    String(longest.value).startsWith(String(cell.value))
      ? { ...cell, value: longest.value, note: 'shortened' as const }
      : cell,
  );
}

function rowOf(
  field: ClaimField,
  cells: readonly Cell[],
  decisions: readonly Decision[],
): FieldRow {
  const decision = decisions.findLast(
    (one) => one.field === field && cells.some(({ evidenceId }) => evidenceId === one.evidenceId),
  );
  const chosen = cells.find(({ evidenceId }) => evidenceId === decision?.evidenceId) ?? cells[0];
  if (!chosen) throw new Error('expected a cell in a row');
  const values = new Set(cells.map(({ value }) => value));
  return {
    ...{ field, cells, chosen },
    verdict: cells.length === 1 ? 'one source' : values.size === 1 ? 'agrees' : 'conflict',
    ...(decision ? { decision } : {}),
  };
}
