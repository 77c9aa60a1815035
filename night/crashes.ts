import { setTimeout as wait } from 'node:timers/promises';
import { ServerProcess } from '../e2e/support/server.ts';
import { Writers, missing } from './writers.ts';
import type { NightRow } from './writers.ts';

/** Kills the server while people save, again and again on the same data. */
export async function crash(rounds: number): Promise<NightRow> {
  const server = await ServerProcess.start();
  const all: string[] = [];
  let [lost, doubled] = [0, 0];
  try {
    for (let round = 0; round < rounds; round++) {
      const writers = new Writers(server, round, 8);
      await wait(200 + Math.random() * 1500);
      await server.kill();
      await writers.stop();
      all.push(...writers.acknowledged);
      await server.up();
      const found = await missing(server, all);
      lost = Math.max(lost, found.lost);
      doubled = Math.max(doubled, found.doubled);
    }
  } finally {
    await server.dispose();
  }
  return {
    what: `kills, ${rounds} rounds`,
    found: `${all.length} saves acknowledged, ${lost} lost, ${doubled} doubled`,
    holds: lost + doubled === 0 && all.length > 0,
  };
}
