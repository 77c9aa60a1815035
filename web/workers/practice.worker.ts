import { bandwidthOf, debriefOf, measuredOn, playPar } from '#core/practice';
import type { Action, Debrief, Exercise, Par, World } from '#core/practice';

/** A walk to go through again, or what the measuring page draws from a machine. */
export type PracticeRequest = { readonly ticket: number } & (
  | { readonly type: 'debrief'; readonly exercise: Exercise; readonly actions: readonly Action[] }
  | { readonly type: 'measure'; readonly world: World }
);
export type PracticeAnswer = { readonly ticket: number } & (
  | { readonly type: 'debrief'; readonly debrief: Debrief; readonly par: Par }
  | { readonly type: 'measure'; readonly bandwidth: number }
);

const say = (answer: PracticeAnswer) => self.postMessage(answer);

self.addEventListener('message', ({ data }: MessageEvent<PracticeRequest>) => {
  const { ticket } = data;
  if (data.type === 'debrief') {
    const par = playPar(data.exercise);
    say({ type: 'debrief', ticket, par, debrief: debriefOf(data.exercise, data.actions, par) });
    return;
  }
  const result = measuredOn(data.world);
  say({ type: 'measure', ticket, bandwidth: result ? bandwidthOf(result) : 0 });
});
