import type { ListedMachine } from '#contract/records';
import { count } from '#core/explaining';
import type { Choice } from './Combobox.tsx';

/** Machines of the library as one chooses among them. */
export const machineChoices = (machines: readonly ListedMachine[]): Choice[] =>
  machines.map(({ id, machine, jobs }) => ({
    ...{ value: id, label: machine.name },
    aside: [
      machine.kind,
      machine.generations.join(', '),
      count(machine.slots.length, 'slot'),
      ...(jobs > 0 ? [count(jobs, 'job')] : []),
    ].join(' · '),
  }));
