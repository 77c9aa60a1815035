import { readLabel } from '#core/memory';
import type { MemoryModule } from '#core/memory';
import { gib } from '#core/units';

/** The module of a label that must suffice. */
export function moduleOf(label: string, more: Partial<MemoryModule> = {}): MemoryModule {
  const { module } = readLabel(label);
  if (!module) throw new Error(`expected a sufficient label, received ${label}`);
  return { ...module, ...more };
}

/** A soldered part on a channel, by what a label would say. */
export const soldered = (label: string, channel: string) => ({
  channel,
  part: { ...moduleOf(label), formFactor: 'soldered' as const },
});

export const noGraphics = { low: gib(0), high: gib(0) };
export const graphics = { low: gib(0.25), high: gib(0.5) };

/** Traits of machines that offer nothing to set. */
export const quietTraits = {
  requiredFirstSlot: 'none',
  firmwareCap: 'none',
  profiles: { support: 'no', ceiling: 'none' },
  sync: { limit: 'none', fabricClock: false },
} as const;
