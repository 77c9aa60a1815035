import type { ListedMachine } from '#contract/records';
import { count, gb, list } from '#core/explaining';
import { compareNames, sumGib } from '#core/units';

/** What is asked of the list of machines; empty where nothing is. */
export interface MachinesAsked {
  readonly words: string;
  readonly kind: string;
  readonly generation: string;
  readonly order: string;
}

/** What an address asks of the list. */
export const askedOf = (query: URLSearchParams): MachinesAsked => ({
  words: query.get('words') ?? '',
  kind: query.get('kind') ?? '',
  generation: query.get('generation') ?? '',
  order: query.get('order') ?? '',
});

/** What a machine is, in one line: `laptop · DDR4 · 2 channels · 1 SODIMM slot · 8 GB soldered`. */
export function machineOutline({ machine }: Pick<ListedMachine, 'machine'>): string {
  const { kind, generations, formFactor, channels, slots, soldered } = machine;
  const onBoard = sumGib(soldered.map(({ part }) => part.capacity));
  return [
    kind,
    list(generations, 'or'),
    count(channels.length, 'channel'),
    slots.length === 0 ? 'no slots' : count(slots.length, `${formFactor} slot`),
    ...(onBoard > 0 ? [`${gb(onBoard)} soldered`] : []),
  ].join(' · ');
}

/** Machines that hold every word and are of the kind and generation asked for, in the order asked for. */
export function findMachines(
  machines: readonly ListedMachine[],
  { words, kind, generation, order }: MachinesAsked,
): readonly ListedMachine[] {
  const wanted = words.toLowerCase().split(/\s+/).filter(Boolean);
  const found = machines.filter((record) => {
    const { machine } = record;
    const text = `${machine.name} ${machineOutline(record)}`.toLowerCase();
    return (
      wanted.every((word) => text.includes(word)) &&
      (kind === '' || machine.kind === kind) &&
      (generation === '' || machine.generations.some((one) => one === generation))
    );
  });
  // As one counts: Cabin 9 before Cabin 10.
  found.sort((a, b) => compareNames(a.machine.name, b.machine.name));
  return order === 'jobs' ? found.sort((a, b) => b.jobs - a.jobs) : found;
}
