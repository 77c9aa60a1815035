import { afterEach, beforeEach, expect, test, vi } from 'vitest';
import { computingRoutes } from '#contract/computingRoutes';
import { addRoutes, baseQuery } from './baseQuery.ts';
import type { Call } from './baseQuery.ts';
import { DEFAULT_TERMS } from '#core/quoting';

type Sent = { readonly method: string; readonly headers: Record<string, string> };

let sent: Sent[] = [];
let answers: (() => Response | Promise<Response>)[] = [];
const json = (status: number, body: unknown) => () =>
  new Response(JSON.stringify(body), { status });
const cutOff = () => new Response('{"id": "7', { status: 201 });
const away = () => Promise.reject(new TypeError('Failed to fetch'));
const problem = { type: 'about:blank#x', title: 't', status: 422, detail: 'd', mend: 'm' };

beforeEach(() => {
  [sent, answers] = [[], []];
  vi.stubGlobal('fetch', (_address: string, init: Sent) => {
    sent.push(init);
    return Promise.resolve((answers.shift() ?? away)());
  });
});
afterEach(() => vi.unstubAllGlobals());

const ask = async (call: Call) =>
  baseQuery(call, { signal: new AbortController().signal } as never, {});
const keyOf = (at: number) => sent[at]?.headers['idempotency-key'];
const write = (body: unknown): Call => ({ route: 'importModules', body });

test('a write that was not answered goes out again under its own key', async () => {
  const call = write({ modules: [] });
  answers = [away, cutOff, json(502, 'a proxy'), json(201, [])];
  for (let turn = 0; turn < 3; turn++)
    expect(await ask(call)).toEqual({ error: { type: 'offline' } });
  expect(await ask(call)).toEqual({ data: [] });
  expect(keyOf(0)).toMatch(/^[0-9a-f]{32}$/);
  expect(new Set([0, 1, 2, 3].map(keyOf)).size).toBe(1);
});

test('once answered, well or not, the same once more is another write', async () => {
  const call = write({ modules: [] });
  answers = [json(201, []), json(422, problem), json(201, [])];
  for (let turn = 0; turn < 3; turn++) await ask(call);
  expect(new Set([0, 1, 2].map(keyOf)).size).toBe(3);
});

// What other programs may have computed is no route of the first page.
addRoutes(computingRoutes);

test('two writes never share a key, and nothing but a write has one', async () => {
  await ask(write({ modules: [] }));
  await ask(write({ modules: [] }));
  await ask({ route: 'readShop' });
  await ask({ route: 'changeShop', body: { version: 1, terms: DEFAULT_TERMS } });
  await ask({ route: 'readLabel', body: { text: '8GB' } });
  expect(keyOf(0)).not.toBe(keyOf(1));
  expect([2, 3, 4].map(keyOf)).toEqual([undefined, undefined, undefined]);
});
