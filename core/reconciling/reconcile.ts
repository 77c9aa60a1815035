import type { DeviceClaim } from '../inventory/index.ts';
import type { Machine, Placement, SlotId } from '../machine/index.ts';
import type { MemoryModule } from '../memory/index.ts';
import { gib } from '../units/index.ts';
import type { Gibibytes } from '../units/index.ts';
import { assignEvidence } from './assignEvidence.ts';
import type { Assigned } from './assignEvidence.ts';
import { compareClaims, distrust } from './compareClaims.ts';
import { isTelling } from './evidence.ts';
import type { ClaimField, Decision, Evidence, FieldRow } from './evidence.ts';
import type { RememberedLocators } from './locators.ts';
import { moduleOfClaim } from './moduleOfClaim.ts';

/** A slot with all that is said of it, and what is concluded. */
export interface SlotPicture {
  readonly slotId: SlotId;
  readonly rows: readonly FieldRow[];
  /** `unseen`: no evidence at all. `unclear`: something is there, not enough to say what. */
  readonly state: 'module' | 'empty' | 'unseen' | 'unclear';
  readonly module?: MemoryModule | undefined;
  /** How evidence came to this slot, the least sure first. */
  readonly matches: readonly Assigned[];
}

/** Something a source lists that belongs to no slot. */
export interface Stray {
  readonly assigned: Assigned;
  /**
   * `phantom`: listed empty, and no such slot is on the board. `soldered`: chips on the board.
   * `unplaced`: a module whose slot is not known. `set aside`: a person said it is no slot.
   */
  readonly kind: 'phantom' | 'soldered' | 'unplaced' | 'set aside';
}

/** What the technician can settle. Conflicts first. */
export type Question =
  | { readonly type: 'conflict'; readonly slotId: SlotId; readonly row: FieldRow }
  | { readonly type: 'which-slot'; readonly stray: Stray }
  | { readonly type: 'unsure-slot'; readonly slotId: SlotId; readonly assigned: Assigned }
  | { readonly type: 'look'; readonly slotId: SlotId }
  | { readonly type: 'unclear'; readonly slotId: SlotId }
  | { readonly type: 'swapped'; readonly slotIds: readonly [SlotId, SlotId] }
  | { readonly type: 'soldered-differs'; readonly stated: Gibibytes; readonly listed: Gibibytes };

/** One trusted picture of what is in a machine. */
export interface Reconciled {
  readonly slots: readonly SlotPicture[];
  readonly strays: readonly Stray[];
  readonly questions: readonly Question[];
  /** What is concluded, slot by slot; conflicts are settled by trust until someone decides. */
  readonly placement: Placement;
}

/** Below this a match is asked about. */
const SURE = 0.75;

/**
 * Brings all evidence of a machine together. Sources are never changed: each slot keeps what every
 * one said, agreement is quiet, a conflict is a question, and what nobody saw is one too.
 *
 * @param decisions - the oldest first
 */
export function reconcile(input: {
  readonly machine: Machine;
  readonly evidence: readonly Evidence[];
  readonly remembered?: RememberedLocators | undefined;
  readonly decisions?: readonly Decision[] | undefined;
}): Reconciled {
  const { machine, evidence, remembered = {}, decisions = [] } = input;
  const assigned = assignEvidence(machine, evidence, remembered);
  const slots = machine.slots.map(({ id }) =>
    pictureOf(
      id,
      assigned.filter(({ slotId }) => slotId === id),
      decisions.filter(({ slotId }) => slotId === id),
      machine.graphicsCarveOut.high,
    ),
  );
  const strays = assigned.flatMap((one) =>
    one.slotId === undefined ? [strayOf(one, machine)] : [],
  );
  const placement: Record<SlotId, MemoryModule> = {};
  for (const { slotId, module } of slots) if (module) placement[slotId] = module;
  const questions = evidence.length === 0 ? [] : questionsOf(machine, slots, strays);
  return { slots, strays, questions, placement };
}

function pictureOf(
  slotId: SlotId,
  claims: readonly Assigned[],
  decisions: readonly Decision[],
  carveOut: number,
): SlotPicture {
  const rows = compareClaims(claims, decisions, carveOut);
  const matches = [...claims].sort((a, b) => a.match.confidence - b.match.confidence);
  const presence = rows.find(({ field }) => field === 'presence')?.chosen.value;
  if (claims.length === 0) return { slotId, rows, state: 'unseen', matches };
  if (presence === 'empty') return { slotId, rows, state: 'empty', matches };
  const module = concludeModule(rows, claims);
  return {
    slotId,
    rows,
    state: module ? 'module' : 'unclear',
    ...(module ? { module } : {}),
    matches,
  };
}

/**
 * The module of the most trusted claim that suffices for one, with the fields that were chosen from
 * elsewhere put in. What a person decided about the part brings that source's module whole.
 */
function concludeModule(
  rows: readonly FieldRow[],
  claims: readonly Assigned[],
): MemoryModule | undefined {
  const decided = ['part number', 'capacity', 'rate', 'generation'].flatMap((field) => {
    const decision = rows.find((row) => row.field === field)?.decision;
    return decision ? [decision.evidenceId] : [];
  });
  const rank = (one: Assigned) =>
    distrust(one) + (one.claim.module ? 0 : 20) - (decided.includes(one.evidence.id) ? 10 : 0);
  const filled = claims.filter(({ claim }) => claim.state !== 'empty');
  const merged = mergeClaims(rows, filled);
  const base = [...filled]
    .sort((a, b) => rank(a) - rank(b))
    .map(({ claim }) => claim.module)
    .find((module) => module !== undefined);
  if (!base) return moduleOfClaim(merged);
  const { ranks, partNumber, capacity } = merged;
  const isDecided = (field: ClaimField) => rows.some((row) => row.field === field && row.decision);
  return {
    ...base,
    ...(isDecided('capacity') && capacity !== undefined ? { capacity } : {}),
    // A sticker without ranks is completed by who knows them.
    ...(ranks !== undefined && (base.ranks === 'unknown' || isDecided('ranks')) ? { ranks } : {}),
    ...(partNumber !== undefined && (base.partNumber === undefined || isDecided('part number'))
      ? { partNumber }
      : {}),
  };
}

