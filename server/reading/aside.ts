import type { Piscina } from 'piscina';
import { InputError } from '../http/problems.ts';
import { ownThread } from '../ownThread.ts';

/** Longest time one request's files may take; megabytes of honest ones take a second or two. */
const LONGEST_MS = 20_000;
/** Most memory a reader may take. */
const MOST_MB = 512;

/**
 * Work on bytes from strangers, on a thread of its own: whatever they do to a reader, nobody else waits.
 * What takes too long or too much is ended there and refused in words.
 *
 * @param file - see {@link ownThread}
 */
export class Aside<Input, Output> {
  #pool: Piscina<Input, Output> | undefined;

  constructor(
    private readonly file: string,
    private readonly longestMs = LONGEST_MS,
  ) {}

  /** @throws InputError when the work was ended */
  async run(input: Input): Promise<Output> {
    this.#pool ??= ownThread(this.file, { maxOldGenerationSizeMb: MOST_MB });
    try {
      return await this.#pool.run(input, { signal: AbortSignal.timeout(this.longestMs) });
    } catch (error) {
      throw this.#refusal(error as Error & { code?: string });
    }
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
