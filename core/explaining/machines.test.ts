import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { desktop, labelled } from '../../test/support/builders.ts';
import { expectSound } from '../../test/support/soundWords.ts';
import { findMachineFaults, unknownTraits, plainMachine } from '../machine/index.ts';
import type { Machine, MachineFault } from '../machine/index.ts';
import { dataRate, gib } from '../units/index.ts';
import { explainMachineFault, explainUnknownTrait } from './index.ts';

const slot = (id: string, printedName: string, channels = ['A']) => ({ id, printedName, channels });
const row = (modulesPerChannel: number, ranksPerChannel: number, rate: number) => ({
  ...{ modulesPerChannel, ranksPerChannel, rate: dataRate(rate) },
});
const soldered = { ...labelled('8GB 1Rx8 PC4-2400T-SA1-11'), formFactor: 'soldered' as const };

/** For every kind of contradiction a description that has it, and what is said of it. */
const BROKEN: Readonly<
  Record<MachineFault['type'], readonly [traits: Partial<Machine>, title: RegExp, mend: RegExp]>
> = {
  'no-place-for-memory': [{ slots: [] }, /^No slots and no soldered memory$/, /Add a slot/],
  'too-many-slots': [
    { slots: Array.from({ length: 20 }, (_, at) => slot(`s${at}`, `S${at}`)) },
    /^20 slots are too many$/,
    /Remove the slots/,
  ],
  'no-channels': [{ channels: [] }, /^No channel$/, /one channel or more/],
  'channel-twice': [{ channels: ['A', 'B', 'A'] }, /^Channel A is there twice$/, /Rename/],
  'name-twice': [
    { slots: [slot('x', 'A1'), slot('y', 'A1', ['B'])] },
    /^Two slots are called A1$/,
    /name printed beside it/,
  ],
  'no-such-channel': [
    { soldered: [{ channel: 'Q', part: soldered }] },
    /^There is no channel Q$/,
    /Choose one of its channels/,
  ],
  'no-such-slot': [
    { requiredFirstSlot: 'zz' },
    /^A slot is named that is not there$/,
    /Choose one/,
  ],
  'fill-order-count': [
    { fillOrder: [['a1'], ['a1']] },
    /^The fill order for 2 names 1 slots?$/,
    /^Name 2 different slots/,
  ],
  'range-reversed': [
    { osLimit: { low: gib(4), high: gib(3) } },
    /^4 GB to 3 GB runs backwards$/,
    /Swap/,
  ],
  'total-below-module': [
    { maxTotal: gib(0.1), maxPerSlot: 'unknown' },
    /in total holds no module$/,
    /in GB/,
  ],
  'rate-table-hole': [
    { rateTable: [row(2, 2, 2400)] },
    /^The rate table has no row for 1 module in a channel$/,
    /Add the row/,
  ],
  'rate-table-twice': [
    { rateTable: [row(1, 1, 2666), row(1, 1, 2400)] },
    /^Two rates for 1 module of 1 rank$/,
    /Keep the one/,
  ],
  'rate-table-rises': [
    { rateTable: [row(1, 1, 2400), row(2, 2, 2666)] },
    /^2 modules would run faster than fewer$/,
    /manual/,
  ],
};

describe('contradictions in a machine', () => {
  test.each(Object.entries(BROKEN))(
    '%s is found at its field and says its mend',
    (type, broken) => {
      const [traits, title, mend] = broken;
      const found = findMachineFaults(desktop(traits)).find((fault) => fault.type === type);
      if (!found) throw new Error(`expected ${type}`);
      const words = explainMachineFault(found);
      expectSound(words);
      expect(words.title).toMatch(title);
      expect(words.mend).toMatch(mend);
      expect(Object.keys(desktop())).toContain(found.path.split('.')[0]);
    },
  );

  test('a sound machine has none, and one broken in several ways says all of them', () => {
    expect(findMachineFaults(desktop())).toEqual([]);
    const keys = Object.keys(BROKEN) as MachineFault['type'][];
    fc.assert(
      fc.property(fc.subarray(keys, { minLength: 1, maxLength: 4 }), (types) => {
        // Later traits replace earlier ones of the same field; what is left must still be said.
        const traits = types.reduce<Partial<Machine>>(
          (all, type) => ({ ...all, ...BROKEN[type][0] }),
          {},
        );
        const last = types.at(-1);
        const said = findMachineFaults(desktop(traits));
        expect(said.map(({ type }) => type)).toContain(last);
        said.forEach((fault) => expectSound(explainMachineFault(fault)));
      }),
    );
  });
});

test('a machine of which nothing is known names every open trait, why it matters and where to look', () => {
  const blank = plainMachine({
    ...{ name: 'x', kind: 'desktop', generation: 'DDR4', formFactor: 'DIMM' },
    ...{ channels: 2, slotsPerChannel: 2 },
  });
  const open = unknownTraits(blank);
  expect(open.length).toBeGreaterThan(8);
  for (const one of open) {
    const words = explainUnknownTrait(one);
    expectSound(words);
    // A word of its own, not the trait's name in the code.
    expect(words.title).not.toMatch(/[a-z][A-Z]/);
    expect(words.mend).toMatch(/\S/);
  }
});
