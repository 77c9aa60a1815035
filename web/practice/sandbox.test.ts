import fc from 'fast-check';
import { expect, test } from 'vitest';
import { desktop, labelled } from '../../test/support/builders.ts';
import { act, beginWorld, statusOf } from '#core/practice';
import type { ModuleRecord } from '#contract/records';
import { faultsFor, fromAddress, sandboxOf, toAddress } from './sandbox.ts';
import type { Sandbox } from './sandbox.ts';

const SLOTS = ['a1', 'a2', 'b1', 'b2'];
const anySandbox: fc.Arbitrary<Sandbox> = fc
  .record({
    machineId: fc.constantFrom('m1', 'm2'),
    slots: fc.dictionary(fc.constantFrom(...SLOTS), fc.constantFrom('x', 'y'), { maxKeys: 4 }),
  })
  .chain((chosen) =>
    fc
      .subarray(faultsFor(Object.keys(chosen.slots)), { maxLength: 3 })
      .map((faults) => ({ ...chosen, faults })),
  );

test('the address carries a sandbox whole', () => {
  fc.assert(
    fc.property(anySandbox, (sandbox) => {
      const text = toAddress(sandbox).toString();
      expect(fromAddress(new URLSearchParams(text))).toEqual({
        ...sandbox,
        slots: { ...sandbox.slots },
      });
    }),
  );
});

test('an address got wrong in any way gives a sandbox, never a break', () => {
  fc.assert(
    fc.property(fc.string(), (text) => {
      const sandbox = fromAddress(new URLSearchParams(text));
      expect(sandbox.faults.every(Boolean)).toBe(true);
    }),
  );
});

test('what was chosen lies in its slots, with its fault', () => {
  const module = labelled('8GB 1Rx8 PC4-3200AA-UA2-11');
  const record = { id: 'x', module } as ModuleRecord;
  const chosen: Sandbox = {
    ...{ machineId: 'm1', slots: { a1: 'x', b1: 'x', b2: 'gone' } },
    faults: [{ kind: 'dirty contacts', pieceId: 'b1' }],
  };
  const exercise = sandboxOf(desktop(), chosen, [record]);
  expect(exercise.pieces.map(({ at }) => at)).toEqual(['a1', 'b1']);
  const { world } = act(beginWorld(exercise), { type: 'switch', to: 'on' });
  expect(statusOf({ ...world, training: 0 })).toMatchObject({
    type: 'up',
    point: { installed: 8 },
  });
});
