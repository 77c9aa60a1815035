import { GRADES } from '../matching/index.ts';
import type { Plan, PlanQuery } from './query.ts';

/** Reasons to pick one plan of many. */
export const CHOICE_KINDS = [
  'nothing',
  'settings',
  'cheapest',
  'pair',
  'changes',
  'fastest',
  'most',
  'room',
] as const;
/** See {@link CHOICE_KINDS}. */
export type ChoiceKind = (typeof CHOICE_KINDS)[number];

/** A plan with what it is the best at; one plan may be best at several things. */
export interface Choice {
  readonly plan: Plan;
  readonly kinds: readonly [ChoiceKind, ...ChoiceKind[]];
}

/** Whether nothing is bought, moved or pulled. */
export function isUntouched({ units, moved, pulled }: Plan): boolean {
  return (
    moved.length === 0 && pulled.length === 0 && units.every(({ source }) => source.type === 'kept')
  );
}

/** Modules that come, go or change places. */
export function changesOf({ units, moved, pulled }: Plan): number {
  return units.filter(({ source }) => source.type !== 'kept').length + moved.length + pulled.length;
}

const gradeOf = ({ worth }: Plan) => GRADES.indexOf(worth.grade);

/** For each reason the plan that serves it best: ties go to the cheaper, then to the first named. */
const BEST: Readonly<
  Record<ChoiceKind, (plan: Plan, query: PlanQuery) => readonly number[] | undefined>
> = {
  nothing: (plan) => (isUntouched(plan) && plan.setting === 'standard' ? [0] : undefined),
  settings: (plan) => (isUntouched(plan) && plan.setting === 'profile' ? [0] : undefined),
  cheapest: ({ worth }) => [worth.cost, -worth.bandwidth, -worth.usable],
  // A pair for the money: modules that belong together and run side by side, cheapest first.
  pair: (plan) =>
    gradeOf(plan) <= 1 && plan.units.length > 1 ? [-sharpness(plan), plan.worth.cost] : undefined,
  changes: (plan) => [changesOf(plan), plan.worth.cost, -plan.worth.bandwidth],
  fastest: ({ worth }) => [-worth.bandwidth, worth.cost, -worth.usable],
  most: ({ worth }) => [-worth.usable, worth.cost, -worth.bandwidth],
  room: ({ worth }) => [-worth.freeSlots, -worth.usable, worth.cost],
};

/** Bandwidth for the money, with labour and all; a free plan is beyond compare. */
function sharpness({ worth }: Plan): number {
  return worth.bandwidth / Math.max(1, worth.cost);
}

/** The front as a handful of plans a customer can be asked about, in a fixed order. */
export function nameChoices(plans: readonly Plan[], query: PlanQuery): Choice[] {
  const chosen = new Map<Plan, ChoiceKind[]>();
  for (const kind of CHOICE_KINDS) {
    let best: { plan: Plan; key: readonly number[] } | undefined;
    for (const plan of plans) {
      const key = BEST[kind](plan, query);
      if (key && (!best || isLess(key, best.key))) best = { plan, key };
    }
    if (best) chosen.set(best.plan, [...(chosen.get(best.plan) ?? []), kind]);
  }
  return [...chosen].flatMap(([plan, [first, ...rest]]) =>
    first ? [{ plan, kinds: [first, ...rest] as const }] : [],
  );
}

function isLess(a: readonly number[], b: readonly number[]): boolean {
  const at = a.findIndex((value, one) => value !== b[one]);
  return at >= 0 && (a[at] ?? 0) < (b[at] ?? 0);
}

/** How much each objective counts, 0 to 5. */
export interface Weights {
  readonly cost: number;
  readonly usable: number;
  readonly bandwidth: number;
  readonly grade: number;
  readonly displaced: number;
  readonly freeSlots: number;
}

/** The objectives, in the order they are shown. */
export const OBJECTIVES = [
  'cost',
  'usable',
  'bandwidth',
  'grade',
  'displaced',
  'freeSlots',
] as const;
/** See {@link OBJECTIVES}. */
export type Objective = (typeof OBJECTIVES)[number];

/** Money first; among what meets the need, a well matched set counts as much as speed. */
export const DEFAULT_WEIGHTS: Weights = {
  cost: 4,
  usable: 2,
  bandwidth: 2,
  grade: 2,
  displaced: 1,
  freeSlots: 1,
};

/** A plan with its place in an order that can be argued with. */
export interface Ranked {
  readonly plan: Plan;
  /** 0 to 1: the weighted mean of how close each objective comes to the best on the front. */
  readonly score: number;
  /** What each objective adds to the score. */
  readonly shares: Readonly<Record<Objective, number>>;
}

/**
 * Orders plans by weights. Each objective counts by where it lies between the worst and the best of
 * the plans given, so that a weight means the same whatever the unit.
 */
export function rank(plans: readonly Plan[], weights: Weights): Ranked[] {
  const values = plans.map((plan): Record<Objective, number> => ({
    cost: -plan.worth.cost,
    usable: plan.worth.usable,
    bandwidth: plan.worth.bandwidth,
    grade: -gradeOf(plan),
    displaced: -plan.worth.displaced,
    freeSlots: plan.worth.freeSlots,
  }));
  const total = OBJECTIVES.reduce((sum, name) => sum + weights[name], 0) || 1;
  const spans = Object.fromEntries(
    OBJECTIVES.map((name) => {
      const all = values.map((value) => value[name]);
      return [name, { low: Math.min(...all), high: Math.max(...all) }];
    }),
  ) as Record<Objective, { low: number; high: number }>;
  return plans
    .map((plan, at): Ranked => {
      const shares = Object.fromEntries(
        OBJECTIVES.map((name) => {
          const { low, high } = spans[name];
          const place = high === low ? 1 : ((values[at]?.[name] ?? low) - low) / (high - low);
          return [name, (place * weights[name]) / total];
        }),
      ) as Record<Objective, number>;
      return { plan, shares, score: OBJECTIVES.reduce((sum, name) => sum + shares[name], 0) };
    })
    .sort((a, b) => b.score - a.score || a.plan.worth.cost - b.plan.worth.cost);
}
