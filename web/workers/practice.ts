import type { Action, Debrief, Exercise, Par, World } from '#core/practice';
import { Asked } from './asked.ts';
import type { PracticeAnswer, PracticeRequest } from './practice.worker.ts';

const worker = new Asked<PracticeRequest, PracticeAnswer>(
  () => new Worker(new URL('./practice.worker.ts', import.meta.url), { type: 'module' }),
);

/**
 * A walk gone through again, held against our own way.
 *
 * @throws NoAnswer
 */
export async function goneThrough(
  exercise: Exercise,
  actions: readonly Action[],
): Promise<{ debrief: Debrief; par: Par }> {
  const answer = await worker.ask({ type: 'debrief', exercise, actions });
  if (answer.type !== 'debrief') throw new Error(`expected a debrief, received ${answer.type}`);
  return answer;
}

/**
 * What the measuring page draws from a simulated machine, GB/s.
 *
 * @throws NoAnswer
 */
export async function drawnFrom(world: World): Promise<number> {
  const answer = await worker.ask({ type: 'measure', world });
  return answer.type === 'measure' ? answer.bandwidth : 0;
}
