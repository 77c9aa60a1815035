import type { Piscina } from 'piscina';
import type { Compared } from '#core/promising';
import type { Profiles } from '#core/timing-simulation';
import { ownThread } from '../ownThread.ts';
import { partFile } from '../parts.ts';

let thread: Piscina<Compared, Profiles> | undefined;

/** Simulates both sides of a change on a thread of its own: it takes up to a second of a processor. */
export function simulateChange(compared: Compared): Promise<Profiles> {
  thread ??= ownThread(partFile('simulateWorker'));
  return thread.run(compared);
}
