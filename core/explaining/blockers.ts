import { generationTraits } from '../memory/index.ts';
import type { Blocker } from '../operating-point/index.ts';
import { exhausted } from '../units/index.ts';
import { count, gb, list, volts } from './words.ts';
import type { Explanation, NameOf } from './words.ts';

/** A blocker in words. */
export function explainBlocker(blocker: Blocker, nameOf: NameOf): Explanation {
  switch (blocker.type) {
    case 'nothing-fitted':
      return {
        title: 'No memory is fitted',
        why: 'Every slot is empty and nothing is soldered, so the machine cannot start.',
        mend: 'Put a module in a slot.',
      };
    case 'no-such-slot':
      return {
        title: 'A module sits in a slot the machine does not have',
        why: `Slot “${blocker.slotId}” is not in this machine's description.`,
        mend: 'Move the module to a slot of this machine, or add the slot to its description.',
      };
    case 'wrong-generation':
      return {
        title: `${blocker.generation} does not fit ${nameOf(blocker.slotId)}`,
        why: `The machine takes ${list(blocker.accepted, 'or')}. The key notch sits elsewhere: forcing it destroys module or board.`,
        mend: `Fit ${list(blocker.accepted, 'or')}.`,
        source: 'JEDEC module outlines: the key differs in each generation',
      };
    case 'mixed-generations':
      return {
        title: 'Generations are mixed',
        why: `${list(blocker.generations)} stand together; their signals and voltages differ.`,
        mend: 'Keep one generation.',
      };
    case 'wrong-form-factor':
      return {
        title: `A ${blocker.formFactor} module does not fit ${nameOf(blocker.slotId)}`,
        why: `The slots take ${blocker.accepted} modules.`,
        mend: `Fit a ${blocker.accepted} module.`,
      };
    case 'wrong-buffering':
      return {
        title: `A ${blocker.buffering} module does not run in ${nameOf(blocker.slotId)}`,
        why: `The controller drives ${list(blocker.accepted, 'or')} modules only.`,
        mend: `Fit ${list(blocker.accepted, 'or')} modules.`,
      };
    case 'mixed-buffering':
      return {
        title: `${list(blocker.bufferings)} modules never mix`,
        why: 'They load the command lines in different ways, and the controller can drive only one way.',
        mend: 'Keep one kind.',
      };
    case 'voltage':
      return {
        title: `The module in ${nameOf(blocker.slotId)} needs ${volts(blocker.rails)}`,
        why: `The machine feeds ${volts(blocker.machineRails)} only.`,
        mend: `Fit a module made for ${volts(blocker.machineRails)}.`,
      };
    case 'no-shared-voltage':
      return {
        title: 'No voltage suits all modules',
        why: `The machine feeds ${volts(blocker.machineRails)}, and no one of these is shared by every module.`,
        mend: 'Fit modules that share a voltage.',
      };
    case 'ecc-required':
      return {
        title: `The module in ${nameOf(blocker.slotId)} has no ECC`,
        why: 'This machine starts with ECC modules only.',
        mend: 'Fit an ECC module.',
      };
    case 'ecc-refused':
      return {
        title: `The ECC module in ${nameOf(blocker.slotId)} is refused`,
        why: 'This machine does not start with ECC modules.',
        mend: 'Fit a module without ECC.',
      };
    case 'slot-capacity':
      return {
        title: `${gb(blocker.capacity)} is too much for ${nameOf(blocker.slotId)}`,
        why: `The machine takes at most ${gb(blocker.limit)} in a slot.`,
        mend: `Fit ${gb(blocker.limit)} or less.`,
      };
    case 'total-capacity':
      return {
        title: `${gb(blocker.capacity)} is too much in all`,
        why: `The machine takes at most ${gb(blocker.limit)} in total.`,
        mend: `Stay at ${gb(blocker.limit)} or less. A maker's figure may predate larger modules: if it does, correct the machine.`,
      };
    case 'non-binary':
      return {
        title: `${gb(blocker.capacity)} modules do not work here`,
        why: `The controller addresses powers of two only; ${gb(blocker.capacity)} (${nameOf(blocker.slotId)}) is not a power of two.`,
        mend: 'Fit 8, 16 or 32 GB, or look for a firmware update that adds 24 and 48 GB.',
      };
    case 'ranks-per-module':
      return {
        title: `${count(blocker.ranks, 'rank')} are too many in ${nameOf(blocker.slotId)}`,
        why: `The machine takes ${count(blocker.limit, 'rank')} a module.`,
        mend: `Fit a module of ${count(blocker.limit, 'rank')} or fewer.`,
      };
    case 'ranks-per-channel':
      return {
        title: `${count(blocker.ranks, 'rank')} are too many on channel ${blocker.channel}`,
        why: `The controller selects ${count(blocker.limit, 'rank')} a channel.`,
        mend: 'Move a module to another channel, or fit modules of fewer ranks.',
      };
    case 'first-slot-empty':
      return {
        title: `${nameOf(blocker.slotId)} must be filled first`,
        why: 'The machine does not start with modules elsewhere and this slot empty.',
        mend: `Move a module to ${nameOf(blocker.slotId)}.`,
      };
    case 'no-standard-rate': {
      const [lowest] = generationTraits(blocker.generation).standardRates;
      return {
        title: 'No rate is slow enough',
        why: `The limit is ${blocker.limit} MT/s and ${blocker.generation} starts at ${lowest} MT/s.`,
        mend: 'Check the limits of the machine: one is probably a clock in MHz, half the data rate.',
      };
    }
    case 'no-common-cl':
      return {
        title: 'The modules share no CAS latency',
        why: `At no ${blocker.generation} rate is there a CL that every module supports.`,
        mend: 'Fit modules whose lists of supported CLs overlap.',
        source: 'JEDEC SPD: supported CAS latencies',
      };
    default:
      return exhausted(blocker);
  }
}
