import type { Action, Cannot, GoalLine, Question, RuleId, Unsafe } from '../practice/index.ts';
import { CAUSES } from '../diagnosing/index.ts';
import type { CauseKind } from '../diagnosing/index.ts';
import { causeText } from './diagnosing.ts';
import { count, figure, gb } from './words.ts';
import type { Explanation, NameOf } from './words.ts';

type Words = readonly [title: string, why: string];

/** What an exercise can teach, and the rule behind it. */
export const RULE_WORDS: Readonly<Record<RuleId, Words>> = {
  'generation key': [
    'Generations never mix',
    'Each generation has its key at another place. What does not slide in by itself is the wrong kind; forcing it destroys module or board.',
  ],
  'first slot': [
    'A slot may have to be filled first',
    'Some boards start only with one certain slot filled. The manual names it.',
  ],
  colours: [
    'Colours decide nothing',
    'On some boards one colour means “fill these together”, on others “same channel”. Manual before printed names before colours.',
  ],
  names: [
    'The manual before the names',
    'Numbers on a board count slots, not channels. The manual says which two make a pair.',
  ],
  'half clock': [
    'Half the figure is the clock',
    'Two transfers a clock: 1600 MHz on a screen is 3200 MT/s. Half the rated figure is not half the speed.',
  ],
  'profile off': [
    'A fast kit starts at its standard rate',
    'The rate on the sticker of an overclock kit is a profile. Until it is switched on, the kit runs at its standard rate.',
  ],
  'one channel': [
    'Two modules belong on two channels',
    'Side by side in one channel they give capacity and half the bandwidth.',
  ],
  'three modules': [
    'Three modules in two channels',
    'What one channel has more of runs single-channel; some boards then run all of it so. Even channels first.',
  ],
  tail: [
    'Only the paired zone is fast',
    'Memory is paired as far as the smaller channel reaches. Work that goes beyond it runs in the tail.',
  ],
  'soldered and slot': [
    'Soldered memory is one half of the pair',
    'A module as large as what is soldered pairs all of it; a larger one leaves a tail, a smaller one wastes the board’s.',
  ],
  'non-binary': [
    'Not every machine takes 24 GB',
    'Sizes that are no power of two need a controller that counts that way. Where the manual says no, it is no.',
  ],
  'low voltage': [
    '1.35 V only',
    'A machine that feeds 1.35 V alone refuses modules that need 1.5 V, though they fit its slot.',
  ],
  'mixed timings': [
    'Unlike modules may agree on paper only',
    'Same size and rate on two labels do not make one pair. Crashes that come with a second make go with one make.',
  ],
  'wide chips': [
    '16-bit chips have half the bank groups',
    'Same label, measurably slower where memory matters. The organisation – 1Rx16 – is on the sticker.',
  ],
  'machine cap': [
    'The machine sets the rate',
    'A faster module runs at the machine’s rate. What is paid for more is paid for nothing.',
  ],
  'four modules': [
    'Four modules may run slower than two',
    'Two to a channel is more load; the maker’s table steps the rate down. Two larger ones keep it.',
  ],
  'system limit': [
    'A 32-bit system ends at 4 GB',
    'Its addresses are shared with devices; three and a bit is what is left. No module mends that.',
  ],
  'graphics share': [
    'Built-in graphics takes its share',
    'What it takes from memory is missing from the system, and is no fault.',
  ],
  training: [
    'The first start takes its time',
    'After a change firmware trains memory for minutes, with a dark screen. Cutting the power starts it anew.',
  ],
  seating: [
    'In is not seated',
    'The commonest fault of all. Both ends down, contacts level; look along the slots before closing.',
  ],
  contacts: [
    'Contacts get dirty',
    'Film and corrosion come and go. Clean the edge, seat it again, and see before anything is bought.',
  ],
  'dead slot': [
    'A slot can be dead',
    'What stays with the slot when modules change places is the slot’s. Plan around it.',
  ],
  'bad module': [
    'What goes with the module is the module',
    'Change places, and see whether the errors move along. One goes back, not both.',
  ],
  leads: [
    'Look for what was left off',
    'After hands were in it, a lead left off is likelier than anything that died.',
  ],
  heat: [
    'Warm crashes are not bad memory',
    'Dust and heat crash a machine with sound memory. A look, a hand, the log – before any part.',
  ],
  'not the memory': [
    'It is not always the memory',
    'A long test without an error and a log that names drive or supply: look there.',
  ],
  'phantom slot': [
    'Tables list slots that do not exist',
    'A firmware’s table is written for a family of boards. Eyes win, and the record keeps both.',
  ],
  'old firmware': [
    'Large modules may need newer firmware',
    'What is sound and not seen may wait for an update that names it.',
  ],
  'start option': [
    'A system can be told to use less',
    'An option set once and forgotten leaves memory alone. Look there before the screws.',
  ],
  screws: [
    'Each screw has its hole',
    'Lengths differ; some hide under feet and labels. Screw and cable go back the way they came.',
  ],
};

