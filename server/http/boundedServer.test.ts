import { once } from 'node:events';
import { connect } from 'node:net';
import type { AddressInfo, Socket } from 'node:net';
import { afterEach, expect, test } from 'vitest';
import { boundedServer } from './boundedServer.ts';
import type { Bounds } from './boundedServer.ts';

const BOUNDS: Bounds = { connections: 20, headers: 400, request: 800, idle: 400 };
const open: (() => void)[] = [];
afterEach(() => open.splice(0).forEach((end) => end()));

async function listening(bounds = BOUNDS): Promise<{ port: number; count: () => Promise<number> }> {
  const server = boundedServer((request, response) => {
    request.resume().on('end', () => response.end('ok'));
  }, bounds);
  server.listen(0, '127.0.0.1');
  await once(server, 'listening');
  open.push(() => {
    server.closeAllConnections();
    server.close();
  });
  return {
    port: (server.address() as AddressInfo).port,
    count: () =>
      new Promise((settle) => {
        server.getConnections((_error, count) => settle(count));
      }),
  };
}

/** A connection that says so much and then nothing, and whether it was let go. */
async function stall(port: number, said: string): Promise<Socket> {
  const socket = connect(port, '127.0.0.1');
  socket.on('error', () => undefined).resume();
  open.push(() => socket.destroy());
  await once(socket, 'connect');
  socket.write(said);
  return socket;
}

test.each([
  ['half a head', 'GET / HTTP/1.1\r\nHo'],
  ['a head and half a body', 'POST / HTTP/1.1\r\nHost: a\r\nContent-Length: 100\r\n\r\nhalf'],
  ['one whole request and no more', 'GET / HTTP/1.1\r\nHost: a\r\n\r\n'],
])('whoever sends %s is let go', async (_what, said) => {
  const { port, count } = await listening();
  const socket = await stall(port, said);
  await once(socket, 'close');
  expect(await count()).toBe(0);
});

test('a crowd that says nothing leaves room for who has something to say', async () => {
  const { port, count } = await listening();
  await Promise.all(Array.from({ length: 200 }, () => stall(port, '').catch(() => undefined)));
  expect(await count()).toBeLessThanOrEqual(BOUNDS.connections);
  for (;;) {
    const answer = await fetch(`http://127.0.0.1:${port}/`).catch(() => undefined);
    if (answer?.ok) break;
    await new Promise((wait) => setTimeout(wait, 100));
  }
  expect(await count()).toBeLessThanOrEqual(BOUNDS.connections);
});
