import type { Machine, MachineFault, UnknownTrait } from '../machine/index.ts';
import { exhausted } from '../units/index.ts';
import { count, gb } from './words.ts';
import type { Explanation } from './words.ts';

/** A contradiction in a machine's description, in words. */
export function explainMachineFault(fault: MachineFault): Explanation {
  switch (fault.type) {
    case 'no-place-for-memory':
      return {
        title: 'No slots and no soldered memory',
        why: 'Memory has nowhere to be.',
        mend: 'Add a slot, or the soldered part.',
      };
    case 'too-many-slots':
      return {
        title: `${fault.count} slots are too many`,
        why: `A machine here has ${fault.limit} at most.`,
        mend: 'Remove the slots that are not on the board; inventory reports can list slots that do not exist.',
      };
    case 'no-channels':
      return {
        title: 'No channel',
        why: 'Each slot feeds a channel.',
        mend: 'Give the machine one channel or more.',
      };
    case 'channel-twice':
      return {
        title: `Channel ${fault.channel} is there twice`,
        why: 'A channel has one letter of its own.',
        mend: 'Rename or remove one.',
      };
    case 'name-twice':
      return {
        title: `Two slots are called ${fault.name}`,
        why: 'Slots are told apart by their printed name.',
        mend: 'Give each slot the name printed beside it.',
      };
    case 'no-such-channel':
      return {
        title:
          fault.channel === ''
            ? 'A slot without a channel'
            : `There is no channel ${fault.channel}`,
        why: 'Each slot and soldered part feeds a channel of this machine.',
        mend: 'Choose one of its channels.',
      };
    case 'no-such-slot':
      return {
        title: 'A slot is named that is not there',
        why: `“${fault.slotId}” is no slot of this machine.`,
        mend: 'Choose one of its slots.',
      };
    case 'fill-order-count':
      return {
        title: `The fill order for ${fault.modules} names ${fault.slots} slots`,
        why: 'Each step of the order names as many slots as there are modules.',
        mend: `Name ${fault.modules} different slots.`,
      };
    case 'range-reversed':
      return {
        title: `${gb(fault.low)} to ${gb(fault.high)} runs backwards`,
        why: 'The low end is above the high end.',
        mend: 'Swap the two values.',
      };
    case 'total-below-module':
      return {
        title: `${gb(fault.total)} in total holds no module`,
        why: `The smallest thing that must fit is ${gb(fault.least)}.`,
        mend: 'Correct the total; it is in GB and includes what is soldered.',
      };
    case 'rate-table-hole':
      return {
        title: `The rate table has no row for ${count(fault.modules, 'module')} in a channel`,
        why: 'It goes on to more modules than that, so every smaller load needs its rate.',
        mend: 'Add the row, or remove the ones beyond it.',
      };
    case 'rate-table-twice':
      return {
        title: `Two rates for ${count(fault.modules, 'module')} of ${count(fault.ranks, 'rank')}`,
        why: 'A load has one rate.',
        mend: 'Keep the one the manual states.',
      };
    case 'rate-table-rises':
      return {
        title: `${count(fault.modules, 'module')} would run faster than fewer`,
        why: 'A heavier load never runs at a higher rate.',
        mend: 'Look at the manual again: columns are easily exchanged.',
      };
    default:
      return exhausted(fault);
  }
}

const TRAIT_WORDS: Partial<
  Record<keyof Machine, readonly [name: string, why: string, mend: string]>
> = {
  maxPerSlot: [
    'Maximum per slot',
    'A larger module than the slot takes is money lost.',
    'Look in the manual.',
  ],
  maxTotal: [
    'Maximum total',
    'Two modules that fit alone may be too much together.',
    'Look in the manual.',
  ],
  requiredFirstSlot: [
    'Slot that must be filled first',
    'With it empty some boards do not start.',
    'Look in the manual, or at the board beside the slots.',
  ],
  nonBinary: [
    '12, 24, 48 GB modules',
    'Older firmware does not start with them.',
    'Look for the firmware’s release notes, or test one.',
  ],
  controllerLimit: [
    'Controller limit',
    'A faster kit than it takes is money for nothing.',
    'Look up the processor.',
  ],
  unevenChannels: [
    'Uneven channels',
    'Whether the whole set falls to one channel, or only the tail.',
    'An address map from the firmware tells, or one measurement with uneven channels.',
  ],
  fillOrder: [
    'Fill order',
    'The wrong pair of slots costs a channel or the rate.',
    'Look in the manual, or at the board.',
  ],
  ecc: [
    'ECC modules',
    'Whether they work, run without ECC, or stop the machine.',
    'Look in the manual.',
  ],
  firmwareCap: [
    'Firmware cap',
    'Some firmware holds the rate below the controller’s.',
    'Look at the firmware screen with a fast module in.',
  ],
  profiles: [
    'Overclock profiles',
    'A kit sold by its profile runs at its standard bin without.',
    'Look at the firmware screen.',
  ],
  rateTable: [
    'Rate table',
    'With two modules in a channel the rate usually falls.',
    'Look in the manual for rates by modules and ranks.',
  ],
  maxRanksPerChannel: [
    'Maximum ranks per channel',
    'Some controllers stop at four.',
    'Look in the manual.',
  ],
  maxRanksPerModule: ['Maximum ranks per module', 'Few machines limit it.', 'Look in the manual.'],
  sync: [
    'Synchronous up to',
    'Above this rate the controller halves its clock.',
    'Look up the processor.',
  ],
  maximaFrom: [
    'Where the maxima come from',
    'A firmware’s claim can be below what works, a guess above it.',
    'Say whether the manual states them or you tested them.',
  ],
  access: [
    'Cover and battery',
    'Hidden screws and a live battery cost time, or a board.',
    'Note them when you open one; the next technician knows.',
  ],
  verifiedParts: [
    'Verified parts',
    'Strict and balanced schools ask for the maker’s list.',
    'Look for the maker’s list of modules.',
  ],
};

/** A trait nobody has established: what hangs on it, and where to find it. */
export function explainUnknownTrait({ trait }: UnknownTrait): Explanation {
  const [title = trait, why = 'It is not known.', mend = 'Look in the manual.'] =
    TRAIT_WORDS[trait] ?? [];
  return { title, why, mend };
}
