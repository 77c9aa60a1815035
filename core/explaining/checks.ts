import type { Check, CheckKind, Risk } from '../diagnosing/index.ts';
import { list } from './words.ts';
import type { NameOf } from './words.ts';

/** Each check: what to do, and how. */
const CHECK_WORDS: Readonly<Record<CheckKind, readonly [string, string]>> = {
  'wait and listen': [
    'Wait, and listen for codes',
    'Leave the power on for ten minutes. Note beeps, lights or a code on the board and look them up in the manual.',
  ],
  'firmware’s page': [
    'Read the firmware’s memory page',
    'Which slots show a module, and how much is reserved?',
  ],
  'system’s page': [
    'Read the system’s memory page',
    'Installed and usable, 32 or 64 bit, and any maximum in the start options.',
  ],
  'firmware’s rate': [
    'Read the rate in the firmware',
    'The firmware’s own figure, not a program’s; which slots it shows, and whether the profile is on.',
  ],
  'measure again': ['Measure the bandwidth again', 'Same test, same power mode, three runs.'],
  'firmware’s age': [
    'Look up the firmware’s age',
    'Compare its version with the newest, and read what the newer ones say of memory.',
  ],
  'log and warmth': [
    'Read the system log, watch the warmth',
    'Memory errors, lost power, drive errors in the log; temperatures after ten minutes of work.',
  ],
  'test with addresses': [
    'Run a memory test that gives addresses',
    'Before the system starts, at least one full pass; note the addresses or import its table below.',
  ],
  'standard setting': [
    'Go back to the standard setting',
    'Profile off in the firmware, then the test that showed the fault.',
  ],
  'clear settings': [
    'Clear the firmware’s settings',
    'As the manual says; note start order and drive mode first.',
  ],
  'update firmware': [
    'Update the firmware',
    'Only with the machine’s own file, on mains power. A cut half-way can lose the board.',
  ],
  'look it over': [
    'Open it and look along the slots',
    'Are all level, latched, in the planned slots, of the modules on record? Is any lead off?',
  ],
  'reseat and clean': [
    'Reseat all, clean the contacts',
    'All out, edges wiped, slots blown out, all home again.',
  ],
  'only these modules': [
    'Start with only some of the modules',
    'Leave only the named ones in; the first slot stays filled.',
  ],
  'only this module': ['Start with this module alone', 'In a slot that is known to work.'],
  'change places': [
    'Let it change places with another',
    'Does the fault go with the module or stay with the slot?',
  ],
  'known good module': [
    'Put in a module known to be good',
    'Of a type the machine takes, in this slot.',
  ],
  'other supply or drive': [
    'Try another supply or drive',
    'An outside supply of the right rating, or a start from another drive. Never open a supply.',
  ],
};

/** `Start with this module alone: A2`. */
export function checkText(
  { kind, slotIds }: Pick<Check, 'kind' | 'slotIds'>,
  nameOf: NameOf,
): string {
  const [title] = CHECK_WORDS[kind];
  return slotIds.length === 0 ? title : `${title}: ${list(slotIds.map(nameOf))}`;
}

/** How a check is made. */
export const checkHow = ({ kind }: Pick<Check, 'kind'>): string => CHECK_WORDS[kind][1];

/** An outcome as the answer to pick. */
export function outcomeText({ kind, slotIds }: Check, outcome: string, nameOf: NameOf): string {
  if (outcome === 'unknown') return 'I don’t know';
  const name = nameOf(outcome);
  // A slot's id is none of the outcome words, so its name is not the quoted id.
  if (name !== `“${outcome}”`)
    return kind === 'look it over'
      ? `${name} is not level`
      : kind === 'test with addresses'
        ? `errors in ${name}`
        : `${name} is missing`;
  if (slotIds.length === 2 && kind === 'change places')
    return outcome === 'goes with the module'
      ? `fault goes with the one from ${nameOf(slotIds[0])}`
      : outcome === 'stays with the slot'
        ? `fault stays in ${nameOf(slotIds[0])}`
        : outcome;
  return outcome;
}

/** What to mind at a check of some risk. */
export const RISK_WORDS: Readonly<Record<Risk, string | undefined>> = {
  none: undefined,
  'opens the machine':
    'Shut down, unplug, press power for 5 s, disconnect the battery and put on the wrist strap before the cover comes off.',
  'changes settings': 'Note what is set before you change it.',
  'can lose the board':
    'Mains power, battery full, the machine’s own file. Ask the customer first.',
};

/** Asked before anything else. */
export const SAFETY_FIRST =
  'Burnt smell, smoke, a swollen battery pack, liquid inside? Then stop: unplug it, keep it away from what burns, and hand it over under local rules.';
