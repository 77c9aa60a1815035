import type { MachineFault } from '../machine/index.ts';
import { exhausted } from '../units/index.ts';
import { gb } from './words.ts';
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
        mend: 'Exchange the two.',
      };
    case 'total-below-slot':
      return {
        title: `${gb(fault.total)} altogether is less than ${gb(fault.slot)} in one slot`,
        why: 'The whole cannot be less than a part.',
        mend: 'Correct one of the two.',
      };
    default:
      return exhausted(fault);
  }
}