/** One claim of the chosen values; fields no row compares come from the most trusted claim. */
function mergeClaims(rows: readonly FieldRow[], claims: readonly Assigned[]): DeviceClaim {
  const chosen = (field: ClaimField) => rows.find((row) => row.field === field)?.chosen;
  const from = <T>(find: (claim: DeviceClaim) => T | undefined): T | undefined =>
    [...claims]
      .sort((a, b) => distrust(a) - distrust(b))
      .map(({ claim }) => find(claim))
      .find((value) => value !== undefined);
  const number = (field: ClaimField) => {
    const value = chosen(field)?.value;
    return typeof value === 'number' ? value : undefined;
  };
  const capacity = number('capacity');
  return {
    state: 'module',
    ...(capacity === undefined ? {} : { capacity: gib(capacity) }),
    generation: from(({ generation }) => generation),
    formFactor: from(({ formFactor }) => formFactor),
    buffering: from(({ buffering }) => buffering),
    ecc: from(({ ecc }) => ecc),
    chipWidth: from(({ chipWidth }) => chipWidth),
    voltageMv: from(({ voltageMv }) => voltageMv),
    maker: from(({ maker }) => maker),
    ranks: number('ranks'),
    ratedShown: number('rate'),
    configuredShown: number('set to'),
    partNumber: chosen('part number')?.shown,
    verified: true,
  };
}

function strayOf(assigned: Assigned, machine: Machine): Stray {
  const { claim, match } = assigned;
  const isChips = claim.soldered === true || claim.formFactor === 'soldered';
  // Some firmware calls soldered memory a module in a slot: the sizes give it away.
  const looksSoldered =
    machine.soldered.length > 0 &&
    claim.state === 'module' &&
    assigned.evidence.source !== 'spd' &&
    machine.soldered.some(({ part }) => part.capacity === claim.capacity);
  const kind =
    match.rule === 'remembered'
      ? 'set aside'
      : isChips || looksSoldered
        ? 'soldered'
        : claim.state === 'module'
          ? 'unplaced'
          : 'phantom';
  return { assigned, kind };
}

function questionsOf(
  machine: Machine,
  slots: readonly SlotPicture[],
  strays: readonly Stray[],
): Question[] {
  const conflicts = slots.flatMap(({ slotId, rows }) =>
    rows.flatMap((row): Question[] =>
      row.verdict === 'conflict' && !row.decision && isTelling(row.field)
        ? [{ type: 'conflict', slotId, row }]
        : [],
    ),
  );
  const unplaced = strays.flatMap((stray): Question[] =>
    stray.kind === 'unplaced' ? [{ type: 'which-slot', stray }] : [],
  );
  const unsure = slots.flatMap(({ slotId, matches }): Question[] => {
    const [weakest] = matches;
    const isSure = weakest === undefined || weakest.match.confidence >= SURE;
    return isSure ? [] : [{ type: 'unsure-slot', slotId, assigned: weakest }];
  });
  const looks = slots.flatMap(({ slotId, state }): Question[] =>
    state === 'unseen'
      ? [{ type: 'look', slotId }]
      : state === 'unclear'
        ? [{ type: 'unclear', slotId }]
        : [],
  );
  return [
    ...swaps(slots),
    ...conflicts,
    ...unplaced,
    ...unsure,
    ...solderedQuestions(machine, strays),
    ...looks,
  ];
}

/** Two slots whose sources name each other's parts: the modules, or the locators, are exchanged. */
function swaps(slots: readonly SlotPicture[]): Question[] {
  const parts = (slot: SlotPicture) =>
    slot.rows
      .find(({ field }) => field === 'serial' || field === 'part number')
      ?.cells.map(({ value }) => value) ?? [];
  const isCrossed = (a: SlotPicture, b: SlotPicture) => {
    const [of, other] = [new Set(parts(a)), new Set(parts(b))];
    return of.size === 2 && other.size === 2 && [...of].every((value) => other.has(value));
  };
  return slots.flatMap((a, at) =>
    slots
      .slice(at + 1)
      .filter((b) => isCrossed(a, b))
      .map((b): Question => ({ type: 'swapped', slotIds: [a.slotId, b.slotId] })),
  );
}

function solderedQuestions(machine: Machine, strays: readonly Stray[]): Question[] {
  const byEvidence = new Map<string, number>();
  for (const { kind, assigned } of strays)
    if (kind === 'soldered') {
      const { id } = assigned.evidence;
      byEvidence.set(id, (byEvidence.get(id) ?? 0) + (assigned.claim.capacity ?? 0));
    }
  const stated = machine.soldered.reduce((sum, { part }) => sum + part.capacity, 0);
  const other = [...byEvidence.values()].find((listed) => Math.abs(listed - stated) > 0.01);
  return other === undefined
    ? []
    : [{ type: 'soldered-differs', stated: gib(stated), listed: gib(other) }];
}
