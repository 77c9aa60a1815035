import { AddressMap, bankLayout } from './addresses.ts';
import { Agent } from './agents.ts';
import { Channel } from './channel.ts';
import { resolveTimes } from './timings.ts';
import type { Cycles } from './timings.ts';
import { USUAL_CHOICES } from './types.ts';
import type { CommandListener, ControllerChoices, MemorySystem, Workload } from './types.ts';

/** What is run on a memory system. */
export interface Run {
  readonly workload: Workload;
  readonly seed: number;
  /** Requests to serve at least; eight refreshes pass at least. */
  readonly requests?: number | undefined;
  /** Of {@link MemorySystem.zones} only these lines are used; all of them where absent. */
  readonly within?: { readonly from: number; readonly lines: number } | undefined;
  /** Reading under way beside a chase, GB/s. */
  readonly background?: number | undefined;
  readonly choices?: Partial<ControllerChoices> | undefined;
  /** Cycles that stand instead of the standard’s, for what cannot be said otherwise. */
  readonly times?: Partial<Cycles> | undefined;
  readonly listener?: CommandListener | undefined;
  /** Weighs every waiting request with each that arrives: slower, and the same. */
  readonly rescans?: boolean | undefined;
}

/** What a run gave. */
export interface Served {
  /** Read and written, GB/s. */
  readonly bandwidth: number;
  /** From asking to having, all reads; of a chase under load those of the chase, ns. */
  readonly reply: number;
  readonly requests: number;
  /** Simulated time, ns. */
  readonly time: number;
}

const LINE_BYTES = 64;
/**
 * Requests after which a run with another seed gives a figure that as a rule differs by 1 % (docs/simulation.md).
 * Single lines at random and a chase, which asks one by one, settle sooner.
 */
const USUAL_REQUESTS: Readonly<Record<Workload, number>> = {
  ...{ stream: 20_000, triad: 24_000, random: 12_000, chase: 2_000 },
  ...{ graphics: 24_000, desktop: 24_000 },
};
const LEAST_REFRESHES = 8;
const STALL_REFRESHES = 100;
/** Share of the requests that only fill the queues. */
const WARM = 0.1;
const PENDING = -1;
const NEVER = Number.MAX_SAFE_INTEGER;

/** Mean pause between the runs of the desktop mixture, ns: some 10 GB/s in all, as a busy desktop moves. */
const THOUGHT_NS = 185;
const DESKTOP_UNDER_WAY = 4;
const GRAPHICS_UNDER_WAY = 96;

/** A run that is taken on piece by piece, so that whoever hosts it stays free to stop it. */
export class Simulation {
  private readonly map: AddressMap;
  private readonly cycles: Cycles;
  private readonly channels: readonly Channel[];
  private readonly agents: readonly Agent[];
  private readonly overhead: number;
  private readonly wanted: number;
  private readonly stall: number;
  private readonly until: number;
  private readonly isTimed: readonly boolean[];

  /** When each agent asks next; {@link NEVER} while it waits. */
  private readonly asks: Float64Array;
  private readonly last: Float64Array;
  /** When the requests of an agent’s window are answered. */
  private readonly done: readonly Float64Array[];
  private readonly asked: Int32Array;
  private readonly waits: Int32Array;
  /** Agent and place in its window of each request under way, by number. */
  private readonly owner = new Int32Array(4096);
  private readonly place = new Int32Array(4096);
  private request = 0;
  private readonly held: (boolean | undefined)[] = [];

  private served = 0;
  /** When the last request was. */
  private servedAt = 0;
  private timed = 0;
  private replies = 0;
  private warmAt = 0;
  private warmMoved = 0;
  private now = 0;

