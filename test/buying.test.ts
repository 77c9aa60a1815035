import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { BenchLog } from '#contract/bench';
import type { DrawerRecord } from '#contract/drawer';
import { jobBench } from '#contract/jobBench';
import { START } from '#core/fitting';
import type { Shop } from '#contract/quotes';
import type { ModuleRecord } from '#contract/records';
import type { PlacedAnswer, PlacedOrder, Receipt, SupplierRecord } from '#contract/suppliers';
import { Api } from './support/api.ts';
import { labelled } from './support/builders.ts';
import { EIGHT, acceptedJob, offer, toOrder, wanted } from './support/ordered.ts';

let api: Api;
beforeAll(async () => {
  api = await Api.start();
});
afterAll(() => api.server.stop());

let orders = 0;
const placeBy = (supplier: string, lines: object[], more: object = {}) =>
  api.ok<PlacedAnswer>('POST', '/orders', {
    ...{ id: `order-${String(orders++)}`, supplier, lines, reference: '', send: false, ...more },
  });
const onTheWay = (id: string) =>
  api
    .ok<PlacedOrder[]>('GET', '/orders/placed')
    .then((list) => list.find((order) => order.id === id));
const module = (id: string) =>
  api.ok<ModuleRecord[]>('GET', '/modules').then((list) => list.find((one) => one.id === id));
const supplier = async (name: string) => {
  const found = (await api.ok<SupplierRecord[]>('GET', '/suppliers')).find(
    (one) => one.name === name,
  );
  if (!found) throw new Error(`expected a supplier ${name}`);
  return found;
};

describe('suppliers', () => {
  test('are known by the offers that name them, and offers follow a new name', async () => {
    const { id } = await offer(api, { supplier: 'Slipway', article: 'S-1' });
    const before = await supplier('Slipway');
    expect(before).toMatchObject({ offers: 1, hasKey: false, columns: null });
    const { version } = before;
    await api.ok('PUT', `/suppliers/${before.id}`, {
      ...{ name: 'Slipway yard', contact: 'gate two', serviceUrl: '', serviceKey: 'k', version },
    });
    expect((await module(id))?.supplier).toBe('Slipway yard');
    const after = await supplier('Slipway yard');
    expect(after).toMatchObject({ offers: 1, hasKey: true, contact: 'gate two' });
    // The key is kept where it is not said, and never told.
    await api.ok('PUT', `/suppliers/${after.id}`, {
      ...{ name: after.name, contact: '', serviceUrl: '', version: after.version },
    });
    expect(await supplier('Slipway yard')).toMatchObject({ hasKey: true });
    expect(JSON.stringify(await api.ok('GET', '/suppliers'))).not.toContain('"k"');
  });

  test('two of one name, an address that is none, and a stale change are refused', async () => {
    await api.ok('POST', '/suppliers', { name: 'Twin', contact: '', serviceUrl: '' });
    const twin = { name: 'twin', contact: '', serviceUrl: '' };
    expect((await api.problem('POST', '/suppliers', twin)).mend).toBe('Change that one.');
    for (const serviceUrl of ['file:///etc/passwd', 'javascript:1', 'example'])
      expect(
        (await api.problem('POST', '/suppliers', { ...twin, name: 'Odd', serviceUrl })).status,
      ).toBe(422);
    const { id } = await supplier('Twin');
    const stale = { name: 'Twin', contact: 'x', serviceUrl: '', version: 9 };
    expect((await api.problem('PUT', `/suppliers/${id}`, stale)).status).toBe(409);
  });
});

