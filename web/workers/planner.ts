import type { PlannerAnswer, PlannerRequest } from './planner.worker.ts';

export type { PlannerAnswer } from './planner.worker.ts';

type Question = PlannerRequest extends infer One
  ? One extends PlannerRequest
    ? Omit<One, 'ticket'>
    : never
  : never;

/** A worker that thinks about one thing at a time; asking again drops what it was at. */
export class Planner {
  #worker: Worker | undefined;
  #ticket = 0;
  #listener: ((answer: PlannerAnswer) => void) | undefined;

  ask(question: Question, listener: (answer: PlannerAnswer) => void): void {
    this.#ticket += 1;
    this.#listener = listener;
    this.#worker ??= this.#open();
    this.#worker.postMessage({ ...question, ticket: this.#ticket });
  }

  cancel(): void {
    this.ask({ type: 'cancel' }, () => undefined);
  }

  close(): void {
    this.#worker?.terminate();
    this.#worker = undefined;
  }

  #open(): Worker {
    const worker = new Worker(new URL('./planner.worker.ts', import.meta.url), { type: 'module' });
    worker.addEventListener('message', ({ data }: MessageEvent<PlannerAnswer>) => {
      // Answers to what was asked before come late and are not wanted any more.
      if (data.ticket === this.#ticket) this.#listener?.(data);
    });
    // It could not be fetched, or broke off: the next question starts another.
    worker.addEventListener('error', () => {
      this.close();
      const message = 'The planner gave no answer: the bench may be away.';
      this.#listener?.({ type: 'failed', ticket: this.#ticket, message });
    });
    return worker;
  }
}
