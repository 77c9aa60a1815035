import type { Layout, Running } from './types.ts';

/** A stretch of all lanes between two depths, GiB per channel. */
export interface Stretch {
  readonly from: number;
  readonly to: number;
  readonly channels: readonly string[];
  /** Total capacity up to its end. */
  readonly total: number;
}

/** The regions of a layout as stretches of its lanes, the widest first. */
export function stretchesOf({ regions }: Layout): Stretch[] {
  let depth = 0;
  let total = 0;
  return regions.map(({ channels, capacity }) => {
    const from = depth;
    depth += capacity / channels.length;
    total += capacity;
    return { from, to: depth, channels, total };
  });
}

/** One channel's lane, cut into parts of one width each. */
export interface Lane {
  readonly channel: string;
  /** `share` of the longest lane; `width` in channels that run side by side there. */
  readonly segments: readonly { readonly share: number; readonly width: number }[];
}

/** Every channel's lane as shares of the longest, for a picture too small for figures. */
export function lanesOf({ layouts, loads }: Pick<Running, 'layouts' | 'loads'>): Lane[] {
  const [layout] = layouts;
  const longest = Math.max(...loads.map(({ capacity }) => capacity), 1);
  const stretches = layout.reading === 'single' ? [] : stretchesOf(layout);
  return loads.map(({ channel, capacity }) => ({
    channel,
    segments:
      stretches.length === 0
        ? capacity > 0
          ? [{ share: capacity / longest, width: 1 }]
          : []
        : stretches
            .filter(({ channels }) => channels.includes(channel))
            .map(({ from, to, channels }) => ({
              share: (to - from) / longest,
              width: channels.length,
            })),
  }));
}
