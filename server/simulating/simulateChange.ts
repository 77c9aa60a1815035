import type { Piscina } from 'piscina';
import type { Compared } from '#core/promising';
import type { Profiles } from '#core/timing-simulation';
import { ownThread, workerFile } from '../ownThread.ts';

let thread: Piscina<Compared, Profiles> | undefined;

/** Simulates both sides of a change on a thread of its own: it takes up to a second of a processor. */
export function simulateChange(compared: Compared): Promise<Profiles> {
  thread ??= ownThread(workerFile('simulating', 'simulateWorker'));
  return thread.run(compared);
}
