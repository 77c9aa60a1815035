import { describe, expect, test } from 'vitest';
import { shipped } from '../../test/support/exercises.ts';
import { CHECKS } from '../diagnosing/index.ts';
import { LONGEST_WAIT, act, beginWorld, minutesOf, statusOf } from './index.ts';
import type { Action, Cannot, Exercise, World } from './index.ts';

const walk = (exercise: Exercise, actions: readonly Action[]): World =>
  actions.reduce((world, action) => act(world, action).world, beginWorld(exercise));

const OUT: Action = { type: 'lead', to: 'out' };
const IN: Action = { type: 'lead', to: 'in' };
const HOLD: Action = { type: 'hold power' };
const STRAP: Action = { type: 'strap', to: 'on' };
const OPEN: Action = { type: 'open', tool: 'plastic' };
const CLOSE: Action = { type: 'close' };
const ON: Action = { type: 'switch', to: 'on' };
const OFF: Action = { type: 'switch', to: 'off' };
const PULL: Action = { type: 'pull', slotId: 'a2' };
const SAFE = [OUT, HOLD, STRAP, OPEN];
const UP = [ON, { type: 'wait', minutes: 10 } as const];
const seat = (pieceId: string, slotId: string): Action => ({
  ...{ type: 'seat', pieceId, slotId, way: 'right', pressed: 'both' },
});

describe('what is not possible now says why, takes no time and changes nothing', () => {
  const desk = shipped('ticket-window');
  const laptop = shipped('gangway-laptop');
  const cases: readonly (readonly [Cannot, Exercise, readonly Action[], Action])[] = [
    ['it is over', desk, [{ type: 'hand over' }], ON],
    ['cover is on', desk, [], { type: 'look' }],
    ['cover is on', desk, [], PULL],
    ['cover is on', desk, [], { type: 'put leads on' }],
    ['cover is on', laptop, [OUT], { type: 'battery', to: 'off' }],
    ['cover is on', desk, [], { type: 'read sticker', pieceId: 'm1' }],
    ['already so', desk, [], IN],
    ['already so', desk, [], OFF],
    ['already so', desk, [], { type: 'strap', to: 'off' }],
    ['already so', desk, SAFE, OPEN],
    ['already so', desk, [], CLOSE],
    ['already so', desk, UP, { type: 'set', setting: 'standard' }],
    ['no such slot', desk, SAFE, { type: 'pull', slotId: 'z9' }],
    ['no such slot', desk, SAFE, seat('m1', 'z9')],
    ['slot is taken', desk, [...SAFE, PULL], seat('m1', 'b2')],
    ['slot is empty', desk, SAFE, { type: 'pull', slotId: 'a1' }],
    ['slot is empty', desk, SAFE, { type: 'press home', slotId: 'a1' }],
    ['no such piece', desk, SAFE, seat('m9', 'a1')],
    ['no such piece', desk, [], { type: 'clean', pieceId: 'm9' }],
    ['no such piece', desk, [], { type: 'read sticker', pieceId: 'm9' }],
    ['piece is in a slot', desk, SAFE, seat('m1', 'a1')],
    ['piece is in a slot', desk, SAFE, { type: 'clean', pieceId: 'm1' }],
    ['no battery inside', desk, SAFE, { type: 'battery', to: 'off' }],
    ['machine is off', desk, [], { type: 'firmware screen' }],
    ['machine is off', desk, [], { type: 'clear settings' }],
    ['machine is on', desk, [], { type: 'other supply or drive' }],
    ['no power', desk, [OUT], ON],
    ['no picture', desk, [ON], { type: 'memory test' }],
    ['no picture', shipped('mail-room'), [ON], { type: 'read log' }],
    ['no profile here', desk, UP, { type: 'set', setting: 'profile' }],
    ['nothing to lift', desk, UP, { type: 'lift start option' }],
    ['not sold', desk, [], { type: 'order', offerId: 'gold' }],
  ];
  test.each(cases)('%s', (why, exercise, before, action) => {
    const world = walk(exercise, before);
    const outcome = act(world, action);
    expect(outcome).toEqual({ world, seen: { type: 'cannot', why }, minutes: 0 });
    expect(outcome.world).toBe(world);
  });
});

describe('time', () => {
  const { cover } = shipped('gangway-laptop');

  test('of a check is what fault-finding takes for it', () => {
    const of = (action: Action) => minutesOf(action, {});
    const sum = ({ hands, waits }: { hands: number; waits: number }) => hands + waits;
    expect(of({ type: 'memory test' })).toBe(sum(CHECKS['test with addresses']));
    expect(of({ type: 'update firmware' })).toBe(sum(CHECKS['update firmware']));
    expect(of({ type: 'read log' })).toBe(sum(CHECKS['log and warmth']));
    expect(of({ type: 'firmware screen' })).toBe(CHECKS['firmware’s page'].hands);
  });

  test('of reseating two modules adds up to the check of that name', () => {
    const one: Action[] = [PULL, { type: 'clean', pieceId: 'm1' }, seat('m1', 'a2')];
    const all: Action[] = [...one, ...one, { type: 'look' }];
    const sum = all.reduce((total, action) => total + minutesOf(action, {}), 0);
    expect(sum).toBe(CHECKS['reseat and clean'].hands);
  });

  test('of a cover grows with what holds it', () => {
    const [bare, held] = [minutesOf(OPEN, {}), minutesOf(OPEN, { cover })];
    expect(bare).toBeGreaterThan(0);
    const parts = cover?.parts ?? [];
    const more = minutesOf(OPEN, { cover: cover && { ...cover, parts: [...parts, ...parts] } });
    expect(more).toBeGreaterThan(held);
  });

  test('of a wait is as asked, within an hour and never backwards', () => {
    const wait = (minutes: number) => minutesOf({ type: 'wait', minutes }, {});
    expect([wait(7), wait(-4), wait(1e6)]).toEqual([7, 0, LONGEST_WAIT]);
  });

  test('goes on for what was stopped too: it was tried', () => {
    const world = walk(shipped('ticket-window'), [ON]);
    const stopped = act(world, OPEN);
    expect(stopped.unsafe).toBe('opened under power');
    expect(stopped.world.minutes).toBe(world.minutes + stopped.minutes);
    expect(stopped.minutes).toBeGreaterThan(0);
  });
});

