import { bandwidthOf, measuredOn, playPar } from '#core/practice';
import type { Exercise, Par, World } from '#core/practice';

/** Our own way through an exercise, or what the measuring page draws from a machine. */
export type PracticeRequest = { readonly ticket: number } & (
  | { readonly type: 'par'; readonly exercise: Exercise }
  | { readonly type: 'measure'; readonly world: World }
);
export type PracticeAnswer = { readonly ticket: number } & (
  | { readonly type: 'par'; readonly par: Par }
  | { readonly type: 'measure'; readonly bandwidth: number }
);

self.addEventListener('message', ({ data }: MessageEvent<PracticeRequest>) => {
  const { ticket } = data;
  if (data.type === 'par') {
    const par = playPar(data.exercise);
    self.postMessage({ type: 'par', ticket, par } satisfies PracticeAnswer);
    return;
  }
  const result = measuredOn(data.world);
  const bandwidth = result ? bandwidthOf(result) : 0;
  self.postMessage({ type: 'measure', ticket, bandwidth } satisfies PracticeAnswer);
});
