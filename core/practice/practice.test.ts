import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { SHIPPED, shipped } from '../../test/support/exercises.ts';
import { readScreen } from '../inventory/index.ts';
import { readInventory } from '../inventory/index.ts';
import { seededRandom } from '../units/index.ts';
import {
  RULES,
  act,
  bandwidthOf,
  beginWorld,
  firmwareScreen,
  firmwareTable,
  goalLines,
  isSolved,
  measuredOn,
  pieceIn,
  playPar,
  screenText,
  statusOf,
} from './index.ts';
import type { Action, Exercise, World } from './index.ts';
import { often } from '../../test/support/draws.ts';

const walk = (exercise: Exercise, actions: readonly Action[]) => {
  let world = beginWorld(exercise);
  const outcomes = actions.map((action) => {
    const outcome = act(world, action);
    ({ world } = outcome);
    return outcome;
  });
  return { world, outcomes };
};
const OPEN: readonly Action[] = [
  { type: 'lead', to: 'out' },
  { type: 'hold power' },
  { type: 'strap', to: 'on' },
  { type: 'open', tool: 'plastic' },
];
const CLOSE: readonly Action[] = [
  { type: 'close' },
  { type: 'lead', to: 'in' },
  { type: 'switch', to: 'on' },
  { type: 'wait', minutes: 10 },
];
const seat = (pieceId: string, slotId: string, more = {}): Action => ({
  ...{ type: 'seat', pieceId, slotId, way: 'right', pressed: 'both', ...more },
});

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
    for (let seed = 0; seed < walks; seed++) {
      const random = seededRandom(seed);
      const exercise = SHIPPED[seed % SHIPPED.length] as Exercise;
      let world = beginWorld(exercise);
      for (let at = 0; at < 60; at++) {
        const before = world;
        const action = anyAct(world, random);
        const { world: next, seen, minutes } = act(world, action);
        world = next;
        if (seen.type === 'cannot') expect(next).toBe(before);
        expect(minutes).toBeGreaterThanOrEqual(0);
        expect(next.minutes).toBe(before.minutes + minutes);
        // Every module is in one place, no place holds two, and only what was bought came in.
        expect(Object.keys(next.places).sort()).toEqual(next.pieces.map(({ id }) => id).sort());
        const taken = Object.values(next.places).flatMap((one) =>
          one.at === 'slot' ? [one.slotId] : [],
        );
        expect(new Set(taken).size).toBe(taken.length);
        const bought = Object.entries(next.bought).reduce(
          (sum, [id, packs]) =>
            sum + packs * (exercise.offers.find((offer) => offer.id === id)?.units ?? 0),
          0,
        );
        expect(next.pieces.length).toBe(exercise.pieces.length + bought);
        // Faults are mended or stay; none appears.
        expect(next.faults.every((one) => exercise.faults.includes(one))).toBe(true);
      }
      unsafe += world.unsafe.length;
      if (statusOf(world).type === 'up') ups++;
      // From wherever it got to it can be closed, switched on and handed over.
      const rest: Action[] = [...CLOSE, { type: 'hand over' }];
      for (const action of rest) ({ world } = act(world, action));
      expect(world.over).toBeDefined();
    }
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

