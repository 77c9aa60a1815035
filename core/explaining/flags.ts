import type { Flag, PartPlace } from '../operating-point/index.ts';
import { exhausted } from '../units/index.ts';
import { count, gb, list, places } from './words.ts';
import type { Explanation, NameOf } from './words.ts';

const TRAIT_WORDS = {
  controllerLimit: 'controller limit',
  firmwareCap: 'firmware cap',
  requiredFirstSlot: 'slot that must be filled first',
  profiles: 'support for overclock profiles',
  maxPerSlot: 'maximum per slot',
  maxTotal: 'maximum total',
} as const;

/** A caution or note on a running placement, in words. */
export function explainFlag(flag: Flag, nameOf: NameOf): Explanation {
  const placed = (ids: readonly PartPlace[]) => places(ids, nameOf);
  switch (flag.type) {
    case 'uneven-channels':
      return explainUneven(flag);
    case 'one-channel-needless':
      return {
        title: 'All modules share one channel',
        why: 'They take turns on one bus, so half the bandwidth or more is left unused.',
        mend: `Move ${list(flag.moves.map(({ from, to }) => `the module in ${nameOf(from)} to ${nameOf(to)}`))}.`,
      };
    case 'cl-raised':
      return {
        title: `CL ${flag.runs} instead of CL ${flag.needed}`,
        why: `By its times the set needs CL ${flag.needed}, but no module list has a CL in common below ${flag.runs}; every reply waits that much longer.`,
        mend: 'Modules whose lists of supported CLs overlap lower down.',
        source: 'JEDEC SPD: supported CAS latencies',
      };
    case 'one-channel':
      return {
        title: `Single-channel: only channel ${flag.channel} holds memory`,
        why: 'No placement of the modules at hand would run wider in this machine.',
        mend: 'A module in another channel would widen it, where there is a slot.',
      };
    case 'rate-unused':
      return {
        title: `${placed(flag.slotIds)} could run at ${flag.rated} MT/s`,
        why: `The set runs at ${flag.runs} MT/s here; the difference is money spent for nothing unless it was cheaper or is kept for later.`,
      };
    case 'profile-available':
      return {
        title: `The overclock profile of ${flag.rate} MT/s is not switched on`,
        why: `Every module carries a profile${flag.support === 'yes' ? ' and the machine takes profiles' : '; whether the machine takes profiles is not known'}.`,
        mend: 'Switch the profile on in the firmware: no parts needed. Test memory afterwards.',
      };
    case 'profile-missing':
      return {
        title: `No overclock profile in ${placed(flag.slotIds)}`,
        why: 'Profiles run only when every module has one; all stay at the standard setting.',
        mend: 'Replace the modules without a profile, or plan the standard setting.',
      };
    case 'profiles-unsupported':
      return {
        title: 'This machine takes no overclock profiles',
        why: 'Its firmware has no such setting; the modules run at their standard bins.',
        mend: 'Plan the standard setting.',
      };
    case 'beyond-stated-limit':
      return {
        title: `${flag.rate} MT/s is beyond what the maker states`,
        why: `The ${flag.rule === 'controller' ? 'controller is stated' : 'rate table gives this load'} to ${flag.limit} MT/s. Profiles often run beyond it, but nobody promises it.`,
        mend: 'Record a memory-test pass, or stay at the standard setting.',
      };
    case 'table-row-missing':
      return {
        title: 'The rate table has no row for this load',
        why: `Channel ${flag.load.channel} holds ${count(flag.load.modules, 'module')} with ${flag.load.ranks} ranks in all; ${flag.used === 'none' ? 'no row limits it' : 'the next higher row was used'}.`,
        mend: "Add the row from the machine's manual.",
      };
    case 'ranks-unknown':
      return {
        title: `Ranks of ${placed(flag.slotIds)} are not known`,
        why: 'Capacity never proves rank. The slowest row that could apply was used.',
        mend: 'Read the label (2Rx8 means two ranks) or count the chips.',
      };
    case 'ecc-off':
      return {
        title: 'ECC is off',
        why: 'ECC works only when every module has it and the machine uses it.',
      };
    case 'ecc-unknown':
      return {
        title: `Does this machine take the ECC module in ${placed(flag.slotIds)}?`,
        why: 'Some machines run ECC modules without ECC, some refuse to start.',
        mend: "Look in the machine's manual and set the ECC trait.",
      };
    case 'non-binary-unknown':
      return {
        title: `Does this machine take the size in ${placed(flag.slotIds)}?`,
        why: '12, 24 and 48 GB modules need a controller and firmware that know them; nobody has said.',
        mend: 'Ask the maker or try one, and set the trait.',
      };
    case 'trait-unknown':
      return {
        title: `The ${TRAIT_WORDS[flag.trait]} is not known`,
        why: 'It is not included in the calculation; the real machine may do less.',
        mend: "Look in the machine's manual and set the trait.",
      };
    case 'fill-order':
      return {
        title: 'The manual fills other slots',
        why: `For this number of modules it names ${placed(flag.expected)}.`,
        mend: `Use ${placed(flag.expected)}.`,
        source: "The machine's manual, then printed names, then colours",
      };
    case 'clock-halved':
      return {
        title: 'The controller halves its clock',
        why: `Above ${flag.limit} MT/s memory and controller${flag.fabric === true ? ' and fabric clock' : ''} no longer run in step; latency rises by roughly a tenth, so a faster kit can be slower in practice.`,
        mend: `Run at ${flag.limit} MT/s or below. A little above it, setting sync by hand often works.`,
      };
    case 'os-limit':
      return {
        title: 'The operating system cannot use it all',
        why: `${gb(flag.installed)} is fitted; this system uses ${gb(flag.limit.low)}${flag.limit.high > flag.limit.low ? ` to ${gb(flag.limit.high)}` : ''}.`,
        mend: 'A 64-bit system would use the rest.',
      };
    case 'assumed':
      return {
        title: `The label of ${placed(flag.slotIds)} does not say all`,
        why: 'The standard rate or timings were taken from the common bin of its generation.',
        mend: 'Enter the full label, or the figures the firmware shows.',
      };
    case 'wide-chips':
      return {
        title: `x16 chips in ${placed(flag.slotIds)}`,
        why: 'They have half the bank groups of x8 chips: the same label speed, measurably slower.',
      };
    default:
      return exhausted(flag);
  }
}

function explainUneven({
  trait,
  paired,
  tail,
}: Extract<Flag, { type: 'uneven-channels' }>): Explanation {
  const title = 'The channels are uneven';
  if (trait === 'zone')
    return {
      title,
      why: `${gb(paired)} runs side by side; the tail of ${gb(tail)} runs single-channel.`,
    };
  if (trait === 'single')
    return {
      title,
      why: 'This machine then runs the whole set single-channel.',
      mend: 'Even the channels out.',
    };
  return {
    title,
    why: `Either ${gb(paired)} runs side by side and ${gb(tail)} narrower, or all of it single-channel; this machine's way is not known, so the worse case is assumed.`,
    mend: 'Measure once with uneven channels and set the trait, or even them out.',
  };
}
