import type { SlotId } from '../machine/index.ts';
import { CAUSES, SHAPED } from './causes.ts';
import { SYMPTOMS, TROUBLES } from './symptoms.ts';
import type { Cause, CauseKind, Trait } from './causes.ts';
import { EACH_SLOT } from './checkEntry.ts';
import type { CheckEntry, Risk, Row } from './checkEntry.ts';
import { CHECKS } from './checks.ts';
import type { CheckKind } from './checks.ts';
import { filledSlots, traitsOf } from './situation.ts';
import type { Situation } from './situation.ts';

/** A check that can be made on this machine. */
export interface Check {
  /** `change places@a2`, `only these modules@a1+b1`, `wait it out`. */
  readonly id: string;
  readonly kind: CheckKind;
  /** Slots it is about: one, half of them, or none in particular. */
  readonly slotIds: readonly SlotId[];
  /** What may come out: words of the kind, or a slot's id where it points at one. */
  readonly outcomes: readonly string[];
  readonly hands: number;
  readonly waits: number;
  readonly risk: Risk;
  readonly mends: boolean;
  /** Chance of each outcome under each cause of the model, each row summing to 1. */
  readonly chances: readonly Row[];
}

/** Causes and checks of one situation, with the chances between them. */
export interface Model {
  readonly causes: readonly Cause[];
  /** Chance of each cause before any check, the symptom counted in; sums to 1. */
  readonly priors: readonly number[];
  readonly checks: readonly Check[];
  readonly traits: readonly Trait[];
}

const normal = (row: Row): number[] => {
  const sum = row.reduce((total, one) => total + one, 0);
  return row.map((one) => (sum > 0 ? one / sum : 0));
};

/** The causes a machine can have, at each filled slot where they sit at one. */
export function causesOf(slotIds: readonly SlotId[]): Cause[] {
  return (Object.keys(CAUSES) as CauseKind[]).flatMap((kind): Cause[] =>
    CAUSES[kind].at === 'slot'
      ? slotIds.map((slotId) => ({ id: `${kind}@${slotId}`, kind, slotId }))
      : [{ id: kind, kind }],
  );
}

/** What a cause weighs in a situation, before the symptom is known. */
export function weightOf(kind: CauseKind, traits: readonly Trait[]): number {
  return SHAPED.filter(
    ({ cause, trait }) => cause === kind && traits.includes(trait),
  ).reduce<number>((weight, { times }) => weight * times, CAUSES[kind].weight);
}

/** A `which` row over all outcomes: first, each slot, the rest. */
function spread(row: Row, cause: Cause, slotIds: readonly SlotId[]): number[] {
  const [first = 0, own = 0, others = 0, ...rest] = row;
  const more = slotIds.filter((slotId) => slotId !== cause.slotId).length;
  return [
    first,
    ...slotIds.map((slotId) => (slotId === cause.slotId ? own : others / more)),
    ...rest,
  ];
}

function rowOf(entry: CheckEntry, cause: Cause, slotIds: readonly SlotId[]): Row {
  const row = entry.given[cause.kind] ?? entry.otherwise;
  if (!('here' in row)) return row;
  return cause.slotId !== undefined && slotIds.includes(cause.slotId) ? row.here : row.elsewhere;
}

/** Slots a check is made at, one entry for each time it can be made. */
function turns(
  kind: CheckKind,
  { on }: CheckEntry,
  slotIds: readonly SlotId[],
): (readonly SlotId[])[] {
  if (on === 'machine' || on === 'which') return [[]];
  // With one module there is nothing to tell it from.
  if (slotIds.length < 2) return kind === 'known good module' ? [slotIds] : [];
  if (on === 'half') return halves(slotIds);
  // Two modules change places with each other: one turn is about both.
  if (kind === 'change places' && slotIds.length === 2) return [slotIds];
  return slotIds.map((slotId) => [slotId]);
}

/** Halves of the slots, one for each binary digit of their place: together they name every slot. */
function halves(slotIds: readonly SlotId[]): SlotId[][] {
  const digits = Math.ceil(Math.log2(slotIds.length));
  return Array.from({ length: digits }, (_, digit) =>
    slotIds.filter((_one, place) => ((place >> digit) & 1) === 0),
  );
}

function checksOf(
  { symptom }: Situation,
  causes: readonly Cause[],
  slotIds: readonly SlotId[],
): Check[] {
  const trouble = TROUBLES[symptom];
  const entries = Object.entries(CHECKS) as [CheckKind, CheckEntry][];
  return entries
    .filter(([, entry]) => entry.for.includes(trouble))
    .flatMap(([kind, entry]): Check[] => {
      const { hands, waits, risk, mends = false } = entry;
      const outcomes = entry.outcomes.flatMap((one) => (one === EACH_SLOT ? slotIds : [one]));
      const at = (own: readonly SlotId[]): Check => ({
        ...{ id: own.length === 0 ? kind : `${kind}@${own.join('+')}`, kind, slotIds: own },
        ...{ outcomes, hands, waits, risk, mends },
        chances: causes.map((cause) =>
          normal(
            entry.on === 'which'
              ? spread(rowOf(entry, cause, []), cause, slotIds)
              : rowOf(entry, cause, own),
          ),
        ),
      });
      return turns(kind, entry, slotIds).map(at);
    });
}

/**
 * The causes a situation leaves possible and the checks that tell them apart.
 *
 * Priors are the weights of {@link CAUSES}, shaped by the traits of the situation and by how often
 * each cause shows as the symptom (Bayes). One fault at a time is assumed.
 */
export function modelOf(situation: Situation): Model {
  const traits = traitsOf(situation);
  const slotIds = filledSlots(situation);
  const at = SYMPTOMS.indexOf(situation.symptom);
  const all = causesOf(slotIds);
  const weights = all.map(
    ({ kind }) => weightOf(kind, traits) * (normal(CAUSES[kind].shows)[at] ?? 0),
  );
  const causes = all.filter((_, one) => (weights[one] ?? 0) > 0);
  const priors = normal(weights.filter((weight) => weight > 0));
  return { causes, priors, traits, checks: checksOf(situation, causes, slotIds) };
}