describe('a price list', () => {
  test('changes costs, makes prices of them by the shop’s margin, and remembers its columns', async () => {
    const known = await offer(api, { supplier: 'Lister', article: 'L-1', price: 3000, cost: 2000 });
    const { id } = await supplier('Lister');
    const columns = { article: 'Item', cost: 'Net', stock: 'Qty' };
    const typed = await api.ok('POST', `/suppliers/${id}/prices`, {
      columns,
      ...{ changes: [{ id: known.id, article: 'L-1', cost: 2100, stock: 3 }], additions: [] },
    });
    // Without a margin prices are typed, and stay.
    expect(typed).toEqual({ changed: 1, added: 0, repriced: 0 });
    expect(await module(known.id)).toMatchObject({
      cost: 2100,
      price: 3000,
      stock: 3,
      leadDays: 2,
    });
    const { terms, version } = await api.ok<Shop>('GET', '/shop');
    const margin = { marginPercent: 25, roundPricesTo: 50 };
    await api.ok('PUT', '/shop', { terms: { ...terms, ...margin, taxPercent: 20 }, version });
    const made = await api.ok('POST', `/suppliers/${id}/prices`, {
      columns,
      changes: [{ id: known.id, article: 'L-1', cost: 2200 }],
      additions: [
        { article: 'L-2', label: EIGHT, module: labelled(EIGHT), units: 2, cost: 4000, stock: 0 },
      ],
    });
    expect(made).toEqual({ changed: 1, added: 1, repriced: 1 });
    expect(await module(known.id)).toMatchObject({ cost: 2200, price: 3300, stock: 3 });
    const all = await api.ok<ModuleRecord[]>('GET', '/modules?search=L-2');
    expect(all).toMatchObject([
      { supplier: 'Lister', units: 2, cost: 4000, price: 6000, stock: 0 },
    ]);
    expect((await supplier('Lister')).columns).toEqual(columns);
  });

  test('that meets a catalogue changed meanwhile changes nothing', async () => {
    const known = await offer(api, { supplier: 'Mender', article: 'M-1' });
    const { id } = await supplier('Mender');
    const stranger = await offer(api, { supplier: 'Somebody else', article: 'M-2' });
    const change = (offerId: string) => ({ id: offerId, article: 'x', cost: 1 });
    const lists = [
      { changes: [change(known.id), change(stranger.id)], additions: [] },
      {
        changes: [change(known.id)],
        additions: [{ article: 'M-1', label: EIGHT, module: labelled(EIGHT), units: 1, cost: 1 }],
      },
    ];
    for (const list of lists) {
      const problem = await api.problem('POST', `/suppliers/${id}/prices`, {
        columns: {},
        ...list,
      });
      expect([problem.status, problem.mend?.slice(0, 19)]).toEqual([409, 'Read the list again']);
    }
    expect((await module(known.id))?.cost).toBe(2000);
  });
});

