import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import type { Profile, Profiles } from '#core/timing-simulation';
import { anySystem } from '../../test/support/memorySystems.ts';
import { simulatedBefore, Simulator } from './simulation.ts';
import type { SimulationAnswer, SimulationRequest } from './simulation.worker.ts';

/** A worker that answers when a test says so. */
class StillWorker {
  static all: StillWorker[] = [];
  asked: SimulationRequest[] = [];
  isOver = false;
  private readonly heard = new Map<string, (event: { data: SimulationAnswer }) => void>();
  constructor() {
    StillWorker.all.push(this);
  }
  addEventListener(type: string, listener: (event: { data: SimulationAnswer }) => void): void {
    this.heard.set(type, listener);
  }
  fail(): void {
    this.heard.get('error')?.({ data: { type: 'over', ticket: -1 } });
  }
  postMessage(request: SimulationRequest): void {
    this.asked.push(request);
  }
  terminate(): void {
    this.isOver = true;
  }
  say(data: SimulationAnswer): void {
    this.heard.get('message')?.({ data });
  }
}

const side: Profile = {
  bandwidth: { stream: 20, triad: 18, random: 10, graphics: 19, desktop: 9 },
  reply: { idle: 75, loaded: 100 },
};
const profiles: Profiles = { before: side, after: side };
const pair = (cl: number) => ({ before: anySystem(), after: anySystem({ cl }) });
const worker = () => {
  const [one] = StillWorker.all;
  if (!one) throw new Error('expected a worker');
  return one;
};

beforeEach(() => {
  StillWorker.all = [];
  vi.stubGlobal('Worker', StillWorker);
});
afterEach(() => vi.unstubAllGlobals());

beforeEach(() => vi.useFakeTimers());
afterEach(() => vi.useRealTimers());

const types = (told: ReturnType<typeof vi.fn>) =>
  told.mock.calls.map(([news]: { type: string }[]) => news?.type);
const ticketOf = (at: number) =>
  worker().asked.filter(({ type }) => type === 'compare')[at]?.ticket ?? -1;

describe('a simulation in a worker', () => {
  test('the last list asked for counts: what was asked before comes late', () => {
    const simulator = new Simulator();
    const [first, second] = [vi.fn(), vi.fn()];
    simulator.compare([pair(14)], first);
    simulator.compare([pair(15)], second);
    worker().say({ type: 'done', ticket: ticketOf(0), at: 0, profiles });
    expect(first).not.toHaveBeenCalled();
    expect(simulatedBefore(pair(14))).toBeUndefined();
    worker().say({ type: 'progress', ticket: ticketOf(1), share: 0.4 });
    worker().say({ type: 'done', ticket: ticketOf(1), at: 0, profiles });
    worker().say({ type: 'over', ticket: ticketOf(1) });
    expect(types(second)).toEqual(['progress', 'found', 'over']);
    expect(simulatedBefore(pair(15))).toEqual(profiles);
  });

  test('cancelled, it tells nothing more, and can be asked again', () => {
    const simulator = new Simulator();
    const told = vi.fn();
    simulator.compare([pair(16)], told);
    simulator.cancel();
    expect(worker().asked.at(-1)?.type).toBe('cancel');
    worker().say({ type: 'done', ticket: ticketOf(0), at: 0, profiles });
    expect(told).not.toHaveBeenCalled();
    simulator.compare([pair(16)], told);
    worker().say({ type: 'done', ticket: ticketOf(1), at: 0, profiles });
    expect(types(told)).toEqual(['found']);
  });

  test('of a list only what is not known is asked, each once; known ones are over at once', () => {
    const first = new Simulator();
    first.compare([pair(17)], () => undefined);
    worker().say({ type: 'done', ticket: ticketOf(0), at: 0, profiles });
    const told = vi.fn();
    first.compare([pair(17), pair(18), pair(18)], told);
    const asked = worker().asked.at(-1);
    expect(asked?.type === 'compare' && asked.changes).toEqual([pair(18)]);
    const second = new Simulator();
    second.compare([pair(17)], told);
    expect(types(told)).toEqual(['over']);
    expect(StillWorker.all).toHaveLength(1);
  });

  test('a worker that breaks, or says nothing any more, is told; the next is a new one', () => {
    for (const end of [() => worker().fail(), () => vi.advanceTimersByTime(21_000)]) {
      StillWorker.all = [];
      const simulator = new Simulator();
      const told = vi.fn();
      simulator.compare([pair(20)], told);
      end();
      expect(types(told)).toEqual(['failed']);
      expect(worker().isOver).toBe(true);
      simulator.compare([pair(20)], told);
      expect(StillWorker.all).toHaveLength(2);
      simulator.close();
    }
  });

  test('one that is busy may take its time, and nobody waits for one that is done', () => {
    const simulator = new Simulator();
    const told = vi.fn();
    simulator.compare([pair(21)], told);
    for (let share = 0; share < 1; share += 0.1) {
      vi.advanceTimersByTime(15_000);
      worker().say({ type: 'progress', ticket: ticketOf(0), share });
    }
    worker().say({ type: 'over', ticket: ticketOf(0) });
    vi.advanceTimersByTime(60_000);
    expect(types(told)).not.toContain('failed');
  });

  test('closed, its worker is gone', () => {
    const simulator = new Simulator();
    simulator.close();
    simulator.compare([pair(19)], () => undefined);
    const [own] = StillWorker.all;
    simulator.close();
    expect(own?.isOver).toBe(true);
  });
});
