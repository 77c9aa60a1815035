/** A stretch of a log as drawn: its fastest and slowest frame, ms. */
export interface FrameStretch {
  /** Seconds from the start. */
  readonly at: number;
  readonly least: number;
  readonly most: number;
}

/**
 * A log cut into stretches, each with its extremes, so that no hitch is lost however many frames a
 * pixel stands for.
 */
export function stretchesOf(times: Float64Array, stretches: number): FrameStretch[] {
  const size = Math.max(1, Math.ceil(times.length / stretches));
  const result: FrameStretch[] = [];
  let clock = 0;
  for (let start = 0; start < times.length; start += size) {
    const at = clock / 1000;
    let [least, most] = [Infinity, 0];
    for (let one = start; one < Math.min(start + size, times.length); one++) {
      const time = times[one] ?? 0;
      clock += time;
      if (time < least) least = time;
      if (time > most) most = time;
    }
    result.push({ at, least, most });
  }
  return result;
}

/**
 * Share of frames by frame time, over equal steps up to a largest.
 *
 * @returns one share for each step; frames above the largest are counted in the last
 */
export function distributionOf(times: Float64Array, largest: number, steps: number): number[] {
  const counts = new Array<number>(steps).fill(0);
  for (const time of times) {
    const at = Math.min(steps - 1, Math.floor((time / largest) * steps));
    counts[at] = (counts[at] ?? 0) + 1;
  }
  return counts.map((count) => count / Math.max(1, times.length));
}
