import { z } from 'zod';
import type { Access } from './access.ts';
import { id, words } from './text.ts';

/** One entry of the API: what goes in, what comes out. OpenAPI and the router are made from it. */
export interface Route<
  Params extends z.ZodType = z.ZodType,
  Query extends z.ZodType = z.ZodType,
  Body extends z.ZodType = z.ZodType,
  Response extends z.ZodType = z.ZodType,
> {
  readonly method: 'get' | 'post' | 'put' | 'patch' | 'delete';
  /** Under /api, with `{name}` for parameters. */
  readonly path: string;
  /** Who may call it. */
  readonly access: Access;
  readonly summary: string;
  readonly params: Params;
  readonly query: Query;
  readonly body: Body;
  readonly response: Response;
  readonly status: number;
  /** Its answer is checked before what it stores is committed. */
  readonly stores: boolean;
  /** Its answer never changes, so that nobody needs to ask twice. */
  readonly lasts: boolean;
  /** Holds nothing of any customer: a tablet let in for one job may ask for it. */
  readonly general: boolean;
}

const nothing = z.unknown();
type Nothing = typeof nothing;

/** An entry of the table, with the types of its parts kept. */
export function route<
  Response extends z.ZodType,
  Params extends z.ZodType = Nothing,
  Query extends z.ZodType = Nothing,
  Body extends z.ZodType = Nothing,
>(
  method: Route['method'],
  path: string,
  access: Access,
  summary: string,
  response: Response,
  more: {
    params?: Params;
    query?: Query;
    body?: Body;
    status?: number;
    stores?: boolean;
    lasts?: boolean;
    general?: boolean;
  } = {},
): Route<Params, Query, Body, Response> {
  const { params = nothing, query = nothing, body = nothing, status = 200 } = more;
  const { stores = method !== 'get', lasts = false, general = false } = more;
  return {
    ...{ method, path, access, summary, response, status, stores, lasts, general },
    ...{ params, query, body },
  } as Route<Params, Query, Body, Response>;
}

/** For routes that only compute, or keep by themselves what they do. */
export const storesNothing = { stores: false } as const;

/** Parameters, queries and answers many routes share. */
export const byId = z.strictObject({ id });
export const search = z.strictObject({ search: words });
export const pageQuery = {
  search: words,
  limit: z.coerce.number().int().min(1).max(200).default(50),
  offset: z.coerce.number().int().min(0).max(1_000_000_000).default(0),
};
export const created = { status: 201 } as const;
/** See {@link Route.general}. */
export const general = { general: true } as const;
