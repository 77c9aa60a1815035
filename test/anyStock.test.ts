import fc from 'fast-check';
import { afterAll, beforeAll, expect, test } from 'vitest';
import type { DrawerRecord } from '#contract/drawer';
import type { CountAnswer, GonePage, StockValueAnswer } from '#contract/stockKeeping';
import type { PlacedAnswer, PlacedOrder, Receipt } from '#contract/suppliers';
import { Api, module } from './support/api.ts';
import { acceptedJob, offer, toOrder, wanted } from './support/ordered.ts';
import { walking } from './support/draws.ts';

// Whatever is put in, held, let go, counted, ordered, received and cancelled, in whatever order: every
// module is in one place, and nothing comes that was not ordered, or comes twice.

let api: Api;
beforeAll(async () => {
  api = await Api.start();
});
afterAll(() => api.server.stop());

/** What a module should be, by a model that is too simple to be wrong. */
interface Piece {
  place: string;
  state: string;
  heldFor: number | null;
  gone: string | null;
}
interface World {
  readonly pieces: Map<string, Piece>;
  readonly versions: Map<string, number>;
  readonly jobs: readonly number[];
}
type Deed = (world: World) => Promise<string>;

const nth = (world: World, which: number): [string, Piece] | undefined => {
  const all = [...world.pieces];
  return all[which % Math.max(1, all.length)];
};
async function asked<T extends { id: string; version: number }>(
  world: World,
  method: string,
  path: string,
  body: object,
): Promise<boolean> {
  const { status, body: answer } = await api.send<T>(method, path, body);
  expect([200, 201, 404, 409]).toContain(status);
  if (status < 300) world.versions.set(answer.id, answer.version);
  return status < 300;
}

const place = fc.constantFrom('', 'tray', 'shelf');
const which = fc.nat(20);
const put =
  (where: string): Deed =>
  async (world) => {
    const body = { label: 'used', module, state: 'tested', price: 900, origin: '', place: where };
    const { id, version } = await api.ok<DrawerRecord>('POST', '/drawer', body);
    world.pieces.set(id, { place: where, state: 'tested', heldFor: null, gone: null });
    world.versions.set(id, version);
    return 'put in';
  };
const hold =
  (at: number, job: number | null): Deed =>
  async (world) => {
    const found = nth(world, at);
    if (!found) return 'nothing';
    const [id, piece] = found;
    const number = job === null ? null : (world.jobs[job] ?? 0);
    const done = await asked(world, 'PUT', `/drawer/${id}/reservation`, {
      ...{ jobNumber: number, version: world.versions.get(id) },
    });
    const isFree = piece.heldFor === null || piece.heldFor === number;
    expect(done).toBe(
      piece.gone === null && (number === null || (isFree && piece.state === 'tested')),
    );
    if (done) piece.heldFor = number;
    return done ? 'held' : 'not held';
  };
const letGo =
  (at: number, how: string): Deed =>
  async (world) => {
    const found = nth(world, at);
    if (!found) return 'nothing';
    const [id, piece] = found;
    const body = { how, note: '', version: world.versions.get(id) };
    const done = await asked(world, 'POST', `/drawer/${id}/gone`, body);
    expect(done).toBe(piece.gone === null && piece.heldFor === null);
    if (done) piece.gone = how;
    return done ? 'gone' : 'stays';
  };
const back =
  (at: number): Deed =>
  async (world) => {
    const found = nth(world, at);
    if (!found) return 'nothing';
    const [id, piece] = found;
    const done = await asked(world, 'POST', `/drawer/${id}/back`, {
      version: world.versions.get(id),
    });
    expect(done).toBe(piece.gone !== null);
    if (done) piece.gone = null;
    return done ? 'back' : 'was here';
  };
const countPlace =
  (where: string, seen: readonly boolean[]): Deed =>
  async (world) => {
    const all = [...world.pieces];
    const scanned = all.filter((_, at) => seen[at % seen.length]).map(([id]) => id);
    const input = { place: where, scanned };
    const told = await api.ok<CountAnswer>('POST', '/stock/count', input);
    const here = all.filter(([, piece]) => piece.gone === null && piece.place === where);
    expect(told.expected).toBe(here.length);
    expect(told.missing.map(({ id }) => id).sort()).toEqual(
      here
        .filter(([id]) => !scanned.includes(id))
        .map(([id]) => id)
        .sort(),
    );
    const writeOff = told.missing.slice(0, 1).map(({ id }) => id);
    await api.ok('POST', '/stock/counts', { ...input, writeOff });
    for (const [id, piece] of all) {
      if (scanned.includes(id)) {
        if (piece.gone !== null)
          Object.assign(piece, { gone: null, state: 'suspect', heldFor: null });
        piece.place = where;
      } else if (writeOff.includes(id))
        Object.assign(piece, { gone: 'written off', heldFor: null });
      else if (here.some(([one]) => one === id)) piece.state = 'suspect';
    }
    return 'counted';
  };

const anyDeed: fc.Arbitrary<readonly [string, Deed]> = fc.oneof(
  { weight: 4, arbitrary: place.map((where) => [`put ${where}`, put(where)] as const) },
  {
    weight: 3,
    arbitrary: fc
      .tuple(which, fc.constantFrom(null, 0, 1))
      .map(([at, job]) => [`hold ${at} ${String(job)}`, hold(at, job)] as const),
  },
  {
    weight: 3,
    arbitrary: fc
      .tuple(which, fc.constantFrom('sold', 'returned', 'written off'))
      .map(([at, how]) => [`${how} ${at}`, letGo(at, how)] as const),
  },
  { weight: 2, arbitrary: which.map((at) => [`back ${at}`, back(at)] as const) },
  {
    weight: 1,
    arbitrary: fc
      .tuple(place, fc.array(fc.boolean(), { minLength: 1, maxLength: 5 }))
      .map(([where, seen]) => [`count ${where} ${seen.join()}`, countPlace(where, seen)] as const),
  },
);

