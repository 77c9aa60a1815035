import { exhausted } from '../units/index.ts';
import type {
  Action,
  Cause,
  CauseKind,
  Contradiction,
  ErrorTableFault,
  Model,
  Narrowing,
  Symptom,
  Trait,
} from '../diagnosing/index.ts';
import { SHAPED } from '../diagnosing/index.ts';
import { checkText, outcomeText } from './checks.ts';
import { count, list } from './words.ts';
import type { Explanation, NameOf } from './words.ts';

/** How a symptom is put to a technician. */
export const SYMPTOM_WORDS: Readonly<Record<Symptom, string>> = {
  'does not start': 'Does not start, no picture',
  'starts over and over': 'Starts over and over',
  'less memory than fitted': 'Shows less memory than is fitted',
  'much is reserved': 'Shows all of it, but much is reserved',
  'one channel wide': 'Measures single-channel',
  'another rate': 'Runs at another rate than planned',
  'errors in a test': 'Errors in a memory test',
  'crashes at times': 'Crashes now and then',
};

/** Each cause: its name, what is behind it, what mends it. */
const CAUSE_WORDS: Readonly<Record<CauseKind, readonly [string, string, string]>> = {
  'not seated': [
    'not fully seated',
    'In but not home is the commonest fault: one end looks in and its contacts do not touch.',
    'Take it out and press it home until both ends hold.',
  ],
  'dirty contacts': [
    'dirty or worn contacts',
    'Dust, film or corrosion between module and slot makes a contact that comes and goes.',
    'Clean the edge with a lint-free cloth and contact cleaner, blow the slot out, seat it again.',
  ],
  'bad module': [
    'a bad module',
    'The fault goes wherever this module goes.',
    'Send it back and plan its replacement.',
  ],
  'dead slot': [
    'a dead slot',
    'Whatever sits in this slot is not seen: a contact, a trace or the controller behind it.',
    'Leave the slot empty and plan around it; a board repair is for those licensed to do it.',
  ],
  'wrong slot': [
    'modules in the wrong slots',
    'Both on one channel, or not where the manual wants this number of modules.',
    'Put them where the plan has them.',
  ],
  'first slot empty': [
    'the first slot is empty',
    'Some boards do not start unless one certain slot is filled.',
    'Move a module into that slot.',
  ],
  'wrong type': [
    'the wrong type of memory',
    'Generation, buffering, ECC or voltage does not suit this machine.',
    'Check the label against the machine and plan anew.',
  ],
  'density not supported': [
    'a chip density the controller does not take',
    'Each module may be sound, but its chips are larger or wider than the controller can address.',
    'Use modules with more, smaller chips, or look for newer firmware.',
  ],
  'training unfinished': [
    'training is not finished',
    'After a change firmware tries out timings for minutes, with a dark screen and restarts.',
    'Leave the power on and wait.',
  ],
  'lead left off': [
    'a lead left off',
    'A power or picture lead was not put back.',
    'Check every lead that was touched.',
  ],
  'stale settings': [
    'settings left from before',
    'Firmware still holds timings of the modules that were in it.',
    'Clear the settings as the manual says; note the start order first.',
  ],
  'firmware outdated': [
    'outdated firmware',
    'Support for newer chips comes with newer firmware.',
    'Update it on mains power, with the machine’s own tool.',
  ],
  'profile off': [
    'the profile is off',
    'Modules run at the standard rate until the overclock profile is chosen in the firmware.',
    'Switch the profile on, if the plan wants it.',
  ],
  'profile unstable': [
    'the profile is not stable here',
    'A profile is what the module was tested for, not this controller, this board and this many modules.',
    'Go back to the standard setting; the promise changes with it.',
  ],
  'mixed timings': [
    'a mixed set that does not agree',
    'Modules of different make share one set of timings, and one of them misses it now and then.',
    'Run one kind only, or plan a matched set.',
  ],
  'slower by design': [
    'slower by rule, not by fault',
    'The number of modules, a limit of the controller or the slowest module sets this rate.',
    'Nothing is broken: the limits ladder shows what would lift it.',
  ],
  'reading mistaken': [
    'a reading taken the wrong way',
    'Some programs show the clock, half the rate, or the figures of one module only.',
    'Read it again in another place.',
  ],
  'uneven channels': [
    'channels of unequal size',
    'Beyond the smaller channel the rest runs single-channel.',
    'Equal sizes per channel would lift it.',
  ],
  'system limit': [
    'a limit of the operating system',
    'A 32-bit system addresses about 4 GB, and some editions stop at a stated size.',
    'A 64-bit or larger edition would use it.',
  ],
  'start option': [
    'a start option holds memory back',
    'A maximum was set in the system’s start options.',
    'Take the option out and restart.',
  ],
  'graphics share': [
    'built-in graphics takes its share',
    'Graphics without memory of its own reserves a part of the machine’s.',
    'Set a smaller share in the firmware where the work allows.',
  ],
  heat: [
    'heat',
    'Errors come with warmth: dust, a stopped fan, a module against a hot part.',
    'Clean, check fans and airflow, test again warm.',
  ],
  'not the memory': [
    'something other than the memory',
    'Supply, drive, graphics or a program can look the same.',
    'Look into those next.',
  ],
};