describe('power', () => {
  const laptop = shipped('gangway-laptop');
  const desk = shipped('ticket-window');

  test('a desktop dies with its lead, a laptop runs on from its pack', () => {
    expect(walk(desk, [ON, OUT]).power).toBe('off');
    expect(walk(laptop, [ON, OUT]).power).toBe('on');
    expect(walk(laptop, [ON, OUT, OFF, OUT, HOLD]).power).toBe('off');
    expect(walk(laptop, [OUT, ON]).power).toBe('on');
  });

  test('holding the button drains only what has no lead any more, and a lead fills it again', () => {
    expect(walk(desk, [HOLD]).isDrained).toBe(false);
    expect(walk(desk, [OUT, HOLD]).isDrained).toBe(true);
    expect(walk(desk, [OUT, HOLD, IN]).isDrained).toBe(false);
    const laid: Action[] = [OUT, HOLD, STRAP, OPEN, { type: 'battery', to: 'off' }];
    expect(walk(laptop, laid).isDrained).toBe(true);
    expect(walk(laptop, [...laid, { type: 'battery', to: 'on' }]).isDrained).toBe(false);
  });

  test('a pack that comes out from outside needs no open cover', () => {
    const { machine } = laptop;
    const access = { ...machine.access, battery: 'taken out from outside' } as const;
    const outside = { ...laptop, machine: { ...machine, access } };
    expect(walk(outside, [OUT, { type: 'battery', to: 'off' }]).battery).toBe('off');
  });
});

describe('what mends', () => {
  const gone = (id: string, ...actions: Action[]) => {
    const exercise = shipped(id);
    expect(exercise.faults).not.toEqual([]);
    return walk(exercise, actions).faults.length === 0;
  };

  test('each fault, by its own act and by no other', () => {
    const board = [...SAFE];
    const home = walk(shipped('ticket-window'), [...board, { type: 'press home', slotId: 'b2' }]);
    expect(home.places.m2).toEqual({ at: 'slot', slotId: 'b2', isHome: true });
    expect(gone('after-dusting', ...board, { type: 'put leads on' })).toBe(true);
    expect(gone('after-dusting', ...board, { type: 'clear dust' })).toBe(false);
    expect(gone('engine-room', ...board, { type: 'clear dust' })).toBe(true);
    expect(gone('night-watch', OUT, { type: 'other supply or drive' })).toBe(true);
    expect(gone('engine-room', OUT, { type: 'other supply or drive' })).toBe(false);
    expect(gone('only-half-shown', ...UP, { type: 'update firmware' })).toBe(true);
    expect(gone('someones-option', ...UP, { type: 'lift start option' })).toBe(true);
    expect(gone('wrong-one', ...UP, { type: 'clear settings' })).toBe(false);
  });

  test('settings gone stale: it starts over and over until they are cleared', () => {
    const stale = { ...shipped('deck-plan'), faults: [{ kind: 'stale settings' } as const] };
    expect(statusOf(walk(stale, [ON]))).toEqual({ type: 'restarting' });
    expect(statusOf(walk(stale, [ON, { type: 'clear settings' }])).type).toBe('up');
  });

  test('a profile that does not hold: errors with it, none without', () => {
    const kit = { ...shipped('purser'), faults: [{ kind: 'profile unstable' } as const] };
    const errors = (...actions: Action[]) => {
      const seen = act(walk(kit, actions), { type: 'memory test' }).seen;
      return seen.type === 'test' ? seen.errors : seen;
    };
    expect(errors(ON)).toBe('none');
    expect(errors(ON, { type: 'set', setting: 'profile' })).toBe('all over');
    const back: Action[] = [{ type: 'set', setting: 'profile' }, { type: 'clear settings' }];
    expect(errors(ON, ...back)).toBe('none');
  });

  test('a module that stops all others from starting, until it is out', () => {
    const faults = [{ kind: 'bad module', pieceId: 'm2', shows: 'no start' } as const];
    const exercise = { ...shipped('deck-plan'), faults };
    expect(statusOf(walk(exercise, [ON]))).toEqual({ type: 'dark', signal: 'memory' });
    const without: Action[] = [...SAFE, PULL, CLOSE, IN, ON, { type: 'wait', minutes: 10 }];
    expect(statusOf(walk(exercise, without))).toMatchObject({
      type: 'up',
      point: { installed: 8 },
    });
  });
});

test('a pack bought twice is two packs, each a kit of its own', () => {
  const order: Action = { type: 'order', offerId: 'd8x2' };
  const world = walk(shipped('four-slots'), [order, order]);
  const kits = world.pieces.flatMap(({ module }) => module.kitId ?? []);
  expect(world).toMatchObject({ spent: 9800, days: 4, bought: { d8x2: 2 } });
  expect([kits.length, new Set(kits).size]).toEqual([4, 2]);
});