/** What was unsafe, why it was stopped, and what makes it safe. */
const UNSAFE_WORDS: Readonly<Record<Unsafe, readonly [string, string, string]>> = {
  'opened under power': [
    'Opened under power',
    'With the lead in or the machine on, live parts lie behind the cover.',
    'Shut down, pull the lead, hold the power button five seconds; then open.',
  ],
  'touched under power': [
    'Touched under power',
    'A module pulled or pressed while anything feeds the board can kill both.',
    'Lead out, pack disconnected, power button held five seconds, and only then hands in.',
  ],
  'no strap': [
    'No wrist strap',
    'What you do not feel can kill a module, now or in a month.',
    'Wear a wrist strap, or touch bare chassis metal and stay in touch; never on carpet.',
  ],
  'metal at the pack': [
    'Metal beside a lithium pack',
    'A slip pierces the pack or shorts the board; a pierced pack burns.',
    'Pry with plastic. A swollen pack is not pried at all: stop, and hand it over by the local rules.',
  ],
  'forced key': [
    'Forced over its key',
    'The key keeps the wrong kind, and the wrong way round, out. Force breaks module or slot.',
    'Read the label, turn it so that the notch meets the key, and never push harder.',
  ],
};

/** An unsafe act with its reason and what makes it safe. */
export function explainUnsafe(unsafe: Unsafe): Explanation {
  const [title, why, mend] = UNSAFE_WORDS[unsafe];
  return { title, why, mend };
}

/** A rule an exercise teaches. */
export function explainRule(rule: RuleId): Explanation {
  const [title, why] = RULE_WORDS[rule];
  return { title, why };
}

/** Why something cannot be done now. */
export const CANNOT_WORDS: Readonly<Record<Cannot, string>> = {
  'it is over': 'It is handed over. Start again to try another way.',
  'cover is on': 'The cover is on. Open the machine first.',
  'cover is off': 'The cover is off.',
  'already so': 'It is so already.',
  'no such slot': 'There is no such slot.',
  'slot is taken': 'The slot is taken. Pull its module first.',
  'slot is empty': 'The slot is empty.',
  'no such piece': 'There is no such module.',
  'piece is in a slot': 'It sits in a slot. Pull it first.',
  'piece is broken': 'It is broken.',
  'no battery inside': 'There is no battery in it.',
  'machine is off': 'The machine is off. Switch it on first.',
  'machine is on': 'Shut it down and pull the lead first.',
  'no power': 'Nothing happens: it has no power. Put the lead in.',
  'no picture': 'There is no picture to read from.',
  'no system': 'No system is running.',
  'no profile here':
    'The firmware offers no profile: a module without one is fitted, or the board has none.',
  'nothing to lift': 'No option limits it.',
  'not sold': 'Nobody sells that.',
  'work is not done': 'The work is not done.',
};

/** What a customer can be asked, as one asks it. */
export const QUESTION_WORDS: Readonly<Record<Question, string>> = {
  work: 'What do you do with it?',
  lately: 'What was done to it lately?',
  budget: 'What may it cost?',
  system: 'Which system runs on it?',
};

