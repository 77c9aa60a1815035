import { once } from 'node:events';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { inMemory } from '../../test/support/inMemory.ts';
import { BenchServer, ServerProcess } from './server.ts';
import type { StoppedBench } from './server.ts';

// Journeys run in several processes; what each of them would make for itself is made once, before all.

const EMPTY = 'TEMBRIX_EMPTY_BENCH';
const DEMO = 'TEMBRIX_DEMO_BENCH';

/**
 * Makes a bench whose new, empty database others start from, and a demo world once somebody asks for it.
 *
 * @returns what removes both again, after the last journey
 */
export default async function makeBenches(): Promise<() => Promise<void>> {
  const empty = await ServerProcess.start(inMemory('e2e'));
  let demo: Promise<ServerProcess> | undefined;
  const asked = createServer((_request, response) => {
    demo ??= ServerProcess.startDemo(inMemory('e2e'));
    demo.then(
      ({ url }) => response.end(url),
      (error: unknown) => response.writeHead(500).end(String(error)),
    );
  });
  await once(asked.listen(0, '127.0.0.1'), 'listening');
  // What stands here, the processes of the journeys are given.
  process.env[EMPTY] = JSON.stringify(await empty.stopped());
  process.env[DEMO] = `http://127.0.0.1:${(asked.address() as AddressInfo).port}`;
  return async () => {
    asked.close();
    await empty.dispose();
    // Last: one that never came up is told here once more.
    await (await demo)?.dispose();
  };
}

function told(name: string): string {
  const value = process.env[name];
  if (value === undefined) throw new Error('expected the benches to be made before the journeys');
  return value;
}

/** The bench that others start from. */
export const emptyBench = (): StoppedBench => JSON.parse(told(EMPTY)) as StoppedBench;

/** The demo world that all journeys look at. */
export async function demoBench(): Promise<BenchServer> {
  const answer = await fetch(told(DEMO));
  const url = await answer.text();
  if (!answer.ok) throw new Error(url);
  return new BenchServer(url);
}
