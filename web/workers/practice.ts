import type { Exercise, Par, World } from '#core/practice';
import type { PracticeAnswer, PracticeRequest } from './practice.worker.ts';

type Waiting = (answer: PracticeAnswer) => void;

let worker: Worker | undefined;
let ticket = 0;
const waiting = new Map<number, Waiting>();

function ask(
  request:
    | { readonly type: 'par'; readonly exercise: Exercise }
    | { readonly type: 'measure'; readonly world: World },
): Promise<PracticeAnswer> {
  if (!worker) {
    worker = new Worker(new URL('./practice.worker.ts', import.meta.url), { type: 'module' });
    worker.addEventListener('message', ({ data }: MessageEvent<PracticeAnswer>) => {
      waiting.get(data.ticket)?.(data);
      waiting.delete(data.ticket);
    });
  }
  ticket += 1;
  const own = ticket;
  worker.postMessage({ ...request, ticket: own } satisfies PracticeRequest);
  return new Promise((settle) => waiting.set(own, settle));
}

const pars = new Map<string, Promise<Par>>();

/** Our own way through an exercise; worked out once a visit. */
export function parOf(exercise: Exercise): Promise<Par> {
  const key = JSON.stringify(exercise);
  const known = pars.get(key);
  if (known) return known;
  const asked = ask({ type: 'par', exercise }).then((answer) => {
    if (answer.type !== 'par') throw new Error(`expected a par, received ${answer.type}`);
    return answer.par;
  });
  pars.set(key, asked);
  return asked;
}

/** What the measuring page draws from a simulated machine, GB/s. */
export async function drawnFrom(world: World): Promise<number> {
  const answer = await ask({ type: 'measure', world });
  return answer.type === 'measure' ? answer.bandwidth : 0;
}
