import type { Machine } from '../machine/index.ts';
import { gib, peakBandwidth } from '../units/index.ts';
import type { DataRate, Gibibytes, GigabytesPerSecond } from '../units/index.ts';
import type { ChannelLoad, Layout, Region } from './types.ts';

/**
 * Lays capacity over channels. Three modules in two channels (8 + 8 on A, 8 on B) give 16 | 8:
 * 16 GB paired and a tail of 8, or all of it one channel wide where the trait is `single`.
 *
 * Interleaving fills all populated channels up to the smallest, then the rest, and so on
 * ("water-fill"). Channels are uneven when the populated ones differ, not when modules do:
 * 8+16 | 16+8 is even.
 *
 * @returns one layout, or for an uneven set with the trait `unknown` both, the worse first
 */
export function layOut(
  machine: Machine,
  loads: readonly ChannelLoad[],
  rate: DataRate,
): [Layout, ...Layout[]] {
  const populated = loads.filter(({ capacity }) => capacity > 0);
  const peakOf = (channels: number) => peakBandwidth(rate, channels * machine.channelBits);
  const zone: Layout = { reading: 'zone', regions: waterFill(populated, peakOf) };
  if (zone.regions.length < 2 || machine.unevenChannels === 'zone') return [zone];
  const total = populated.reduce((sum, { capacity }) => sum + capacity, 0);
  const channels = populated.map(({ channel }) => channel).slice(0, 1);
  const single: Layout = {
    reading: 'single',
    regions: [{ channels, capacity: gib(total), peak: peakOf(1) }],
  };
  return machine.unevenChannels === 'single' ? [single] : [single, zone];
}

function waterFill(
  populated: readonly ChannelLoad[],
  peakOf: (channels: number) => GigabytesPerSecond,
): Region[] {
  const regions: Region[] = [];
  let level = 0;
  let open = populated;
  while (open.length > 0) {
    const top = open.reduce((low, { capacity }) => Math.min(low, capacity), Infinity);
    regions.push({
      channels: open.map(({ channel }) => channel),
      capacity: gib((top - level) * open.length),
      peak: peakOf(open.length),
    });
    level = top;
    open = open.filter(({ capacity }) => capacity > top);
  }
  return regions;
}

/** Capacity that all populated channels share; one populated channel shares nothing. */
export function pairedCapacity(layout: Layout, populated: number): Gibibytes {
  const first = layout.regions[0];
  return first && populated > 1 && first.channels.length === populated ? first.capacity : gib(0);
}

/**
 * Peak of the slowest region that a load touches, laid in widest first.
 *
 * @param load - GiB in use, the graphics carve-out included
 */
export function peakAtLoad(layout: Layout, load: number): GigabytesPerSecond {
  let left = load;
  let peak = layout.regions[0]?.peak ?? (0 as GigabytesPerSecond);
  for (const region of layout.regions) {
    if (left <= 0) break;
    peak = region.peak;
    left -= region.capacity;
  }
  return peak;
}
