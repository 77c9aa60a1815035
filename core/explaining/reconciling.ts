import type {
  CellNote,
  ClaimField,
  Difference,
  EvidenceSource,
  LocatorMatch,
  MachineGuess,
  MatchRule,
  Question,
} from '../reconciling/index.ts';
import { exhausted } from '../units/index.ts';
import { count, gb, list } from './words.ts';
import type { Explanation, NameOf } from './words.ts';

const SOURCE_NAMES: Readonly<Record<EvidenceSource, string>> = {
  eyes: 'eyes',
  sticker: 'sticker',
  photo: 'photo of the sticker',
  spd: 'SPD',
  smbios: 'SMBIOS',
  cim: 'operating system',
  firmware: 'firmware screen',
};

/** A source as the bench calls it. */
export function sourceName(source: EvidenceSource): string {
  return SOURCE_NAMES[source];
}

const NOTES: Readonly<Record<CellNote, string>> = {
  'half clock': 'the clock; the data rate is twice that',
  'less a carve-out': 'what graphics left over',
  shortened: 'cut short where it is stored',
  unverified: 'unverified: its checksum fails',
  ambiguous: 'clock or data rate, taken as the clock',
};

/** Why a value counts as another than it looks. */
export function cellNoteText(note: CellNote): string {
  return NOTES[note];
}

/** A field as the bench calls it. */
export function claimFieldName(field: ClaimField): string {
  return field === 'presence' ? 'filled or empty' : field;
}

/** A value of a field with its unit, as it stands in a sentence. */
export function claimText(field: ClaimField, shown: string): string {
  if (field === 'ranks') return count(Number(shown), 'rank');
  return field === 'rate' || field === 'set to' ? `${shown} MT/s` : shown;
}

const RULES: Readonly<Record<MatchRule, string>> = {
  said: 'you said so',
  remembered: 'remembered for this machine',
  'printed name': 'by the printed name',
  serial: 'by the serial number',
  'channel and number': 'by channel and number',
  'only slot of its channel': 'the only slot of its channel',
  part: 'by its part number',
  number: 'by its number alone',
  order: 'by the order of the list alone',
  'no match': 'to no slot',
};

/** How something was matched to a slot, with the confidence it deserves. */
export function matchText({ rule, confidence }: LocatorMatch): string {
  return confidence >= 1 || confidence === 0
    ? RULES[rule]
    : `${RULES[rule]}, ${Math.round(confidence * 100)} % sure`;
}

/** Sources that know what sits in a slot, whether or not the machine sees it. */
const FITTED: ReadonlySet<EvidenceSource> = new Set(['eyes', 'sticker', 'photo', 'spd']);

const sentence = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

/** A question to the technician in words: what is open, why, and what settles it. */
export function explainQuestion(question: Question, nameOf: NameOf): Explanation {
  switch (question.type) {
    case 'conflict': {
      const { slotId, row } = question;
      const values = [...new Map(row.cells.map((cell) => [cell.value, cell])).values()];
      const says = values.map(
        ({ source, shown }) => `${sourceName(source)} says ${claimText(row.field, shown)}`,
      );
      // Seen in the slot and not by the machine: the commonest fault there is.
      const isUnseated =
        row.field === 'presence' &&
        values.some(({ source, value }) => FITTED.has(source) && value === 'module') &&
        values.some(({ source, value }) => !FITTED.has(source) && value === 'empty');
      return {
        title: isUnseated
          ? `${nameOf(slotId)}: a module sits there, and the machine does not see it`
          : `${nameOf(slotId)}: ${claimFieldName(row.field)} differs`,
        why: `${sentence(list(says))}. Until you decide, ${sourceName(row.chosen.source)} is believed.`,
        mend: isUnseated
          ? `Seat it again in ${nameOf(slotId)}, clean its contacts, and read the machine once more.`
          : `Look at ${nameOf(slotId)} and choose whom to believe.`,
      };
    }
    case 'which-slot': {
      const { claim, evidence } = question.stray.assigned;
      const size = claim.capacity === undefined ? 'A module' : gb(claim.capacity);
      return {
        title:
          claim.locator === undefined
            ? `Which slot is ${evidence.name} from?`
            : `Which slot is “${claim.locator}”?`,
        why: `${size}${claim.partNumber ? ` ${claim.partNumber}` : ''} names no place that can be matched.`,
        mend: 'Choose its slot below.',
      };
    }
    case 'unsure-slot': {
      const { assigned, slotId } = question;
      const { locator = assigned.evidence.name } = assigned.claim;
      return {
        title: `Is “${locator}” ${nameOf(slotId)}?`,
        why: `It was put there ${matchText(assigned.match)}.`,
        mend: 'Say where it belongs; this machine remembers it.',
      };
    }
    case 'look':
      return {
        title: `Open and look at ${nameOf(question.slotId)}`,
        why: 'No source says anything of it.',
        mend: 'Say what you see: empty, or the label.',
      };
    case 'unclear':
      return {
        title: `${nameOf(question.slotId)} holds something unknown`,
        why: 'A module is listed, without its size or generation.',
        mend: 'Type its label, or read its SPD.',
      };
    case 'swapped':
      return {
        title: `${list(question.slotIds.map(nameOf))} are exchanged`,
        why: 'Each source names for one slot what the other names for the other: modules were swapped, or the firmware’s names are.',
        mend: 'Look at one of the two, and say where it belongs.',
      };
    case 'soldered-differs':
      return {
        title: 'Soldered memory differs',
        why: `The machine’s description says ${gb(question.stated)}, an inventory ${gb(question.listed)}.`,
        mend: 'Correct the description, or make a machine of its own for this variant.',
      };
    default:
      return exhausted(question);
  }
}

/** How a machine of the library differs from what its files list. */
export function differenceText(one: Difference): string {
  if (one.type === 'maximum')
    return `the files allow ${gb(one.listed)} in all, the library ${gb(one.stated)}`;
  return one.type === 'slots'
    ? `${count(one.stated, 'slot')} in the library, ${one.listed} in the files`
    : `the files list ${one.listed}, which the library says it does not take`;
}

/** What had to be supposed to make a machine of an inventory. */
export function explainGuess(guess: MachineGuess): Explanation {
  switch (guess.type) {
    case 'channels-guessed':
      return {
        title: `${guess.channels} channels are supposed`,
        why: 'The inventory names no channels; the list was split in halves.',
        mend: 'Correct the channel of each slot from the manual or the board.',
      };
    case 'maximum-below-fitted':
      return {
        title: 'The claimed maximum was left out',
        why: `The firmware claims ${gb(guess.maximum)}, and ${gb(guess.fitted)} is fitted.`,
      };
    case 'places-left-out':
      return {
        title: `${guess.count} places were left out`,
        why: 'A machine here has 16 slots at most; inventories list places that do not exist.',
        mend: 'Add the slots you see.',
      };
    default:
      return exhausted(guess);
  }
}
