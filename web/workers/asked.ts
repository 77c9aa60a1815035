import type { Problem } from '#contract/problem';

/** What a worker says of one question: its answer, or why there is none. */
export type Told<Answer> = { readonly ticket: number } & (
  | { readonly answer: Answer }
  | { readonly fault: string }
);

/** Nothing came of what a worker was asked; told like what the server refuses. */
export class NoAnswer extends Error {
  readonly type = 'problem';
  readonly problem: Problem = {
    type: 'about:blank#no-answer',
    title: 'This part of the page gave no answer',
    status: 0,
    detail: 'It could not be fetched from the bench, or it broke off in the middle of its work.',
    mend: 'Try again; if it stays so, load the page again. Nothing that was saved is lost.',
  };
}

interface Waiting<Answer> {
  readonly settle: (answer: Answer) => void;
  readonly fail: (error: NoAnswer) => void;
}

/**
 * A worker that is asked any number of things at a time and answers each once (see `answering`). It is
 * started when it is first asked, and anew after it broke off; whoever waited is told.
 */
export class Asked<Request, Answer> {
  readonly #open: () => Worker;
  #worker: Worker | undefined;
  #ticket = 0;
  readonly #waiting = new Map<number, Waiting<Answer>>();

  constructor(open: () => Worker) {
    this.#open = open;
  }

  /**
   * @param moved - parts of the request that are handed over, and gone from the page
   * @throws NoAnswer when the worker cannot be fetched, breaks off, or fails at this request
   */
  ask(request: Request, moved: Transferable[] = []): Promise<Answer> {
    return new Promise((settle, fail) => {
      const ticket = ++this.#ticket;
      this.#worker ??= this.#start();
      this.#worker.postMessage({ ticket, request }, moved);
      this.#waiting.set(ticket, { settle, fail });
    });
  }

  /** Ends it; what it was at has no answer. */
  close(): void {
    this.#worker?.terminate();
    this.#worker = undefined;
    const waiting = [...this.#waiting.values()];
    this.#waiting.clear();
    for (const { fail } of waiting) fail(new NoAnswer('the worker ended'));
  }

  #start(): Worker {
    const worker = this.#open();
    worker.addEventListener('message', ({ data }: MessageEvent<Told<Answer>>) => {
      const one = this.#waiting.get(data.ticket);
      this.#waiting.delete(data.ticket);
      if ('fault' in data) one?.fail(new NoAnswer(data.fault));
      else one?.settle(data.answer);
    });
    for (const broken of ['error', 'messageerror'])
      worker.addEventListener(broken, () => {
        if (worker === this.#worker) this.close();
      });
    return worker;
  }
}
