import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { findMachineFaults } from '#core/machine';
import { anyFourChannelMachine } from '../../test/support/arbitraries.ts';
import { desktop, labelled } from '../../test/support/builders.ts';
import { dataRate, gib } from '../../core/units/index.ts';
import { orderFromTaps, tapsFromOrder } from './boardForm.ts';
import { machineFromFile, machineToFile } from './machineFile.ts';
import { formFromMachine, machineFromForm } from './machineForm.ts';

const full = desktop({
  soldered: [
    {
      channel: 'A',
      part: { ...labelled('12GB 1Rx16 PC5-5600B-SA0-1010'), formFactor: 'soldered' },
    },
  ],
  generations: ['DDR5'],
  fillOrder: [['a2'], ['a2', 'b2']],
  requiredFirstSlot: 'a2',
  maxPerSlot: gib(48),
  rateTable: [{ modulesPerChannel: 1, ranksPerChannel: 2, rate: dataRate(5600) }],
  firmwareCap: dataRate(5200),
  sync: { limit: 'unknown', fabricClock: true },
  graphicsCarveOut: { low: gib(0.25), high: gib(0.5) },
  osLimit: { low: gib(3), high: gib(3.5) },
  verifiedParts: ['ORL-24S52', 'PV4-04S'],
  maximaFrom: 'tested here',
  access: {
    ...{ cover: 'screws and clips', screws: 9, hiddenFasteners: 'yes', battery: 'service mode' },
    memoryAt: 'under the keyboard',
  },
});

describe('the board', () => {
  const names = ['lower left', 'upper left', 'A2'];
  test('slots tapped in turn are a fill order, and names with spaces survive', () => {
    const text = orderFromTaps(['lower left', 'A2']);
    expect(text).toBe('lower left; lower left, A2');
    expect(tapsFromOrder(text, names)).toEqual(['lower left', 'A2']);
    expect(tapsFromOrder('A2; lower left, upper left', names)).toEqual([]);
    const machine = desktop({
      slots: [{ id: 'x', printedName: 'lower left', channels: ['A'] }],
      fillOrder: [['x']],
    });
    expect(machineFromForm(formFromMachine(machine), machine).machine).toEqual(machine);
  });

  test('a machine comes back from its file; anything else is named', () => {
    expect(machineFromFile(machineToFile(full))).toEqual({ machine: full, faults: [] });
    expect(machineFromFile('{').faults[0]).toContain('no complete JSON');
    expect(machineFromFile('{"a":1}').faults[0]).toContain('no machine of this library');
    const holed = machineToFile({
      ...full,
      rateTable: [{ modulesPerChannel: 2, ranksPerChannel: 2, rate: dataRate(4000) }],
    });
    expect(machineFromFile(holed).faults[0]).toMatch(/^rateTable\.0: .*no row for 1 module/);
  });
});

describe('machine form', () => {
  test('whatever the limits of a machine, it comes back from its form unchanged', () => {
    fc.assert(
      fc.property(anyFourChannelMachine, (machine) => {
        fc.pre(findMachineFaults(machine).length === 0);
        const { machine: back, errors } = machineFromForm(formFromMachine(machine), machine);
        expect(errors).toEqual({});
        expect(back).toEqual(machine);
      }),
      { numRuns: 200 },
    );
  });

  test('whatever is typed into one field, it is taken or refused there, and never breaks', () => {
    const form = formFromMachine(full);
    const fields = Object.entries(form).flatMap(([name, value]) =>
      typeof value === 'string' ? [name] : [],
    );
    const typed = fc.oneof(
      fc.string({ maxLength: 30 }),
      fc.stringMatching(/^[0-9 ,.;x×-]{0,12}$/),
      fc.constantFrom('unknown', 'none', '1e9', '-1', '0', '2; 1', 'A1, A1', 'DDR4, DDR5'),
    );
    fc.assert(
      fc.property(fc.constantFrom(...fields), typed, (name, text) => {
        const { machine, errors } = machineFromForm({ ...form, [name]: text });
        expect(machine === undefined).toBe(Object.keys(errors).length > 0);
        for (const message of Object.values(errors)) expect(message).toMatch(/\S/);
      }),
      { numRuns: 500 },
    );
  });

  test.each([
    ['plain', desktop()],
    ['full', full],
  ])('a %s machine comes back unchanged', (_name, machine) => {
    const { machine: back, errors } = machineFromForm(formFromMachine(machine), machine);
    expect(errors).toEqual({});
    expect(back).toEqual(machine);
  });

  test.each([
    [{ controllerLimit: 'fast' }, 'controllerLimit', /not a number/],
    [{ generations: 'DDR9' }, 'generations', /./],
    [{ fillOrder: 'A2; A2 Z9' }, 'fillOrder', /No slot is called “Z9”/],
    [{ fillOrder: 'A1 B1' }, 'fillOrder', /Name 1 different/],
    [{ rateTable: '2 modules' }, 'rateTable', /modules, ranks and MT/],
    [{ graphics: '2 - 1' }, 'graphics', /Swap/],
    [{ slots: [] }, 'slots', /Add a slot/],
    [{ soldered: [{ channel: 'A', label: 'hello' }] }, 'soldered.0.label', /missing/],
    [{ name: '' }, 'name', /Enter the name/],
  ])('%o is refused at %s', (typed, field, message) => {
    const { machine, errors } = machineFromForm({ ...formFromMachine(desktop()), ...typed });
    expect(machine).toBeUndefined();
    expect(errors[field]).toMatch(message);
  });
});
