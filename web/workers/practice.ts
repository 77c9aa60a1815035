import type { Action, Debrief, Exercise, Par, World } from '#core/practice';
import type { PracticeAnswer, PracticeRequest } from './practice.worker.ts';

type Unticketed<T> = T extends unknown ? Omit<T, 'ticket'> : never;

let worker: Worker | undefined;
let ticket = 0;
const waiting = new Map<number, (answer: PracticeAnswer) => void>();

function ask(request: Unticketed<PracticeRequest>): Promise<PracticeAnswer> {
  if (!worker) {
    worker = new Worker(new URL('./practice.worker.ts', import.meta.url), { type: 'module' });
    worker.addEventListener('message', ({ data }: MessageEvent<PracticeAnswer>) => {
      waiting.get(data.ticket)?.(data);
      waiting.delete(data.ticket);
    });
  }
  ticket += 1;
  const own = ticket;
  worker.postMessage({ ...request, ticket: own });
  return new Promise((settle) => waiting.set(own, settle));
}

/** A walk gone through again, held against our own way. */
export async function goneThrough(
  exercise: Exercise,
  actions: readonly Action[],
): Promise<{ debrief: Debrief; par: Par }> {
  const answer = await ask({ type: 'debrief', exercise, actions });
  if (answer.type !== 'debrief') throw new Error(`expected a debrief, received ${answer.type}`);
  return answer;
}

/** What the measuring page draws from a simulated machine, GB/s. */
export async function drawnFrom(world: World): Promise<number> {
  const answer = await ask({ type: 'measure', world });
  return answer.type === 'measure' ? answer.bandwidth : 0;
}
