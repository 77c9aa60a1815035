export { MODULE_BOUNDS } from './bounds.ts';
export {
  GENERATIONS,
  generationNamed,
  generationTraits,
  isBuildableCapacity,
  isLowPower,
  isModuleCapacity,
  railsOf,
  snapDown,
  stepDown,
} from './generation.ts';
export type { Generation } from './generation.ts';
export type { GenerationTraits } from './generations.ts';
export { EXAMPLE_LABEL, readLabel } from './readLabel.ts';
export type { LabelFinding } from './labelFindings.ts';
export type { LabelReading } from './readLabel.ts';
export {
  lowestRailMv,
  moduleSummary,
  organisationText,
  profileSummary,
  writeLabel,
} from './writeLabel.ts';
export { commonCl } from './bins.ts';
export {
  BUFFERINGS,
  COMMAND_TIMES,
  FORM_FACTORS,
  TIMING_NAMES,
  generationName,
  sameModule,
} from './module.ts';
export type {
  AssumedField,
  Buffering,
  CommandTime,
  CommandTimesPs,
  FormFactor,
  MemoryModule,
  OverclockProfile,
  TimesPs,
  TimingCycles,
  TimingName,
} from './module.ts';
export {
  cyclesAt,
  cyclesForTime,
  cyclesNs,
  labelTimePs,
  listedTimePs,
  tableTckPs,
  transfersPerClock,
} from './timing.ts';
export type { TimingSource } from './timing.ts';
export { OFF_A_CODE, readPhotoText } from './photo/readPhotoText.ts';
export { serialAmong } from './photo/serialAmong.ts';
export type { PhotoHints, PhotoLabel, SignMark } from './photo/readPhotoText.ts';
export type { SeenSign } from './photo/signs.ts';