/** An act in a few words, as a log has it. */
export function actionText(action: Action, nameOf: NameOf, pieceName: NameOf): string {
  switch (action.type) {
    case 'ask':
      return `Asked: ${QUESTION_WORDS[action.about]}`;
    case 'look':
      return 'Looked it over';
    case 'read sticker':
      return `Read the sticker of ${pieceName(action.pieceId)}`;
    case 'read tables':
      return 'Read the firmware’s table';
    case 'lead':
      return action.to === 'in' ? 'Put the lead in' : 'Pulled the lead';
    case 'hold power':
      return 'Held the power button five seconds';
    case 'strap':
      return action.to === 'on' ? 'Wore a wrist strap' : 'Took the wrist strap off';
    case 'open':
      return `Opened it, prying with ${action.tool}`;
    case 'close':
      return 'Closed it, every screw back';
    case 'battery':
      return action.to === 'on' ? 'Connected the battery' : 'Disconnected the battery';
    case 'pull':
      return `Pulled the module in ${nameOf(action.slotId)}`;
    case 'seat':
      return `${action.force ? 'Forced' : 'Put'} ${pieceName(action.pieceId)} into ${nameOf(action.slotId)}${action.way === 'turned' ? ', turned round' : ''}${action.pressed === 'both' ? ', both sides pressed home' : ', one side pressed'}`;
    case 'press home':
      return `Pressed the module in ${nameOf(action.slotId)} home`;
    case 'clean':
      return `Cleaned the contacts of ${pieceName(action.pieceId)}`;
    case 'put leads on':
      return 'Put every lead inside on';
    case 'switch':
      return action.to === 'on' ? 'Switched it on' : 'Shut it down';
    case 'wait':
      return `Waited ${figure(action.minutes)} min`;
    case 'firmware screen':
      return 'Read the firmware screen';
    case 'set':
      return action.setting === 'profile' ? 'Switched the profile on' : 'Set it to standard';
    case 'clear settings':
      return 'Cleared the firmware’s settings';
    case 'firmware notes':
      return 'Read the notes of newer firmware';
    case 'update firmware':
      return 'Updated the firmware';
    case 'system page':
      return 'Read the system’s page';
    case 'lift start option':
      return 'Lifted the start option';
    case 'read log':
      return 'Read the log, felt for warmth';
    case 'measure':
      return 'Ran the measuring page';
    case 'memory test':
      return 'Ran a memory test';
    case 'other supply or drive':
      return 'Put another supply and drive in';
    case 'clear dust':
      return 'Cleared the dust, greased the heatsink';
    case 'order':
      return 'Ordered a part';
    case 'hand over':
      return 'Handed it over';
  }
}

/** What a line of a goal wants, and how it stands. */
export function goalText({ what, wanted, is }: GoalLine): string {
  const wants = typeof wanted === 'number' ? wanted : 0;
  const stands = typeof is === 'number' ? is : 0;
  switch (what) {
    case 'runs':
      return 'it starts, with a picture';
    case 'usable':
      return `${gb(wants)} to use (it has ${gb(stands)})`;
    case 'rate':
      return `${Math.round(wants)} MT/s (it runs at ${Math.round(stands)})`;
    case 'paired':
      return wanted === 'all'
        ? `all of it paired (${gb(stands)} is)`
        : `${gb(wants)} paired (${gb(stands)} is)`;
    case 'narrowChips':
      return 'no module of 16-bit chips';
    case 'tested':
      return 'a memory test passed as it is now';
    case 'measured':
      return 'the measuring page run as it is now';
    case 'budget':
      return `${coins(wants)} at most (${coins(stands)} spent)`;
    case 'finding':
      return 'the right cause named';
    case 'closed':
      return 'closed, with everything back in it';
    case 'safe':
      return 'nothing unsafe done';
  }
}

/** Amounts of the simulated world; it has no currency. */
export const coins = (amount: number): string => (amount / 100).toFixed(2);

/** Causes one can name at the hand-over. */
export const FINDINGS = Object.keys(CAUSES) as CauseKind[];

/** What was named at the hand-over. */
export function findingText(finding: CauseKind | 'nothing' | undefined): string {
  if (finding === undefined || finding === 'nothing') return 'no fault';
  return causeText({ id: finding, kind: finding }, () => '');
}

/** The debrief in one sentence. */
export function debriefSentence(walk: {
  readonly solved: boolean;
  readonly unsafe: number;
  readonly minutes: number;
  readonly parMinutes: number;
  readonly missed: readonly GoalLine[];
}): string {
  const { solved, unsafe, minutes, parMinutes, missed } = walk;
  if (unsafe > 0)
    return `${count(unsafe, 'act')} would have hurt somebody or something: that comes before everything else.`;
  const [first] = missed;
  if (!solved) return first ? `Not solved yet: ${goalText(first)} is wanted.` : 'Not handed over.';
  const extra = minutes - parMinutes;
  if (extra <= 1) return `Solved in ${figure(minutes)} min, as quick as our own way.`;
  return `Solved, ${figure(extra)} min over our own way’s ${figure(parMinutes)}.`;
}
