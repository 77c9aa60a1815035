import type { ProbeEngine } from '../core/proving/probe.ts';
import { openKernels } from './kernels.ts';
import type { Kernels } from './kernels.ts';
import { chainOver } from './chain.ts';

/** What a worker is asked to do. Times are milliseconds, sizes bytes unless they say MiB. */
export type Task =
  | { readonly type: 'prepare'; readonly mib: number; readonly isPlain: boolean }
  | {
      readonly type: 'window';
      readonly kernel: 'read' | 'copy' | 'multiplyAdd';
      readonly bytes: number;
      /** Moment all workers start at, by the clock they share. */
      readonly startAt: number;
      readonly ms: number;
    }
  /** Builds a chain of lines over the first bytes, for the chases that follow. */
  | { readonly type: 'chain'; readonly bytes: number; readonly seed: number }
  | { readonly type: 'chase'; readonly chains: 1 | 4 | 8; readonly ms: number }
  | { readonly type: 'pattern'; readonly ms: number };

/** What it answers. */
export interface Answers {
  readonly prepare: { readonly mib: number; readonly engine: ProbeEngine };
  readonly window: { readonly bytes: number; readonly ms: number };
  readonly chain: null;
  /** Steps of each chain. */
  readonly chase: { readonly steps: number; readonly ms: number };
  readonly pattern: { readonly mib: number; readonly rounds: number; readonly wrong: number };
}

/** The clock is read between pieces of this size: often enough to end together, seldom enough to cost nothing. */
const PIECE = 1_048_576;
const STAGGER = 1024;

let kernels: Kernels;
let chain = new Int32Array(0);
/** Sums go here so that no engine may drop the work as useless. */
let sink = 0;

const now = () => performance.timeOrigin + performance.now();

function handle(task: Task): unknown {
  switch (task.type) {
    case 'prepare':
      kernels = openKernels(task.mib, task.isPlain);
      return { mib: kernels.buffer.byteLength / 1_048_576, engine: kernels.engine };
    case 'window':
      return runWindow(task);
    case 'chain':
      chain = chainOver(kernels.buffer, task.bytes, task.seed);
      return null;
    case 'chase':
      return runChase(task.chains, task.ms);
    case 'pattern':
      return checkPatterns(task.ms);
  }
}

function runWindow({ kernel, bytes, startAt, ms }: Extract<Task, { type: 'window' }>) {
  const part =
    Math.floor(bytes / { read: 1, copy: 2, multiplyAdd: 3 }[kernel] / PIECE) * PIECE || PIECE;
  // Arrays that start at the same place of a page would hinder one another.
  const [b, c] = [part + STAGGER, 2 * (part + STAGGER)];
  const moved = { read: 1, copy: 2, multiplyAdd: 3 }[kernel];
  while (now() < startAt);
  let pieces = 0;
  for (let at = 0; ; at = at + PIECE >= part ? 0 : at + PIECE) {
    if (kernel === 'read') sink ^= kernels.read(at, PIECE);
    else if (kernel === 'copy') kernels.copy(at, b + at, PIECE);
    else kernels.multiplyAdd(at, b + at, c + at, 0.5, PIECE);
    pieces++;
    // Counted from the common start: a thread that was kept waiting did less in the same time, and
    // windows that lie one after the other are never added up as if they were at once.
    const spent = now() - startAt;
    if (spent >= ms) return { bytes: pieces * PIECE * moved, ms: spent };
  }
}

function runChase(chains: 1 | 4 | 8, ms: number) {
  // As far apart as can be, and moved on by what was walked: no chain meets lines that another has just
  // left in the cache.
  const startsAt = (walked: number) =>
    Array.from(
      { length: chains },
      (_, at) => chain[(walked + Math.floor((at * chain.length) / chains)) % chain.length] ?? 0,
    );
  const starts = startsAt(0);
  // A piece of about a millisecond, whatever the memory: found on the way in, which also warms up.
  let piece = 512;
  for (let spent = 0; spent < 2 && piece < 1 << 24;) {
    const from = now();
    sink ^= kernels.lines(starts, piece);
    spent = now() - from;
    if (spent < 2) piece *= 2;
  }
  const from = now();
  let steps = 0;
  let here = starts;
  for (;;) {
    if (chains === 1) here = [kernels.chase(here[0] ?? 0, piece)];
    else sink ^= kernels.lines(here, piece);
    steps += piece;
    const spent = now() - from;
    if (spent >= ms) return { steps, ms: spent };
    if (chains > 1) here = startsAt(steps);
  }
}

/** All zeros, all ones, stripes both ways, then every word its own address both ways. */
const PATTERNS = [
  [0, 0],
  [0, -1],
  [0, 0x55555555],
  [0, 0xaaaaaaaa | 0],
  [0x9e3779b1 | 0, 0],
  [0x9e3779b1 | 0, -1],
] as const;

function checkPatterns(ms: number) {
  const { byteLength } = kernels.buffer;
  const from = now();
  let [wrong, rounds] = [0, 0];
  do {
    for (const [by, flip] of PATTERNS) {
      kernels.fill(0, byteLength, by, flip);
      wrong += kernels.verify(0, byteLength, by, flip);
    }
    rounds++;
  } while (now() - from < ms);
  return { mib: byteLength / 1_048_576, rounds, wrong };
}

self.addEventListener('message', ({ data }: MessageEvent<Task>) => {
  try {
    self.postMessage({ ok: true, value: handle(data) });
  } catch (error) {
    self.postMessage({ ok: false, reason: error instanceof Error ? error.message : String(error) });
  }
});

/** Kept alive for the engine's sake. */
export const kept = () => sink;
