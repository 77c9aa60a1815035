import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { OPEN, SHIPPED, CLOSE, seat, shipped, walk } from '../../test/support/exercises.ts';
import { often } from '../../test/support/draws.ts';
import { readInventory, readScreen } from '../inventory/index.ts';
import {
  bandwidthOf,
  beginWorld,
  firmwareScreen,
  firmwareTable,
  goalLines,
  measuredOn,
  playPar,
  screenText,
  statusOf,
} from './index.ts';
import type { Action, World } from './index.ts';

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
