import { combineSlices, configureStore } from '@reduxjs/toolkit';
import { render } from '@testing-library/react';
import type { ReactNode } from 'react';
import { Provider } from 'react-redux';
import { MemoryRouter } from 'react-router';
import { onTestFinished, vi } from 'vitest';
import type { Session } from '#contract/access';
import { DEFAULT_WRITING } from '#core/units';
import { routes } from '#contract/routes';
import type { Route, RouteName } from '#contract/routes';
import { api } from '#web/app/api.ts';
import boardsSlice from '#web/app/boardsSlice.ts';
import connectionSlice, { watchConnection } from '#web/app/connectionSlice.ts';

/** What the page asked of the server. */
export interface Asked {
  readonly route: RouteName;
  readonly path: string;
  readonly query: URLSearchParams;
  readonly body: unknown;
}

/** Answers of the server by route; a function sees what was asked, and may take its time. `undefined` answers nothing. */
export type Answers = Partial<Record<RouteName, unknown>>;

/** What a page hears where a test says nothing of it. */
const OWNER_IS_IN: Session = {
  ...{ state: 'signed in', person: { id: 'o', name: 'Ottoline V.', role: 'owner' }, jobId: null },
  ...{ hasPin: false, onDevice: [], signsInByItself: false, holdAfter: null },
  writing: DEFAULT_WRITING,
};

/** A server in words: answers what a test says, keeps what it was asked, can be away. */
export class FakeServer {
  readonly asked: Asked[] = [];
  isAway = false;

  constructor(public answers: Answers) {}

  readonly fetch = async (address: string, init: RequestInit = {}): Promise<Response> => {
    await Promise.resolve();
    if (this.isAway) throw new TypeError('network');
    const path = address.replace(/^\/api/, '').replace(/\?.*$/, '');
    const found = Object.entries<Route>(routes).find(
      ([, route]) =>
        route.method === (init.method ?? 'GET').toLowerCase() &&
        new RegExp(`^${route.path.replaceAll(/\{\w+\}/g, '[^/]+')}$`).test(path),
    );
    if (!found) throw new Error(`no route for ${init.method ?? 'GET'} ${path}`);
    const route = found[0] as RouteName;
    const body: unknown = typeof init.body === 'string' ? JSON.parse(init.body) : undefined;
    const query = new URLSearchParams(address.split('?')[1]);
    const asked = { route, path, query, body };
    // Who is there is asked by everything, and is nobody’s business here.
    if (route !== 'readSession') this.asked.push(asked);
    const answer = { readSession: OWNER_IS_IN, ...this.answers }[route];
    const value: unknown = await (typeof answer === 'function'
      ? (answer as (one: Asked) => unknown)(asked)
      : answer);
    const isProblem = typeof (value as { status?: unknown } | undefined)?.status === 'number';
    return new Response(JSON.stringify(value ?? null), {
      status: isProblem ? (value as { status: number }).status : found[1].status,
    });
  };

  /** What was sent to a route, in order. */
  sent(route: RouteName): unknown[] {
    return this.asked.filter((one) => one.route === route).map(({ body }) => body);
  }
}

/** A store as the page has it; after the test it lets go of what it holds open, such as its line to the bench. */
export function freshStore() {
  const store = configureStore({
    reducer: combineSlices(api, boardsSlice, connectionSlice),
    middleware: (base) => base().concat(api.middleware, watchConnection),
  });
  onTestFinished(() => void store.dispatch(api.util.resetApiState()));
  return store;
}

/** Shows something with a real store, a router and a server that answers as told. */
export function show(element: ReactNode, answers: Answers = {}, at = '/') {
  const server = new FakeServer(answers);
  vi.stubGlobal('fetch', server.fetch);
  const store = freshStore();
  const wrapped = (inner: ReactNode) => (
    <Provider store={store}>
      <MemoryRouter initialEntries={[at]}>{inner}</MemoryRouter>
    </Provider>
  );
  const view = render(wrapped(element));
  return { server, store, ...view, reshow: (inner: ReactNode) => view.rerender(wrapped(inner)) };
}
