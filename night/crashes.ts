import { setTimeout as wait } from 'node:timers/promises';
import { ServerProcess } from '../e2e/support/server.ts';
import { Rounds, Writers } from './writers.ts';
import type { NightRow } from './writers.ts';

/** Kills the server while people save, again and again on the same data. */
export async function crash(count: number): Promise<NightRow> {
  const server = await ServerProcess.start();
  const rounds = new Rounds();
  try {
    for (let round = 0; round < count; round++) {
      const writers = new Writers(server, round, 8);
      await wait(200 + Math.random() * 1500);
      await server.kill();
      await writers.stop();
      await server.up();
      await rounds.look(server, writers.acknowledged);
    }
    await rounds.lookAtAll(server);
  } finally {
    await server.dispose();
  }
  return { what: `kills, ${count} rounds`, found: rounds.found, holds: rounds.holds };
}