/** `a bad module in A2`. */
export function causeText({ kind, slotId }: Cause, nameOf: NameOf): string {
  const [name] = CAUSE_WORDS[kind];
  if (slotId === undefined) return name;
  return kind === 'dead slot'
    ? `${name}: ${nameOf(slotId)}`
    : kind === 'not seated'
      ? `${nameOf(slotId)} ${name}`
      : `${name} in ${nameOf(slotId)}`;
}

const TRAIT_WORDS: Readonly<Record<Trait, string>> = {
  'nothing moved': 'it has not been opened',
  'just fitted': 'modules were just moved',
  'mixed set': 'the set is mixed',
  'same part bought apart': 'the modules are one part, bought apart',
  'profile in use': 'a profile is in use',
  'profile planned': 'the plan wants a profile',
  'no profile in play': 'no profile is in play',
  'first slot empty': 'the slot that must be filled first is empty',
  'first slot filled': 'the slot that must be filled first is filled',
  'not where planned': 'modules are on record elsewhere than planned',
  'where planned': 'modules are on record where planned',
  'refused by the rules': 'the rules refuse what is fitted',
  'unknown limits': 'the machine’s limits are not known',
  uneven: 'the channels are unequal',
  even: 'the channels are equal',
  'not fit to pair': 'modules could pair and do not',
  'system limit reached': 'more is fitted than the system takes',
  'no system limit': 'the system takes all of it',
  'graphics share': 'graphics shares the memory',
  'no graphics share': 'graphics has memory of its own',
  'slower than its label': 'a module runs below its label',
  'at its label': 'modules run at their label',
  'long training': 'this generation trains for minutes',
  'three or more modules': 'three or more modules are fitted',
};

/** Why a cause is likelier or less likely here than elsewhere. */
export function explainCause(cause: Cause, traits: readonly Trait[], nameOf: NameOf): Explanation {
  const [, why, mend] = CAUSE_WORDS[cause.kind];
  const shaped = SHAPED.filter((one) => one.cause === cause.kind && traits.includes(one.trait));
  const of = (more: boolean) =>
    shaped
      .filter(({ times }) => (more ? times > 1 : times < 1))
      .map(({ trait }) => TRAIT_WORDS[trait]);
  const raised = of(true).length > 0 ? ` Likelier here: ${list(of(true))}.` : '';
  const lowered = of(false).length > 0 ? ` Less likely here: ${list(of(false))}.` : '';
  return { title: sentence(causeText(cause, nameOf)), why: `${why}${raised}${lowered}`, mend };
}

const sentence = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

/** Causes the situation rules out, and by what. */
export function ruledOutText({ traits }: Model): string[] {
  return SHAPED.filter(({ times, trait }) => times === 0 && traits.includes(trait)).map(
    ({ cause, trait }) => `${CAUSE_WORDS[cause][0]}: ${TRAIT_WORDS[trait]}`,
  );
}

