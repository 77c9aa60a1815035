import { Router } from 'express';
import type { Express, Request } from 'express';
import type { z } from 'zod';
import { routerParams, routerPath } from '#contract/prints';
import { routes } from '#contract/routes';
import type { Route, RouteName, Routes } from '#contract/routes';
import { VISIT } from '../access/allowed.ts';
import type { Visit } from '../access/visit.ts';
import type { Database, Store } from '../store/openStore.ts';
import { once, requestDigest } from '../store/operations/deeds.ts';
import { InputError } from './problems.ts';

/** What a handler receives, checked. */
type Input<R extends Route> = {
  params: z.output<R['params']>;
  query: z.output<R['query']>;
  body: z.output<R['body']>;
};

/** One handler for each route of the contract. */
export type Handlers = {
  [Name in RouteName]: (input: Input<Routes[Name]>) => Promise<z.input<Routes[Name]['response']>>;
};

function parse<T extends z.ZodType>(schema: T, value: unknown): z.output<T> {
  const result = schema.safeParse(value);
  if (!result.success) throw new InputError(result.error.issues);
  return result.data;
}

/** The key a client gave a write, so that sending it again does it once. */
function keyOf(request: Request): string | undefined {
  const key = request.get('idempotency-key');
  if (key === undefined) return undefined;
  if (/^[\x21-\x7e]{8,100}$/.test(key)) return key;
  const message = 'Make one of 8 to 100 letters and digits for every new request.';
  throw new InputError([{ code: 'custom', path: ['Idempotency-Key'], message, input: key }]);
}

/**
 * Mounts every route of the contract: parse, call, check what comes out, write. What a route stores is
 * committed only once its answer has been read back and fits: nothing is kept that cannot be shown.
 */
export function mountRoutes(
  app: Express,
  { db, write }: Pick<Store, 'db' | 'write'>,
  handlersOver: (db: Database, visit: Visit) => Handlers,
): void {
  // One router for all that begins alike: a request is not held against every route there is.
  const routers = new Map<string, Router>();
  const routerFor = (start: string): Router => {
    const own = routers.get(start) ?? Router();
    if (!routers.has(start)) app.use(routerPath(start), own);
    routers.set(start, own);
    return own;
  };
  for (const [name, route] of Object.entries<Route>(routes)) {
    const answer = async (over: Database, visit: Visit, input: Input<Route>): Promise<unknown> => {
      const handle = handlersOver(over, visit)[name as RouteName] as (
        input: Input<Route>,
      ) => Promise<unknown>;
      // An answer off the contract is a bug here, and says so instead of misleading a client.
      return route.response.parse(await handle(input));
    };
    const [, start = '', rest = ''] = /^(\/[^/]*)(.*)$/.exec(route.path) ?? [];
    const path = routerParams(rest || '/');
    routerFor(start)[route.method](path, async (request: Request, response) => {
      const visit = response.locals[VISIT] as Visit;
      const input: Input<Route> = {
        params: parse(route.params, request.params),
        query: parse(route.query, { ...request.query }),
        body: parse(route.body, request.body),
      };
      const { status } = route;
      if (!route.stores) {
        const body = await answer(db, visit, input);
        if (route.lasts) response.set('Cache-Control', 'private, max-age=31536000, immutable');
        response.status(status).json(body);
        return;
      }
      const key = keyOf(request);
      const by = { who: visit.actor?.name, tab: request.get('x-tab') };
      const run = async (tx: Database) => ({ status, body: await answer(tx, visit, input) });
      const runOnce = (tx: Database, key: string) =>
        once(tx, key, requestDigest(request.method, request.originalUrl, request.body), () =>
          run(tx),
        );
      const done = await write((tx) => (key === undefined ? run(tx) : runOnce(tx, key)), by);
      response.status(done.status).json(done.body);
    });
  }
}
