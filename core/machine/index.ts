export { SLOT_LIMIT, findMachineFaults } from './findFaults.ts';
export type { MachineFault } from './findFaults.ts';
export { ECC_TRAITS, MACHINE_KINDS, SETTINGS, UNEVEN_TRAITS } from './machine.ts';
export type {
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
export { plainMachine } from './plainMachine.ts';
export type { PlainMachine } from './plainMachine.ts';
export { nextSlots } from './nextSlots.ts';
export { unknownTraits } from './unknownTraits.ts';
export type { UnknownTrait } from './unknownTraits.ts';
