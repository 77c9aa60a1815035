import { performance } from 'node:perf_hooks';
import { setTimeout as wait } from 'node:timers/promises';
import type { ToldChange } from '#contract/live';

/** One event of the stream. */
export interface Heard {
  readonly event: string;
  readonly data: unknown;
  /** When it came, on the clock of `performance.now`. */
  readonly at: number;
}

/** A screen that listens, with all it heard. */
export class Listener {
  readonly heard: Heard[] = [];
  isOver = false;
  readonly #end = new AbortController();

  static async open(
    ask: (path: string, init: RequestInit) => Promise<Response>,
    tab: string,
  ): Promise<Listener> {
    const one = new Listener();
    const answer = await ask(`/live?tab=${tab}`, { signal: one.#end.signal });
    const type = answer.headers.get('content-type');
    if (!type?.includes('text/event-stream'))
      throw new Error(`expected a stream, received ${type}`);
    void one.#read(answer).finally(() => (one.isOver = true));
    await one.until(({ event }) => event === 'beat');
    return one;
  }

  async #read(answer: Response): Promise<void> {
    let text = '';
    const decoder = new TextDecoder();
    try {
      for await (const part of answer.body as unknown as AsyncIterable<Uint8Array>) {
        text += decoder.decode(part, { stream: true });
        const parts = text.split('\n\n');
        text = parts.pop() ?? '';
        for (const one of parts) {
          const [, event = '', data = ''] = /^event: (.*)\ndata: (.*)$/.exec(one) ?? [];
          this.heard.push({ event, data: JSON.parse(data), at: performance.now() });
        }
      }
    } catch {
      // Closed from here.
    }
  }

  async until(is: (one: Heard) => boolean): Promise<Heard> {
    for (let tries = 0; tries < 1000; tries++) {
      const found = this.heard.find(is);
      if (found) return found;
      await wait(20);
    }
    throw new Error(`not heard in ${JSON.stringify(this.heard)}`);
  }

  changesOf(jobId: string): ToldChange[] {
    return this.heard
      .filter(({ event }) => event === 'change')
      .map(({ data }) => data as ToldChange)
      .filter(({ job }) => job === jobId);
  }

  close(): void {
    this.#end.abort();
  }
}