/** The records against the model: the lists, the value and what left say the same. */
async function compare(world: World): Promise<void> {
  const own = [...world.pieces];
  const here = (await api.ok<DrawerRecord[]>('GET', '/drawer')).filter(({ id }) =>
    world.pieces.has(id),
  );
  expect(here.map(({ id }) => id).sort()).toEqual(
    own
      .filter(([, { gone }]) => gone === null)
      .map(([id]) => id)
      .sort(),
  );
  for (const { id, version, place: at, state, reservedFor } of here) {
    const piece = world.pieces.get(id);
    expect({ at, state, held: reservedFor?.number ?? null }).toEqual({
      ...{ at: piece?.place, state: piece?.state, held: piece?.heldFor },
    });
    world.versions.set(id, version);
  }
  const { pieces } = await api.ok<GonePage>('GET', '/stock/gone?limit=500');
  for (const { id, gone, version } of pieces) {
    const piece = world.pieces.get(id);
    if (!piece) continue;
    expect(gone.how).toBe(piece.gone);
    world.versions.set(id, version);
  }
}

test('every module is in one place, whatever is done with it', async () => {
  const jobs = [(await api.jobWithFound()).number, (await api.jobWithFound()).number];
  const seen = new Set<string>();
  await fc.assert(
    fc.asyncProperty(fc.array(anyDeed, { minLength: 3, maxLength: 14 }), async (deeds) => {
      const world: World = { pieces: new Map(), versions: new Map(), jobs };
      // What the run before left belongs to no model.
      await api.server.db.execute(`delete from drawer`);
      for (const [, deed] of deeds) {
        seen.add(await deed(world));
        await compare(world);
      }
      const value = await api.ok<StockValueAnswer>('GET', '/stock/value');
      const here = [...world.pieces.values()].filter(({ gone }) => gone === null);
      expect(value.pieces).toBe(here.length);
      expect(value.price).toBe(900 * here.filter(({ state }) => state === 'tested').length);
    }),
    walking(8, 1, 75),
  );
  // The random worlds went through every turn there is.
  expect([...seen].sort()).toEqual(
    expect.arrayContaining(['back', 'counted', 'gone', 'held', 'not held', 'put in', 'stays']),
  );
});

test('of an order comes what was ordered, once, however it is received and cancelled', async () => {
  const single = await offer(api, { supplier: 'Quay', article: 'Q-1' });
  let number = 0;
  await fc.assert(
    fc.asyncProperty(
      fc.array(fc.constantFrom('receive 1', 'receive 2', 'cancel', 'order'), { maxLength: 7 }),
      async (deeds) => {
        const { job } = await acceptedJob(api, single.id);
        const mine = async () =>
          (await toOrder(api, 'Quay')).filter(({ jobId }) => jobId === job.id);
        const asks = (await mine()).reduce((sum, { packs }) => sum + packs, 0);
        let came = 0;
        const orders: string[] = [];
        for (const deed of deeds) {
          if (deed === 'order') {
            const lines = await mine();
            if (lines.length === 0) continue;
            const id = `any-${String(number++)}`;
            await api.ok<PlacedAnswer>('POST', '/orders', {
              ...{ id, supplier: 'Quay', lines: wanted(lines), reference: '', send: false },
            });
            orders.push(id);
            continue;
          }
          const id = orders.at(-1);
          const placed = (await api.ok<PlacedOrder[]>('GET', '/orders/placed')).find(
            (one) => one.id === id,
          );
          const line = placed?.lines[0];
          if (!line) continue;
          const packs = Number(deed.split(' ')[1]);
          const { status, body } =
            deed === 'cancel'
              ? await api.send<Receipt>('POST', `/orders/${String(id)}/cancelled`, {
                  lineIds: [line.id],
                })
              : await api.send<Receipt>('POST', `/orders/${String(id)}/receipts`, {
                  ...{ lines: [{ lineId: line.id, packs }], place: '' },
                });
          const open = line.isCancelled ? 0 : line.packs - line.received;
          expect(status < 300).toBe(deed === 'cancel' ? open > 0 : packs <= open);
          if (status < 300 && deed !== 'cancel') came += body.pieces.length;
        }
        const held = (await api.ok<DrawerRecord[]>('GET', '/drawer')).filter(
          ({ reservedFor }) => reservedFor?.jobId === job.id,
        );
        expect(held).toHaveLength(came);
        expect(came).toBeLessThanOrEqual(asks);
        // What is to be ordered, on its way and here is what the customer said yes to.
        const left = (await mine()).reduce((sum, { packs }) => sum + packs, 0);
        const placed = (await api.ok<PlacedOrder[]>('GET', '/orders/placed')).filter(({ id }) =>
          orders.includes(id),
        );
        const coming = placed
          .flatMap(({ lines }) => lines)
          .reduce((sum, one) => sum + (one.isCancelled ? 0 : one.packs - one.received), 0);
        expect(left + coming + came).toBe(asks);
      },
    ),
    walking(6, 18, 60),
  );
});
