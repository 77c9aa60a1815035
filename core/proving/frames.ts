/** What a column of a frame log holds. */
export const FRAME_COLUMNS = ['frame time', 'time stamp', 'frame rate'] as const;
/** See {@link FRAME_COLUMNS}. */
export type FrameColumn = (typeof FRAME_COLUMNS)[number];

/** Units of times, with how many make a millisecond. */
export const FRAME_UNITS = { s: 0.001, ms: 1, µs: 1000, ns: 1_000_000 } as const;
/** See {@link FRAME_UNITS}. */
export type FrameUnit = keyof typeof FRAME_UNITS;

/** Which column is read, and as what. */
export interface FrameReading {
  readonly column: number;
  readonly kind: FrameColumn;
  readonly unit: FrameUnit;
}

/** A frame log as read. */
export interface FrameLog {
  /** ms, one for each frame. */
  readonly times: Float64Array;
  readonly reading: FrameReading;
  /** Names of the columns, or their numbers where there is no header. */
  readonly columns: readonly string[];
  /** Rows that held no usable time: not a number, zero, negative. */
  readonly skipped: number;
  /** Frames at which the clock started anew: logs put together. */
  readonly restarts: readonly number[];
  /** Rows beyond the most that are read were left out. */
  readonly isCut: boolean;
}

/** Why a log cannot be read. */
export type FrameFault =
  | { readonly type: 'no numbers' }
  | { readonly type: 'no frame column'; readonly columns: readonly string[] }
  | { readonly type: 'too few frames'; readonly frames: number };

/** Fewer frames say nothing of lows. */
export const LEAST_FRAMES = 100;
/** Rows read at most; more than a day of frames. */
export const MOST_FRAMES = 5_000_000;
/** Rows looked at to tell columns apart. */
const SAMPLE = 2000;
/** A frame takes between these, ms: 5 s is a hang, 0.1 ms no screen shows. */
const PLAUSIBLE = { least: 0.1, most: 5000 };

/** Numbers with a point or a comma; thousands marks are not written by recorders. */
const numberOf = (text: string, comma: boolean): number => {
  const plain = text.trim().replace(/^"|"$/g, '');
  return plain === '' ? NaN : Number(comma ? plain.replace(',', '.') : plain);
};

/** The sign between cells, and whether numbers have decimal commas. */
function formOf(lines: readonly string[]): { separator: string; comma: boolean } {
  const count = (sign: string) => lines.reduce((sum, line) => sum + line.split(sign).length - 1, 0);
  const [semicolons, tabs] = [count(';'), count('\t')];
  const separator = semicolons > 0 ? ';' : tabs > 0 ? '\t' : ',';
  const isNumber = (cell: string) => /^"?-?\d+,\d+"?$/.test(cell.trim());
  const comma = separator !== ',' && lines.some((line) => line.split(separator).some(isNumber));
  // One number a line, with a comma in it: the comma is a decimal mark, not a separator.
  const alone = separator === ',' && lines.length > 1 && lines.slice(1).every(isNumber);
  return alone ? { separator: '\n', comma: true } : { separator, comma };
}

const medianOf = (values: readonly number[]): number => {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.floor(sorted.length / 2)] ?? NaN;
};

/** The unit in which durations look like frames; most recorders write milliseconds. */
function unitFor(duration: number): FrameUnit | undefined {
  const units = ['ms', 's', 'µs', 'ns'] as const;
  // 2 to 200 ms is where games and pages live; beyond that anything that could be a frame.
  const fits = (low: number, high: number) =>
    units.find((unit) => {
      const ms = duration / FRAME_UNITS[unit];
      return ms >= low && ms <= high;
    });
  return fits(2, 200) ?? fits(PLAUSIBLE.least, PLAUSIBLE.most);
}