describe('machines behave as the rules say', () => {
  test('in but not home is not seen; pressed home it is', () => {
    const exercise = shipped('ticket-window');
    const start: Action[] = [
      { type: 'switch', to: 'on' },
      { type: 'wait', minutes: 10 },
    ];
    expect(walk(exercise, start).world && statusOf(walk(exercise, start).world)).toMatchObject({
      type: 'up',
      point: { installed: 8 },
    });
    const { world } = walk(exercise, [...OPEN, { type: 'press home', slotId: 'b2' }, ...CLOSE]);
    expect(statusOf(world)).toMatchObject({ type: 'up', point: { installed: 16, paired: 16 } });
    // Pressed on one side only it is lost again.
    const again = walk(exercise, [
      ...OPEN,
      { type: 'pull', slotId: 'b2' },
      seat('m2', 'b2', { pressed: 'one' }),
      ...CLOSE,
    ]);
    expect(statusOf(again.world)).toMatchObject({ type: 'up', point: { installed: 8 } });
  });

  test('dirty contacts are not seen until they are cleaned; pressing alone does nothing', () => {
    const exercise = shipped('salt-air');
    const seen = (...actions: Action[]) => {
      const status = statusOf(walk(exercise, [...OPEN, ...actions, ...CLOSE]).world);
      return status.type === 'up' ? status.point.installed : status.type;
    };
    const again: Action[] = [{ type: 'pull', slotId: 'b2' }, seat('m2', 'b2')];
    expect(seen({ type: 'press home', slotId: 'b2' })).toBe(8);
    expect(seen(...again)).toBe(8);
    expect(
      seen({ type: 'pull', slotId: 'b2' }, { type: 'clean', pieceId: 'm2' }, seat('m2', 'b2')),
    ).toBe(16);
  });

  test('a slot that is on no board stands on the firmware screen, empty', () => {
    const { world } = walk(shipped('four-in-the-list'), [{ type: 'switch', to: 'on' }]);
    expect(firmwareScreen(world)?.rows).toEqual([
      { name: 'A1', capacity: 8 },
      { name: 'B1', capacity: 8 },
      { name: 'A2', capacity: undefined },
      { name: 'B2', capacity: undefined },
    ]);
  });

  test.each([
    ['dead slot', 'deaf-slot', 8],
    ['firmware outdated', 'only-half-shown', 16],
  ] as const)('%s: what sits there is not seen', (_kind, id, installed) => {
    const { world } = walk(shipped(id), [
      { type: 'switch', to: 'on' },
      { type: 'wait', minutes: 30 },
    ]);
    expect(statusOf(world)).toMatchObject({ type: 'up', point: { installed } });
  });

  test.each([
    ['lead left off', 'after-dusting', { type: 'dark', signal: 'other' }],
    ['first slot empty', 'mail-room', { type: 'dark', signal: 'memory' }],
  ] as const)('%s: it stays dark, and signals what it has to signal', (_kind, id, status) => {
    const { world } = walk(shipped(id), [
      { type: 'switch', to: 'on' },
      { type: 'wait', minutes: 30 },
    ]);
    expect(statusOf(world)).toEqual(status);
  });

  test('errors: of one module in its slot, of a mixed set all over, of a warm machine none', () => {
    const tested = (id: string, ...more: Action[]) => {
      const on: Action[] = [
        { type: 'switch', to: 'on' },
        { type: 'wait', minutes: 30 },
      ];
      const { outcomes } = walk(shipped(id), [...more, ...on, { type: 'memory test' }]);
      const seen = outcomes.at(-1)?.seen;
      return seen?.type === 'test' ? seen.errors : seen;
    };
    expect(tested('wrong-one')).toEqual({ slotId: 'b2' });
    expect(tested('friday-crash')).toBe('all over');
    expect(tested('engine-room')).toBe('none');
    // The fault goes with the module.
    const swap: Action[] = [
      ...OPEN,
      { type: 'pull', slotId: 'a2' },
      { type: 'pull', slotId: 'b2' },
      ...[seat('m2', 'a2'), seat('m1', 'b2')],
      ...CLOSE.slice(0, 2),
    ];
    expect(tested('wrong-one', ...swap)).toEqual({ slotId: 'a2' });
  });

  test('training takes its minutes, starts anew when the power is cut, and is known afterwards', () => {
    const exercise = shipped('new-bridge');
    const on: Action = { type: 'switch', to: 'on' };
    const off: Action = { type: 'switch', to: 'off' };
    const begun = walk(exercise, [on]);
    const status = statusOf(begun.world);
    if (status.type !== 'training') throw new Error(`expected training, received ${status.type}`);
    const impatient: Action[] = [on, { type: 'wait', minutes: 1 }, off, on];
    expect(statusOf(walk(exercise, impatient).world)).toEqual(status);
    const patient: Action[] = [on, { type: 'wait', minutes: status.left }];
    expect(statusOf(walk(exercise, patient).world).type).toBe('up');
    expect(statusOf(walk(exercise, [...patient, off, on]).world).type).toBe('up');
  });

  test('what was tested holds for what was fitted then, and for nothing else', () => {
    const exercise = shipped('purser');
    const on: Action[] = [{ type: 'switch', to: 'on' }, { type: 'memory test' }];
    const tested = (world: World) => goalLines(world).find(({ what }) => what === 'tested')?.holds;
    expect(tested(walk(exercise, on).world)).toBe(true);
    const then: Action[] = [...on, { type: 'set', setting: 'profile' }];
    expect(tested(walk(exercise, then).world)).toBe(false);
    expect(tested(walk(exercise, [...then, { type: 'memory test' }]).world)).toBe(true);
  });

  test('a part costs money and days, and lies on the mat when it comes', () => {
    const exercise = shipped('gangway-laptop');
    const { world, outcomes } = walk(exercise, [{ type: 'order', offerId: 's8' }]);
    expect(world).toMatchObject({ spent: 2600, days: 2, places: { 's8 1.1': { at: 'mat' } } });
    expect(outcomes[0]?.seen).toEqual({ type: 'delivered', pieces: ['s8 1.1'] });
  });

  test('the measuring page draws half as much from one channel as from two', () => {
    const exercise = shipped('deck-plan');
    const drawn = (world: World) => {
      const result = measuredOn(world);
      return result ? bandwidthOf(result) : 0;
    };
    const on: Action = { type: 'switch', to: 'on' };
    const one = drawn(walk(exercise, [on]).world);
    const { world } = walk(exercise, [
      ...OPEN,
      { type: 'pull', slotId: 'a2' },
      seat('m2', 'b1'),
      ...CLOSE,
    ]);
    expect(drawn(world) / one).toBeGreaterThan(1.8);
    expect(drawn(world) / one).toBeLessThan(2.2);
    expect(measuredOn(beginWorld(exercise))).toBeUndefined();
  });
});

