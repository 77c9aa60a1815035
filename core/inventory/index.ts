export { COLLECTED_FACTS, COLLECTED_FORMAT, COLLECTING_SHELLS } from './collected/format.ts';
export type { CollectedFact, CollectedFactName, CollectingShell } from './collected/format.ts';
export type { Collected, CollectedPart } from './collected/readCollected.ts';
export {
  codesOfFile,
  fileOfCodes,
  missingOf,
  readFileCode,
  withCode,
} from './collected/fileCodes.ts';
export type { FileInCodes, SeenCodes } from './collected/fileCodes.ts';
export { systemOf } from './collected/systemOf.ts';
export type { SystemFacts, Told } from './collected/systemOf.ts';
export { unpackCollected } from './collected/unpack.ts';
export type { NamedBytes } from './collected/unpack.ts';
export { writeCollected } from './collected/writeCollected.ts';
export { decodeText } from './decodeText.ts';
export type { FindingPlace, InventoryFinding } from './findings.ts';
export { INVENTORY_KINDS } from './inventory.ts';
export type { BoardFacts, DeviceClaim, InventoryKind, InventoryReading } from './inventory.ts';
export { makerKey, readMakerCode } from './maker.ts';
export type { MakerCode } from './maker.ts';
export { readScreen } from './readScreen.ts';
export type { ScreenReading } from './readScreen.ts';
export { screenOffPhoto } from './screenOffPhoto.ts';
export { COLLECTED_LIMIT, INVENTORY_FILE_LIMIT } from './limits.ts';
export { claimOfImage, readInventory } from './readInventory.ts';
export { writeCim } from './writeCim.ts';
export { moduleOfImage } from './spd/moduleOfImage.ts';
export { writeSpd } from './spd/writeSpd.ts';
export type { SpdIdentity, SpdWriteError } from './spd/writeSpd.ts';
export type { SpdChecksum, SpdImage, SpdTimeName, SpdTimes } from './spd/types.ts';
export { writeSmbios } from './smbios/writeSmbios.ts';
export type { SmbiosStyle } from './smbios/writeSmbios.ts';
