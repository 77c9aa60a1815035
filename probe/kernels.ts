import type { ProbeEngine } from '../core/proving/probe.ts';
import assembled from './kernels.wat';

/** The measuring kernels over one block of memory; see kernels.wat. Addresses and sizes in bytes. */
export interface Kernels {
  readonly engine: ProbeEngine;
  /** The memory to work in, from address 0. */
  readonly buffer: ArrayBuffer;
  readonly read: (at: number, bytes: number) => number;
  readonly copy: (to: number, from: number, bytes: number) => void;
  readonly multiplyAdd: (a: number, b: number, c: number, s: number, bytes: number) => void;
  readonly chase: (at: number, steps: number) => number;
  /** Random whole lines from each start at once; one, four or eight chains. */
  readonly lines: (starts: readonly number[], steps: number) => number;
  readonly fill: (at: number, bytes: number, by: number, flip: number) => void;
  readonly verify: (at: number, bytes: number, by: number, flip: number) => number;
}

const PAGE = 65_536;
const MIB = 1_048_576;

/**
 * Kernels over as much memory as there is, up to `mib`: halved until the browser gives it.
 *
 * @param isPlain - typed arrays even where the kernels would run
 * @throws RangeError when not even 4 MiB are to be had
 */
export function openKernels(mib: number, isPlain: boolean): Kernels {
  for (let ask = mib; ask >= 4; ask = Math.floor(ask / 2)) {
    try {
      const kernels = isPlain ? plainKernels(ask) : (simdKernels(ask) ?? plainKernels(ask));
      touch(kernels.buffer);
      return kernels;
    } catch (error) {
      if (!(error instanceof RangeError)) throw error;
    }
  }
  throw new RangeError('This browser gives less than 4 MB of memory.');
}

/** Ordinary numbers everywhere: untouched pages are not memory yet, and odd floats are slow. */
function touch(buffer: ArrayBuffer): void {
  new Float64Array(buffer).fill(1.5);
}

type Exports = Omit<Kernels, 'engine' | 'buffer' | 'lines'> & {
  readonly memory: WebAssembly.Memory;
  readonly lines4: (...figures: number[]) => number;
  readonly lines8: (...figures: number[]) => number;
};

function simdKernels(mib: number): Kernels | undefined {
  // Without WebAssembly, or without its vectors, the bytes are not valid.
  if (typeof WebAssembly !== 'object') return undefined;
  const bytes = Uint8Array.from(atob(assembled), (letter) => letter.charCodeAt(0));
  if (!WebAssembly.validate(bytes)) return undefined;
  const instance = compiled(bytes);
  if (!instance) return undefined;
  const { memory, lines4, lines8, ...kernels } = instance.exports as unknown as Exports;
  memory.grow((mib * MIB) / PAGE - 1);
  const lines = (starts: readonly number[], steps: number) =>
    starts.length === 8
      ? lines8(...starts, steps)
      : starts.length === 4
        ? lines4(...starts, steps)
        : kernels.chase(starts[0] ?? 0, steps);
  return { engine: 'simd kernels', buffer: memory.buffer, ...kernels, lines };
}

/** Nothing where the page's policy forbids to compile: then plain arrays do the work. */
function compiled(bytes: Uint8Array<ArrayBuffer>): WebAssembly.Instance | undefined {
  try {
    return new WebAssembly.Instance(new WebAssembly.Module(bytes));
  } catch (error) {
    if (error instanceof RangeError) throw error;
    return undefined;
  }
}

/** The same work in plain JavaScript: slower, so its figures are marked and only compare with their like. */
function plainKernels(mib: number): Kernels {
  const buffer = new ArrayBuffer(mib * MIB);
  const floats = new Float64Array(buffer);
  const words = new Int32Array(buffer);
  const word = (at: number) => words[at >> 2] as number;
  const chase = (at: number, steps: number) => {
    let here = at;
    for (let step = 0; step < steps; step++) here = word(here);
    return here;
  };
  const patterned = (index: number, by: number, flip: number) => Math.imul(index << 2, by) ^ flip;
  return {
    ...{ engine: 'plain arrays', buffer, chase },
    read(at, bytes) {
      let [a, b, c, d] = [0, 0, 0, 0];
      for (let i = at >> 3, end = (at + bytes) >> 3; i < end; i += 4) {
        a += floats[i] as number;
        b += floats[i + 1] as number;
        c += floats[i + 2] as number;
        d += floats[i + 3] as number;
      }
      return a + b + c + d;
    },
    copy(to, from, bytes) {
      const shift = (to - from) >> 3;
      for (let i = from >> 3, end = (from + bytes) >> 3; i < end; i++)
        floats[i + shift] = floats[i] as number;
    },
    multiplyAdd(a, b, c, s, bytes) {
      const [p, q, r] = [a >> 3, b >> 3, c >> 3];
      for (let i = 0, end = bytes >> 3; i < end; i++)
        floats[p + i] = (floats[q + i] as number) + s * (floats[r + i] as number);
    },
    lines(starts, steps) {
      if (starts.length === 1) return chase(starts[0] ?? 0, steps);
      const at = [...starts];
      let sum = 0;
      for (let step = 0; step < steps; step++)
        for (let chain = 0; chain < at.length; chain++) {
          const here = at[chain] as number;
          // One word of each 16 bytes touches the whole line.
          sum ^= word(here + 16) ^ word(here + 32) ^ word(here + 48);
          at[chain] = word(here);
        }
      return sum;
    },
    fill(at, bytes, by, flip) {
      for (let i = at >> 2, end = (at + bytes) >> 2; i < end; i++)
        words[i] = patterned(i, by, flip);
    },
    verify(at, bytes, by, flip) {
      let wrong = 0;
      for (let i = at >> 2, end = (at + bytes) >> 2; i < end; i++)
        if (words[i] !== (patterned(i, by, flip) | 0)) wrong++;
      return wrong;
    },
  };
}
