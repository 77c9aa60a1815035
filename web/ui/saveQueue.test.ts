import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import type { ApiFailure } from '../app/api.ts';
import { SaveQueue, renewed, versionOfRow } from './saveQueue.ts';
import type { SaveState } from './saveQueue.ts';

interface Save {
  readonly id: string;
  readonly body: { readonly version: number; readonly text: string };
}
interface Row {
  readonly version: number;
  readonly text: string;
}

/** A failure as the store hands it on, thrown as an error. */
const failing = (failure: ApiFailure) => Object.assign(new Error(failure.type), failure);

/** A server that keeps rows by version, may be away, and takes what it is sent in its own time. */
class Shelf {
  readonly rows = new Map<string, Row>();
  readonly states: SaveState[] = [];
  readonly done: Row[] = [];
  isAway = false;
  #back: (() => void)[] = [];

  readonly queue = new SaveQueue<Save, Row>({
    send: async ({ id, body }) => {
      await Promise.resolve();
      if (this.isAway) throw failing({ type: 'offline' });
      const row = this.rows.get(id) ?? { version: 1, text: '' };
      if (row.version !== body.version) throw failing(refusal);
      const next = { version: row.version + 1, text: body.text };
      this.rows.set(id, next);
      return next;
    },
    renew: (later, sent, result) => renewed(later, sent, result, versionOfRow),
    onState: (state) => this.states.push(state),
    onDone: (result) => this.done.push(result),
    whenOnline: () => new Promise((settle) => this.#back.push(settle)),
  });

  comeBack(): void {
    this.isAway = false;
    for (const settle of this.#back.splice(0)) settle();
  }
}

const refusal: ApiFailure = {
  type: 'problem',
  problem: { type: 'x', title: 'Changed meanwhile', status: 409, detail: '', mend: '' },
};
const save = (id: string, text: string, version = 1): Save => ({ id, body: { version, text } });
const settle = async () => {
  for (let n = 0; n < 50; n++) await Promise.resolve();
};

describe('saves made while the server is away', () => {
  test('are all kept, sent in order, and told of until they are through', async () => {
    const shelf = new Shelf();
    shelf.isAway = true;
    const through = ['a', 'b', 'c'].map((id) => shelf.queue.add(save(id, `of ${id}`)));
    await settle();
    expect(shelf.states.at(-1)).toEqual({ type: 'waiting', left: 3 });
    shelf.comeBack();
    expect(await Promise.all(through)).toEqual([true, true, true]);
    expect(shelf.done.map(({ text }) => text)).toEqual(['of a', 'of b', 'of c']);
    expect(shelf.states.at(-1)).toEqual({ type: 'done' });
  });

  test('of one row follow one another, each with the version the one before gave it', async () => {
    const shelf = new Shelf();
    shelf.isAway = true;
    const through = ['first', 'second', 'third'].map((text) => shelf.queue.add(save('a', text)));
    await settle();
    shelf.comeBack();
    expect(await Promise.all(through)).toEqual([true, true, true]);
    expect(shelf.rows.get('a')).toEqual({ version: 4, text: 'third' });
  });

  test('wait again when the server goes again', async () => {
    const shelf = new Shelf();
    shelf.isAway = true;
    const through = shelf.queue.add(save('a', 'kept'));
    await settle();
    shelf.comeBack();
    shelf.isAway = true;
    await settle();
    expect(shelf.states.at(-1)).toEqual({ type: 'waiting', left: 1 });
    shelf.comeBack();
    expect(await through).toBe(true);
  });
});

test('a refused save is told, does not hold up the others, and is forgotten with the next one', async () => {
  const shelf = new Shelf();
  const through = [save('a', '1'), save('b', 'stale', 7), save('c', '3')].map((one) =>
    shelf.queue.add(one),
  );
  expect(await Promise.all(through)).toEqual([true, false, true]);
  await settle();
  expect(shelf.states.at(-1)).toMatchObject({
    ...{ type: 'failed', failure: { problem: { status: 409 } } },
  });
  await shelf.queue.add(save('b', 'anew'));
  await settle();
  expect(shelf.states.at(-1)).toEqual({ type: 'done' });
});

test('a save made from a version somebody else has left behind is not helped over it', () => {
  const later = save('a', 'x', 3);
  expect(renewed(later, save('a', 'y', 3), { version: 4 }, versionOfRow).body.version).toBe(4);
  expect(renewed(later, save('a', 'y', 2), { version: 4 }, versionOfRow)).toBe(later);
  expect(renewed(later, save('b', 'y', 3), { version: 4 }, versionOfRow)).toBe(later);
  expect(renewed(later, save('a', 'y', 3), 'no row', versionOfRow)).toBe(later);
});

test('whatever is saved and however often the server goes away, nothing is lost or out of order', async () => {
  await fc.assert(
    fc.asyncProperty(
      fc.array(fc.oneof(fc.constantFrom('a', 'b', 'c'), fc.constantFrom('away', 'back')), {
        maxLength: 25,
      }),
      async (steps) => {
        const shelf = new Shelf();
        const wanted = new Map<string, string[]>();
        const through: Promise<boolean>[] = [];
        for (const [at, step] of steps.entries()) {
          if (step === 'away') shelf.isAway = true;
          else if (step === 'back') shelf.comeBack();
          else {
            wanted.set(step, [...(wanted.get(step) ?? []), `${at}`]);
            // Typed from what stood on the page: the row as it is now.
            const { version } = shelf.rows.get(step) ?? { version: 1 };
            through.push(shelf.queue.add(save(step, `${at}`, version)));
          }
          if (at % 3 === 0) await settle();
        }
        shelf.comeBack();
        await settle();
        const kept = await Promise.all(through);
        expect(shelf.done.length).toBe(kept.filter(Boolean).length);
        for (const [id, texts] of wanted)
          if (kept.every(Boolean)) expect(shelf.rows.get(id)?.text).toBe(texts.at(-1));
      },
    ),
    { numRuns: 200 },
  );
});
