import {
  distributionOf,
  judgeFrames,
  readFrames,
  stretchesOf,
  summariseFrames,
} from '#core/proving';
import type {
  FrameFault,
  FrameGain,
  FrameReading,
  FrameStretch,
  FrameSummary,
} from '#core/proving';
import { answering } from './answering.ts';

/** Which side of a change a log belongs to. */
export type FrameSide = 'before' | 'after';

export interface FramesRequest {
  readonly side: FrameSide;
  /** Absent: look at the file again, read otherwise. */
  readonly file?: File | undefined;
  readonly reading?: FrameReading | undefined;
}

/** One log, ready to be shown. */
export interface FrameView {
  readonly name: string;
  readonly reading: FrameReading;
  readonly columns: readonly string[];
  readonly skipped: number;
  readonly restarts: readonly number[];
  readonly isCut: boolean;
  readonly summary: FrameSummary;
  readonly stretches: readonly FrameStretch[];
  readonly times: Float64Array;
}

export interface FramesAnswer {
  readonly side: FrameSide;
  readonly view?: Omit<FrameView, 'times'> | undefined;
  readonly fault?: FrameFault | undefined;
  readonly gain?: FrameGain | undefined;
  /** Shares by frame time of both sides, over the same steps of `step` ms. */
  readonly distribution: {
    readonly step: number;
    readonly shares: Partial<Record<FrameSide, number[]>>;
  };
}

const STRETCHES = 400;
const STEPS = 60;
const views: Partial<Record<FrameSide, FrameView>> = {};
const texts: Partial<Record<FrameSide, { name: string; text: string }>> = {};

async function answer({ side, file, reading }: FramesRequest): Promise<FramesAnswer> {
  if (file) texts[side] = { name: file.name, text: await file.text() };
  const { name, text } = texts[side] ?? { name: '', text: '' };
  const log = readFrames(text, reading);
  if ('type' in log) delete views[side];
  else
    views[side] = {
      ...{ name, reading: log.reading, columns: log.columns, times: log.times },
      ...{ skipped: log.skipped, restarts: log.restarts.slice(0, 20) },
      isCut: log.isCut,
      summary: summariseFrames(log.times),
      stretches: stretchesOf(log.times, STRETCHES),
    };
  const { before, after } = views;
  // Both sides over the same steps, far enough for the slow ones and not for a single hang.
  const slow = Math.max(
    ...[before, after].map((one) => (one ? one.summary.percentiles[99] * 1.5 : 0)),
  );
  const shares = Object.fromEntries(
    Object.entries(views).map(([key, one]) => [key, distributionOf(one.times, slow, STEPS)]),
  );
  const own = views[side];
  const { times: _times, ...view } = own ?? { times: undefined };
  return {
    side,
    ...(own ? { view: view as Omit<FrameView, 'times'> } : {}),
    ...('type' in log ? { fault: log } : {}),
    ...(before && after ? { gain: judgeFrames(before.times, after.times) } : {}),
    distribution: { step: slow / STEPS, shares },
  };
}

answering(answer);
