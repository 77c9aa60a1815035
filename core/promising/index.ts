export { latencyOf, predict, predictSimulated, replyOf, speedRatio, spreadOf } from './gains.ts';
export type { Gain, Prediction } from './gains.ts';
export { KINDS_OF_WORK } from './kinds.ts';
export type { KindOfWork, Share } from './kinds.ts';
export { comparedOf, isNoticed, leadingGain, madeOf, NOTICED, promiseOf } from './promise.ts';
export type {
  Change,
  Compared,
  Grounds,
  MadePromise,
  PlanPromise,
  Room,
  Side,
  SimulatedChange,
} from './promise.ts';
export { gainOfLimit, LEVERS, limitsOf, mostBound } from './limits.ts';
export type { Lever, Limit, Limits } from './limits.ts';
