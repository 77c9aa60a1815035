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
}

const upTo = (high: number): Share => ({ low: 0, high });
const from = (low: number, high: number): Share => ({ low, high });

/**
 * Shares of running time before the change: stated assumptions, wide on purpose, each with its reason in
 * `core/explaining/promises.ts` (the first page carries this table), held by tests against what such a
 * change is seen to give, and refitted from jobs the shop has proven. Another kind is one more row.
 */
export const KINDS_OF_WORK: readonly KindOfWork[] = [
  {
    ...{ id: 'office', name: 'Office and browsing', short: 'office work', moves: 'desktop' },
    ...{ bandwidth: upTo(0.02), latency: upTo(0.03) },
  },
  {
    ...{
      id: 'integrated',
      name: 'Built-in graphics',
      short: 'built-in graphics',
      moves: 'graphics',
    },
    ...{ bandwidth: from(0.72, 0.8), latency: upTo(0.06) },
  },
  {
    ...{
      id: 'games',
      name: 'Games held up by the processor, average',
      short: 'games',
      moves: 'stream',
    },
    ...{ bandwidth: from(0.105, 0.33), latency: from(0.1, 0.3) },
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
  },
  {
    ...{
      id: 'graphics',
      name: 'Games held up by the graphics card',
      short: 'games',
      moves: 'stream',
    },
    ...{ bandwidth: upTo(0.02), latency: upTo(0.02) },
  },
  {
    ...{
      id: 'compression',
      name: 'Packing and unpacking files',
      short: 'packing',
      moves: 'stream',
    },
    ...{ bandwidth: from(0.29, 0.44), latency: from(0.1, 0.25) },
  },
  {
    ...{ id: 'compiling', name: 'Compiling programs', short: 'compiling', moves: 'stream' },
    ...{ bandwidth: from(0.03, 0.12), latency: from(0.08, 0.22) },
  },
  {
    ...{ id: 'photo', name: 'Photo editing', short: 'photo editing', moves: 'stream' },
    ...{ bandwidth: from(0.04, 0.22), latency: from(0.03, 0.12) },
  },
  {
    ...{ id: 'film', name: 'Film editing', short: 'film editing', moves: 'stream' },
    ...{ bandwidth: from(0.05, 0.22), latency: from(0.02, 0.1) },
  },
  {
    ...{ id: 'rendering', name: 'Rendering on the processor', short: 'rendering', moves: 'stream' },
    ...{ bandwidth: upTo(0.02), latency: upTo(0.03) },
  },
  {
    ...{ id: 'virtual', name: 'Virtual machines', short: 'virtual machines', moves: 'desktop' },
    ...{ bandwidth: upTo(0.1), latency: from(0.04, 0.15) },
  },
  {
    ...{ id: 'numeric', name: 'Numeric models', short: 'numeric models', moves: 'stream' },
    ...{ bandwidth: from(0.15, 0.7), latency: from(0.03, 0.2) },
  },
];