  constructor(
    system: MemorySystem,
    private readonly run: Run,
  ) {
    const choices: ControllerChoices = { ...USUAL_CHOICES, ...run.choices };
    const cycles = { ...resolveTimes(system).cycles, ...run.times };
    this.cycles = cycles;
    this.map = new AddressMap(system, choices);
    const layout = bankLayout(system);
    const subs = this.map.channels / system.ranks.length;
    this.channels = Array.from(
      { length: this.map.channels },
      (_, at) =>
        new Channel(
          at,
          system.ranks[Math.floor(at / subs)] ?? 1,
          layout,
          cycles,
          choices,
          run.listener,
          run.rescans,
        ),
    );
    this.overhead = Math.round((choices.overhead * 1000) / cycles.clock);
    this.agents = this.agentsOf(choices);
    this.isTimed = this.agents.map((_, at) => run.background === undefined || at === 0);
    const count = this.agents.length;
    this.asks = new Float64Array(count);
    this.last = new Float64Array(count);
    this.asked = new Int32Array(count);
    this.waits = new Int32Array(count).fill(-1);
    this.done = this.agents.map(({ underWay }) => new Float64Array(underWay));
    this.held = this.agents.map(() => undefined);
    this.wanted = run.requests ?? USUAL_REQUESTS[run.workload];
    this.stall = STALL_REFRESHES * cycles.refi;
    this.until = choices.refreshes ? LEAST_REFRESHES * cycles.refi : 0;
  }

  private agentsOf(choices: ControllerChoices): Agent[] {
    const { workload, seed, background } = this.run;
    const { from, lines } = this.run.within ?? { from: 0, lines: this.map.lines };
    const made = (kind: Workload, at: number, underWay: number, pace = 0) =>
      new Agent(kind, seed * 1009 + at * 7919, from, lines, underWay, pace);
    const inCycles = (ns: number) => Math.round((ns * 1000) / this.cycles.clock);
    switch (workload) {
      case 'chase': {
        const chase = made('chase', 0, 1);
        if (background === undefined) return [chase];
        const pace = inCycles((choices.cores * LINE_BYTES) / background);
        return [
          chase,
          ...Array.from({ length: choices.cores }, (_, at) =>
            made('stream', at + 1, choices.perCore, pace),
          ),
        ];
      }
      case 'graphics':
        return [
          made('graphics', 0, GRAPHICS_UNDER_WAY),
          made('graphics', 1, GRAPHICS_UNDER_WAY),
          ...[2, 3].map((at) => made('desktop', at, DESKTOP_UNDER_WAY, inCycles(THOUGHT_NS))),
        ];
      case 'desktop':
        return Array.from({ length: choices.cores }, (_, at) =>
          made('desktop', at, DESKTOP_UNDER_WAY, inCycles(THOUGHT_NS)),
        );
      default:
        return Array.from({ length: choices.cores }, (_, at) =>
          made(workload, at, choices.perCore),
        );
    }
  }

  /** Share of the run that is over, 0 to 1. */
  get share(): number {
    const asked = this.timed / this.wanted;
    return Math.min(1, this.until > 0 ? Math.min(asked, this.now / this.until) : asked);
  }

  /**
   * Goes on for some requests.
   *
   * @returns whether the run is over
   */
  advance(requests: number): boolean {
    const pause = this.served + requests;
    const { asks, channels } = this;
    while (this.served < pause) {
      if (this.timed >= this.wanted && this.now >= this.until) return true;
      let agent = -1;
      let asksAt = NEVER;
      for (let one = 0; one < asks.length; one++) {
        const at = asks[one]!;
        if (at < asksAt) {
          agent = one;
          asksAt = at;
        }
      }
      let first = -1;
      let givesAt = NEVER;
      for (let one = 0; one < channels.length; one++) {
        const { at } = channels[one]!;
        if (at < givesAt) {
          first = one;
          givesAt = at;
        }
      }
      // Pauses are short: standing still this long is a slip in here, and no reason to hang.
      if (Math.min(asksAt, givesAt) > this.servedAt + this.stall)
        throw new Error('expected the simulation to go on');
      if (asksAt <= givesAt) this.ask(agent, asksAt);
      else this.give(first, givesAt);
    }
    return false;
  }

