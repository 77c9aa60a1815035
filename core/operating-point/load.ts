import type { Machine, Placement } from '../machine/index.ts';
import { gib } from '../units/index.ts';
import type { ChannelLoad, Fitted } from './types.ts';

/** Every part that takes part: soldered first, then modules in the machine's slot order. */
export function fittedParts(machine: Machine, placement: Placement): Fitted[] {
  const fitted: Fitted[] = machine.soldered.map(({ channel, part }) => ({
    module: part,
    slotId: undefined,
    channels: [channel],
  }));
  for (const slot of machine.slots) {
    const module = placement[slot.id];
    if (!module) continue;
    // A module that carries fewer channels than its socket wires feeds the first of them.
    const channels = slot.channels.slice(0, module.channels ?? 1);
    fitted.push({ module, slotId: slot.id, channels });
  }
  return fitted;
}

/** What each channel of the machine carries; a module on two channels gives each its half. */
export function channelLoads(machine: Machine, fitted: readonly Fitted[]): ChannelLoad[] {
  return machine.channels.map((channel) => {
    let capacity = 0;
    let modules = 0;
    let ranks: number | 'unknown' = 0;
    for (const part of fitted) {
      if (!part.channels.includes(channel)) continue;
      capacity += part.module.capacity / part.channels.length;
      modules += 1;
      const more = part.module.ranks;
      ranks = ranks === 'unknown' || more === 'unknown' ? 'unknown' : ranks + more;
    }
    return { channel, capacity: gib(capacity), modules, ranks };
  });
}
