import { describe, expect, test } from 'vitest';
import { SHIPPED, shipped } from '../../test/support/exercises.ts';
import {
  CANNOT,
  QUESTIONS,
  RULES,
  UNSAFE,
  act,
  beginWorld,
  goalLines,
  playPar,
} from '../practice/index.ts';
import type { Action, GoalLine, Seen } from '../practice/index.ts';
import {
  CANNOT_WORDS,
  FINDINGS,
  QUESTION_WORDS,
  RULE_WORDS,
  actionText,
  debriefSentence,
  explainRule,
  explainUnsafe,
  findingText,
  goalText,
  machineStatusText,
  seenText,
  slotNames,
} from './index.ts';

const names = (id: string | undefined) => `module ${id}`;
const isSentence = /^[“A-Z0-9].*[.?!”]$/s;

test('every rule has a title and a reason; every unsafe act what makes it safe', () => {
  for (const rule of RULES) {
    const { title, why } = explainRule(rule);
    expect(title).toMatch(/^[A-Z0-9]/);
    expect(why).toMatch(isSentence);
    expect(why.length).toBeGreaterThan(40);
  }
  expect(new Set(RULES.map((rule) => RULE_WORDS[rule][0])).size).toBe(RULES.length);
  for (const unsafe of UNSAFE) {
    const { why, mend } = explainUnsafe(unsafe);
    expect(why).toMatch(isSentence);
    expect(mend).toMatch(isSentence);
  }
});

test('what cannot be done, what is asked and what was found have words each', () => {
  for (const why of CANNOT) expect(CANNOT_WORDS[why]).toMatch(isSentence);
  for (const about of QUESTIONS) expect(QUESTION_WORDS[about]).toMatch(/\?$/);
  const found = FINDINGS.map((one) => findingText(one));
  expect(new Set(found).size).toBe(FINDINGS.length);
  expect([findingText(undefined), findingText('nothing')]).toEqual(['no fault', 'no fault']);
});

test('every act of our own ways and what came of it reads as a line of a log', () => {
  const told = new Set<string>();
  for (const exercise of SHIPPED) {
    const nameOf = slotNames(exercise.machine);
    let world = beginWorld(exercise);
    for (const action of playPar(exercise).actions) {
      const outcome = act(world, action);
      ({ world } = outcome);
      const line = actionText(action, nameOf, names);
      const seen = seenText(outcome.seen, nameOf, names);
      expect(line).toMatch(/^[A-Z]/);
      expect(seen).toMatch(isSentence);
      expect(line + seen).not.toMatch(/undefined|NaN|\[object/);
      told.add(action.type);
    }
  }
  expect(told.size).toBeGreaterThan(18);
});

describe('words of what is seen', () => {
  const nameOf = slotNames(shipped('ticket-window').machine);
  const say = (seen: Seen) => seenText(seen, nameOf, names);

  test.each<[Seen, RegExp]>([
    [{ type: 'does not go in', because: 'key' }, /another kind/],
    [{ type: 'does not go in', because: 'turned' }, /Turn it round/],
    [{ type: 'broke', pieceId: 'm2' }, /crack: module m2 is broken/],
    [{ type: 'stopped' }, /before it did harm/],
    [{ type: 'answer', about: 'work', text: undefined }, /“I do not know.”/],
    [{ type: 'test', errors: 'none' }, /passed/],
    [{ type: 'test', errors: { slotId: 'b2' } }, /all within B2/],
    [
      { type: 'system', installed: 8, usable: 3.25, limitedBy: 'system' },
      /3.25 GB to use; a 32-bit/,
    ],
    [
      { type: 'system', installed: 16, usable: 8, limitedBy: 'start option' },
      /start option limits/,
    ],
    [{ type: 'notes', namesMemory: false }, /Nothing newer/],
    [{ type: 'log', says: 'far too warm' }, /too hot to touch/],
    [{ type: 'status', status: { type: 'dark', signal: 'memory' } }, /signals: memory/],
  ])('%o', (seen, words) => expect(say(seen)).toMatch(words));

  test('of a look: what is high, what is off, what is dusty, or that all is level', () => {
    const slot = (slotId: string, isHome: boolean) => ({ slotId, pieceId: 'm1', isHome });
    const looked = { type: 'looked', leadOff: false, dusty: false } as const;
    expect(say({ ...looked, slots: [slot('a2', true)] })).toBe('Every module sits level.');
    const all = {
      ...looked,
      leadOff: true,
      dusty: true,
      slots: [slot('a2', false), slot('b2', false)],
    };
    expect(say(all)).toBe(
      'A2 and B2: not level, one side stands up, a lead inside is off and heatsink and fan are full of dust.',
    );
  });

  test('a machine that is dark says less than one that trains', () => {
    expect(machineStatusText({ type: 'training', left: 2 })).not.toMatch(/train/i);
    expect(machineStatusText({ type: 'restarting' })).toMatch(/starts over/);
  });
});

test('a line of a goal says what is wanted and how it stands', () => {
  const exercise = shipped('gangway-laptop');
  const said = goalLines(beginWorld(exercise)).map(goalText);
  expect(said).toEqual([
    'it starts, with a picture',
    '16 GB to use (it has 8 GB)',
    'all of it paired (0 GB is)',
    '30.00 at most (0.00 spent)',
    'closed, with everything back in it',
    'nothing unsafe done',
  ]);
  const rate: GoalLine = { what: 'rate', holds: false, wanted: 2933, is: 2133 };
  expect(goalText(rate)).toBe('2933 MT/s (it runs at 2133)');
});

describe('the debrief in one sentence', () => {
  const walk = { solved: true, unsafe: 0, minutes: 30, parMinutes: 25, missed: [] };
  const missed: GoalLine[] = [{ what: 'tested', holds: false, wanted: true, is: false }];

  test.each<[object, RegExp]>([
    [{}, /^Solved, 5 min over our own way’s 25\.$/],
    [{ minutes: 25.5 }, /^Solved in 25\.5 min, as quick as our own way\.$/],
    [{ minutes: 12 }, /as quick as/],
    [{ solved: false, missed }, /^Not solved yet: a memory test passed/],
    [{ unsafe: 1 }, /^1 act would have hurt/],
    [{ unsafe: 2, solved: false, missed }, /^2 acts would have hurt/],
    [{ solved: false }, /^Not handed over/],
  ])('%o', (more, words) => expect(debriefSentence({ ...walk, ...more })).toMatch(words));
});

test('forcing, turning and pressing one side stand in the log as what they are', () => {
  const nameOf = (id: string | undefined) => (id ?? '').toUpperCase();
  const seat: Action = { type: 'seat', pieceId: 'm1', slotId: 'a1', way: 'right', pressed: 'both' };
  const text = (more: object) => actionText({ ...seat, ...more }, nameOf, names);
  expect(text({})).toBe('Put module m1 into A1, both sides pressed home');
  expect(text({ pressed: 'one' })).toBe('Put module m1 into A1, one side pressed');
  expect(text({ way: 'turned' })).toMatch(/turned round/);
  expect(text({ force: true })).toMatch(/^Forced/);
});
