import { setTimeout as wait } from 'node:timers/promises';
import type { ServerProcess } from '../e2e/support/server.ts';

const MODULE = {
  ...{ generation: 'DDR4', formFactor: 'DIMM', buffering: 'unbuffered', ecc: false, capacity: 8 },
  ...{ ranks: 1, chipWidth: 8, rate: 2400, timings: { cl: 17 }, voltagesMv: [1200] },
};

/** People saving, until the server is gone. */
export class Writers {
  /** Labels of everything the server said it had stored. */
  readonly acknowledged: string[] = [];
  #isStopped = false;
  #counter = 0;
  readonly #running: Promise<unknown>;

  /**
   * @param round - told apart by it, so that every label is sent once
   * @param pauseMs - between one person's saves
   */
  constructor(server: ServerProcess, round: number, count: number, pauseMs = 0) {
    const one = async () => {
      while (!this.#isStopped) {
        const label = `round ${round} save ${(this.#counter += 1)}`;
        const answer = await server
          .fetch('/modules', { method: 'POST', body: JSON.stringify({ label, module: MODULE }) })
          .catch(() => undefined);
        if (!answer) return;
        if (answer.status === 201) this.acknowledged.push(label);
        if (pauseMs > 0) await wait(pauseMs);
      }
    };
    this.#running = Promise.all(Array.from({ length: count }, one));
  }

  async stop(): Promise<void> {
    this.#isStopped = true;
    await this.#running;
  }
}

const MOST_LISTED = 5000;

/** What became of acknowledged saves: lost ones, and ones that stand twice. Asks for each round's by itself. */
export async function missing(
  server: ServerProcess,
  acknowledged: readonly string[],
): Promise<{ lost: string[]; doubled: string[] }> {
  // A list ends at ten thousand: so many are asked for by the first digit of their numbers, too.
  const tail = acknowledged.length < MOST_LISTED ? /\d+$/ : /(?<= \d)\d*$/;
  const heads = new Set(acknowledged.map((label) => label.replace(tail, '')));
  const counts = new Map<string, number>();
  for (const head of heads) {
    const answer = await server.fetch(`/modules?search=${encodeURIComponent(head)}`);
    const modules = (await answer.json()) as { label: string }[];
    for (const { label } of modules)
      if (label.startsWith(head)) counts.set(label, (counts.get(label) ?? 0) + 1);
  }
  return {
    lost: acknowledged.filter((label) => !counts.has(label)),
    doubled: acknowledged.filter((label) => (counts.get(label) ?? 0) > 1),
  };
}

/** Every round looked at as soon as the server is up again, and once more when all is over. */
export class Rounds {
  readonly #all: string[] = [];
  readonly #lost = new Set<string>();
  readonly #doubled = new Set<string>();

  async look(server: ServerProcess, acknowledged: readonly string[]): Promise<void> {
    this.#all.push(...acknowledged);
    this.#note(await missing(server, acknowledged));
  }

  /** Whether earlier rounds outlived the later ones. */
  async lookAtAll(server: ServerProcess): Promise<void> {
    this.#note(await missing(server, this.#all));
  }

  #note({ lost, doubled }: Awaited<ReturnType<typeof missing>>) {
    for (const label of lost) this.#lost.add(label);
    for (const label of doubled) this.#doubled.add(label);
  }

  get found(): string {
    const named = [...this.#lost, ...this.#doubled].slice(0, 5).map((label) => ` (${label})`);
    return `${this.#all.length} saves acknowledged, ${this.#lost.size} lost, ${this.#doubled.size} doubled${named.join('')}`;
  }

  get holds(): boolean {
    return this.#lost.size + this.#doubled.size === 0 && this.#all.length > 0;
  }
}

/** A line of the night's table. */
export interface NightRow {
  readonly what: string;
  readonly found: string;
  readonly holds: boolean;
}
