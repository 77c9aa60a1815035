export { IDLE_SYSTEM, USE_LIMIT, idleSystem, USUAL_ACTIVITIES } from './activities.ts';
export type { Activity, UseRange } from './activities.ts';
export { adviseNeed } from './advise.ts';
export type { Advice } from './advise.ts';
export {
  DRIVES,
  findActivityFaults,
  findNeedFaults,
  needWithMargin,
  workingSet,
} from './workingSet.ts';
export type { Drive, MeasuredPeak, NeedFault, NeedInput, WorkingSet } from './workingSet.ts';
export { proposeActivities } from './proposed.ts';
export { kindsOfWork } from './kindsOfWork.ts';
