import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { ModuleRecord } from '#contract/records';
import type { AskedAnswer, PlacedAnswer, SupplierRecord } from '#contract/suppliers';
import { startSupplier, supplierOpenApi } from '#demo/supplier/supplier';
import type { Mood, Ware } from '#demo/supplier/supplier';
import { askArticles, sendOrder } from '../server/suppliers/service.ts';
import { Api } from './support/api.ts';
import { acceptedJob, offer, toOrder, wanted } from './support/ordered.ts';

// A real service on a port, as moody as they are, and the bench's way of asking it.

let api: Api;
const running: { stop: () => Promise<void> }[] = [];
beforeAll(async () => {
  api = await Api.start();
});
afterAll(async () => {
  await api.server.stop();
  for (const one of running) await one.stop();
});

const wares = (): Ware[] => [
  { article: 'A-1', cost: 2100, stock: 5, leadDays: 1 },
  { article: 'A-2', cost: 900, stock: 0, leadDays: 4 },
];
async function service(
  moods: readonly Mood[],
  more: { key?: string; currency?: string; slowMs?: number } = {},
) {
  const { key = '', currency = 'EUR', slowMs = 60_000 } = more;
  const one = await startSupplier({ currency, wares: wares(), key, moods, slowMs });
  running.push(one);
  return one;
}
const IMPATIENT = { timeoutMs: 400, retries: 2, pauseMs: 5 };
const at = (serviceUrl: string, serviceKey = '') => ({ name: 'Quay', serviceUrl, serviceKey });

/** A supplier of the shop that answers at an address, with an offer of article A-1. */
async function shopSupplier(name: string, serviceUrl: string, serviceKey = '') {
  const { id } = await offer(api, { supplier: name, article: 'A-1', cost: 2000, price: 3000 });
  const known = (await api.ok<SupplierRecord[]>('GET', '/suppliers')).find(
    (one) => one.name === name,
  );
  await api.ok('PUT', `/suppliers/${known?.id ?? ''}`, {
    ...{ name, contact: '', serviceUrl, serviceKey, version: known?.version },
  });
  return { id: known?.id ?? '', offerId: id };
}
const moduleOf = async (id: string) =>
  (await api.ok<ModuleRecord[]>('GET', '/modules')).find((one) => one.id === id);

describe('asking', () => {
  test.each([
    ['at once', ['steady'], 1],
    ['after one that was down', ['down', 'steady'], 2],
    ['after two that were busy', ['busy', 'busy', 'steady'], 3],
    ['after one that was too slow', ['slow', 'steady'], 2],
  ] as const)('is answered %s', async (_what, moods, tries) => {
    const { url } = await service(moods);
    const answer = await askArticles(at(url), ['A-1', 'A-2', 'A-3'], IMPATIENT);
    expect(answer.tries).toBe(tries);
    expect(answer.articles.map(({ article, stock }) => [article, stock])).toEqual([
      ['A-1', 5],
      ['A-2', 0],
    ]);
  });

  test.each([
    ['down for good', ['down'], {}, /answers 503/, /asked 3 times/],
    ['too slow for good', ['slow'], {}, /did not answer within 0.4 s/, /asked 3 times/],
    ['answers with a page', ['garbled'], {}, /no JSON/, /its address/],
    ['wants another key', ['steady'], { key: 'right' }, /does not take the key/, /under Suppliers/],
  ] as const)('a service that is %s is told in words', async (_what, moods, more, why, mend) => {
    const { url } = await service(moods, more);
    const failed = askArticles(at(url, 'wrong'), ['A-1'], IMPATIENT);
    await expect(failed).rejects.toMatchObject({
      message: expect.stringMatching(why) as string,
      mend: expect.stringMatching(mend) as string,
    });
  });

  test('one that is not there, moved away, or never stops talking does no harm', async () => {
    const gone = await service(['steady']);
    await gone.stop();
    await expect(askArticles(at(gone.url), ['A-1'], IMPATIENT)).rejects.toThrow(
      /cannot be reached/,
    );
    const odd = createServer((request, response) => {
      if (request.url?.startsWith('/moved'))
        return response.writeHead(302, { location: gone.url }).end();
      response.writeHead(200, { 'content-type': 'application/json' });
      const more = () => {
        if (!response.destroyed) response.write('x'.repeat(65_536), () => setImmediate(more));
      };
      more();
    });
    await new Promise<void>((settle) => odd.listen(0, '127.0.0.1', settle));
    const url = `http://127.0.0.1:${(odd.address() as AddressInfo).port}`;
    running.push({
      stop: () =>
        new Promise((settle) => {
          odd.closeAllConnections();
          odd.close(() => settle());
        }),
    });
    const patient = { ...IMPATIENT, timeoutMs: 20_000 };
    await expect(askArticles(at(`${url}/moved`), ['A-1'], IMPATIENT)).rejects.toThrow(
      /cannot be reached/,
    );
    await expect(askArticles(at(url), ['A-1'], patient)).rejects.toThrow(/more than a megabyte/);
  });

  test('more articles than fit one question are asked in several', async () => {
    const { url } = await service(['steady']);
    const many = Array.from({ length: 250 }, (_, number) => `X-${number}`);
    const { articles } = await askArticles(at(url), [...many, 'A-1'], IMPATIENT);
    expect(articles.map(({ article }) => article)).toEqual(['A-1']);
  });
});

