import type { ProbeEngine } from '../core/proving/probe.ts';
import ProbeWorker from './worker.ts?worker&inline';
import type { Answers, Task } from './worker.ts';

type Kernel = Extract<Task, { type: 'window' }>['kernel'];

/** Time for the word to reach every worker before a window opens, ms. */
const LEAD = 12;

/**
 * One worker for each hardware thread. Low rungs of the ramp use few workers, so those hold more
 * memory than the ones that join late: whoever takes part, all together walk the whole footprint.
 */
export class Crew {
  readonly #workers: Worker[] = [];
  #engine: ProbeEngine = 'simd kernels';
  /** What each worker holds, MiB. */
  #shares: number[] = [];

  /**
   * Workers with memory of their own, until the crew is dismissed; the signal dismisses it too.
   *
   * @throws the signal's reason; Error when a worker cannot start or gets no memory
   */
  static async gather(
    threads: number,
    footprint: number,
    isPlain: boolean,
    signal: AbortSignal,
  ): Promise<Crew> {
    const crew = new Crew();
    signal.addEventListener('abort', () => crew.dismiss());
    try {
      crew.#workers.push(...Array.from({ length: threads }, () => new ProbeWorker()));
      const preparing = crew.#workers.map((worker, at) =>
        // A spare MiB for the stagger between arrays.
        ask(worker, { type: 'prepare', mib: share(at, footprint) + 1, isPlain }),
      );
      const ready = await Promise.race([Promise.all(preparing), aborted(signal)]);
      crew.#shares = ready.map(({ mib }) => Math.max(3, Math.floor(mib) - 1));
      crew.#engine = ready.every(({ engine }) => engine === 'simd kernels')
        ? 'simd kernels'
        : 'plain arrays';
      return crew;
    } catch (error) {
      crew.dismiss();
      throw error;
    }
  }

  get engine(): ProbeEngine {
    return this.#engine;
  }

  /** MiB that so many workers walk over together. */
  footprint(threads: number): number {
    return this.#shares
      .slice(0, threads)
      .reduce((sum, mib) => sum + Math.min(mib, this.#each(threads)), 0);
  }

  /** MiB the first worker can build a chain over. */
  get chainRoom(): number {
    return this.#shares[0] ?? 3;
  }

  /** One window of a kernel on the first `threads` workers at once, GB/s of all together. */
  async window(kernel: Kernel, threads: number, ms: number): Promise<number> {
    const startAt = performance.timeOrigin + performance.now() + LEAD;
    const each = this.#each(threads);
    const parts = await Promise.all(
      this.#workers.slice(0, threads).map((worker, at) => {
        const bytes = Math.min(each, this.#shares[at] ?? each) * 1_048_576;
        return ask(worker, { type: 'window', kernel, bytes, startAt, ms });
      }),
    );
    return parts.reduce((sum, part) => sum + part.bytes / part.ms / 1e6, 0);
  }

  async chain(kib: number, seed: number): Promise<void> {
    await ask(this.#first, { type: 'chain', bytes: kib * 1024, seed });
  }

  /** One window of a chase: ns for a step of one chain. */
  async chase(chains: 1 | 4 | 8, ms: number): Promise<number> {
    const { steps, ms: spent } = await ask(this.#first, { type: 'chase', chains, ms });
    return (spent * 1e6) / steps;
  }

  /** Writes and checks patterns over all the memory the workers hold. */
  async pattern(ms: number): Promise<{ mib: number; rounds: number; wrong: number }> {
    const parts = await Promise.all(
      this.#workers.map((worker) => ask(worker, { type: 'pattern', ms })),
    );
    return {
      mib: parts.reduce((sum, { mib }) => sum + mib, 0),
      rounds: Math.min(...parts.map(({ rounds }) => rounds)),
      wrong: parts.reduce((sum, { wrong }) => sum + wrong, 0),
    };
  }

  /** Stops whatever runs, and gives the memory back. */
  dismiss(): void {
    for (const worker of this.#workers) worker.terminate();
  }

  get #first(): Worker {
    const [first] = this.#workers;
    if (!first) throw new Error('expected a worker, received none');
    return first;
  }

  /** MiB of each worker when so many take part: the smallest share among them. */
  #each(threads: number): number {
    return Math.min(...this.#shares.slice(0, threads));
  }
}

/** MiB of the worker at a place: an even share on the first rung it takes part in, 128 at most. */
function share(at: number, footprint: number): number {
  const rung = at === 0 ? 1 : 2 ** Math.floor(Math.log2(at) + 1);
  return Math.max(6, Math.min(at === 0 ? 256 : 128, Math.ceil(footprint / rung)));
}

/** Rejects with the signal's reason once it is aborted: a dismissed worker answers no more. */
export function aborted(signal: AbortSignal): Promise<never> {
  return new Promise((_, reject) => {
    signal.addEventListener('abort', () => reject(signal.reason as Error));
  });
}

/** Asks one worker and waits for its answer. @throws Error with the worker's reason */
function ask<T extends Task>(worker: Worker, task: T): Promise<Answers[T['type']]> {
  return new Promise((resolve, reject) => {
    worker.onmessage = ({ data }: MessageEvent<{ ok: boolean; value: never; reason: string }>) => {
      if (data.ok) resolve(data.value);
      else reject(new Error(data.reason));
    };
    worker.onerror = (event) => {
      event.preventDefault();
      reject(new Error(event.message || 'A worker could not start.'));
    };
    worker.postMessage(task);
  });
}
