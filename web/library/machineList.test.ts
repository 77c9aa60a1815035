import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import type { ListedMachine } from '#contract/records';
import { MACHINE_KINDS } from '#core/machine';
import { aJob } from '../../test/support/aJob.ts';
import { desktop, labelled } from '../../test/support/builders.ts';
import { askedOf, findMachines, machineOutline } from './machineList.ts';

const anyListed = fc
  .record({
    name: fc.constantFrom(
      'Cabin box',
      'Lantern A3',
      'Beacon tower',
      'Cabin 9',
      'cabin 10',
      'Cabin 100',
    ),
    kind: fc.constantFrom(...MACHINE_KINDS),
    generation: fc.constantFrom('DDR3', 'DDR4', 'DDR5'),
    jobs: fc.nat(5),
    id: fc.uuid(),
  })
  .map(({ name, kind, generation, jobs, id }): ListedMachine => ({
    ...aJob({}, desktop({ name, kind, generations: [generation as 'DDR4'] })).machine,
    ...{ id, jobs },
  }));
/** The name with its number in four digits, which sorts as one counts. */
const numbered = ({ machine }: ListedMachine) =>
  machine.name.toLowerCase().replace(/\d+/, (digits) => digits.padStart(4, '0'));
const library = fc.array(anyListed, { maxLength: 12 });
const asks = fc.record({
  words: fc.constantFrom('', 'cabin', 'CABIN tower', 'slot', 'ddr5 beacon', 'nowhere'),
  kind: fc.constantFrom('', ...MACHINE_KINDS),
  generation: fc.constantFrom('', 'DDR3', 'DDR5'),
  order: fc.constantFrom('', 'jobs'),
});

describe('the list of machines', () => {
  test('finds exactly those that hold every word, kind and generation asked for', () => {
    fc.assert(
      fc.property(library, asks, (machines, asked) => {
        const found = findMachines(machines, asked);
        for (const one of machines) {
          const text = `${one.machine.name} ${machineOutline(one)}`.toLowerCase();
          const isWanted =
            asked.words
              .toLowerCase()
              .split(' ')
              .every((word) => text.includes(word)) &&
            [one.machine.kind, ''].includes(asked.kind) &&
            [...one.machine.generations, ''].includes(asked.generation);
          expect(found.includes(one)).toBe(isWanted);
        }
        const order = found.map(({ jobs }) => jobs);
        if (asked.order === 'jobs') expect(order).toEqual([...order].sort((a, b) => b - a));
        for (const [at, one] of found.entries()) {
          const next = found[at + 1];
          if (next && (asked.order === '' || next.jobs === one.jobs))
            expect(numbered(one) <= numbered(next)).toBe(true);
        }
      }),
      { numRuns: 40 },
    );
  });

  test('an address that asks nothing asks for all, and what it asks is kept in it', () => {
    expect(askedOf(new URLSearchParams())).toEqual({
      words: '',
      kind: '',
      generation: '',
      order: '',
    });
    const asked = { words: 'a b', kind: 'laptop', generation: 'DDR4', order: 'jobs' };
    expect(askedOf(new URLSearchParams(asked))).toEqual(asked);
  });

  test('a line says soldered memory and that there is no slot', () => {
    const part = labelled('8GB 1Rx8 PC4-2400T-UA1-11');
    const machine = desktop({ soldered: [{ channel: 'A', part }] }, 2, 0);
    expect(machineOutline({ machine })).toBe(
      'desktop · DDR4 · 2 channels · no slots · 8 GB soldered',
    );
  });
});
