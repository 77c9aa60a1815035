import type { Machine, Placement } from '../machine/index.ts';
import type { Generation, MemoryModule } from '../memory/index.ts';
import { fittedParts } from '../operating-point/index.ts';
import type { Fitted, Layout, Running } from '../operating-point/index.ts';
import { MODELS } from './models.ts';
import { isPlausible, statedTimes } from './timings.ts';
import type { MemorySystem, ModelledGeneration, Zone } from './types.ts';

/** What was taken for granted because nothing states it. */
export type Supposed = 'chip width' | 'ranks' | 'row times';

/** A machine as a memory system to simulate, or why there is none. */
export type SystemOf =
  | {
      readonly type: 'system';
      readonly system: MemorySystem;
      readonly supposed: readonly Supposed[];
      /** Modules of a channel are unlike: it runs as its least able one would. */
      readonly isMixed: boolean;
    }
  /** Nobody here knows how this kind of memory is timed. */
  | { readonly type: 'no-model'; readonly generation: Generation }
  /** Times that contradict one another, or that no memory has. */
  | { readonly type: 'implausible' };

const LINES_PER_GIB = 2 ** 24;
const CHANNEL_BITS = 64;
const USUAL_WIDTH = 8;

/**
 * The memory system a placement makes, at its operating point.
 *
 * @param layout - how capacity lies over channels; the worse reading where nothing is given
 */
export function systemOf(
  machine: Machine,
  placement: Placement,
  point: Running,
  layout: Layout = point.layouts[0],
): SystemOf {
  const { generation } = point;
  // Soldered low-power parts are timed by another standard, and narrow channels lie otherwise.
  if (!isModelled(generation) || machine.channelBits !== CHANNEL_BITS)
    return { type: 'no-model', generation };
  const parts = fittedParts(machine, placement);
  const used = machine.channels.filter((channel) =>
    parts.some(({ channels }) => channels.includes(channel)),
  );
  const { cl, trcd, trp, tras } = point.timings.cycles;
  const times = { cl, rcd: trcd ?? cl, rp: trp ?? cl, ras: tras };
  if (used.length === 0 || !isPlausible(times)) return { type: 'implausible' };
  const widths = parts.map(({ module }) => widthOf(module));
  const chipWidth = Math.max(...widths.map((width) => width ?? USUAL_WIDTH));
  const stated = statedTimes(parts.map(({ module }) => module.commandTimesPs));
  const ranks = used.map((channel) => ranksOn(parts, channel));
  const supposed: Supposed[] = [
    ...(widths.includes(undefined) ? (['chip width'] as const) : []),
    ...(parts.some(({ module }) => module.ranks === 'unknown') ? (['ranks'] as const) : []),
    ...(trcd === undefined || trp === undefined ? (['row times'] as const) : []),
  ];
  const zones = layout.regions.map(({ channels, capacity }): Zone => {
    const indices = channels.map((channel) => used.indexOf(channel));
    // Whole turns over all channels: a line more or less is no capacity.
    const turn = 64 * indices.length;
    const lines = Math.max(turn, Math.floor((capacity * LINES_PER_GIB) / turn) * turn);
    return { channels: indices, lines };
  });
  return {
    type: 'system',
    supposed,
    isMixed: used.some((channel) => isMixedOn(parts, channel)),
    system: {
      ...{ generation, rate: point.rate, ...times, chipWidth, ranks, zones },
      ...(Object.keys(stated).length > 0 ? { stated } : {}),
      density: densityOf(parts, chipWidth, generation),
    },
  };
}

const isModelled = (generation: Generation): generation is ModelledGeneration =>
  generation in MODELS;

const widthOf = ({ chipWidth }: MemoryModule): number | undefined =>
  chipWidth === 'unknown' ? undefined : chipWidth;

const onChannel = (parts: readonly Fitted[], channel: string) =>
  parts.filter(({ channels }) => channels.includes(channel));

/** Ranks of all modules on a channel; one each where nobody knows. */
function ranksOn(parts: readonly Fitted[], channel: string): number {
  const ranks = onChannel(parts, channel).map(({ module }) =>
    module.ranks === 'unknown' ? 1 : module.ranks,
  );
  return Math.max(
    1,
    ranks.reduce((sum, one) => sum + one, 0),
  );
}

function isMixedOn(parts: readonly Fitted[], channel: string): boolean {
  const kinds = onChannel(parts, channel).map(
    ({ module: { capacity, ranks, chipWidth } }) => `${capacity} ${ranks} ${chipWidth}`,
  );
  return new Set(kinds).size > 1;
}

/**
 * Gbit of a chip, by the largest rank there is: refresh of the largest takes longest. Standard sizes
 * only; a size between two is the next one up.
 */
function densityOf(
  parts: readonly Fitted[],
  chipWidth: number,
  generation: ModelledGeneration,
): number {
  const gbit = parts.map(({ module, channels }) => {
    const ranks = module.ranks === 'unknown' ? 1 : module.ranks;
    const chips = (CHANNEL_BITS / (widthOf(module) ?? chipWidth)) * ranks * channels.length;
    return (module.capacity * 8) / chips;
  });
  const most = Math.max(...gbit);
  const sizes = MODELS[generation].rfc.map(([size]) => size);
  return sizes.find((size) => size >= most) ?? sizes.at(-1) ?? most;
}