describe('what its screens say, read back by our own readers, is what the machine claims', () => {
  const anyUp = fc.constantFrom(...SHIPPED).map((exercise) => playPar(exercise).world);

  test('the firmware screen, typed off line by line', () => {
    fc.assert(
      fc.property(anyUp, (world) => {
        const screen = firmwareScreen({ ...world, over: undefined });
        if (!screen) throw new Error('expected a picture');
        const { devices, findings } = readScreen(screenText(screen));
        expect(findings).toEqual([]);
        expect(devices.map((one) => [one.locator, one.capacity])).toEqual(
          screen.rows.map(({ name, capacity }) => [name, capacity]),
        );
        for (const device of devices)
          if (device.state === 'module') expect(device.configuredShown).toBe(screen.rate);
      }),
      { numRuns: often(12) },
    );
  });

  test('the table the system hands out, slots it claims without having them too', () => {
    fc.assert(
      fc.property(anyUp, (world) => {
        const reading = readInventory(firmwareTable(world) ?? new Uint8Array());
        const status = statusOf(world);
        if (status.type !== 'up') throw new Error(status.type);
        const { machine, firmware } = world.exercise;
        const said = reading.devices.filter(({ soldered }) => !soldered);
        expect(said.map(({ locator }) => locator)).toEqual(
          expect.arrayContaining([
            ...machine.slots.map(({ printedName }) => printedName),
            ...firmware.phantoms,
          ]),
        );
        const sum = reading.devices.reduce((total, { capacity = 0 }) => total + capacity, 0);
        expect(sum).toBe(status.point.installed);
      }),
      { numRuns: often(12) },
    );
  });
});
