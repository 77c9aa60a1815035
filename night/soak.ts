import { readFileSync } from 'node:fs';
import { setTimeout as wait } from 'node:timers/promises';
import { sceneWithJob } from '../e2e/support/bench.ts';
import { ServerProcess } from '../e2e/support/server.ts';
import { Writers, missing } from './writers.ts';
import type { NightRow } from './writers.ts';

const SAVERS = 4;
const READERS = 8;
const LOOK_MS = 2000;
/** Memory of the last third against that of the middle one. */
const MOST_GROWTH = 1.25;

const megabytes = (pid: number) =>
  Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1]) / 1024;
const mean = (figures: readonly number[]) =>
  figures.reduce((sum, one) => sum + one, 0) / Math.max(1, figures.length);

/** Mixed work without a pause: everything is answered, nothing is lost, and memory stays flat. */
export async function soak(minutes: number): Promise<NightRow> {
  const server = await ServerProcess.start();
  const memory: number[] = [];
  let [asked, failed] = [0, 0];
  try {
    const job = await sceneWithJob(server);
    const until = Date.now() + minutes * 60_000;
    const paths = ['/jobs?state=open', '/jobs?search=Scene', `/jobs/${job}`, '/ledger', '/drawer'];
    const read = async (first: number) => {
      for (let at = first; Date.now() < until; at++) {
        const answer = await server.fetch(paths[at % paths.length] ?? '').catch(() => undefined);
        await answer?.arrayBuffer();
        asked++;
        if (!answer || answer.status >= 500) failed++;
        await wait(20);
      }
    };
    const savers = new Writers(server, 0, SAVERS, 50);
    const reading = Promise.all(Array.from({ length: READERS }, (_, at) => read(at)));
    while (Date.now() < until) {
      memory.push(megabytes(server.pid));
      await wait(LOOK_MS);
    }
    await reading;
    await savers.stop();
    const { lost, doubled } = await missing(server, savers.acknowledged);
    const third = Math.floor(memory.length / 3);
    const growth = mean(memory.slice(-third)) / mean(memory.slice(third, 2 * third));
    return {
      what: `mixed work, ${minutes} min`,
      found: `${asked} read, ${failed} failed, ${savers.acknowledged.length} saved, ${lost.length} lost, memory × ${growth.toFixed(2)}`,
      holds: failed + lost.length + doubled.length === 0 && growth <= MOST_GROWTH,
    };
  } finally {
    await server.dispose();
  }
}
