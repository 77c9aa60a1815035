import type { FramesAnswer, FramesRequest } from './frames.worker.ts';

export type { FrameSide, FrameView, FramesAnswer } from './frames.worker.ts';

/** Reads and compares frame logs off the page's thread; each side's latest question counts. */
export class FrameReader {
  readonly #worker = new Worker(new URL('./frames.worker.ts', import.meta.url), { type: 'module' });
  #ticket = 0;

  constructor(listener: (answer: FramesAnswer) => void) {
    this.#worker.addEventListener('message', ({ data }: MessageEvent<FramesAnswer>) => {
      if (data.ticket === this.#ticket) listener(data);
    });
  }

  ask(question: Omit<FramesRequest, 'ticket'>): void {
    this.#ticket += 1;
    this.#worker.postMessage({ ...question, ticket: this.#ticket });
  }

  close(): void {
    this.#worker.terminate();
  }
}
