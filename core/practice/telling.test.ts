import { describe, expect, test } from 'vitest';
import { SHIPPED, shipped } from '../../test/support/exercises.ts';
import { chancesAfter } from '../diagnosing/index.ts';
import { Telling, act, bandwidthOf, beginWorld, bitsTold, measuredOn, sitting } from './index.ts';
import type { Action, Exercise } from './index.ts';

const OPEN: readonly Action[] = [
  { type: 'lead', to: 'out' },
  { type: 'hold power' },
  { type: 'strap', to: 'on' },
  { type: 'open', tool: 'plastic' },
];
const UP: readonly Action[] = [
  { type: 'switch', to: 'on' },
  { type: 'wait', minutes: 30 },
];

/** What the last of some acts answers, as a check of fault-finding. */
function told(exercise: Exercise, actions: readonly Action[]) {
  const telling = Telling.of(exercise);
  if (!telling) throw new Error('expected something wrong');
  let world = beginWorld(exercise);
  let last = act(world, { type: 'look' });
  for (const action of actions) {
    last = act(world, action);
    ({ world } = last);
  }
  const result = last.seen.type === 'measured' ? measuredOn(world) : undefined;
  return telling.observe(last.seen, sitting(world), result && bandwidthOf(result))?.outcome;
}

test('where nothing is wrong there is nothing to tell', () => {
  for (const exercise of SHIPPED)
    expect(Telling.of(exercise) === undefined).toBe(exercise.symptom === undefined);
});

describe('what an act answers', () => {
  test.each<[string, string, readonly Action[], string]>([
    [
      'one missing on the firmware’s page',
      'ticket-window',
      [...UP, { type: 'firmware screen' }],
      'b2',
    ],
    [
      'a share kept back',
      'missing-two',
      [...UP, { type: 'firmware screen' }],
      'a large share is reserved',
    ],
    ['half the figure', 'half-speed', [...UP, { type: 'firmware screen' }], 'half the figure'],
    ['a profile that is off', 'purser', [...UP, { type: 'firmware screen' }], 'lower, profile off'],
    ['a 32-bit system', 'radio-log', [...UP, { type: 'system page' }], '32-bit or limited'],
    [
      'a start option',
      'someones-option',
      [...UP, { type: 'system page' }],
      'a start option limits it',
    ],
    ['a module that stands up', 'ticket-window', [...OPEN, { type: 'look' }], 'b2'],
    ['a lead that is off', 'after-dusting', [...OPEN, { type: 'look' }], 'a lead is off'],
    ['modules elsewhere', 'two-blues', [...OPEN, { type: 'look' }], 'other slots than planned'],
    ['the first slot empty', 'mail-room', [...OPEN, { type: 'look' }], 'other slots than planned'],
    ['one channel’s worth', 'two-blues', [...UP, { type: 'measure' }], 'one channel’s worth'],
    ['all channels’ worth', 'half-speed', [...UP, { type: 'measure' }], 'as promised'],
    ['warmth', 'engine-room', [...UP, { type: 'read log' }], 'far too warm'],
    ['the drive', 'night-watch', [...UP, { type: 'read log' }], 'drive or program'],
    ['errors in a slot', 'wrong-one', [...UP, { type: 'memory test' }], 'b2'],
    ['errors all over', 'friday-crash', [...UP, { type: 'memory test' }], 'all over'],
    [
      'newer firmware',
      'only-half-shown',
      [...UP, { type: 'firmware notes' }],
      'a newer one names memory',
    ],
  ])('%s', (_title, id, actions, outcome) => {
    expect(told(shipped(id), actions)).toBe(outcome);
  });

  test.each<[string, Action]>([
    ['ticket-window', { type: 'ask', about: 'work' }],
    ['ticket-window', { type: 'lead', to: 'out' }],
    ['ticket-window', { type: 'read sticker', pieceId: 'm9' }],
  ])('%s: nothing by %o', (id, action) => expect(told(shipped(id), [action])).toBeUndefined());
});

test('bits told are never negative, and lead to what is so', () => {
  for (const exercise of SHIPPED) {
    const telling = Telling.of(exercise);
    if (!telling) continue;
    const { model } = telling;
    for (const check of model.checks)
      for (const outcome of check.outcomes) {
        const bits = bitsTold(model, [], { checkId: check.id, outcome });
        expect(bits).toBeGreaterThanOrEqual(-1e-9);
      }
    expect(bitsTold(model, [], { checkId: 'no such check', outcome: 'x' })).toBe(0);
    expect(chancesAfter(model, []).reduce((sum, one) => sum + one, 0)).toBeCloseTo(1, 9);
  }
});
