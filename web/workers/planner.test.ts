import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { Planner } from './planner.ts';
import type { PlannerAnswer } from './planner.ts';

/** A worker whose other side is played by the test. */
class PlayedWorker extends EventTarget {
  static all: PlayedWorker[] = [];
  readonly asked: { readonly ticket: number }[] = [];
  isOver = false;
  constructor() {
    super();
    PlayedWorker.all.push(this);
  }
  postMessage(question: { readonly ticket: number }): void {
    this.asked.push(question);
  }
  terminate(): void {
    this.isOver = true;
  }
  say(answer: object): void {
    this.dispatchEvent(new MessageEvent('message', { data: answer }));
  }
}

beforeEach(() => {
  PlayedWorker.all = [];
  vi.stubGlobal('Worker', PlayedWorker);
});
afterEach(() => vi.unstubAllGlobals());

test('what was asked before is not heard any more', () => {
  const planner = new Planner();
  const heard: string[] = [];
  const note = (who: string) => (answer: PlannerAnswer) => heard.push(`${who} ${answer.type}`);
  planner.ask({ type: 'cancel' }, note('first'));
  planner.ask({ type: 'cancel' }, note('second'));
  const [worker] = PlayedWorker.all;
  for (const { ticket } of worker?.asked ?? [])
    worker?.say({ type: 'batch', ticket, result: { type: 'none' } });
  expect(heard).toEqual(['second batch']);
});

test('a planner that breaks off is told of once, and the next question starts another', () => {
  const planner = new Planner();
  const heard: PlannerAnswer[] = [];
  planner.ask({ type: 'cancel' }, (answer) => heard.push(answer));
  PlayedWorker.all[0]?.dispatchEvent(new Event('error'));
  expect(heard).toEqual([
    { type: 'failed', ticket: 1, message: expect.stringContaining('no answer') as string },
  ]);
  expect(PlayedWorker.all[0]?.isOver).toBe(true);
  planner.ask({ type: 'cancel' }, () => undefined);
  expect(PlayedWorker.all).toHaveLength(2);
  planner.close();
  expect(PlayedWorker.all[1]?.isOver).toBe(true);
});
