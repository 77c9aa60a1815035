import type { BaseQueryFn } from '@reduxjs/toolkit/query/react';
import type { z } from 'zod';
import { problem as problemSchema } from '#contract/problem';
import type { Problem } from '#contract/problem';
import { routes } from '#contract/routes';
import type { Route, RouteName, Routes } from '#contract/routes';

/** A request by the contract's route name. */
export interface Call {
  readonly route: RouteName;
  readonly params?: unknown;
  readonly query?: unknown;
  readonly body?: unknown;
}

/** Why a request failed: the server did not answer, or it answered with a problem. */
export type ApiFailure =
  { readonly type: 'offline' } | { readonly type: 'problem'; readonly problem: Problem };

/** What goes into a schema. */
export type In<Schema extends z.ZodType> = z.input<Schema>;
/** What a route takes. */
export type Body<Name extends RouteName> = In<Routes[Name]['body']>;
/** What a route answers with, checked. */
export type Output<Name extends RouteName> = z.output<Routes[Name]['response']>;

function addressOf({ path }: Route, { params = {}, query = {} }: Call): string {
  const filled = path.replaceAll(/\{(\w+)\}/g, (_, name: string) =>
    encodeURIComponent(String((params as Record<string, unknown>)[name])),
  );
  const search = new URLSearchParams(query as Record<string, string>).toString();
  return `/api${filled}${search && `?${search}`}`;
}

/** Calls a route and checks its answer against the contract. */
export const baseQuery: BaseQueryFn<Call, unknown, ApiFailure> = async (call, { signal }) => {
  const route: Route = routes[call.route];
  let response: Response;
  try {
    response = await fetch(addressOf(route, call), {
      method: route.method.toUpperCase(),
      headers: { 'content-type': 'application/json' },
      body: call.body === undefined ? null : JSON.stringify(call.body),
      signal,
    });
  } catch {
    return { error: { type: 'offline' } };
  }
  const json: unknown = await response.json().catch(() => undefined);
  if (!response.ok) {
    const known = problemSchema.safeParse(json);
    // A proxy in between answers for a server that is gone.
    return {
      error: known.success ? { type: 'problem', problem: known.data } : { type: 'offline' },
    };
  }
  const checked = route.response.safeParse(json);
  if (checked.success) return { data: checked.data };
  return {
    error: {
      type: 'problem',
      problem: {
        type: 'about:blank#version',
        title: 'The server speaks another version',
        status: 502,
        detail: 'Its answer does not fit this page.',
        mend: 'Reload the page.',
      },
    },
  };
};
