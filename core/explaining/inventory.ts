import type { FindingPlace, InventoryFinding, InventoryKind } from '../inventory/index.ts';
import type { DocumentKind, ReadDocument } from '../reconciling/index.ts';
import { decimals, exhausted } from '../units/index.ts';
import { gb, list } from './words.ts';
import type { Explanation } from './words.ts';

const KIND_NAMES: Readonly<Record<InventoryKind, string>> = {
  spd: 'SPD image',
  smbios: 'SMBIOS dump',
  'smbios-listing': 'SMBIOS listing',
  cim: 'CIM list of an operating system',
  'hardware-report': 'hardware report of an operating system',
  collected: 'collected file',
  unknown: 'not recognised',
};

/** What a file turned out to be. */
export function inventoryKindName(kind: InventoryKind): string {
  return KIND_NAMES[kind];
}

const TYPED_NAMES: Readonly<Record<Exclude<DocumentKind, 'file'>, string>> = {
  sticker: 'sticker, typed',
  photo: 'sticker, off a photo',
  screen: 'firmware screen, typed',
  eyes: 'seen',
};

/** What a document was found to be. */
export function documentKindName(kind: ReadDocument['kind']): string {
  return kind in TYPED_NAMES
    ? TYPED_NAMES[kind as keyof typeof TYPED_NAMES]
    : inventoryKindName(kind as InventoryKind);
}

const hex = (value: number, digits: number) =>
  value.toString(16).toUpperCase().padStart(digits, '0');

/** Where in a file: `image 2`, `structure 1100h, field 10`. */
export function placeText({ part, number, field }: FindingPlace): string {
  const where =
    number === undefined ? '' : part === 'structure' ? ` ${hex(number, 4)}h` : ` ${number}`;
  return `${part}${where}${field === undefined ? '' : `, ${field}`}`;
}

const SPECIMENS =
  'Use an SPD image, an SMBIOS dump or listing, or the memory list of the operating system as JSON.';
const READ_AGAIN = 'Read the module again, with clean contacts.';