  /** What was served, once the run is over. */
  result(): Served {
    const time = ((this.now - this.warmAt) * this.cycles.clock) / 1000;
    const moved = this.moved() - this.warmMoved;
    const counted = this.timed - Math.ceil(this.wanted * WARM);
    return {
      bandwidth: (moved * LINE_BYTES) / time,
      reply: ((this.replies / counted) * this.cycles.clock) / 1000,
      requests: this.served,
      time: (this.now * this.cycles.clock) / 1000,
    };
  }

  private moved(): number {
    let sum = 0;
    for (const { moved } of this.channels) sum += moved;
    return sum;
  }

  /** An agent asks for a line, or waits until its channel has room. */
  private ask(index: number, at: number): void {
    const agent = this.agents[index];
    if (!agent) return;
    this.now = at;
    const isWaiting = this.held[index] !== undefined;
    if (!isWaiting) agent.next();
    this.map.decode(agent.line);
    const { channel: target, bank, row } = this.map;
    const channel = this.channels[target];
    if (!channel) return;
    if (!channel.hasRoom(agent.isWrite)) {
      this.held[index] = agent.isWrite;
      this.waits[index] = target;
      this.asks[index] = NEVER;
      return;
    }
    this.held[index] = undefined;
    this.last[index] = at;
    const window = this.done[index];
    if (agent.isWrite || !window) {
      // A write is taken, and done with, for who asked.
      channel.take(true, bank, row, at, this.request++);
      this.asks[index] = at + Math.max(1, agent.pause);
      return;
    }
    const number = this.request++;
    const slot = number % this.owner.length;
    const place = (this.asked[index] ?? 0) % agent.underWay;
    this.owner[slot] = index;
    this.place[slot] = place;
    window[place] = PENDING;
    this.asked[index] = (this.asked[index] ?? 0) + 1;
    channel.take(false, bank, row, at, number);
    this.askAfter(index, agent);
  }

  /** When an agent asks again: after its pause, and once the oldest of its window is answered. */
  private askAfter(index: number, agent: Agent): void {
    const oldest = (this.asked[index] ?? 0) % agent.underWay;
    const answered = this.done[index]?.[oldest] ?? 0;
    const earliest = (this.last[index] ?? 0) + Math.max(1, agent.pause);
    this.asks[index] = answered === PENDING ? NEVER : Math.max(earliest, answered);
  }

  private give(index: number, at: number): void {
    const channel = this.channels[index];
    if (!channel) return;
    this.now = at;
    const before = channel.moved;
    const isRead = channel.give();
    if (channel.moved === before) return;
    this.served++;
    this.servedAt = at;
    if (isRead) this.answer(channel);
    // One place became free: those who wait for it ask again.
    for (let one = 0; one < this.waits.length; one++)
      if (this.waits[one] === index && channel.hasRoom(this.held[one] === true)) {
        this.waits[one] = -1;
        this.asks[one] = at;
      }
  }

  private answer(channel: Channel): void {
    const slot = channel.readRequest % this.owner.length;
    const index = this.owner[slot] ?? 0;
    const agent = this.agents[index];
    const window = this.done[index];
    if (!agent || !window) return;
    const answered = channel.readDone + this.overhead;
    const place = this.place[slot] ?? 0;
    window[place] = answered;
    if (this.isTimed[index]) {
      this.timed++;
      if (this.timed > Math.ceil(this.wanted * WARM))
        this.replies += answered - channel.readArrived;
      else {
        this.warmAt = this.now;
        this.warmMoved = this.moved();
      }
    }
    const isBlocked = this.asks[index] === NEVER && this.waits[index] === -1;
    if (isBlocked && place === (this.asked[index] ?? 0) % agent.underWay)
      this.askAfter(index, agent);
  }
}

/** Runs to its end at once. */
export function simulate(system: MemorySystem, run: Run): Served {
  const simulation = new Simulation(system, run);
  while (!simulation.advance(10_000));
  return simulation.result();
}