describe('an order', () => {
  test('comes in parts, each module held for its job, until all of it is here', async () => {
    const pair = await offer(api, {
      supplier: 'Parts hall',
      article: 'P-2',
      units: 2,
      cost: 3900,
      price: 6001,
    });
    const { job } = await acceptedJob(api, pair.id);
    const single = await offer(api, { supplier: 'Parts hall', article: 'P-1' });
    const other = await acceptedJob(api, single.id);
    const lines = await toOrder(api, 'Parts hall');
    expect(lines.map(({ jobNumber }) => jobNumber)).toEqual([job.number, other.job.number]);
    const { order } = await placeBy('Parts hall', wanted(lines), { reference: 'PH-7' });
    expect(order).toMatchObject({ by: 'Ottoline V.', reference: 'PH-7', isSent: false });
    expect(await toOrder(api, 'Parts hall')).toEqual([]);

    const [first, second] = [...(order?.lines ?? [])].sort((a, b) => b.units - a.units);
    const came = await api.ok<Receipt>('POST', `/orders/${order?.id ?? ''}/receipts`, {
      ...{ lines: [{ lineId: first?.id, packs: 1, cost: 4100 }], place: 'Tray' },
    });
    expect(came.pieces).toHaveLength(2);
    const drawer = await api.ok<DrawerRecord[]>('GET', '/drawer');
    const pieces = drawer.filter(({ id }) => came.pieces.includes(id));
    for (const piece of pieces)
      expect(piece).toMatchObject({
        ...{ isNew: true, place: 'Tray', cost: 2050, supplier: 'Parts hall' },
        reservedFor: { jobId: job.id },
      });
    // What does not divide is borne by one of them, not by the shop or the customer.
    expect(pieces.map(({ price }) => price).sort()).toEqual([3000, 3001]);
    // Of one pack: a matched pair for whoever plans with them.
    expect(pieces[0]?.module.kitId).toBeTruthy();
    expect(pieces[0]?.module.kitId).toBe(pieces[1]?.module.kitId);
    const left = await onTheWay(order?.id ?? '');
    expect(left?.lines.map(({ received }) => received).sort()).toEqual([0, 1]);

    // More than was ordered, and the same once more, are refused; nothing comes twice.
    for (const packs of [1, 2]) {
      const body = { lines: [{ lineId: first?.id, packs }], place: '' };
      const problem = await api.problem('POST', `/orders/${order?.id ?? ''}/receipts`, body);
      expect(problem.mend).toContain('into the drawer by its label');
    }
    const rest = { lines: [{ lineId: second?.id, packs: 1 }], place: '' };
    const [one, two] = await Promise.all([
      api.send('POST', `/orders/${order?.id ?? ''}/receipts`, rest),
      api.send('POST', `/orders/${order?.id ?? ''}/receipts`, rest),
    ]);
    expect([one.status, two.status].sort()).toEqual([201, 409]);
    const { events } = await api.ok('GET', `/jobs/${job.id}`);
    expect(events.map(({ type }) => type)).toEqual(expect.arrayContaining(['ordered', 'received']));
  });

  test('what came is sold when it is fitted, and here again when that is undone', async () => {
    const single = await offer(api, { supplier: 'Quayside', article: 'Q-1' });
    const { job } = await acceptedJob(api, single.id);
    const { order } = await placeBy('Quayside', wanted(await toOrder(api, 'Quayside')));
    const lineId = order?.lines[0]?.id;
    const { pieces } = await api.ok<Receipt>('POST', `/orders/${order?.id ?? ''}/receipts`, {
      ...{ lines: [{ lineId, packs: order?.lines[0]?.packs }], place: '' },
    });
    const held = () =>
      api
        .ok<DrawerRecord[]>('GET', '/drawer')
        .then((all) => all.filter(({ id }) => pieces.includes(id)));
    expect((await held()).map(({ reservedFor }) => reservedFor?.number)).toEqual(
      pieces.map(() => job.number),
    );
    const note = (id: string, one: object) =>
      api.ok('POST', `/jobs/${job.id}/bench`, { id, note: one });
    // The sheet as a bench works it off, step by step.
    for (let turn = 0; turn < 60; turn++) {
      const log = await api.ok<BenchLog>('GET', `/jobs/${job.id}/bench`);
      const { next } = jobBench(await api.ok('GET', `/jobs/${job.id}`), log).sheet;
      if (!next) break;
      const id = next.id === START ? 'started' : `tick-${String(turn)}`;
      await note(id, { type: 'tick', stepId: next.id });
    }
    expect(await held()).toEqual([]);
    const gone = await api.ok<{ pieces: { id: string; gone: object }[] }>('GET', '/stock/gone');
    expect(gone.pieces.find(({ id }) => pieces.includes(id))?.gone).toMatchObject({
      ...{ how: 'sold', job: { jobId: job.id, number: job.number } },
    });
    await note('undone', { type: 'undo', of: 'started' });
    expect((await held()).map(({ reservedFor }) => reservedFor?.number)).toEqual(
      pieces.map(() => job.number),
    );
  });

  test('sent twice stands once; of two who order one line, one does', async () => {
    const single = await offer(api, { supplier: 'Twice', article: 'T-1' });
    await acceptedJob(api, single.id);
    const lines = wanted(await toOrder(api, 'Twice'));
    const body = { id: 'the-same', supplier: 'Twice', lines, reference: '', send: false };
    const [first, again] = [
      await api.ok<PlacedAnswer>('POST', '/orders', body),
      await api.ok<PlacedAnswer>('POST', '/orders', body),
    ];
    expect(again.order?.number).toBe(first.order?.number);
    await acceptedJob(api, single.id);
    const more = wanted(await toOrder(api, 'Twice'));
    const answers = await Promise.all(
      ['one', 'two'].map((id) => api.send('POST', '/orders', { ...body, id, lines: more })),
    );
    expect(answers.map(({ status }) => status).sort()).toEqual([201, 409]);
  });

  test('cancelled before it came is to be ordered again; cancelled in part, the rest is', async () => {
    const single = await offer(api, { supplier: 'Fickle', article: 'F-1' });
    const { job } = await acceptedJob(api, single.id);
    const lines = await toOrder(api, 'Fickle');
    const { order } = await placeBy('Fickle', wanted(lines));
    const path = `/orders/${order?.id ?? ''}`;
    const lineIds = [order?.lines[0]?.id];
    const after = await api.ok<PlacedOrder>('POST', `${path}/cancelled`, { lineIds });
    expect(after.lines[0]?.isCancelled).toBe(true);
    expect(await toOrder(api, 'Fickle')).toEqual(lines);
    expect((await api.problem('POST', `${path}/cancelled`, { lineIds })).status).toBe(409);
    const late = { lines: [{ lineId: lineIds[0], packs: 1 }], place: '' };
    expect((await api.problem('POST', `${path}/receipts`, late)).detail).toContain('cancelled');
    // Nobody is waiting any more: what comes now is free for others.
    const { order: second } = await placeBy('Fickle', wanted(lines));
    const { version } = await api.ok('PUT', `/jobs/${job.id}/snapshots/as-fitted`, {
      ...{ placement: {}, setting: 'standard', version: 0 },
    });
    await api.ok('POST', `/jobs/${job.id}/close`, { version });
    const { pieces } = await api.ok<Receipt>('POST', `/orders/${second?.id ?? ''}/receipts`, {
      ...{ lines: [{ lineId: second?.lines[0]?.id, packs: 1 }], place: '' },
    });
    expect(await api.ok('GET', `/drawer/${pieces[0] ?? ''}`)).toMatchObject({ reservedFor: null });
  });

  test('of a line nobody wants any more, or of another supplier, is refused', async () => {
    const single = await offer(api, { supplier: 'Right one', article: 'R-1' });
    await acceptedJob(api, single.id);
    const lines = wanted(await toOrder(api, 'Right one'));
    const body = { id: 'wrong', supplier: 'Wrong one', lines, reference: '', send: false };
    expect((await api.problem('POST', '/orders', body)).mend).toContain('Look at the list again');
    const stranger = [{ quoteId: 'nobody', at: 0 }];
    expect((await api.problem('POST', '/orders', { ...body, lines: stranger })).status).toBe(409);
  });
});
