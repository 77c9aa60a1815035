export { simulate, Simulation } from './simulate.ts';
export type { Run, Served } from './simulate.ts';
export { clockOf, isPlausible, resolveTimes } from './timings.ts';
export type { Cycles, PartTimes, ResolvedTimes, TimeSource } from './timings.ts';
export { AddressMap, bankLayout } from './addresses.ts';
export type { BankLayout } from './addresses.ts';
export { COMMANDS, MODELLED_GENERATIONS, USUAL_CHOICES, WORKLOADS } from './types.ts';
export type {
  Command,
  CommandListener,
  ControllerChoices,
  MemorySystem,
  ModelledGeneration,
  Workload,
  Zone,
} from './types.ts';
export { systemOf } from './systemOf.ts';
export type { Supposed, SystemOf } from './systemOf.ts';
export { Comparison, compareSystems, ratiosOf } from './compare.ts';
export type { Memo, Profile, Profiles, Ratios } from './compare.ts';