/** A finding of an inventory reader in words. */
export function explainInventoryFinding(finding: InventoryFinding): Explanation {
  const at = placeText(finding.place);
  switch (finding.type) {
    case 'empty-file':
      return { title: 'The file is empty', why: 'It holds no byte.', mend: 'Export it again.' };
    case 'too-large':
      return {
        title: 'Too large for an inventory',
        why: `${mb(finding.bytes)}; tables and images have a few kB, and more than ${mb(finding.limit)} is not read.`,
        mend: SPECIMENS,
      };
    case 'collected-cut':
      return {
        title: 'The collected file ends too early',
        why: 'It begins as one, but its last brackets are missing: it was copied or saved in part.',
        mend: 'Copy the whole file, or run the collecting script again.',
      };
    case 'newer-version':
      return {
        title: `Collected by a newer script (version ${finding.version})`,
        why: `Version ${finding.newest} is the newest that can be read here.`,
        mend: 'Collect again with the script this bench hands out, or update this bench.',
      };
    case 'part-edited':
      return {
        title: `Changed after collecting: ${finding.what}`,
        why: `The checksum in ${at} does not match what it stands beside, so it is left out.`,
        mend: 'Run the collecting script again, or drop the original file.',
      };
    case 'lines-wrapped':
      return {
        title: 'Line ends of a terminal were taken out',
        why: 'The file was copied from a window that broke its lines. The checksums hold all the same.',
      };
    case 'not-recognised':
      return {
        title: 'Not recognised',
        why: 'The bytes are no SPD image, no SMBIOS table and no list of memory.',
        mend: SPECIMENS,
      };
    case 'blank-image':
      return {
        title: `Blank: ${at}`,
        why: `Every byte is ${hex(finding.filling, 2)}h: nothing answered there, or the read failed.`,
        mend: 'If a module sits there, read it again; an empty slot reads so too.',
      };
    case 'unknown-memory-type':
      return {
        title: `Unknown kind of memory in ${at}`,
        why: `Byte 2 is ${hex(finding.code, 2)}h, which names no generation read here.`,
        mend: 'Type the label instead.',
      };
    case 'truncated':
      return {
        title: `Cut short: ${at}`,
        why: `${finding.bytes} bytes are there, ${finding.wanted} are needed for all fields. Missing ones are left out.`,
        mend: 'Read the whole EEPROM; some tools stop after the first page.',
      };
    case 'checksum-wrong':
      return {
        title: `Checksum of block ${finding.block} is wrong`,
        why: `In ${at} it is ${hex(finding.stored, 4)}h and should be ${hex(finding.computed, 4)}h. Fields are shown as unverified and count less than the sticker.`,
        mend: `${READ_AGAIN} If it stays, the image was edited or the EEPROM fails.`,
        source: 'JEDEC Std 21-C and JESD400-5, cyclic redundancy code',
      };
    case 'checksum-unwritten':
      return {
        title: `Checksum of block ${finding.block} was never written`,
        why: `It is 0 in ${at}. Some makers leave it so, which is not the same as wrong.`,
      };
    case 'capacities-disagree':
      return {
        title: `Two sizes in ${at}`,
        why: `Rows, columns and banks give ${gb(finding.computed)}, the size stated is ${gb(finding.stated)}; the ${finding.used === 'computed' ? 'former' : 'latter'} is used.`,
        mend: 'Compare with the label.',
      };
    case 'impossible-module':
      return {
        title: `No module can be made of ${at}`,
        why: `Missing or impossible: ${finding.missing}.`,
        mend: `${READ_AGAIN} Or type its label.`,
      };
    case 'profile-damaged':
      return {
        title: `Overclock profile ${finding.profile} is damaged`,
        why: `It is switched on in ${at}, but its figures or its checksum do not hold. It is not used.`,
        mend: 'Plan with the standard setting.',
      };
    case 'table-cut':
      return {
        title: 'The table is cut short',
        why: `Its entry point promises ${finding.wanted} bytes; ${finding.there} are there. What is there is read.`,
        mend: 'Export the table again, whole.',
      };
    case 'structure-damaged':
      return {
        title: `The table breaks at ${at}`,
        why: `A length of ${finding.length} cannot be: it is too short, or runs past the end. What stands before it is read.`,
        mend: 'Export the table again.',
        source: 'DMTF DSP0134, 6.1.2',
      };
    case 'string-missing':
      return {
        title: `A text is missing in ${at}`,
        why: `Text ${finding.index} is asked for and ${finding.count} are there.`,
        mend: 'Look at the board or the label instead.',
        source: 'DMTF DSP0134, 6.1.3',
      };
    case 'handle-twice':
      return {
        title: `Two structures share a handle: ${at}`,
        why: 'Which of them others refer to is open.',
        mend: 'Compare with what you see.',
      };
    case 'no-memory-devices':
      return {
        title: 'The table lists no memory',
        why: 'No structure of type 17 hangs on system memory.',
        mend: 'Export with administrator rights, or use another source.',
      };
    case 'several-machines':
      return {
        title: `The file is of several machines: ${list([...new Set(finding.names)])}`,
        why: 'Which module is in which of them is open, so none was taken.',
        mend: 'Save the table of each machine in a file of its own, and add the one of this machine.',
      };
    case 'array-ignored':
      return {
        title: `Left out: ${finding.use || 'an array that is no system memory'}`,
        why: `The array at ${at} is not system memory.`,
      };
    case 'maximum-too-low':
      return {
        title: `The firmware claims ${gb(finding.maximum)} at most, yet ${gb(finding.fitted)} is fitted`,
        why: 'Makers state the largest they sold; larger modules came later. The claim is no limit.',
      };
    case 'unit-unreadable':
      return {
        title: `A size could not be read in ${at}`,
        why: `It says “${finding.text}”.`,
        mend: 'Type the size by hand.',
      };
    case 'not-json':
      return {
        title: `Not complete JSON: ${at}`,
        why: finding.near === '' ? 'It ends too early.' : `It breaks near “${finding.near}”.`,
        mend: 'Export the list again, and copy all of it.',
      };
    case 'wrong-shape':
      return {
        title: `Not a list of memory: ${at}`,
        why: `Expected ${finding.wanted}.`,
        mend: 'Export the physical-memory instances as JSON.',
      };
    case 'wrong-value':
      return {
        title: `A value is not as it should be: ${at}`,
        why: `It is ${finding.text}; expected ${finding.wanted}.`,
        mend: 'Type this one by hand.',
      };
    case 'line-not-understood':
      return {
        title: `Not understood: ${at}`,
        why: `“${finding.text}” names no slot with a size.`,
        mend: 'Type slot, size and rate, such as A1 8 GB 1200, or A1 empty.',
      };
    case 'too-many-items':
      return {
        title: 'More places than a machine has',
        why: `Only the first ${finding.limit} are read.`,
        mend: 'Export one machine at a time.',
      };
    default:
      return exhausted(finding);
  }
}

const mb = (bytes: number) => `${decimals((bytes / 2 ** 20).toFixed(1))} MB`;
