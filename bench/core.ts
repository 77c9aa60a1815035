import { MACHINES } from '../demo/machines.ts';
import { moduleOf } from '../demo/parts.ts';
import type * as operatingPointRoom from '#core/operating-point';
import { builtRoom } from './built.ts';
import { perSecond, times } from './table.ts';
import type { Row } from './table.ts';

/** Operating points a second of a full eight-slot, four-channel machine with a rate table. */
export async function benchCore(): Promise<Row[]> {
  const { operatingPoint } = await builtRoom<typeof operatingPointRoom>('operating-point');
  // Through JSON, as machines reach the core everywhere else.
  const machine = JSON.parse(
    JSON.stringify(MACHINES.stackingStation),
  ) as typeof MACHINES.stackingStation;
  const module = moduleOf('16GB 2Rx8 PC4-2933Y-RE2-12 SW-16R29');
  const placement = Object.fromEntries(machine.slots.map(({ id }) => [id, { ...module }]));
  const points = perSecond(() => operatingPoint(machine, placement, 'standard'));
  const copies = perSecond(() => structuredClone(placement));
  return [
    {
      what: 'operating points, 8 slots, 4 channels',
      measured: `${Math.round(points).toLocaleString('en')}/s`,
      wanted: '≥ 50,000/s',
      holds: points >= 50_000,
      yardstick: `${Math.round(copies).toLocaleString('en')}/s structured clones of the placement, ${times(points, copies)}`,
    },
  ];
}
