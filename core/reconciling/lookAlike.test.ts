import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { anyFourChannelMachine } from '../../test/support/arbitraries.ts';
import { desktop, labelled } from '../../test/support/builders.ts';
import { writeSmbios } from '../inventory/index.ts';
import { dataRate, gib } from '../units/index.ts';
import { inheritTraits, readDocument, takeIn } from './index.ts';
import type { KnownMachine } from './index.ts';
import { isSameBoard } from './lookAlike.ts';

const board = desktop({ name: 'Lantern A3', maxTotal: 'unknown', maxPerSlot: 'unknown' });
const dump = readDocument({
  ...{ id: 'dump', kind: 'file', name: 'a3.dmp' },
  bytes: writeSmbios(board, { a1: labelled('8GB 1Rx8 PC4-2400T-UA1-11') }),
});
const shop = (knownAs: string, more: Parameters<typeof desktop>[0] = {}): KnownMachine => ({
  ...{
    id: knownAs,
    machine: desktop({ name: knownAs, ...more }),
    knownAs: [knownAs],
    locators: {},
  },
});

describe('a machine that looks like another', () => {
  test('the same board under another name is told apart from the same machine, and comes last', () => {
    const same = shop('lantern a3 | lantern a3', { generations: ['DDR3'] });
    const alike = shop('beacon 7 | lantern a3');
    const other = shop('lantern a3 | beacon 7');
    const taken = takeIn([dump], [alike, other, same]);
    if (taken.type !== 'machine') throw new Error('expected a machine');
    expect(taken.recognised.map(({ by, known }) => [by, known.id])).toEqual([
      ['firmware', same.id],
      ['board', alike.id],
    ]);
  });

  test('a table that allows more than the library is of another variant; one that claims less is not', () => {
    const files = desktop({ name: 'Lantern A3', maxTotal: gib(64) });
    const read = readDocument({
      ...{ id: 'dump', kind: 'file', name: 'a3.dmp' },
      bytes: writeSmbios(files, { a1: labelled('8GB 1Rx8 PC4-2400T-UA1-11') }),
    });
    const differs = (maxTotal: number) => {
      const taken = takeIn([read], [shop('x | lantern a3', { maxTotal: gib(maxTotal) })]);
      return taken.type === 'machine' ? taken.recognised[0]?.differs : undefined;
    };
    expect(differs(32)).toEqual([{ type: 'maximum', stated: 32, listed: 64 }]);
    expect(differs(64)).toEqual([]);
    expect(differs(128)).toEqual([]);
  });

  test.each([
    ['x | b7 pro', 'y | b7 pro', true],
    ['x | b7 pro', 'x | b7 pro', false],
    ['x | b7 pro', 'y | b7', false],
    ['x | ', 'y | ', false],
    ['x | 01', 'y | 01', false],
    [' | b7 pro', 'y | b7 pro', true],
  ])('%s and %s: %s', (one, other, is) => {
    expect(isSameBoard(one, other)).toBe(is);
    expect(isSameBoard(other, one)).toBe(is);
  });

  test('limits are taken over; what the tables listed, the name and the cover stay its own', () => {
    const from = desktop({
      ...{ name: 'Beacon 7', maxTotal: gib(64), maxPerSlot: gib(32), maximaFrom: 'manual' },
      ...{ controllerLimit: dataRate(2666), firmwareCap: dataRate(2400) },
      fillOrder: [['a2'], ['a2', 'b2']],
    });
    const made = inheritTraits(board, from);
    expect(made).toMatchObject({
      ...{ name: 'Lantern A3', maxTotal: 64, maxPerSlot: 32, maximaFrom: 'manual' },
      ...{ controllerLimit: 2666, firmwareCap: 2400, fillOrder: [['a2'], ['a2', 'b2']] },
      ...{ slots: board.slots, access: board.access, soldered: board.soldered },
    });
    const listed = { ...board, maxTotal: gib(128) };
    expect(inheritTraits(listed, from).maxTotal).toBe(128);
  });

  test('the order of slots comes along under the new ids, and only where the names are the same', () => {
    const from = desktop({ fillOrder: [['a2'], ['a2', 'b2']], requiredFirstSlot: 'a2' });
    const renamed = {
      ...board,
      slots: board.slots.map((slot, at) => ({ ...slot, id: `s${at}` })),
    };
    const idOf = (name: string) =>
      renamed.slots.find(({ printedName }) => printedName === name)?.id;
    expect(inheritTraits(renamed, from)).toMatchObject({
      fillOrder: [[idOf('A2')], [idOf('A2'), idOf('B2')]],
      requiredFirstSlot: idOf('A2'),
    });
    const two = desktop({ name: 'Two', fillOrder: 'unknown' }, 2, 1);
    expect(inheritTraits(two, from).fillOrder).toBe('unknown');
  });

  test('whatever the two are, every slot named in the result is one of its own', () => {
    fc.assert(
      fc.property(anyFourChannelMachine, anyFourChannelMachine, (machine, from) => {
        const made = inheritTraits(machine, from);
        const own = new Set(machine.slots.map(({ id }) => id));
        const named = made.fillOrder === 'unknown' ? [] : made.fillOrder.flat();
        expect(named.filter((id) => !own.has(id))).toEqual([]);
        expect(made.slots).toBe(machine.slots);
        expect(inheritTraits(made, from)).toEqual(made);
      }),
    );
  });
});
