import type { Job, KeptPlan } from '#contract/records';
import type { Choice, Plan, PlanQuery, Weights } from '#core/planning';
import type { ShopTerms } from '#core/quoting';

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
  readonly setKept: (plans: readonly KeptPlan[]) => void;
  readonly setWeights: (weights: Weights) => void;
}
