export { channelLoads, fittedParts } from './load.ts';
export { findBlockers } from './blockers.ts';
export { lanesOf, stretchesOf } from './lanes.ts';
export type { Lane, Stretch } from './lanes.ts';
export { settleRate } from './settleRate.ts';
export { operatingPoint } from './operatingPoint.ts';
export { pairedCapacity, peakAtLoad } from './regions.ts';
export { settleTimings } from './timings.ts';
export type {
  Blocked,
  Blocker,
  ChannelLoad,
  ClockMode,
  Fitted,
  Flag,
  Layout,
  OperatingPoint,
  PartPlace,
  Region,
  Rung,
  RungRule,
  Running,
  RunningTimings,
} from './types.ts';
