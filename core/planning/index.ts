export { assess } from './assess.ts';
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
export { withVerified } from './supply.ts';
export type { Exclusion } from './supply.ts';
