export { CHANNEL_CERTAINTY, inferChannels } from './channels.ts';
export type { BandwidthSide, ChannelInference } from './channels.ts';
export { judgeGain, standTogether } from './gain.ts';
export type { Better, Gain, Stray, ToSettle } from './gain.ts';
export { ASSUMED_LEVEL, RUNS, figuresOf, levelSpread, sittingsOf, stepOf } from './sittings.ts';
export type { LevelSpread, RunSet } from './sittings.ts';
export {
  METRICS,
  METRIC_TRAITS,
  POWER_MODES,
  conditionsText,
  senseOf,
  countedRuns,
  findRunFaults,
  fingerprint,
  readRuns,
  runSetOf,
  runsText,
  DOUBTS,
} from './measurement.ts';
export type {
  Conditions,
  Difference,
  Doubt,
  Measurement,
  Metric,
  PowerMode,
  RunFault,
} from './measurement.ts';
export type { Promised } from './promise.ts';
export { proveChange } from './prove.ts';
export type {
  MetricProof,
  PeakUse,
  Proof,
  ProofCaution,
  ProofHeadline,
  ProofSide,
} from './prove.ts';
export { mean, median } from './statistics.ts';
export { judgeShownRate } from './shownRate.ts';
export type { ShownRate } from './shownRate.ts';
export { RUNS_COLUMNS, runsFromRows, runsToRows } from './runsTable.ts';
export type { RunsTableFault, TabledRuns } from './runsTable.ts';
export {
  TEST_KINDS,
  judgeMemoryTest,
  memoryTestState,
  passNeeded,
  testFieldsFromRows,
} from './memoryTest.ts';
export type { MemoryTest, TestKind, TestVerdict } from './memoryTest.ts';
export {
  FRAME_COLUMNS,
  FRAME_UNITS,
  LEAST_FRAMES,
  STUTTER,
  MOST_FRAMES,
  readFrames,
  summariseFrames,
} from './frames.ts';
export type {
  FrameColumn,
  FrameFault,
  FrameLog,
  FrameReading,
  FrameSummary,
  FrameUnit,
} from './frames.ts';
export { judgeFrames } from './frameGain.ts';
export type { Change, FrameGain } from './frameGain.ts';
export { distributionOf, stretchesOf } from './framePictures.ts';
export type { FrameStretch } from './framePictures.ts';
export { CARRIED_STEP, carryCode, readCarryCode } from './carryCode.ts';
export type { CarryFault } from './carryCode.ts';
export {
  PROBE_BOUNDS,
  PROBE_ENGINES,
  PROBE_LENGTHS,
  PROBE_MARKS,
  PROBE_TESTS,
  hasPlateau,
  measurementsOf,
  rungsOf,
} from './probe.ts';
export type {
  PatternCheck,
  ProbeEngine,
  ProbeEssence,
  ProbeLength,
  ProbeMark,
  ProbeResult,
} from './probe.ts';
export { simulateProbe } from './simulateProbe.ts';
export type { SimulatedFault } from './simulateProbe.ts';
