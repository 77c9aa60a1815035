export type { Assigned } from './assignEvidence.ts';
export { CLAIM_FIELDS, EVIDENCE_SOURCES, isTelling } from './evidence.ts';
export type {
  Cell,
  CellNote,
  ClaimField,
  Decision,
  Evidence,
  EvidenceSource,
  FieldRow,
} from './evidence.ts';
export { firmwareKey, sensibleName } from './firmwareNames.ts';
export { MATCH_CONFIDENCE, locatorKey, matchLocators, readLocator } from './locators.ts';
export type {
  LocatorMatch,
  LocatorNames,
  LocatorRule,
  MatchRule,
  RememberedLocators,
} from './locators.ts';
export { machineFromInventory } from './machineFromInventory.ts';
export type { MachineGuess, MachinePicture } from './machineFromInventory.ts';
export { moduleOfClaim } from './moduleOfClaim.ts';
export { pictureOfFiles } from './pictureOfFiles.ts';
export type { FilesPicture } from './pictureOfFiles.ts';
export { DOCUMENT_KINDS, readDocument, readWithParts } from './readDocument.ts';
export type { DocumentKind, EvidenceDocument, ReadDocument } from './readDocument.ts';
export { foundByFiles, settingShown, takeIn } from './takeIn.ts';
export { inheritTraits } from './lookAlike.ts';
export type { Difference, FoundByFiles, KnownMachine, Recognised, TakenIn } from './takeIn.ts';
export { reconcile } from './reconcile.ts';
export type { Question, Reconciled, SlotPicture, Stray } from './reconcile.ts';
export { systemOffer } from './systemOffer.ts';
export type { SystemOffer } from './systemOffer.ts';
