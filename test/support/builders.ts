import { writeSpd } from '#core/inventory';
import { plainMachine } from '#core/machine';
import type { Machine, Placement } from '#core/machine';
import { readLabel } from '#core/memory';
import type { MemoryModule } from '#core/memory';
import { operatingPoint } from '#core/operating-point';
import type { Running } from '#core/operating-point';
import { dataRate } from '#core/units';

/** The module a label describes. Throws where the label does not suffice. */
export function labelled(label: string, more: Partial<MemoryModule> = {}): MemoryModule {
  const { module, findings } = readLabel(label);
  if (!module) throw new Error(`${label}: ${JSON.stringify(findings)}`);
  return { ...module, ...more };
}

/** A desktop with every trait known: two channels of two slots (a1 a2 b1 b2) unless told otherwise. */
export function desktop(more: Partial<Machine> = {}, channels = 2, slotsPerChannel = 2): Machine {
  const seen = { name: 'Test board', kind: 'desktop', formFactor: 'DIMM', channels } as const;
  return {
    ...plainMachine({ ...seen, generation: more.generations?.[0] ?? 'DDR4', slotsPerChannel }),
    ecc: 'ignored',
    requiredFirstSlot: 'none',
    nonBinary: 'yes',
    controllerLimit: dataRate(3200),
    firmwareCap: 'none',
    profiles: { support: 'yes', ceiling: 'none' },
    unevenChannels: 'zone',
    sync: { limit: 'none', fabricClock: false },
    ...more,
  };
}

/** The operating point of a placement that must run. Throws with the blockers where it does not. */
export function running(
  machine: Machine,
  placement: Placement,
  setting: 'standard' | 'profile' = 'standard',
): Running {
  const point = operatingPoint(machine, placement, setting);
  if (point.type !== 'runs') throw new Error(JSON.stringify(point.blockers));
  return point;
}

/** The SPD image of a module that can have one. */
export function spdOf(module: MemoryModule, more?: Parameters<typeof writeSpd>[1]): Uint8Array {
  const spd = writeSpd(module, more);
  if (!spd.ok) throw new Error(JSON.stringify(spd.error));
  return spd.value;
}
