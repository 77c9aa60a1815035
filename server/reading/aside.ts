import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { Piscina } from 'piscina';
import { InputError } from '../http/problems.ts';

/** Longest time one request's files may take; megabytes of honest ones take a second or two. */
const LONGEST_MS = 20_000;
/** Most memory a reader may take. */
const MOST_MB = 512;
/** Kept at hand between files, then let go. */
const IDLE_MS = 60_000;

const own = fileURLToPath(import.meta.url);
const isSource = own.endsWith('.ts');

/**
 * Work on bytes from strangers, on a thread of its own: whatever they do to a reader, nobody else waits.
 * What takes too long or too much is ended there and refused in words.
 *
 * @param file - a module whose default export does the work, beside this one
 */
export class Aside<Input, Output> {
  #pool: Piscina<Input, Output> | undefined;

  constructor(
    private readonly file: string,
    private readonly longestMs = LONGEST_MS,
  ) {}

  /** @throws InputError when the work was ended */
  async run(input: Input): Promise<Output> {
    this.#pool ??= this.#open();
    try {
      return await this.#pool.run(input, { signal: AbortSignal.timeout(this.longestMs) });
    } catch (error) {
      throw this.#refusal(error as Error & { code?: string });
    }
  }

  #open(): Piscina<Input, Output> {
    const pool = new Piscina<Input, Output>({
      filename: this.file,
      ...{ minThreads: 0, maxThreads: 1, idleTimeout: IDLE_MS },
      resourceLimits: { maxOldGenerationSizeMb: MOST_MB },
      ...(isSource ? { execArgv: ['--import', 'tsx'] } : {}),
    });
    // A thread that ends between files is made anew; without a listener it would end the server.
    pool.on('error', () => undefined);
    return pool;
  }

  async close(): Promise<void> {
    await this.#pool?.destroy();
  }

  #refusal(error: Error & { code?: string }): Error {
    const isEnded = error.name === 'AbortError' || error.code === 'ERR_WORKER_OUT_OF_MEMORY';
    if (!isEnded) return error;
    const why = error.name === 'AbortError' ? `over ${this.longestMs / 1000} s` : 'too much memory';
    const message = `Reading these files takes ${why}: send them one by one, and leave out what is no inventory.`;
    return new InputError([{ code: 'custom', path: ['files'], message, input: undefined }]);
  }
}

/** A module beside this one, as it lies in the source or in the build. */
export const besides = (name: string): string =>
  join(dirname(own), `${name}.${isSource ? 'ts' : 'js'}`);