const HINTS: readonly (readonly [RegExp, FrameColumn])[] = [
  [/fps|frame ?rate|bildrate/i, 'frame rate'],
  [/per frame|frame ?time|duration|delta|dauer|dur[ée]e|tiempo|bildzeit/i, 'frame time'],
  [/stamp|elapsed|^time|zeit|temps|hora/i, 'time stamp'],
];

/** How one column could be read, and how much speaks for it. */
function judgeColumn(
  values: readonly number[],
  name: string,
  column: number,
): { reading: FrameReading; weight: number } | undefined {
  const good = values.filter((value) => Number.isFinite(value));
  if (good.length < values.length * 0.5 || good.length < 3) return undefined;
  const hint = HINTS.find(([pattern]) => pattern.test(name))?.[1];
  const steps = good.slice(1).map((value, at) => value - (good[at] ?? 0));
  const rising = steps.filter((step) => step > 0).length >= steps.length * 0.98;
  const kind: FrameColumn = rising ? 'time stamp' : hint === 'frame rate' ? hint : 'frame time';
  const typical = kind === 'time stamp' ? medianOf(steps) : medianOf(good.filter((one) => one > 0));
  const unit = kind === 'frame rate' ? ('ms' as const) : unitFor(typical);
  if (unit === undefined || typical <= 0) return undefined;
  // A column of equal values, such as a width or a process id, is no clock.
  if (good.every((value) => value === good[0])) return undefined;
  const order = { 'frame time': 3, 'time stamp': 2, 'frame rate': 1 }[kind];
  return { reading: { column, kind, unit }, weight: order + (hint === kind ? 10 : 0) };
}

/**
 * Reads a log of frames from any recorder: separated by comma, semicolon or tab, with decimal points
 * or commas, with or without a header in any language.
 *
 * @param chosen - what the bench says the column is; found out where absent
 */
export function readFrames(text: string, chosen?: FrameReading): FrameLog | FrameFault {
  const lines = text.split(/\r?\n/, MOST_FRAMES + SAMPLE).filter((line) => line.trim() !== '');
  const { separator, comma } = formOf(lines.slice(0, 200));
  const cellsOf = (line: string) => line.split(separator);
  const firstAt = lines.findIndex((line) =>
    cellsOf(line).some((cell) => Number.isFinite(numberOf(cell, comma))),
  );
  // Comments may stand above the header: the widest line just before the numbers is the header.
  const first = lines[firstAt];
  if (first === undefined) return { type: 'no numbers' };
  const width = cellsOf(first).length;
  const above = firstAt > 0 ? cellsOf(lines[firstAt - 1] ?? '') : [];
  const columns = Array.from({ length: width }, (_, at) =>
    above.length === width ? (above[at] ?? '').trim().replace(/^"|"$/g, '') : `column ${at + 1}`,
  );
  const sample = lines.slice(firstAt, firstAt + SAMPLE).map(cellsOf);
  const found = columns
    .flatMap((name, at) => {
      const values = sample.map((cells) => numberOf(cells[at] ?? '', comma));
      return judgeColumn(values, name, at) ?? [];
    })
    .sort((a, b) => b.weight - a.weight)[0]?.reading;
  const reading = chosen ?? found;
  // So few rows look like nothing, whatever they are.
  if (sample.length < 3) return { type: 'too few frames', frames: sample.length };
  if (!reading) return { type: 'no frame column', columns };
  const raw = new Float64Array(Math.min(lines.length - firstAt, MOST_FRAMES));
  for (let at = 0; at < raw.length; at++) {
    const line = lines[firstAt + at] ?? '';
    raw[at] = numberOf(width === 1 ? line : (line.split(separator)[reading.column] ?? ''), comma);
  }
  const { times, skipped, restarts } = timesOf(raw, reading);
  if (times.length < 3) return { type: 'too few frames', frames: times.length };
  const isCut = lines.length - firstAt > MOST_FRAMES;
  return { times, reading, columns, skipped, restarts, isCut };
}

