import type { Job, KeptPlan } from '#contract/records';
import type { Choice, Plan, PlanQuery, Weights } from '#core/planning';
import type { ShopTerms } from '#core/quoting';
import type { Promises } from '../promise/usePromises.ts';

/** What every view of the plans works on. */
export interface PlanContext {
  readonly job: Job;
  readonly query: PlanQuery;
  readonly terms: ShopTerms;
  readonly plans: readonly Plan[];
  readonly choices: readonly Choice[];
  readonly selected: Plan | undefined;
  readonly weights: Weights;
  readonly isTaken: (plan: Plan) => boolean;
  readonly nameOffer: (id: string) => string;
  readonly select: (plan: Plan) => void;
  readonly take: (plan: Plan) => void;
  readonly keep: (plan: Plan) => void;
  readonly kept: readonly KeptPlan[];
  readonly setKept: (plans: readonly KeptPlan[]) => void;
  readonly setWeights: (weights: Weights) => void;
  readonly promises: Promises;
}

/** What an entry of the catalogue or the drawer is called: its label, and how many come together. */
export function offerName(
  entry: { readonly label: string; readonly units?: number } | undefined,
): string {
  if (!entry) return 'a module that is not on offer';
  const { label, units = 1 } = entry;
  return units > 1 ? `${label} (pack of ${units})` : label;
}
