import { describe, expect, test } from 'vitest';
import { CLOSE, OPEN, SHIPPED, seat, shipped, walk } from '../../test/support/exercises.ts';
import { seededRandom } from '../units/index.ts';
import {
  RULES,
  act,
  beginWorld,
  goalLines,
  isSolved,
  pieceIn,
  playPar,
  statusOf,
} from './index.ts';
import type { Action, Exercise, World } from './index.ts';
import { often } from '../../test/support/draws.ts';

describe('the house’s own way', () => {
  test.each(SHIPPED.map((one) => [one.id, one] as const))('solves %s, safely', (_id, exercise) => {
    const par = playPar(exercise);
    expect(goalLines(par.world).filter(({ holds }) => !holds)).toEqual([]);
    expect(par.isSolved).toBe(true);
    expect(par.world.unsafe).toEqual([]);
    // The same acts, done by anybody, come to the same end.
    expect(walk(exercise, par.actions).world).toEqual(par.world);
  });

  test('there are twenty and more, on four levels, and every rule is taught', () => {
    expect(SHIPPED.length).toBeGreaterThanOrEqual(20);
    expect(new Set(SHIPPED.map(({ level }) => level))).toEqual(new Set([1, 2, 3, 4]));
    expect(new Set(SHIPPED.flatMap(({ teaches }) => teaches))).toEqual(new Set(RULES));
  });

  test('nothing is solved by handing it over as it came, but where that is the answer', () => {
    for (const exercise of SHIPPED) {
      const { world } = walk(exercise, [{ type: 'hand over', finding: 'nothing' }]);
      expect([exercise.id, isSolved(world)]).toEqual([exercise.id, false]);
    }
  });
});

/** Any act at this machine, sensible or not. */
function anyAct(world: World, random: () => number): Action {
  const pick = <T>(all: readonly T[]): T => all[Math.floor(random() * all.length)] as T;
  const slotId = pick([...world.exercise.machine.slots.map(({ id }) => id), 'nowhere']);
  const pieceId = pick([...world.pieces.map(({ id }) => id), 'nobody']);
  const offerId = pick([...world.exercise.offers.map(({ id }) => id), 'nothing']);
  return pick<Action>([
    { type: 'ask', about: 'work' },
    { type: 'look' },
    { type: 'read sticker', pieceId },
    { type: 'read tables' },
    { type: 'lead', to: pick(['in', 'out']) },
    { type: 'hold power' },
    { type: 'strap', to: pick(['on', 'off']) },
    { type: 'open', tool: pick(['plastic', 'metal']) },
    { type: 'close' },
    { type: 'battery', to: pick(['on', 'off']) },
    { type: 'pull', slotId },
    { type: 'pull', slotId },
    seat(pieceId, slotId, { way: pick(['right', 'turned']), pressed: pick(['both', 'one']) }),
    seat(pieceId, slotId, { force: random() < 0.2 }),
    { type: 'press home', slotId },
    { type: 'clean', pieceId },
    { type: 'put leads on' },
    { type: 'switch', to: pick(['on', 'off']) },
    { type: 'wait', minutes: pick([-3, 0, 1, 10, 1e9]) },
    { type: 'firmware screen' },
    { type: 'set', setting: pick(['standard', 'profile']) },
    { type: 'clear settings' },
    { type: 'firmware notes' },
    { type: 'update firmware' },
    { type: 'system page' },
    { type: 'lift start option' },
    { type: 'read log' },
    { type: 'measure' },
    { type: 'memory test' },
    { type: 'other supply or drive' },
    { type: 'clear dust' },
    ...(random() < 0.1 ? ([{ type: 'order', offerId }] as const) : []),
  ]);
}

test(
  'walks of 60 acts at random: nothing throws, nothing is lost, one can always go on',
  { timeout: 240_000 },
  () => {
    const walks = often(200, 2500);
    let unsafe = 0;
    let ups = 0;
    const broken: string[] = [];
    for (let seed = 0; seed < walks; seed++) {
      const random = seededRandom(seed);
      const exercise = SHIPPED[seed % SHIPPED.length] as Exercise;
      let world = beginWorld(exercise);
      for (let at = 0; at < 60; at++) {
        const before = world;
        const action = anyAct(world, random);
        const { world: next, seen, minutes } = act(world, action);
        world = next;
        const must = (holds: boolean, what: string) => {
          if (!holds) broken.push(`walk ${seed}, act ${at}, ${action.type}: ${what}`);
        };
        must(seen.type !== 'cannot' || next === before, 'what cannot be done did something');
        must(minutes >= 0 && next.minutes === before.minutes + minutes, 'minutes');
        // Every module is in one place, no place holds two, and only what was bought came in.
        const pieces = next.pieces.map(({ id }) => id).sort();
        must(Object.keys(next.places).sort().join() === pieces.join(), 'places and modules');
        const taken = Object.values(next.places).flatMap((one) =>
          one.at === 'slot' ? [one.slotId] : [],
        );
        must(new Set(taken).size === taken.length, 'two modules in one slot');
        const bought = Object.entries(next.bought).reduce(
          (sum, [id, packs]) =>
            sum + packs * (exercise.offers.find((offer) => offer.id === id)?.units ?? 0),
          0,
        );
        must(next.pieces.length === exercise.pieces.length + bought, 'modules out of nowhere');
        // Faults are mended or stay; none appears.
        must(
          next.faults.every((one) => exercise.faults.includes(one)),
          'a fault out of nowhere',
        );
      }
      unsafe += world.unsafe.length;
      if (statusOf(world).type === 'up') ups++;
      // From wherever it got to it can be closed, switched on and handed over.
      const rest: Action[] = [...CLOSE, { type: 'hand over' }];
      for (const action of rest) ({ world } = act(world, action));
      expect(world.over).toBeDefined();
    }
    expect(broken).toEqual([]);
    expect(unsafe).toBeGreaterThan(walks);
    expect(ups).toBeGreaterThan(walks / 20);
  },
);

