import { DOUBTS } from './measurement.ts';
import type { Measurement, PowerMode } from './measurement.ts';
import { mean } from './statistics.ts';

/** How thorough the measuring page was asked to be; `short` is for trying it out. */
export const PROBE_LENGTHS = ['short', 'quick', 'thorough'] as const;
/** See {@link PROBE_LENGTHS}. */
export type ProbeLength = (typeof PROBE_LENGTHS)[number];

/** What did the work: the page's own kernels, or plain typed arrays where those cannot run. */
export const PROBE_ENGINES = ['simd kernels', 'plain arrays'] as const;
/** See {@link PROBE_ENGINES}. */
export type ProbeEngine = (typeof PROBE_ENGINES)[number];

/**
 * What a reader must know of how the figures came about. The order is that of the carry code's
 * bits; add at the end only.
 *
 * - `hidden`: the page was out of sight for a while; those windows were repeated
 * - `slowing`: reads at the end were slower than at the start (heat, another program)
 * - `battery`: the machine ran from its battery
 * - `noisy`: windows still differed after a repeat
 * - `small`: the browser gave too little memory to be far above every cache
 * - `no plateau`: more threads still brought more, or there was one only; memory was perhaps not
 *   the limit, so bandwidth is a lower bound
 * - `simulated`: no machine was measured at all
 */
export const PROBE_MARKS = [
  'hidden',
  'slowing',
  'battery',
  'noisy',
  'small',
  'no plateau',
  'simulated',
] as const;
/** See {@link PROBE_MARKS}. */
export type ProbeMark = (typeof PROBE_MARKS)[number];

/** What a carry code can hold, and all that a verdict needs. */
export interface ProbeEssence {
  readonly length: ProbeLength;
  readonly engine: ProbeEngine;
  /** Hardware threads the browser told of. */
  readonly threads: number;
  readonly marks: readonly ProbeMark[];
  /** Windows at the best number of threads, GB/s (10⁹ bytes a second), warm-up dropped. */
  readonly read: readonly number[];
  readonly multiplyAdd: readonly number[];
  /** Time to the first reply of a dependent read over the largest footprint, ns. */
  readonly reply: readonly number[];
}

/** All that the measuring page found. */
export interface ProbeResult extends ProbeEssence {
  /** Made by the page: the same result sent twice stands once. */
  readonly id: string;
  /** The page had fine clocks (cross-origin isolation). */
  readonly isolated: boolean;
  /** Memory walked over by all threads together, MiB. */
  readonly footprint: number;
  /** Median read of each rung of threads, GB/s. */
  readonly ramp: readonly { readonly threads: number; readonly rate: number }[];
  readonly copy: readonly number[];
  /** Random 64-byte reads on one thread, by chains at once, GB/s. */
  readonly random: readonly { readonly chains: number; readonly rate: number }[];
  /** Median reply over growing footprints: caches show as steps. */
  readonly steps: readonly { readonly kib: number; readonly ns: number }[];
  /** The pattern check, where one was run. */
  readonly pattern: PatternCheck | null;
}

/** A running check of memory the browser gave; no substitute for a test before the system starts. */
export interface PatternCheck {
  readonly mib: number;
  readonly rounds: number;
  readonly seconds: number;
  /** 16-byte words that did not hold what was written. */
  readonly wrong: number;
}

/** Bounds of what a page may report; beyond them a figure is a slip or a forgery. */
export const PROBE_BOUNDS = {
  threads: 1024,
  rate: { least: 0.01, most: 5000 },
  reply: { least: 0.2, most: 10_000 },
  runs: { least: 5, most: 60 },
} as const;

/** A rung must bring this much more for memory not to be the limit yet. */
const STILL_RISING = 1.1;

/**
 * Whether a ramp of threads reached a plateau: the best rung is not the last, or the last doubling
 * brought less than a tenth. One rung alone shows nothing.
 */
export function hasPlateau(ramp: ProbeResult['ramp']): boolean {
  const last = ramp.at(-1);
  const before = ramp.at(-2);
  return last !== undefined && before !== undefined && last.rate < before.rate * STILL_RISING;
}

/** Rungs of a ramp of threads: 1, 2, 4 … and all. */
export function rungsOf(threads: number): number[] {
  const rungs: number[] = [];
  for (let rung = 1; rung < threads; rung *= 2) rungs.push(rung);
  return [...rungs, threads];
}

/** Tests the page fills, by the names they have on a job. */
export const PROBE_TESTS = {
  read: { metric: 'bandwidth', test: 'measuring page: read' },
  copy: { metric: 'bandwidth', test: 'measuring page: copy' },
  multiplyAdd: { metric: 'bandwidth', test: 'measuring page: multiply-add' },
  reply: { metric: 'latency', test: 'measuring page: latency' },
} as const;

/**
 * A result as runs of tests. Whatever would make two results unlike (threads, engine, too little
 * memory, simulated) goes into the conditions, so that a comparison sees it.
 *
 * @param power - as the technician said; where not, a battery is known from the page alone
 * @param carriedStep - what a carry code rounded runs to, as a share of them
 */
export function measurementsOf(
  result: ProbeEssence & Partial<Pick<ProbeResult, 'copy'>>,
  power: PowerMode,
  carriedStep?: number,
): Omit<Measurement, 'fingerprint'>[] {
  const conditions = result.marks.filter((mark) => mark === 'small' || mark === 'simulated');
  return (Object.keys(PROBE_TESTS) as (keyof typeof PROBE_TESTS)[]).flatMap((name) => {
    const runs = result[name] ?? [];
    if (runs.length === 0) return [];
    return [
      {
        ...PROBE_TESTS[name],
        ...{ runs, warmUp: 0 },
        power: power === 'unknown' && result.marks.includes('battery') ? 'battery' : power,
        resolution: `${result.threads} threads`,
        tool: `measuring page, ${result.engine}`,
        conditions: conditions.join(', '),
        isLowerBound: name !== 'reply' && result.marks.includes('no plateau'),
        doubts: DOUBTS.filter((doubt) => result.marks.includes(doubt)),
        ...(carriedStep === undefined ? {} : { step: carriedStep * mean(runs) }),
      },
    ];
  });
}
