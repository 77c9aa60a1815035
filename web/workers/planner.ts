import type { PlannerAnswer, PlannerRequest } from './planner.worker.ts';

export type { PlannerAnswer } from './planner.worker.ts';

type Question = PlannerRequest extends infer One
  ? One extends PlannerRequest
    ? Omit<One, 'ticket'>
    : never
  : never;

/** A worker that thinks about one thing at a time; asking again drops what it was at. */
export class Planner {
  readonly #worker = new Worker(new URL('./planner.worker.ts', import.meta.url), {
    type: 'module',
  });
  #ticket = 0;
  #listener: ((answer: PlannerAnswer) => void) | undefined;

  constructor() {
    this.#worker.addEventListener('message', ({ data }: MessageEvent<PlannerAnswer>) => {
      // Answers to what was asked before come late and are not wanted any more.
      if (data.ticket === this.#ticket) this.#listener?.(data);
    });
  }

  ask(question: Question, listener: (answer: PlannerAnswer) => void): void {
    this.#ticket += 1;
    this.#listener = listener;
    this.#worker.postMessage({ ...question, ticket: this.#ticket });
  }

  cancel(): void {
    this.ask({ type: 'cancel' }, () => undefined);
  }

  close(): void {
    this.#worker.terminate();
  }
}