/** Observations that do not go together. */
export function explainContradictoryChecks(
  { recheck, against, chance }: Contradiction,
  model: Model,
  nameOf: NameOf,
): Explanation {
  const told = ({ checkId, outcome }: Contradiction['recheck']) => {
    const check = model.checks.find(({ id }) => id === checkId);
    return check ? `“${checkText(check, nameOf)}: ${outcomeText(check, outcome, nameOf)}”` : '';
  };
  return {
    title: 'Two answers hardly go together',
    why: `${told(recheck)} is expected in only ${percent(chance)} of cases after ${list(against.map(told))}.`,
    mend: `Make ${told(recheck)} once more, or take it back.`,
  };
}

/** `<1 %`, `34 %`. */
export const percent = (share: number): string =>
  share > 0 && share < 0.01
    ? '<1 %'
    : share < 1 && share > 0.99
      ? '>99 %'
      : `${Math.round(share * 100)} %`;

/** What a found cause calls for. */
export function explainAction(action: Action, nameOf: NameOf): Explanation {
  switch (action.type) {
    case 'reseat':
      return {
        title: `Reseat ${list(action.slotIds.map(nameOf))}`,
        why: 'A sheet for taking it out, cleaning and pressing it home is made; then the checks run again.',
      };
    case 'move':
      return {
        title: 'Put the modules where the plan has them',
        why: 'The fit sheet is made from where they sit now.',
      };
    case 'return':
      return {
        title: `Send the module in ${nameOf(action.slotId)} back`,
        why: 'It goes on the list of returns, and plans no longer count on it.',
      };
    case 'leave slot':
      return {
        title: `Leave ${nameOf(action.slotId)} empty`,
        why: 'Plans are searched without this slot.',
      };
    case 'standard setting':
      return {
        title: 'Plan the standard setting',
        why: 'The promise is computed again for the standard rate; tell the customer.',
      };
    case 'profile on':
      return { title: 'Switch the profile on', why: 'It is planned and off.' };
    case 'plan anew':
      return { title: 'Choose other modules', why: 'These do not work together in this machine.' };
    case 'by hand':
      return {
        title: 'Mend it by hand',
        why: 'Modules and plan stay as they are; take the readings again afterwards.',
      };
    case 'nothing':
      return {
        title: 'Nothing is broken',
        why: 'It runs as the rules say. Read it again, and say so to the customer.',
      };
    default:
      return exhausted(action);
  }
}

/**
 * How much of the doubt a check is expected to end, aloud.
 *
 * @param bits - expected information: 1 bit leaves half as many causes that are equally likely
 */
export const rulesOutText = (bits: number): string =>
  `rules out about ${Math.max(5, 5 * Math.round(20 * (1 - 2 ** -bits)))} %`;

/** What failing addresses say. */
export function explainNarrowing({ verdict, beyond, bit }: Narrowing, nameOf: NameOf): Explanation {
  const more = [
    ...(bit === undefined ? [] : [`Nearly all are in data bit ${bit}: one chip or one contact.`]),
    ...(beyond > 0
      ? [
          `${count(beyond, 'address')} above all memory fitted were left out.`.replace(
            'addresss',
            'addresses',
          ),
        ]
      : []),
    'Some controllers shuffle addresses: confirm by moving the module.',
  ].join(' ');
  switch (verdict.type) {
    case 'one module':
      return { title: `The errors point at ${nameOf(verdict.slotId)}`, why: more };
    case 'one of':
      return { title: `The errors point at ${list(verdict.slotIds.map(nameOf), 'or')}`, why: more };
    case 'all over':
      return {
        title: 'The errors are all over',
        why: `No one module explains them; a setting, heat or a mixed set may. ${more}`,
      };
    case 'map unknown':
      return {
        title: 'The addresses cannot be told apart',
        why: `This memory runs side by side, and how the controller spreads addresses is not known. ${more}`,
        mend: 'State the interleave, or test modules one at a time.',
      };
    case 'no errors':
      return { title: 'No errors', why: 'The table holds no failing address.' };
    default:
      return exhausted(verdict);
  }
}

/** What is wrong with a row of errors. */
export function explainErrorTableFault(fault: ErrorTableFault): Explanation {
  return fault.type === 'no address column'
    ? {
        title: 'There is no address column',
        why: 'The first row must name the columns.',
        mend: 'Name one of them “address”.',
      }
    : {
        title: `Row ${fault.row}: “${fault.text}” is no address`,
        why: 'An address is a hexadecimal or decimal number of bytes.',
        mend: 'Correct the row, or leave it out.',
      };
}
