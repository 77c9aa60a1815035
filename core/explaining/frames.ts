import { exhausted } from '../units/index.ts';
import type { FrameFault, FrameGain, FrameReading } from '../proving/index.ts';
import { LEAST_FRAMES, MOST_FRAMES, STUTTER } from '../proving/index.ts';
import { count, figure } from './words.ts';
import type { Explanation } from './words.ts';

/** Why a frame log cannot be read, and what would mend it. */
export function explainFrameFault(fault: FrameFault): Explanation {
  switch (fault.type) {
    case 'no numbers':
      return {
        title: 'There are no numbers in it',
        why: 'A frame log is text with one row for each frame.',
        mend: 'Export the recording as CSV or text.',
      };
    case 'no frame column':
      return {
        title: 'No column looks like frames',
        why: `None holds times between 0.1 ms and 5 s, rising time stamps or rates; there are: ${fault.columns.join(', ')}.`,
        mend: 'Export frame times, time stamps or rates, one row for each frame.',
      };
    case 'too few frames':
      return {
        title: `Only ${count(fault.frames, 'frame')}`,
        why: 'That says nothing of a rate.',
        mend: 'Record half a minute or more.',
      };
    default:
      return exhausted(fault);
  }
}

/** `“FrameTime” as frame times in ms`. */
export function frameReadingText(
  { column, kind, unit }: FrameReading,
  columns: readonly string[],
): string {
  const name = `“${columns[column] ?? `column ${column + 1}`}”`;
  return kind === 'frame rate' ? `${name} as rates in fps` : `${name} as ${kind}s in ${unit}`;
}

/** The change of the mean rate, with how sure it is. */
export function explainFrameGain(gain: FrameGain): Explanation {
  const { factor, low, high, lowAverage, memory, record } = gain;
  const { before, after } = record;
  const wanted = Math.max(before ?? 0, after ?? 0);
  if (wanted > 0)
    return {
      title: 'Record longer: the logs are too short to compare',
      why: `Frames here resemble those of ${figure(memory, 2)} s around, so these logs hold too few independent stretches. For what it is worth: ×${figure(factor)} (×${figure(low)} to ×${figure(high)}).`,
      mend: `Record ${figure(wanted / 60, 2)} minutes ${before && after ? 'a side' : before ? 'before' : 'after'} in one go, or several recordings that add up to it.`,
      source: 'Politis and White (2004): reach of the dependence from the data',
    };
  const range = `×${figure(low)} to ×${figure(high)}`;
  const title =
    low > 1
      ? `Faster: ×${figure(factor)} (${range})`
      : high < 1
        ? `Slower: ×${figure(factor)} (${range})`
        : `Inside the noise: ×${figure(factor)} (${range})`;
  return {
    title,
    why: `Mean rate is frames over time. The range holds the true change with 95 % confidence for scenes like these, allowing for frames that resemble those of ${figure(memory, 2)} s around. The slowest 1 % together: ×${figure(lowAverage.factor)} (×${figure(lowAverage.low)} to ×${figure(lowAverage.high)}).`,
    source: 'Politis and White (2004) for the mean, blocks left out in turn for the lows',
  };
}

/** What deserves a word about a log before it is believed. */
export function frameCautions(log: {
  readonly summary: { readonly frames: number };
  readonly skipped: number;
  readonly restarts: readonly number[];
  readonly isCut: boolean;
}): Explanation[] {
  const { summary, skipped, restarts, isCut } = log;
  return [
    ...(isCut
      ? [
          {
            title: `Only the first ${MOST_FRAMES / 1e6} million rows were read`,
            why: 'That is more than a day of frames; the rest was left out.',
            mend: 'Cut the log to the scene that is to be compared.',
          },
        ]
      : []),
    ...(summary.frames < LEAST_FRAMES
      ? [
          {
            title: `Only ${count(summary.frames, 'frame')}: the lows say nothing`,
            why: `One percent of fewer than ${LEAST_FRAMES} frames is less than one frame.`,
            mend: 'Record half a minute or more.',
          },
        ]
      : []),
    ...(restarts.length > 0
      ? [
          {
            title: `The clock starts anew ${restarts.length === 1 ? 'once' : `${restarts.length} times`}`,
            why: 'Several recordings were put together; they are read as one.',
            mend: 'Compare one recording with one of the same scene.',
          },
        ]
      : []),
    ...(skipped > 0
      ? [
          {
            title: `${count(skipped, 'row')} left out`,
            why: 'They hold no time: empty, not a number, zero or negative.',
          },
        ]
      : []),
  ];
}

/** The house's own definition of a stutter. */
export const STUTTER_WORDS = `over ${STUTTER.times} times the median of the ${STUTTER.around} frames around, and at least ${STUTTER.more} ms more`;
