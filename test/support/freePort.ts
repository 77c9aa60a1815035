import { createServer } from 'node:net';

/**
 * A port of this computer nobody listens on. Taken from below the range the system itself hands out
 * for port 0, so that no other test's server gets it in the moment between finding and using it.
 */
export async function freePort(): Promise<number> {
  for (;;) {
    const port = 20_000 + Math.floor(Math.random() * 12_000);
    const isFree = await new Promise<boolean>((resolve) => {
      const server = createServer()
        .once('error', () => resolve(false))
        .listen(port, '127.0.0.1', () => server.close(() => resolve(true)));
    });
    if (isFree) return port;
  }
}