describe('the catalogue', () => {
  test('hears new costs and stock, with when; a price list’s age is the newest answer’s', async () => {
    const { url } = await service(['down', 'steady'], { key: 'k' });
    const { id, offerId } = await shopSupplier('Hearing', url, 'k');
    const before = await moduleOf(offerId);
    const asked = await api.ok<AskedAnswer>('POST', `/suppliers/${id}/ask`, {});
    expect(asked).toMatchObject({ ...{ asked: 1, answered: 1, changed: 1, soldOut: 0 }, tries: 2 });
    const after = await moduleOf(offerId);
    expect(after).toMatchObject({ cost: 2100, stock: 5, leadDays: 1, pricedAt: asked.at });
    expect(Date.parse(after?.pricedAt ?? '')).toBeGreaterThan(Date.parse(before?.pricedAt ?? ''));
    const list = await api.ok<SupplierRecord[]>('GET', '/suppliers');
    expect(list.find((one) => one.id === id)?.pricedAt).toBe(asked.at);
    // Who asked is noted with what it changed.
    const { entries } = await api.ok<{ entries: { who: string; field: string }[] }>(
      'GET',
      '/changes?subject=price',
    );
    expect(entries[0]).toMatchObject({ who: 'Ottoline V.', field: 'cost' });
  });

  test('stays as it was where nobody answers, or in other money', async () => {
    const abroad = await service(['steady'], { currency: 'NOK' });
    const { id, offerId } = await shopSupplier('Abroad', abroad.url);
    const problem = await api.problem('POST', `/suppliers/${id}/ask`, {});
    expect(problem.detail).toContain('NOK');
    expect(await moduleOf(offerId)).toMatchObject({ cost: 2000, stock: null });
    const { id: dumb } = await shopSupplier('Without', '');
    expect((await api.problem('POST', `/suppliers/${dumb}/ask`, {})).detail).toContain(
      'no service',
    );
  });
});

describe('ordering there', () => {
  test('is confirmed with its number and day; sent again, it is the same order', async () => {
    const { url, orders } = await service(['steady']);
    const { offerId } = await shopSupplier('Sender', url);
    await acceptedJob(api, offerId);
    const lines = wanted(await toOrder(api, 'Sender'));
    const body = { id: 'sent-order', supplier: 'Sender', lines, reference: '', send: true };
    const first = await api.ok<PlacedAnswer>('POST', '/orders', body);
    expect(first).toMatchObject({ order: { reference: 'S-1001', isSent: true }, refused: [] });
    expect(first.order?.expectedOn).toBe(
      new Date(Date.now() + 86_400_000).toISOString().slice(0, 10),
    );
    await api.ok('POST', '/orders', body);
    expect(orders.size).toBe(1);
  });

  test('what is sold out is named and stays to be ordered', async () => {
    const { url } = await service(['sold out']);
    const { offerId } = await shopSupplier('Emptied', url);
    await acceptedJob(api, offerId);
    const lines = await toOrder(api, 'Emptied');
    const body = {
      id: 'empty-order',
      supplier: 'Emptied',
      lines: wanted(lines),
      reference: '',
      send: true,
    };
    const answer = await api.ok<PlacedAnswer>('POST', '/orders', body);
    expect(answer).toEqual({ order: null, refused: [{ article: 'A-1', why: 'sold out' }] });
    expect(await toOrder(api, 'Emptied')).toEqual(lines);
    expect(await moduleOf(offerId)).toMatchObject({ stock: 0 });
  });

  test('an answer lost on its way is asked for again and ordered once', async () => {
    const { url, orders } = await service(['slow', 'steady'], { slowMs: 700 });
    const request = { reference: 'r', lines: [{ article: 'A-1', packs: 2 }] };
    const answer = await sendOrder(at(url), 'lost-answer', request, IMPATIENT);
    // The first try was taken after its asker had given up.
    await new Promise((settle) => setTimeout(settle, 900));
    expect(orders.size).toBe(1);
    expect(answer.lines).toEqual([{ article: 'A-1', state: 'confirmed', leadDays: 1 }]);
  });

  test('while it is down nothing is ordered, and the list stays', async () => {
    const { url, orders } = await service(['down']);
    const { offerId } = await shopSupplier('Closed', url);
    await acceptedJob(api, offerId);
    const lines = await toOrder(api, 'Closed');
    const body = {
      id: 'down-order',
      supplier: 'Closed',
      lines: wanted(lines),
      reference: '',
      send: true,
    };
    expect((await api.problem('POST', '/orders', body)).detail).toContain('503');
    expect([orders.size, await toOrder(api, 'Closed')]).toEqual([0, lines]);
  });
});

test('its own description names both routes and what they answer', async () => {
  const { url } = await service(['steady'], { key: 'k' });
  const told: unknown = await (await fetch(`${url}/openapi.json`)).json();
  expect(told).toEqual(JSON.parse(JSON.stringify(supplierOpenApi())));
  expect(JSON.stringify(told)).toContain('Idempotency-Key');
  expect((await fetch(`${url}/articles?article=A-1`)).status).toBe(401);
});
