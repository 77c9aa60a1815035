import { assess } from './assess.ts';
import type { Assessment } from './assess.ts';
import type { Setting } from '../machine/index.ts';
import { covers, vectorOf } from './front.ts';
import { PlanSearch } from './search.ts';
import type { SearchResult } from './search.ts';
import type { Plan, PlanQuery, PlannedUnit } from './query.ts';
import { sourcesOf, withVerified } from './supply.ts';
import type { Exclusion } from './supply.ts';

/** What became of a plan somebody asks about. */
export type Verdict =
  | { readonly type: 'refused'; readonly assessment: Assessment }
  /** Another plan is at least as good in all six objectives. */
  | { readonly type: 'beaten'; readonly assessment: Assessment; readonly by: readonly Plan[] }
  | { readonly type: 'on the front'; readonly assessment: Assessment };

/**
 * Why a hand-made plan is not among the plans found: what blocks it, what beats it, or that it is.
 *
 * @param front - plans of a search with the same query
 */
export function judgePlan(
  query: PlanQuery,
  front: readonly Plan[],
  units: readonly PlannedUnit[],
  setting: Setting,
): Verdict {
  const machine = withVerified(query.machine, query.offers);
  const assessment = assess({ ...query, machine }, units, setting);
  if (assessment.objections.length > 0) return { type: 'refused', assessment };
  const vector = vectorOf(assessment.plan.worth);
  const by = front.filter(
    (plan) => plan.id !== assessment.plan.id && covers(vectorOf(plan.worth), vector),
  );
  const isSame = by.some((plan) => covers(vector, vectorOf(plan.worth)));
  return by.length === 0 || isSame
    ? { type: 'on the front', assessment }
    : { type: 'beaten', assessment, by };
}

/** What became of an offer or drawer module somebody asks about. */
export type SourceVerdict =
  | { readonly type: 'excluded'; readonly exclusion: Exclusion }
  /** It is part of these plans. */
  | { readonly type: 'used'; readonly plans: readonly Plan[] }
  /** The best it can do is beaten, plan by plan. */
  | {
      readonly type: 'beaten';
      readonly best: readonly { readonly plan: Plan; readonly by: Plan }[];
    }
  /** It fits, but nothing that is admitted comes of it; the nearest attempt says why. */
  | { readonly type: 'no-plan'; readonly nearest: Assessment | undefined };

/** Why a module of the catalogue or the drawer is not in any plan. */
export function judgeSource(query: PlanQuery, front: readonly Plan[], id: string): SourceVerdict {
  const full = { ...query, machine: withVerified(query.machine, query.offers) };
  const exclusion = sourcesOf(full).exclusions.find((one) => one.id === id);
  if (exclusion) return { type: 'excluded', exclusion };
  const uses = (plan: Plan) =>
    plan.drawer.includes(id) || plan.purchases.some(({ offerId }) => offerId === id);
  const plans = front.filter(uses);
  if (plans.length > 0) return { type: 'used', plans };
  const alone: PlanQuery = {
    ...full,
    offers: query.offers.filter((offer) => offer.id === id),
    drawer: query.drawer.filter((one) => one.id === id),
  };
  const best = runToEnd(alone)
    .plans.filter(uses)
    .flatMap((plan) => {
      const by = front.find((one) => covers(vectorOf(one.worth), vectorOf(plan.worth)));
      return by ? [{ plan, by }] : [];
    });
  if (best.length > 0) return { type: 'beaten', best };
  return { type: 'no-plan', nearest: nearestMiss(alone, uses) };
}

/** The attempt with the fewest objections, everything but the machine's own limits let go. */
function nearestMiss(query: PlanQuery, uses: (plan: Plan) => boolean): Assessment | undefined {
  const loose = { ...query, need: undefined, budget: undefined, school: 'lenient' as const };
  return runToEnd(loose)
    .plans.filter(uses)
    .map((plan) => assess(query, plan.units, plan.setting))
    .sort(
      (a, b) =>
        a.objections.length - b.objections.length || b.plan.worth.usable - a.plan.worth.usable,
    )[0];
}

/** Searches without looking at a clock: for small questions, and for tests. */
export function runToEnd(query: PlanQuery): SearchResult {
  const run = new PlanSearch(query).run();
  for (let step = run.next(); ; step = run.next()) if (step.done) return step.value;
}

/** Why a search found nothing, and what would let it. */
export interface EmptyReason {
  /** What has to give: only that one is let go, and then there are plans. */
  readonly relax: 'budget' | 'need' | 'school' | 'need and school' | 'nothing helps';
  readonly plan: Plan | undefined;
}

/** For a front without plans: which one demand, let go, would bring some, and the best of them. */
export function explainEmpty(query: PlanQuery): EmptyReason {
  const cheapest = ({ plans }: SearchResult) => plans[0];
  const largest = ({ plans }: SearchResult) =>
    [...plans].sort((a, b) => b.worth.usable - a.worth.usable || a.worth.cost - b.worth.cost)[0];
  const tries = [
    ['budget', { ...query, budget: undefined }, cheapest],
    ['school', { ...query, school: 'lenient' as const }, cheapest],
    ['need', { ...query, need: undefined }, largest],
    ['need and school', { ...query, need: undefined, school: 'lenient' as const }, largest],
  ] as const;
  for (const [relax, loose, pick] of tries) {
    const plan = pick(runToEnd(loose));
    if (plan) return { relax, plan };
  }
  return { relax: 'nothing helps', plan: undefined };
}
