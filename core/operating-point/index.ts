export { channelLoads, fittedParts } from './load.ts';
export { operatingPoint } from './operatingPoint.ts';
export { pairedCapacity, peakAtLoad } from './regions.ts';
export type {
  Blocked,
  Blocker,
  ChannelLoad,
  ClockMode,
  Fitted,
  Flag,
  Layout,
  OperatingPoint,
  Region,
  Rung,
  RungRule,
  Running,
  RunningTimings,
} from './types.ts';
