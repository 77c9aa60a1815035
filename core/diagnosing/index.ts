export { actionFor } from './actions.ts';
export type { Action } from './actions.ts';
export { CAUSES, SHAPED } from './causes.ts';
export type { Cause, CauseKind, Trait } from './causes.ts';
export { RISKS } from './checkEntry.ts';
export type { Risk } from './checkEntry.ts';
export { CHECKS } from './checks.ts';
export type { CheckKind } from './checks.ts';
export { errorsFromRows, narrowErrors } from './errorAddresses.ts';
export type { ErrorTableFault, Interleave, MemoryError, Narrowing } from './errorAddresses.ts';
export { SURE, benchMinutes, chancesAfter, diagnose, findContradiction, suggest } from './infer.ts';
export type {
  Contradiction,
  Diagnosis,
  Observation,
  Prospect,
  Suggestion,
  Suspect,
} from './infer.ts';
export { modelOf } from './model.ts';
export type { Check, Model } from './model.ts';
export {
  bestNext,
  byWeight,
  eachInTurn,
  minutesRatio,
  possibleCauses,
  reseatFirst,
  runCases,
  shareFound,
  simulateCase,
} from './simulate.ts';
export type { Bench, SearchedCase, SimulatedCase } from './simulate.ts';
export { filledSlots, traitsOf } from './situation.ts';
export type { Situation } from './situation.ts';
export { SYMPTOMS, TROUBLES } from './symptoms.ts';
export type { Symptom, Trouble } from './symptoms.ts';
