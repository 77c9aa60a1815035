import { bandwidthOf, debriefOf, measuredOn, playPar } from '#core/practice';
import type { Action, Debrief, Exercise, Par, World } from '#core/practice';
import { answering } from './answering.ts';

/** A walk to go through again, or what the measuring page draws from a machine. */
export type PracticeRequest =
  | { readonly type: 'debrief'; readonly exercise: Exercise; readonly actions: readonly Action[] }
  | { readonly type: 'measure'; readonly world: World };
export type PracticeAnswer =
  | { readonly type: 'debrief'; readonly debrief: Debrief; readonly par: Par }
  | { readonly type: 'measure'; readonly bandwidth: number };

answering((request: PracticeRequest): PracticeAnswer => {
  if (request.type === 'debrief') {
    const par = playPar(request.exercise);
    return { type: 'debrief', par, debrief: debriefOf(request.exercise, request.actions, par) };
  }
  const result = measuredOn(request.world);
  return { type: 'measure', bandwidth: result ? bandwidthOf(result) : 0 };
});
