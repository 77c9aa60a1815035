import { describe, expect, test } from 'vitest';
import { desktop, labelled } from '../../test/support/builders.ts';
import { dataRate, gib } from '../units/index.ts';
import { findMachineFaults, nextSlots, unknownTraits } from './index.ts';
import type { Machine } from './index.ts';

const module = labelled('8GB 1Rx8 PC4-2400T-UA1-11');

test.each([
  ['across channels', {}, {}, 2, ['a1', 'b1']],
  ['the emptiest channel next', {}, { a1: module }, 1, ['b1']],
  ['past soldered memory', { soldered: [{ channel: 'A', part: module }] }, {}, 1, ['b1']],
  ['the slot that must be first', { requiredFirstSlot: 'b2' }, {}, 2, ['b2', 'a1']],
  [
    'the manual before any rule of thumb',
    { fillOrder: [['a2'], ['a2', 'b2']] },
    {},
    2,
    ['a2', 'b2'],
  ],
  ['no more than there are', {}, { a1: module, a2: module, b1: module }, 3, ['b2']],
] as const)('modules go %s', (_name, traits, placement, count, slots) => {
  expect(nextSlots(desktop(traits), placement, count)).toEqual(slots);
});

const row = (modulesPerChannel: number, ranksPerChannel: number, rate: number) => ({
  ...{ modulesPerChannel, ranksPerChannel, rate: dataRate(rate) },
});

test('what nobody knows is listed by how much a plan hangs on it; a soldered machine has nothing to ask', () => {
  const unknown = unknownTraits({ ...desktop(), maxPerSlot: 'unknown', ecc: 'unknown' });
  expect(unknown[0]).toEqual({ trait: 'maxPerSlot', weight: 3 });
  expect(unknown.map(({ weight }) => weight)).toEqual(
    unknown.map(({ weight }) => weight).sort((a, b) => b - a),
  );
  expect(unknown).toContainEqual({ trait: 'ecc', weight: 1 });
  expect(unknownTraits(desktop({ slots: [], soldered: [{ channel: 'A', part: module }] }))).toEqual(
    [],
  );
});

describe('contradictions', () => {
  const slots = desktop().slots;
  test.each([
    ['none in a sound machine', {}, []],
    ['nowhere for memory', { slots: [] }, ['slots']],
    [
      '17 slots',
      {
        slots: Array.from({ length: 17 }, (_, at) => ({
          id: `${at}`,
          printedName: `${at}`,
          channels: ['A'],
        })),
      },
      ['slots'],
    ],
    [
      'two slots of a name',
      { slots: [...slots, { ...slots[0], id: 'x' }] },
      ['slots.4.printedName'],
    ],
    [
      'a channel that is not there',
      { soldered: [{ channel: 'Z', part: module }] },
      ['soldered.0.channel'],
    ],
    ['a fill order of the wrong length', { fillOrder: [['a1', 'b1']] }, ['fillOrder.0']],
    // A makers' total may predate the modules its slots take.
    ['less in all than in a slot', { maxPerSlot: gib(32), maxTotal: gib(16) }, []],
    [
      'less in all than is soldered on',
      { soldered: [{ channel: 'A', part: module }], maxTotal: gib(4) },
      ['maxTotal'],
    ],
    ['a rate table with a hole', { rateTable: [row(2, 2, 2400)] }, ['rateTable.0']],
    ['a load with two rates', { rateTable: [row(1, 1, 2400), row(1, 1, 2133)] }, ['rateTable.1']],
    [
      'more modules that run faster',
      { rateTable: [row(1, 1, 2400), row(2, 2, 2666)] },
      ['rateTable.1'],
    ],
    ['a required slot that is not there', { requiredFirstSlot: 'zz' }, ['requiredFirstSlot']],
  ])('%s', (_name, traits, paths) => {
    expect(findMachineFaults(desktop(traits as Partial<Machine>)).map(({ path }) => path)).toEqual(
      paths,
    );
  });
});
