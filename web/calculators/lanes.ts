import { plainMachine } from '#core/machine';
import type { Machine } from '#core/machine';
import { operatingPoint } from '#core/operating-point';
import type { Running } from '#core/operating-point';
import { readLabel } from '#core/memory';
import { gib } from '#core/units';

/** Two lanes of any size, as a machine that could hold them; `undefined` where both are empty. */
export function desktopLanes(
  a: number,
  b: number,
): { machine: Machine; running: Running } | undefined {
  const { module } = readLabel('8GB 1Rx8 PC4-3200AA-UA1-11');
  if (!module) return undefined;
  const machine: Machine = {
    ...plainMachine({
      ...{ name: 'Two lanes', kind: 'desktop', generation: 'DDR4', formFactor: 'DIMM' },
      ...{ channels: 2, slotsPerChannel: 1 },
    }),
    unevenChannels: 'zone',
    requiredFirstSlot: 'none',
    nonBinary: 'yes',
  };
  const put = (capacity: number) =>
    capacity > 0 ? { ...module, capacity: gib(capacity) } : undefined;
  const point = operatingPoint(machine, { a1: put(a), b1: put(b) }, 'standard');
  return point.type === 'runs' ? { machine, running: point } : undefined;
}
