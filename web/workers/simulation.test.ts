// @vitest-environment happy-dom
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import type { Ratios } from '#core/timing-simulation';
import { anySystem } from '../../test/support/memorySystems.ts';
import { Simulator } from './simulation.ts';
import type { SimulationAnswer, SimulationRequest } from './simulation.worker.ts';

/** A worker that answers when a test says so. */
class StillWorker {
  static all: StillWorker[] = [];
  asked: SimulationRequest[] = [];
  isOver = false;
  private listener: ((event: { data: SimulationAnswer }) => void) | undefined;
  constructor() {
    StillWorker.all.push(this);
  }
  addEventListener(_type: string, listener: (event: { data: SimulationAnswer }) => void): void {
    this.listener = listener;
  }
  postMessage(request: SimulationRequest): void {
    this.asked.push(request);
  }
  terminate(): void {
    this.isOver = true;
  }
  say(data: SimulationAnswer): void {
    this.listener?.({ data });
  }
}

const ratios: Ratios = {
  bandwidth: { stream: 2, triad: 2, random: 2, graphics: 2, desktop: 1.2 },
  reply: { idle: 1, loaded: 0.9 },
};
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

describe('a simulation in a worker', () => {
  test('the last pair asked for counts: what was asked before comes late', () => {
    const simulator = new Simulator();
    const [first, second] = [vi.fn(), vi.fn()];
    simulator.compare(pair(14), first);
    simulator.compare(pair(15), second);
    const [one, two] = worker().asked.map(({ ticket }) => ticket);
    worker().say({ type: 'done', ticket: one ?? 0, ratios });
    expect(first).not.toHaveBeenCalled();
    worker().say({ type: 'progress', ticket: two ?? 0, share: 0.4 });
    worker().say({ type: 'done', ticket: two ?? 0, ratios });
    expect(second.mock.calls.map(([answer]: SimulationAnswer[]) => answer?.type)).toEqual([
      'progress',
      'done',
    ]);
  });

  test('cancelled, it tells nothing more, and can be asked again', () => {
    const simulator = new Simulator();
    const told = vi.fn();
    simulator.compare(pair(16), told);
    simulator.cancel();
    expect(worker().asked.at(-1)?.type).toBe('cancel');
    worker().say({ type: 'done', ticket: 1, ratios });
    expect(told).not.toHaveBeenCalled();
    simulator.compare(pair(16), told);
    worker().say({ type: 'done', ticket: 3, ratios });
    expect(told).toHaveBeenCalledTimes(1);
  });

  test('the same pair again is told at once, by any of them, and stops what runs', () => {
    const first = new Simulator();
    first.compare(pair(17), () => undefined);
    worker().say({ type: 'done', ticket: 1, ratios });
    const second = new Simulator();
    const told = vi.fn();
    second.compare(pair(17), told);
    expect(told).toHaveBeenCalledWith({ type: 'done', ticket: 1, ratios });
    expect(StillWorker.all).toHaveLength(1);
    first.compare(pair(18), () => undefined);
    first.compare(pair(17), told);
    expect(worker().asked.at(-1)?.type).toBe('cancel');
  });

  test('closed, its worker is gone', () => {
    const simulator = new Simulator();
    simulator.close();
    simulator.compare(pair(19), () => undefined);
    simulator.close();
    expect(worker().isOver).toBe(true);
  });
});
