import type { MemorySystem, Ratios } from '#core/timing-simulation';
import type { SimulationAnswer, SimulationRequest } from './simulation.worker.ts';

/** What is compared: two systems, and the lines the work keeps in use. */
export interface Compared {
  readonly before: MemorySystem;
  readonly after: MemorySystem;
  readonly needed?: number | undefined;
}

/** Results of this visit: going back and forth between plans simulates each once. */
const known = new Map<string, Ratios>();

/** A worker that compares one pair at a time; asking again drops what it was at. */
export class Simulator {
  #worker: Worker | undefined;
  #ticket = 0;
  #listener: ((answer: SimulationAnswer) => void) | undefined;

  /** Told at once where the pair was compared before. */
  compare(pair: Compared, listener: (answer: SimulationAnswer) => void): void {
    const key = JSON.stringify(pair);
    const found = known.get(key);
    this.#ticket += 1;
    const ticket = this.#ticket;
    if (found) {
      this.#post({ type: 'cancel', ticket });
      listener({ type: 'done', ticket, ratios: found });
      return;
    }
    this.#listener = (answer) => {
      if (answer.type === 'done') known.set(key, answer.ratios);
      listener(answer);
    };
    this.#worker ??= this.#open();
    this.#post({ type: 'compare', ticket, ...pair });
  }

  cancel(): void {
    this.#ticket += 1;
    this.#listener = undefined;
    this.#post({ type: 'cancel', ticket: this.#ticket });
  }

  close(): void {
    this.#worker?.terminate();
  }

  #post(request: SimulationRequest): void {
    this.#worker?.postMessage(request);
  }

  #open(): Worker {
    const worker = new Worker(new URL('./simulation.worker.ts', import.meta.url), {
      type: 'module',
    });
    worker.addEventListener('message', ({ data }: MessageEvent<SimulationAnswer>) => {
      // What was asked for before comes late and is not wanted any more.
      if (data.ticket === this.#ticket) this.#listener?.(data);
    });
    return worker;
  }
}
