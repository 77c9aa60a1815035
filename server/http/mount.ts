import type { Express, Request } from 'express';
import type { z } from 'zod';
import { routes } from '#contract/routes';
import type { Route, RouteName, Routes } from '#contract/routes';
import type { Database, Store } from '../store/openStore.ts';
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

/**
 * Mounts every route of the contract: parse, call, check what comes out, write. What a route stores is
 * committed only once its answer has been read back and fits: nothing is kept that cannot be shown.
 */
export function mountRoutes(
  app: Express,
  { db, write }: Pick<Store, 'db' | 'write'>,
  handlersOver: (db: Database) => Handlers,
): void {
  for (const [name, route] of Object.entries<Route>(routes)) {
    const answer = async (over: Database, input: Input<Route>): Promise<unknown> => {
      const handle = handlersOver(over)[name as RouteName] as (
        input: Input<Route>,
      ) => Promise<unknown>;
      // An answer off the contract is a bug here, and says so instead of misleading a client.
      return route.response.parse(await handle(input));
    };
    const path = `/api${route.path.replaceAll(/\{(\w+)\}/g, ':$1')}`;
    app[route.method](path, async (request: Request, response) => {
      const input: Input<Route> = {
        params: parse(route.params, request.params),
        query: parse(route.query, { ...request.query }),
        body: parse(route.body, request.body),
      };
      const output = route.stores
        ? await write((tx) => answer(tx, input))
        : await answer(db, input);
      response.status(route.status).json(output);
    });
  }
}
