import type { Compared } from '#core/promising';
import type { Profiles } from '#core/timing-simulation';
import type { SimulationAnswer, SimulationRequest } from './simulation.worker.ts';

/** What a listener is told: how far it is, that another change is known, that it is over or broke off. */
export type SimulationNews =
  | { readonly type: 'progress'; readonly share: number }
  | { readonly type: 'found' }
  | { readonly type: 'over' }
  | { readonly type: 'failed' };

/** Results of this visit: going back and forth between plans simulates each once. */
const known = new Map<string, Profiles>();

/** What was simulated of a change during this visit. */
export function simulatedBefore(change: Compared): Profiles | undefined {
  return known.get(JSON.stringify(change));
}

/** A worker that is busy says so twenty times a second; silent this long it is gone. */
const GONE_MS = 20_000;

/** A worker that simulates changes in order; asking again drops what it was at. */
export class Simulator {
  #worker: Worker | undefined;
  #ticket = 0;
  #listener: ((news: SimulationNews) => void) | undefined;
  #asked: readonly Compared[] = [];
  #watch: ReturnType<typeof setTimeout> | undefined;

  /** Those simulated before are not simulated again; `over` follows at once where all were. */
  compare(changes: readonly Compared[], listener: (news: SimulationNews) => void): void {
    const wanted = new Map(changes.map((one) => [JSON.stringify(one), one]));
    for (const key of known.keys()) wanted.delete(key);
    this.cancel();
    if (wanted.size === 0) {
      listener({ type: 'over' });
      return;
    }
    this.#asked = [...wanted.values()];
    this.#listener = listener;
    this.#worker ??= this.#open();
    this.#post({ type: 'compare', ticket: this.#ticket, changes: this.#asked });
    this.#expect();
  }

  cancel(): void {
    this.#ticket += 1;
    this.#listener = undefined;
    clearTimeout(this.#watch);
    this.#post({ type: 'cancel', ticket: this.#ticket });
  }

  close(): void {
    this.cancel();
    this.#worker?.terminate();
    this.#worker = undefined;
  }

  #post(request: SimulationRequest): void {
    this.#worker?.postMessage(request);
  }

  /** Hears when nothing is heard any more. */
  #expect(): void {
    clearTimeout(this.#watch);
    this.#watch = setTimeout(() => this.#fail(), GONE_MS);
  }

  #hear(answer: SimulationAnswer): void {
    // What was asked for before comes late and is not wanted any more.
    if (answer.ticket !== this.#ticket) return;
    this.#expect();
    if (answer.type === 'progress') {
      this.#listener?.({ type: 'progress', share: answer.share });
      return;
    }
    if (answer.type === 'done') {
      known.set(JSON.stringify(this.#asked[answer.at]), answer.profiles);
      this.#listener?.({ type: 'found' });
      return;
    }
    clearTimeout(this.#watch);
    this.#listener?.({ type: 'over' });
  }

  #fail(): void {
    const listener = this.#listener;
    this.close();
    listener?.({ type: 'failed' });
  }

  #open(): Worker {
    const worker = new Worker(new URL('./simulation.worker.ts', import.meta.url), {
      type: 'module',
    });
    worker.addEventListener('message', ({ data }: MessageEvent<SimulationAnswer>) =>
      this.#hear(data),
    );
    worker.addEventListener('error', () => this.#fail());
    return worker;
  }
}
