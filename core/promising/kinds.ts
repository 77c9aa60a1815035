import type { Ratios } from '../timing-simulation/index.ts';

/** A share of the running time, known as a range. */
export interface Share {
  readonly low: number;
  readonly high: number;
}

/** A kind of work, and how much of its time waits for memory. */
export interface KindOfWork {
  readonly id: string;
  readonly name: string;
  /** The same within a sentence. */
  readonly short: string;
  /** It tells more of another kind, and never stands for all a customer does. */
  readonly detailOf?: string;
  /** β: waits for bandwidth. */
  readonly bandwidth: Share;
  /** λ: waits for replies. */
  readonly latency: Share;
  /** The simulated way of using memory whose bandwidth it waits for. */
  readonly moves: keyof Ratios['bandwidth'];
  /** Why the shares are what they are. */
  readonly why: string;
}

const upTo = (high: number): Share => ({ low: 0, high });
const from = (low: number, high: number): Share => ({ low, high });

/**
 * Shares of running time before the change: stated assumptions, wide on purpose, each held by tests
 * against what such a change is seen to give, and refitted from jobs the shop has proven. Another
 * kind is one more row.
 */
export const KINDS_OF_WORK: readonly KindOfWork[] = [
  {
    ...{ id: 'office', name: 'Office and browsing', short: 'office work', moves: 'desktop' },
    ...{ bandwidth: upTo(0.02), latency: upTo(0.03) },
    why: 'It waits for people, pages and the drive.',
  },
  {
    ...{
      id: 'integrated',
      name: 'Built-in graphics',
      short: 'built-in graphics',
      moves: 'graphics',
    },
    ...{ bandwidth: from(0.72, 0.8), latency: upTo(0.06) },
    why: 'Graphics without memory of their own draw every picture out of this memory.',
  },
  {
    ...{
      id: 'games',
      name: 'Games held up by the processor, average',
      short: 'games',
      moves: 'stream',
    },
    ...{ bandwidth: from(0.105, 0.33), latency: from(0.1, 0.3) },
    why: 'Each frame walks through more than the caches hold, in leaps and in runs.',
  },
  {
    ...{
      id: 'games-low',
      name: 'Games held up by the processor, slowest 1 %',
      short: 'slow frames of games',
      moves: 'stream',
    },
    ...{ bandwidth: from(0.16, 0.45), latency: from(0.14, 0.36) },
    detailOf: 'games',
    why: 'The slowest frames are those that load and unpack; they wait the longest.',
  },
  {
    ...{
      id: 'graphics',
      name: 'Games held up by the graphics card',
      short: 'games',
      moves: 'stream',
    },
    ...{ bandwidth: upTo(0.02), latency: upTo(0.02) },
    why: 'The card has memory of its own, and the processor waits for it.',
  },
  {
    ...{
      id: 'compression',
      name: 'Packing and unpacking files',
      short: 'packing',
      moves: 'stream',
    },
    ...{ bandwidth: from(0.29, 0.44), latency: from(0.1, 0.25) },
    why: 'All cores look up a dictionary that is larger than the caches.',
  },
  {
    ...{ id: 'compiling', name: 'Compiling programs', short: 'compiling', moves: 'stream' },
    ...{ bandwidth: from(0.03, 0.12), latency: from(0.08, 0.22) },
    why: 'Many small trees are walked by pointer; most of them stay in the caches.',
  },
  {
    ...{ id: 'photo', name: 'Photo editing', short: 'photo editing', moves: 'stream' },
    ...{ bandwidth: from(0.04, 0.22), latency: from(0.03, 0.12) },
    why: 'A filter goes over the whole picture; a brush stays in the caches.',
  },
  {
    ...{ id: 'film', name: 'Film editing', short: 'film editing', moves: 'stream' },
    ...{ bandwidth: from(0.05, 0.22), latency: from(0.02, 0.1) },
    why: 'Frames pass through once; coding them keeps the processor busy.',
  },
  {
    ...{ id: 'rendering', name: 'Rendering on the processor', short: 'rendering', moves: 'stream' },
    ...{ bandwidth: upTo(0.02), latency: upTo(0.03) },
    why: 'It reckons far longer on each line than it waits for it.',
  },
  {
    ...{ id: 'virtual', name: 'Virtual machines', short: 'virtual machines', moves: 'desktop' },
    ...{ bandwidth: upTo(0.1), latency: from(0.04, 0.15) },
    why: 'Guests share the caches and push one another out; each is a desktop of its own.',
  },
  {
    ...{ id: 'numeric', name: 'Numeric models', short: 'numeric models', moves: 'stream' },
    ...{ bandwidth: from(0.15, 0.7), latency: from(0.03, 0.2) },
    why: 'Large grids and thin matrices stream from memory; dense ones stay in the caches.',
  },
];
