export { assess, isImpossible } from './assess.ts';
export type { Assessment, Objection } from './assess.ts';
export { covers, vectorOf } from './front.ts';
export { DRAWER_STATES } from './query.ts';
export type {
  DrawerModule,
  DrawerState,
  Minor,
  Offer,
  Plan,
  PlanQuery,
  PlanWorth,
  PlannedUnit,
  UnitSource,
} from './query.ts';
export { PlanSearch } from './search.ts';
export type { SearchProgress, SearchResult } from './search.ts';
export { kitOf, blockersAlone, withVerified } from './supply.ts';
export type { Exclusion } from './supply.ts';
export { bandwidthAtLoad, bandwidthAtNeed } from './assess.ts';
export {
  CHOICE_KINDS,
  DEFAULT_WEIGHTS,
  OBJECTIVES,
  changesOf,
  isUntouched,
  nameChoices,
  rank,
} from './choices.ts';
export type { Choice, ChoiceKind, Objective, Ranked, Weights } from './choices.ts';
export { findTippingPoints } from './sensitivity.ts';
export type { Tipping } from './sensitivity.ts';
export { explainEmpty, judgePlan, judgeSource, runToEnd } from './whyNot.ts';
export type { EmptyReason, SourceVerdict, Verdict } from './whyNot.ts';
export { planBatch } from './batch.ts';
export type { BatchMachine, BatchQuery, BatchResult, Solved, Solver } from './batch.ts';
export { slotChanges } from './slotChanges.ts';
export type { SlotChange } from './slotChanges.ts';
export { NOT_ON_OFFER, recogniseUnits } from './recogniseUnits.ts';
