import type { Placement, Setting, SlotId } from '../machine/index.ts';
import type { MemoryModule } from '../memory/index.ts';
import type { Observation, Symptom } from '../diagnosing/index.ts';

/** Why the machine is opened. */
export const PURPOSES = ['fit', 'reseat', 'roll back'] as const;
/** See {@link PURPOSES}. */
export type Purpose = (typeof PURPOSES)[number];

/** What a ticked step did to the machine. */
export type Effect =
  | { readonly type: 'slot'; readonly slotId: SlotId; readonly module: MemoryModule | null }
  | { readonly type: 'setting'; readonly setting: Setting };

/** Readings after the first start, in the order they are taken. */
export const READINGS = [
  'picture',
  'firmware total',
  'slots',
  'rate',
  'profile',
  'system total',
  'usable',
] as const;
/** See {@link READINGS}. */
export type ReadingKind = (typeof READINGS)[number];

/** What was read: a figure (GB; MHz or MT/s), slots that show a module, or yes and no. */
export type ReadingValue = number | boolean | readonly SlotId[];

/** One line of a job's bench log. */
export type Note =
  | { readonly type: 'begin'; readonly purpose: Purpose; readonly slotIds: readonly SlotId[] }
  | { readonly type: 'tick'; readonly stepId: string; readonly effect?: Effect | undefined }
  /** What really sits in the machine, whatever was ticked. */
  | { readonly type: 'sits'; readonly placement: Placement; readonly setting: Setting }
  | { readonly type: 'reading'; readonly kind: ReadingKind; readonly value: ReadingValue }
  | {
      readonly type: 'symptom';
      readonly symptom: Symptom;
      /** Hands have been in the machine since it last worked, whoever's. */
      readonly handsIn: boolean;
    }
  | { readonly type: 'seen'; readonly checkId: string; readonly outcome: string }
  /** Takes an earlier entry back. Nothing is ever removed. */
  | { readonly type: 'undo'; readonly of: string };

/** A note with who made it and when. The id is the maker's, so a note sent twice stands once. */
export interface BenchEntry {
  readonly id: string;
  readonly by: string;
  /** ISO moment. */
  readonly at: string;
  readonly note: Note;
}

/** A step that was ticked. */
export interface Tick {
  readonly entryId: string;
  readonly stepId: string;
  readonly by: string;
  readonly at: string;
  readonly effect: Effect | undefined;
}

/** One opening of the machine, from the first tick to the start. */
export interface Round {
  readonly purpose: Purpose;
  /** Slots to reseat. */
  readonly slotIds: readonly SlotId[];
  /** By step, in the order they were ticked. */
  readonly ticks: ReadonlyMap<string, Tick>;
  /** The machine was started after it. */
  readonly startedAt: string | undefined;
}

/** Fault-finding under way. */
export interface FaultCase {
  readonly entryId: string;
  readonly symptom: Symptom;
  readonly handsIn: boolean;
  readonly observations: readonly (Observation & { readonly entryId: string })[];
}

/** Where the bench work stands, told from its log. */
export interface BenchState {
  readonly round: Round;
  readonly rounds: number;
  readonly placement: Placement;
  readonly setting: Setting;
  /** Pulls and seatings done in each slot so far, over all rounds. */
  readonly moves: ReadonlyMap<SlotId, { readonly pulled: number; readonly seated: number }>;
  /** Latest reading of each kind since the last start. */
  readonly readings: ReadonlyMap<ReadingKind, BenchEntry & { readonly value: ReadingValue }>;
  readonly fault: FaultCase | undefined;
  /** Whether hands have been in the machine. */
  readonly isTouched: boolean;
}

/** The step that ends a round. */
export const START = 'first start';

const FIRST_ROUND = { purpose: 'fit', slotIds: [], startedAt: undefined } as const;

/**
 * Tells the state of the bench from its log, entries taken back left out. Entries before the first
 * `begin` belong to a round that fits the plan.
 *
 * @param found - what sat in the machine before any of it
 */
export function foldLog(
  entries: readonly BenchEntry[],
  found: { readonly placement: Placement; readonly setting: Setting },
): BenchState {
  const undone = new Set(entries.flatMap(({ note }) => (note.type === 'undo' ? [note.of] : [])));
  let { placement, setting } = found;
  let ticks = new Map<string, Tick>();
  let round: Round = { ...FIRST_ROUND, ticks };
  let rounds = 1;
  let fault: FaultCase | undefined;
  let isTouched = false;
  const moves = new Map<SlotId, { pulled: number; seated: number }>();
  const readings: Map<ReadingKind, BenchEntry & { value: ReadingValue }> = new Map();
  for (const entry of entries) {
    const { id, by, at, note } = entry;
    if (undone.has(id)) continue;
    if (note.type === 'begin') {
      ticks = new Map();
      round = { purpose: note.purpose, slotIds: note.slotIds, ticks, startedAt: undefined };
      rounds++;
      readings.clear();
    } else if (note.type === 'tick') {
      const { stepId, effect } = note;
      if (ticks.has(stepId)) continue;
      ticks.set(stepId, { entryId: id, stepId, by, at, effect });
      if (stepId === START) {
        round = { ...round, startedAt: at };
        readings.clear();
      }
      if (effect?.type === 'setting') ({ setting } = effect);
      if (effect?.type === 'slot') {
        const { slotId, module } = effect;
        const { [slotId]: _out, ...rest } = placement;
        placement = module ? { ...rest, [slotId]: module } : rest;
        const { pulled, seated } = moves.get(slotId) ?? { pulled: 0, seated: 0 };
        moves.set(slotId, module ? { pulled, seated: seated + 1 } : { pulled: pulled + 1, seated });
        isTouched = true;
      }
    } else if (note.type === 'sits') {
      ({ placement, setting } = note);
      isTouched = true;
    } else if (note.type === 'reading') readings.set(note.kind, { ...entry, value: note.value });
    else if (note.type === 'symptom')
      fault = { entryId: id, symptom: note.symptom, handsIn: note.handsIn, observations: [] };
    else if (note.type === 'seen' && fault) {
      const { checkId, outcome } = note;
      // A check made again replaces what it brought out before.
      const others = fault.observations.filter((one) => one.checkId !== checkId);
      fault = { ...fault, observations: [...others, { checkId, outcome, entryId: id }] };
    }
  }
  return { round, rounds, placement, setting, moves, readings, fault, isTouched };
}