/** Values of a column as frame times in ms. */
function timesOf(raw: Float64Array, { kind, unit }: FrameReading) {
  const perMs = FRAME_UNITS[unit];
  const times = new Float64Array(raw.length);
  const restarts: number[] = [];
  let count = 0;
  let skipped = 0;
  let last = NaN;
  for (const value of raw) {
    if (!Number.isFinite(value) || (kind !== 'time stamp' && value <= 0)) {
      skipped++;
      continue;
    }
    let ms = kind === 'frame rate' ? 1000 / value : value / perMs;
    if (kind === 'time stamp') {
      const before = last;
      last = value;
      if (Number.isNaN(before)) continue;
      if (value < before) {
        restarts.push(count);
        continue;
      }
      ms = (value - before) / perMs;
      if (ms === 0) {
        skipped++;
        continue;
      }
    }
    times[count++] = ms;
  }
  return { times: times.slice(0, count), skipped, restarts };
}

/** What a log comes down to. */
export interface FrameSummary {
  readonly frames: number;
  readonly seconds: number;
  /** Frames over time, never the mean of rates. */
  readonly fps: number;
  /** Rate of the slowest 1 % and 0.1 % of frames together. */
  readonly lowAverage: { readonly percent1: number; readonly percent01: number };
  /** Rate at the frame time that 99 % and 99.9 % of frames stay under. */
  readonly lowPercentile: { readonly percent1: number; readonly percent01: number };
  /** Frame times, ms, that so many percent stay under. */
  readonly percentiles: Readonly<Record<50 | 90 | 95 | 99, number>>;
  readonly stutters: number;
}

/**
 * A stutter: a frame that takes over twice the median of the 61 around it, and at least 8 ms more.
 * Both are asked for: twice a short frame is not felt, and a steady slow scene is no stutter.
 */
export const STUTTER = { times: 2, more: 8, around: 61 } as const;

/** Mean rate, both kinds of lows, percentiles and stutters of frame times in ms. */
export function summariseFrames(times: Float64Array): FrameSummary {
  const sorted = times.slice().sort();
  const total = sorted.reduce((sum, one) => sum + one, 0);
  const n = sorted.length;
  const at = (share: number) => sorted[Math.min(n - 1, Math.ceil(share * n) - 1)] ?? NaN;
  const slowest = (share: number) => {
    const count = Math.max(1, Math.round(share * n));
    let sum = 0;
    for (let one = n - count; one < n; one++) sum += sorted[one] ?? 0;
    return (1000 * count) / sum;
  };
  return {
    ...{ frames: n, seconds: total / 1000, fps: (1000 * n) / total },
    lowAverage: { percent1: slowest(0.01), percent01: slowest(0.001) },
    lowPercentile: { percent1: 1000 / at(0.99), percent01: 1000 / at(0.999) },
    percentiles: { 50: at(0.5), 90: at(0.9), 95: at(0.95), 99: at(0.99) },
    stutters: countStutters(times),
  };
}

function countStutters(times: Float64Array): number {
  const half = (STUTTER.around - 1) / 2;
  let count = 0;
  for (let at = 0; at < times.length; at++) {
    const time = times[at] ?? 0;
    // Cheap refusals first: hardly any frame needs the median.
    if (time <= STUTTER.more) continue;
    const before = times[at - 1] ?? times[at + 1] ?? time;
    if (at > 1 && time < 1.2 * before && time < 1.2 * (times[at - 2] ?? 0)) continue;
    // The median of those around lies below a mark when more than half of them do: no sorting.
    const [from, to] = [Math.max(0, at - half), Math.min(times.length, at + half + 1)];
    const [twice, less] = [time / STUTTER.times, time - STUTTER.more];
    let below = 0;
    for (let one = from; one < to; one++) {
      const other = times[one] ?? 0;
      if (other < twice && other <= less) below++;
    }
    if (below >= Math.floor((to - from) / 2) + 1) count++;
  }
  return count;
}
