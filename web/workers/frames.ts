import { Asked } from './asked.ts';
import type { FramesAnswer, FramesRequest } from './frames.worker.ts';

export type { FrameSide, FrameView, FramesAnswer } from './frames.worker.ts';

/** Reads and compares frame logs off the page's thread; it keeps both sides until it is closed. */
export const frameReader = () =>
  new Asked<FramesRequest, FramesAnswer>(
    () => new Worker(new URL('./frames.worker.ts', import.meta.url), { type: 'module' }),
  );
