export {
  COVERINGS,
  COVER_LIMITS,
  SCREW_DRIVES,
  closingActs,
  findCoverFaults,
  lengthFault,
  lengthsOf,
  openingActs,
  trayOf,
} from './coverMap.ts';
export type {
  Cable,
  Clip,
  CoverAct,
  CoverFault,
  CoverMap,
  CoverPart,
  Covering,
  Fastener,
  ScrewDrive,
  TrayPile,
  WrongLength,
} from './coverMap.ts';
export { coverSvg } from './coverSvg.ts';
export { expectStart } from './firstStart.ts';
export type { StartExpectation } from './firstStart.ts';
export { CAUTIONS, cautionsAt, cautionsFor, toolsFor } from './kit.ts';
export type { Caution, Tool } from './kit.ts';
export { PURPOSES, READINGS, START, foldLog } from './log.ts';
export type {
  BenchEntry,
  BenchState,
  Effect,
  FaultCase,
  Note,
  Purpose,
  ReadingKind,
  ReadingValue,
  Round,
  Tick,
} from './log.ts';
export { judgeReading, placementShown, readingsFor } from './readings.ts';
export type { Expected, Judgement, Likely } from './readings.ts';
export { PHASES, PLAIN_STEPS, effectOf, fitSheet, modulesGone } from './sheet.ts';
export type {
  Destination,
  FitSheet,
  Phase,
  PlainStep,
  SheetInput,
  SheetStep,
  Task,
} from './sheet.ts';
