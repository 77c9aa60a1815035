import { createServer } from 'node:http';
import type { RequestListener, Server } from 'node:http';
import type { Server as TlsServer } from 'node:https';

/** How much of a server's patience strangers can take up. Times in ms. */
export interface Bounds {
  /** Open connections; whoever comes beyond them is turned away at once. */
  readonly connections: number;
  /** From connecting, or from the last answer's next request, until its head is there. */
  readonly headers: number;
  /** Until a whole request is there. */
  readonly request: number;
  /** An idle connection stays open for the next request. */
  readonly idle: number;
}

/** Fifteen people's browsers, and whatever the shop runs beside them. */
export const BENCH_BOUNDS: Bounds = {
  ...{ connections: 500, headers: 20_000, request: 120_000, idle: 60_000 },
};
/** A machine under test sends a page's request and a small result. */
export const DOOR_BOUNDS: Bounds = {
  ...{ connections: 64, headers: 5_000, request: 10_000, idle: 3_000 },
};

/** An HTTP server that lets slow and idle connections go. */
export function boundedServer(listener: RequestListener, bounds: Bounds): Server {
  const server = createServer(
    {
      headersTimeout: bounds.headers,
      requestTimeout: bounds.request,
      keepAliveTimeout: bounds.idle,
      connectionsCheckingInterval: Math.min(1000, bounds.headers / 2),
    },
    listener,
  );
  return bound(server, bounds);
}

/** How long whoever is being answered when a server is to end is waited for, ms. */
const GRACE = 2000;

/** Ends a server: nobody new is let in, and answers under way are finished, those of slow senders cut off. */
export async function shut(server: Server | TlsServer): Promise<void> {
  const closed = new Promise((done) => server.close(done));
  // A connection is idle, and of no use any more, once its answer is through.
  const idle = setInterval(() => server.closeIdleConnections(), 20);
  const late = setTimeout(() => server.closeAllConnections(), GRACE);
  await closed;
  clearInterval(idle);
  clearTimeout(late);
}

/** Sets the bounds of a server that is made already. */
export function bound<S extends Server | TlsServer>(server: S, bounds: Bounds): S {
  server.headersTimeout = bounds.headers;
  server.requestTimeout = bounds.request;
  server.keepAliveTimeout = bounds.idle;
  server.maxConnections = bounds.connections;
  return server;
}
