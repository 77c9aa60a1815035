import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import express from 'express';
import type { Express, Request, Response } from 'express';
import { z } from 'zod';
import { articlesAnswer, orderAnswer, orderRequest } from '#contract/supplierService';
import type { OrderAnswer } from '#contract/supplierService';

/** How it takes a request. */
export const MOODS = ['steady', 'slow', 'busy', 'down', 'sold out', 'garbled'] as const;
export type Mood = (typeof MOODS)[number];

/** Something it sells. */
export interface Ware {
  readonly article: string;
  /** Of a pack, without tax, minor units. */
  readonly cost: number;
  stock: number;
  readonly leadDays: number;
}

/** What a simulated supplier is made of. */
export interface SupplierParts {
  readonly currency: string;
  readonly wares: readonly Ware[];
  /** Wanted of whoever asks; empty = of nobody. */
  readonly key: string;
  /** What it is like for one request after the other, over and over. */
  readonly moods: readonly Mood[];
  /** How long `slow` takes, ms. */
  readonly slowMs: number;
}

/** The description of its two routes, made from the contract it answers by. */
export function supplierOpenApi(): object {
  const schema = (of: z.ZodType, io: 'input' | 'output') => {
    const { $schema: _dialect, ...rest } = z.toJSONSchema(of, { io });
    return { 'application/json': { schema: rest } };
  };
  const answers = (of: z.ZodType) => ({
    200: { description: 'As asked', content: schema(of, 'output') },
    401: { description: 'The key is missing or wrong' },
    503: { description: 'Down for a moment; ask again' },
  });
  const security = [{ key: [] }];
  return {
    openapi: '3.1.0',
    info: { title: 'A parts supplier', version: '1', summary: 'Stock, prices and orders' },
    components: { securitySchemes: { key: { type: 'http', scheme: 'bearer' } } },
    paths: {
      '/articles': {
        get: {
          ...{ operationId: 'listArticles', summary: 'Cost, stock and lead time', security },
          parameters: [
            {
              ...{ name: 'article', in: 'query', required: true, explode: true },
              schema: { type: 'array', items: { type: 'string' }, maxItems: 100 },
            },
          ],
          responses: answers(articlesAnswer),
        },
      },
      '/orders': {
        post: {
          ...{
            operationId: 'placeOrder',
            summary: 'Order; the same key is the same order',
            security,
          },
          parameters: [
            {
              ...{ name: 'Idempotency-Key', in: 'header', required: true },
              schema: { type: 'string', minLength: 8 },
            },
          ],
          requestBody: { required: true, content: schema(orderRequest, 'input') },
          responses: answers(orderAnswer),
        },
      },
    },
  };
}

/** A supplier's service, made up: it has moods, and remembers the orders it took. */
export function createSupplier(
  parts: SupplierParts,
): Express & { orders: Map<string, OrderAnswer> } {
  const { currency, wares, key, moods, slowMs } = parts;
  const orders = new Map<string, OrderAnswer>();
  const app = express();
  let asked = 0;
  app.get('/openapi.json', (_request, response) => void response.json(supplierOpenApi()));
  app.use((request, response, next) => {
    if (key !== '' && request.get('authorization') !== `Bearer ${key}`)
      return void response.status(401).json({ title: 'A key is wanted' });
    const mood = moods[asked++ % moods.length] ?? 'steady';
    response.locals.mood = mood;
    if (mood === 'down') return void response.status(503).end();
    if (mood === 'busy') return void response.status(429).set('Retry-After', '1').end();
    if (mood === 'garbled') return void response.type('html').send('<p>Maintenance</p>');
    setTimeout(next, mood === 'slow' ? slowMs : 0);
  });
  const isSoldOut = ({ stock }: Ware, { locals }: Response) =>
    locals.mood === 'sold out' || stock === 0;
  app.get('/articles', ({ query }: Request, response: Response) => {
    const wanted = new Set([query.article ?? []].flat().map(String));
    response.json({
      currency,
      articles: wares
        .filter(({ article }) => wanted.has(article))
        .map((ware) => ({ ...ware, stock: isSoldOut(ware, response) ? 0 : ware.stock })),
    } satisfies z.input<typeof articlesAnswer>);
  });
  app.post('/orders', express.json(), (request, response) => {
    const once = request.get('idempotency-key') ?? '';
    const order = orderRequest.safeParse(request.body);
    if (once.length < 8 || !order.success)
      return void response.status(400).json({ title: 'A key and a line or more are wanted' });
    const known = orders.get(once);
    if (known) return void response.json(known);
    const answer: OrderAnswer = {
      number: `S-${String(orders.size + 1001)}`,
      lines: order.data.lines.map(({ article, packs }) => {
        const ware = wares.find((one) => one.article === article);
        if (!ware) return { article, state: 'unknown article', leadDays: null };
        if (isSoldOut(ware, response) || ware.stock < packs)
          return { article, state: 'sold out', leadDays: null };
        ware.stock -= packs;
        return { article, state: 'confirmed', leadDays: ware.leadDays };
      }),
    };
    orders.set(once, answer);
    response.json(answer);
  });
  return Object.assign(app, { orders });
}

/** Starts one on loopback, on the port given or any that is free. */
export async function startSupplier(
  parts: SupplierParts,
  port = 0,
): Promise<{ url: string; orders: Map<string, OrderAnswer>; stop: () => Promise<void> }> {
  const app = createSupplier(parts);
  const server = await new Promise<Server>((settle, fail) => {
    const one = app.listen(port, '127.0.0.1', (error?: Error) =>
      error ? fail(error) : settle(one),
    );
  });
  return {
    url: `http://127.0.0.1:${(server.address() as AddressInfo).port}`,
    orders: app.orders,
    stop: () =>
      new Promise((settle) => {
        server.closeAllConnections();
        server.close(() => settle());
      }),
  };
}
