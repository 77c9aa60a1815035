export { SLOT_LIMIT, findMachineFaults } from './findFaults.ts';
export type { MachineFault } from './findFaults.ts';
export {
  BATTERIES,
  COVERS,
  MAXIMA_SOURCES,
  ECC_TRAITS,
  MACHINE_KINDS,
  SETTINGS,
  UNEVEN_TRAITS,
  slotMaximum,
} from './machine.ts';
export type {
  Access,
  ChannelId,
  EccTrait,
  GibRange,
  Machine,
  MachineKind,
  Placement,
  RateRow,
  Setting,
  Slot,
  SlotId,
  SolderedPart,
  UnevenTrait,
  Unknown,
} from './machine.ts';
export { UNKNOWN_ACCESS, plainMachine } from './plainMachine.ts';
export type { PlainMachine } from './plainMachine.ts';
export { nextSlots } from './nextSlots.ts';
export { samePlacement } from './samePlacement.ts';
export { unknownTraits } from './unknownTraits.ts';
export type { UnknownTrait } from './unknownTraits.ts';
export { withListed } from './withListed.ts';
export { withoutSlots } from './withoutSlots.ts';