describe('what is unsafe is stopped before it hurts', () => {
  const desktop = shipped('deck-plan');
  const laptop = shipped('gangway-laptop');
  const stoppedAt = (exercise: Exercise, ...actions: Action[]) => {
    const { outcomes, world } = walk(exercise, actions);
    const last = outcomes.at(-1);
    expect(last?.unsafe).toBeDefined();
    expect(world.unsafe).toEqual([last?.unsafe]);
    // The act itself did not happen.
    const before = outcomes.at(-2)?.world ?? beginWorld(exercise);
    expect({ ...world, unsafe: [], minutes: 0 }).toEqual({ ...before, unsafe: [], minutes: 0 });
    return last?.unsafe;
  };
  const [out, hold, strap, open] = OPEN as [Action, Action, Action, Action];

  test('the cover, with the lead in or the power on', () => {
    expect(stoppedAt(desktop, open)).toBe('opened under power');
    expect(stoppedAt(laptop, { type: 'switch', to: 'on' }, out, open)).toBe('opened under power');
  });

  test('a module: with a charge left, with the pack on, with the lead put back, without a strap', () => {
    const pull: Action = { type: 'pull', slotId: 'a1' };
    expect(stoppedAt(desktop, out, strap, open, pull)).toBe('touched under power');
    expect(stoppedAt(laptop, out, hold, strap, open, pull)).toBe('touched under power');
    const back: Action = { type: 'lead', to: 'in' };
    expect(stoppedAt(desktop, ...OPEN, back, pull)).toBe('touched under power');
    expect(stoppedAt(desktop, out, hold, open, pull)).toBe('no strap');
    const safe = walk(laptop, [...OPEN, { type: 'battery', to: 'off' }, pull]);
    expect(safe.world.unsafe).toEqual([]);
    expect(pieceIn(safe.world, 'a1')).toBeUndefined();
  });

  test('metal beside a lithium pack; where there is none it is only bad manners', () => {
    const metal: Action = { type: 'open', tool: 'metal' };
    expect(stoppedAt(laptop, out, hold, metal)).toBe('metal at the pack');
    expect(walk(desktop, [out, hold, metal]).world).toMatchObject({ cover: 'off', unsafe: [] });
  });

  test('a forced key: that alone destroys the part, in the simulation', () => {
    const ready: Action[] = [...OPEN, { type: 'battery', to: 'off' }];
    const wrong = walk(laptop, [...ready, seat('m2', 'b1')]);
    expect(wrong.outcomes.at(-1)?.seen).toEqual({ type: 'does not go in', because: 'key' });
    expect(wrong.world.unsafe).toEqual([]);
    const forced = walk(laptop, [...ready, seat('m2', 'b1', { force: true }), seat('m2', 'b1')]);
    expect(forced.world).toMatchObject({ broken: ['m2'], unsafe: ['forced key'] });
    expect(forced.outcomes.at(-1)?.seen).toEqual({ type: 'cannot', why: 'piece is broken' });
    const turned = walk(laptop, [
      ...ready,
      { type: 'pull', slotId: 'a1' },
      seat('m1', 'a1', { way: 'turned' }),
    ]);
    expect(turned.outcomes.at(-1)?.seen).toEqual({ type: 'does not go in', because: 'turned' });
  });

  test('whoever was unsafe has not solved it, however well it runs', () => {
    const exercise = shipped('ticket-window');
    const { world } = walk(exercise, [
      { type: 'open', tool: 'plastic' },
      ...OPEN,
      { type: 'press home', slotId: 'b2' },
      ...CLOSE,
      { type: 'hand over', finding: 'not seated' },
    ]);
    expect(goalLines(world).filter(({ holds }) => !holds)).toMatchObject([{ what: 'safe' }]);
    expect(isSolved(world)).toBe(false);
  });
});
