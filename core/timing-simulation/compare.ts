import { Simulation } from './simulate.ts';
import type { Run, Served } from './simulate.ts';
import type { MemorySystem, Workload } from './types.ts';

type Mover = Exclude<Workload, 'chase'>;

/** What was simulated on one system: GB/s moved, and the time of a whole reply at rest and under load, ns. */
export interface Profile {
  readonly bandwidth: Readonly<Record<Mover, number>>;
  readonly reply: { readonly idle: number; readonly loaded: number };
}

/** Both sides of a change, under the same load. */
export interface Profiles {
  readonly before: Profile;
  readonly after: Profile;
}

/** New over old of two memory systems, for each way of using them. */
export interface Ratios {
  /** GB/s moved, new over old: above 1 is more. */
  readonly bandwidth: Readonly<Record<Mover, number>>;
  /** Time of the whole reply, new over old: below 1 is quicker. At rest, and under equal load. */
  readonly reply: { readonly idle: number; readonly loaded: number };
}

/** What runs that were made before gave, by what was run: the same need not be run again. */
export type Memo = Map<string, Served>;

/** Runs kept at most; a plan takes seven. */
const MEMO_MOST = 1000;

/** A run of a comparison: which of the two, and what. */
interface Step {
  readonly side: 'before' | 'after';
  readonly name: Mover | 'idle' | 'loaded';
  readonly run: Run;
}

const SEED = 1;
/** Of what the weaker of the two can carry, what runs beside the loaded chase. */
const LOAD_SHARE = 0.6;
const MOVERS = ['stream', 'triad', 'random', 'graphics', 'desktop'] as const;

/**
 * A comparison of two memory systems that is taken on piece by piece: five ways of moving data and a
 * chase at rest on both, then a chase under the same load on both.
 */
export class Comparison {
  private readonly steps: Step[] = [];
  private readonly results = new Map<string, Served>();
  private at = 0;
  private running: Simulation | undefined;

  constructor(
    private readonly before: MemorySystem,
    private readonly after: MemorySystem,
    private readonly seed = SEED,
    /** Lines the working set takes; all of each system where it is not known. */
    private readonly needed?: number,
    private readonly memo: Memo = new Map(),
  ) {
    for (const side of ['before', 'after'] as const) {
      for (const workload of MOVERS) this.steps.push(this.step(side, workload, { workload }));
      this.steps.push(this.step(side, 'idle', { workload: 'chase' }));
    }
  }

  private step(side: Step['side'], name: Step['name'], run: Omit<Run, 'seed'>): Step {
    const { zones } = this[side];
    const all = zones.reduce((sum, { lines }) => sum + lines, 0);
    const lines = Math.min(all, this.needed ?? all);
    return { side, name, run: { seed: this.seed, within: { from: 0, lines }, ...run } };
  }

  /** Share that is done, 0 to 1. */
  get share(): number {
    const whole = 2 * (MOVERS.length + 2);
    return Math.min(1, (this.at + (this.running?.share ?? 0)) / whole);
  }

  /**
   * Goes on for some requests.
   *
   * @returns whether all is done
   */
  advance(requests: number): boolean {
    const step = this.steps[this.at];
    if (!step) return true;
    const key = JSON.stringify([this[step.side], step.run]);
    let found = this.memo.get(key);
    if (!found) {
      this.running ??= new Simulation(this[step.side], step.run);
      if (!this.running.advance(requests)) return false;
      found = this.running.result();
      if (this.memo.size >= MEMO_MOST) this.memo.clear();
      this.memo.set(key, found);
      this.running = undefined;
    }
    this.results.set(`${step.side} ${step.name}`, found);
    this.at++;
    // How much may run beside a chase is known once both were seen to stream.
    if (this.at === this.steps.length && step.name === 'idle') this.addLoaded();
    return this.at === this.steps.length;
  }

  private addLoaded(): void {
    const least = Math.min(
      this.of('before', 'stream').bandwidth,
      this.of('after', 'stream').bandwidth,
    );
    const background = least * LOAD_SHARE;
    for (const side of ['before', 'after'] as const)
      this.steps.push(this.step(side, 'loaded', { workload: 'chase', background }));
  }

  private of(side: Step['side'], name: Step['name']): Served {
    const found = this.results.get(`${side} ${name}`);
    if (!found) throw new Error('expected a finished comparison');
    return found;
  }

  /** What was simulated on one of the two, once all is done. */
  profile(side: Step['side']): Profile {
    const moved = (name: (typeof MOVERS)[number]) => this.of(side, name).bandwidth;
    return {
      bandwidth: {
        stream: moved('stream'),
        triad: moved('triad'),
        random: moved('random'),
        graphics: moved('graphics'),
        desktop: moved('desktop'),
      },
      reply: { idle: this.of(side, 'idle').reply, loaded: this.of(side, 'loaded').reply },
    };
  }

  /** Both sides, once all is done. */
  profiles(): Profiles {
    return { before: this.profile('before'), after: this.profile('after') };
  }
}

/**
 * New over old.
 *
 * @param drawCap - what is drawn at most, GB/s: the processor or fabric may take less than memory gives
 */
export function ratiosOf({ before, after }: Profiles, drawCap = Infinity): Ratios {
  const of = (name: Mover) =>
    Math.min(drawCap, after.bandwidth[name]) / Math.min(drawCap, before.bandwidth[name]);
  return {
    bandwidth: {
      ...{ stream: of('stream'), triad: of('triad'), random: of('random') },
      ...{ graphics: of('graphics'), desktop: of('desktop') },
    },
    reply: {
      idle: after.reply.idle / before.reply.idle,
      loaded: after.reply.loaded / before.reply.loaded,
    },
  };
}

/** Compares to the end at once. */
export function compareSystems(
  before: MemorySystem,
  after: MemorySystem,
  memo: Memo = new Map(),
  needed?: number,
): Profiles {
  const comparison = new Comparison(before, after, SEED, needed, memo);
  while (!comparison.advance(10_000));
  return comparison.profiles();
}
