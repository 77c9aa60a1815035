import type { BaseQueryFn } from '@reduxjs/toolkit/query/react';
import type { z } from 'zod';
import { problem as problemSchema } from '#contract/problem';
import type { Problem } from '#contract/problem';
import { mainRoutes } from '#contract/mainRoutes';
import type { Route, RouteName, Routes } from '#contract/routes';
import { hearClock } from './benchClock.ts';

/** A request by the contract's route name. */
export interface Call {
  readonly route: RouteName;
  readonly params?: unknown;
  readonly query?: unknown;
  readonly body?: unknown;
}

const known: Partial<Record<RouteName, Route>> = { ...mainRoutes };

/** Makes the routes of a feature known; they come with its pages, not with the first one. */
export function addRoutes(routes: Partial<Record<RouteName, Route>>): void {
  Object.assign(known, routes);
}

function routeOf(name: RouteName): Route {
  const route = known[name];
  if (!route) throw new Error(`expected the routes of ${name} to be added before they are called`);
  return route;
}

/** Why a request failed: no answer came, nobody is signed in, or it was answered with a problem. */
export type ApiFailure =
  | { readonly type: 'offline' }
  | { readonly type: 'signed out' }
  | { readonly type: 'problem'; readonly problem: Problem };

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

/** Keys of writes that were not answered yet: a save sent again carries the key it went out with. */
const keys = new WeakMap<object, string>();

function keyOf(body: unknown): string | undefined {
  if (typeof body !== 'object' || body === null) return undefined;
  const known = keys.get(body);
  if (known) return known;
  const key = Array.from(crypto.getRandomValues(new Uint8Array(16)), (byte) =>
    byte.toString(16).padStart(2, '0'),
  ).join('');
  keys.set(body, key);
  return key;
}

/** Versions this tab’s own saves led to, by row; a row without an id is the only one of its kind. */
const own = new Set<string>();

function noteOwn(answer: unknown): void {
  for (const one of Array.isArray(answer) ? (answer as unknown[]) : [answer]) {
    const { id = '', version } = (one ?? {}) as { id?: unknown; version?: unknown };
    if (typeof id === 'string' && typeof version === 'number') own.add(`${id} ${version}`);
  }
}

/** Whether a row came from one version to another by this tab’s own saves alone. */
export function isOwnWay(id: string, from: number, to: number): boolean {
  for (let version = from + 1; version <= to; version++)
    if (!own.has(`${id} ${version}`)) return false;
  return to >= from;
}

/** Of this tab: the server does not tell it of its own changes. */
export const TAB = Math.random().toString(36).slice(2);

/** Calls a route and checks its answer against the contract. */
export const baseQuery: BaseQueryFn<Call, unknown, ApiFailure> = async (call, { signal }) => {
  const route = routeOf(call.route);
  const key = route.stores && route.method === 'post' ? keyOf(call.body) : undefined;
  let response: Response;
  try {
    response = await fetch(addressOf(route, call), {
      method: route.method.toUpperCase(),
      headers: {
        'content-type': 'application/json',
        'x-tab': TAB,
        ...(key ? { 'idempotency-key': key } : {}),
      },
      body: call.body === undefined ? null : JSON.stringify(call.body),
      signal,
    });
  } catch {
    return { error: { type: 'offline' } };
  }
  hearClock(response.headers.get('date'));
  const answer = await answerOf(response, route.response);
  // Answered: the same once more is meant. Without an answer it goes out again with its key.
  if (key && (!answer.error || answer.error.type === 'problem')) keys.delete(call.body as object);
  if (route.stores) noteOwn(answer.data);
  return answer;
};

/** Gives a file in as it is, under an address beside the table of routes. */
export async function giveFile<T>(path: string, file: Blob, schema: z.ZodType<T>) {
  const response = await fetch(`/api${path}`, {
    ...{ method: 'POST', headers: { 'content-type': 'application/octet-stream', 'x-tab': TAB } },
    body: file,
  }).catch(() => undefined);
  return response ? answerOf(response, schema) : { error: { type: 'offline' } as const };
}

type Answer<T> = { data: T; error?: undefined } | { data?: undefined; error: ApiFailure };

/** What came back, checked; or why nothing that can be used did. */
async function answerOf<T>(response: Response, schema: z.ZodType<T>): Promise<Answer<T>> {
  const json: unknown = await response.json().catch(() => undefined);
  if (!response.ok) {
    if (response.status === 401) return { error: { type: 'signed out' } };
    const known = problemSchema.safeParse(json);
    // A proxy in between answers for a server that is gone.
    return {
      error: known.success ? { type: 'problem', problem: known.data } : { type: 'offline' },
    };
  }
  // Cut off on its way: what was asked may well have been done.
  if (json === undefined) return { error: { type: 'offline' } };
  const checked = schema.safeParse(json);
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
}
