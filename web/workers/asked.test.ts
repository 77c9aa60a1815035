import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import { answering } from './answering.ts';
import { Asked, NoAnswer } from './asked.ts';
import type { Told } from './asked.ts';

interface Question {
  readonly ticket: number;
  readonly request: string;
}

/** A worker whose other side is played by the test. */
class PlayedWorker extends EventTarget {
  readonly asked: Question[] = [];
  isOver = false;
  postMessage(question: Question): void {
    this.asked.push(structuredClone(question));
  }
  terminate(): void {
    this.isOver = true;
  }
  say(told: Told<string>): void {
    this.dispatchEvent(new MessageEvent('message', { data: told }));
  }
  /** Answers the question asked as the n-th. */
  answer(at: number, answer: string): void {
    this.say({ ticket: this.asked[at]?.ticket ?? -1, answer });
  }
}

let opened: PlayedWorker[];
let worker: Asked<string, string>;
beforeEach(() => {
  opened = [];
  worker = new Asked<string, string>(() => {
    const one = new PlayedWorker();
    opened.push(one);
    return one as unknown as Worker;
  });
});

const first = () => {
  const [one] = opened;
  if (!one) throw new Error('expected a worker');
  return one;
};

describe('a worker that is asked', () => {
  test('is opened at the first question and kept; each hears its own answer, in whatever order', async () => {
    expect(opened).toHaveLength(0);
    const answers = ['a', 'b', 'c'].map((one) => worker.ask(one));
    expect(opened).toHaveLength(1);
    for (const at of [2, 0, 1]) first().answer(at, `${first().asked[at]?.request ?? ''}!`);
    expect(await Promise.all(answers)).toEqual(['a!', 'b!', 'c!']);
  });

  test('one question it fails at is refused in words; the others go on', async () => {
    const [bad, good] = [worker.ask('bad'), worker.ask('good')];
    first().say({ ticket: first().asked[0]?.ticket ?? -1, fault: 'no canvas' });
    first().answer(1, 'fine');
    const refused = await bad.catch((error: unknown) => error);
    expect(refused).toBeInstanceOf(NoAnswer);
    expect((refused as NoAnswer).problem.mend).toContain('Try again');
    expect(await good).toBe('fine');
    expect(first().isOver).toBe(false);
  });

  test.each(['error', 'messageerror'])(
    'after an %s all who wait are told, and the next question starts another',
    async (what) => {
      const waiting = [worker.ask('a'), worker.ask('b')];
      first().dispatchEvent(new Event(what));
      for (const one of waiting) await expect(one).rejects.toBeInstanceOf(NoAnswer);
      expect(first().isOver).toBe(true);
      const later = worker.ask('c');
      expect(opened).toHaveLength(2);
      // The old one, heard of late, takes nothing down with it.
      first().dispatchEvent(new Event(what));
      opened[1]?.answer(0, 'c!');
      expect(await later).toBe('c!');
    },
  );

  test('closed, it leaves nobody waiting', async () => {
    const waiting = worker.ask('a');
    worker.close();
    await expect(waiting).rejects.toBeInstanceOf(NoAnswer);
    expect(first().isOver).toBe(true);
  });

  test('what cannot be sent is told at once, and asks nothing', async () => {
    const odd = worker.ask((() => 'no text') as unknown as string);
    await expect(odd).rejects.toThrow();
    expect(first().asked).toEqual([]);
  });
});

describe('a worker that answers', () => {
  const told: Told<string>[] = [];
  beforeEach(() => {
    told.length = 0;
    vi.stubGlobal('self', new EventTarget());
    Object.assign(self, { postMessage: (one: Told<string>) => void told.push(one) });
  });
  afterEach(() => vi.unstubAllGlobals());
  const ask = (ticket: number, request: string) =>
    self.dispatchEvent(new MessageEvent('message', { data: { ticket, request } }));

  test('answers with the ticket; what it throws, at once or later, is told as a fault', async () => {
    answering((request: string): string | Promise<string> => {
      if (request === 'throws') throw new Error('at once');
      return request === 'rejects' ? Promise.reject(new Error('later')) : `${request}!`;
    });
    for (const [at, request] of ['a', 'throws', 'rejects', 'b'].entries()) ask(at, request);
    await vi.waitFor(() => expect(told).toHaveLength(4));
    expect(told.sort((a, b) => a.ticket - b.ticket)).toEqual([
      { ticket: 0, answer: 'a!' },
      { ticket: 1, fault: 'Error: at once' },
      { ticket: 2, fault: 'Error: later' },
      { ticket: 3, answer: 'b!' },
    ]);
  });
});
