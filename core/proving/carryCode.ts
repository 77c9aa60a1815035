import { PROBE_BOUNDS, PROBE_ENGINES, PROBE_LENGTHS, PROBE_MARKS } from './probe.ts';
import type { ProbeEssence } from './probe.ts';

/**
 * The carry code: a result small enough to be read off a screen and typed in.
 *
 * 160 bits as 32 characters, in eight groups of four:
 * version 3 · length 2 · engine 1 · threads 10 · marks 10 · read, multiplyAdd, reply 38 each · checksum 20.
 * A series is its median as 13 bits of logarithm (0.01 to 50,000, steps of 0.19 %) and five runs
 * as 5-bit deviations from it (steps of 0.5 %, at most 7.5 % either way; farther runs are cut to
 * that and the mark `noisy` is set).
 *
 * The checksum is the top 20 bits of FNV-1a over the other 28 characters: one wrong character of
 * a million slips through. Letters leave out I, L, O and U, which are read as 1, 1, 0 and V.
 */
const ALPHABET = '0123456789ABCDEFGHJKMNPQRSTVWXYZ';
const VERSION = 1;
const LENGTH = 32;
const CHECKED = 28;
const SCALE = { least: 0.01, steps: 8191, span: Math.log(5_000_000) } as const;
const RUNS_CARRIED = PROBE_BOUNDS.runs.least;
/** What runs of a code are rounded to, as a share of their median. */
export const CARRIED_STEP = 0.005;
const MOST_DEVIATION = 15;
const SERIES = ['read', 'multiplyAdd', 'reply'] as const;

/** What is wrong with a code as typed. */
export type CarryFault =
  | { readonly type: 'wrong-length'; readonly count: number; readonly wanted: number }
  | { readonly type: 'strange-letter'; readonly letter: string; readonly group: number }
  | { readonly type: 'checksum' }
  | { readonly type: 'newer-version' };

/**
 * A result as a code of 32 characters in groups of four, separated by hyphens. Each series must
 * hold five runs or more, as {@link PROBE_BOUNDS} demands of every result.
 */
export function carryCode(result: ProbeEssence): string {
  const bits: number[] = [];
  const put = (value: number, width: number) => {
    for (let bit = width - 1; bit >= 0; bit--) bits.push((value >> bit) & 1);
  };
  const series = SERIES.map((name) => packed(result[name]));
  const isCut = series.some((one) => one.isCut);
  put(VERSION, 3);
  put(PROBE_LENGTHS.indexOf(result.length), 2);
  put(PROBE_ENGINES.indexOf(result.engine), 1);
  put(Math.min(1023, result.threads), 10);
  put(
    PROBE_MARKS.reduce(
      (sum, mark, at) =>
        sum | (result.marks.includes(mark) || (mark === 'noisy' && isCut) ? 1 << at : 0),
      0,
    ),
    10,
  );
  for (const { median, deviations } of series) {
    put(median, 13);
    for (const deviation of deviations) put(deviation + MOST_DEVIATION, 5);
  }
  const body = lettersOf(bits);
  return (body + lettersOf(checksum(body))).replaceAll(/(.{4})(?=.)/g, '$1-');
}

/** Reads a code as typed: spaces, hyphens and small letters are no matter. */
export function readCarryCode(
  text: string,
):
  | { readonly ok: true; readonly value: ProbeEssence }
  | { readonly ok: false; readonly fault: CarryFault } {
  const fail = (fault: CarryFault) => ({ ok: false as const, fault });
  const typed = text
    .toUpperCase()
    .replaceAll(/[\s\-–—.]/g, '')
    .replaceAll(/[IL]/g, '1')
    .replaceAll('O', '0')
    .replaceAll('U', 'V');
  const strange = [...typed].findIndex((letter) => !ALPHABET.includes(letter));
  if (strange >= 0) {
    const letter = typed[strange] ?? '';
    return fail({ type: 'strange-letter', letter, group: Math.floor(strange / 4) + 1 });
  }
  if (typed.length !== LENGTH)
    return fail({ type: 'wrong-length', count: typed.length, wanted: LENGTH });
  const body = typed.slice(0, CHECKED);
  if (lettersOf(checksum(body)) !== typed.slice(CHECKED)) return fail({ type: 'checksum' });

  const bits = [...body].flatMap((letter) => bitsOf(ALPHABET.indexOf(letter), 5));
  let at = 0;
  const take = (width: number) => {
    let value = 0;
    for (let i = 0; i < width; i++) value = (value << 1) | (bits[at++] ?? 0);
    return value;
  };
  if (take(3) !== VERSION) return fail({ type: 'newer-version' });
  const length = PROBE_LENGTHS[take(2)];
  const engine = PROBE_ENGINES[take(1)];
  const threads = take(10);
  const marked = take(10);
  if (!length || !engine) return fail({ type: 'newer-version' });
  const runs = () => {
    const median = SCALE.least * Math.exp((take(13) / SCALE.steps) * SCALE.span);
    return Array.from({ length: RUNS_CARRIED }, () =>
      toFour(median * (1 + (take(5) - MOST_DEVIATION) * CARRIED_STEP)),
    );
  };
  const marks = PROBE_MARKS.filter((_, bit) => (marked >> bit) & 1);
  const [read, multiplyAdd, reply] = [runs(), runs(), runs()];
  return { ok: true, value: { length, engine, threads, marks, read, multiplyAdd, reply } };
}

function packed(runs: readonly number[]) {
  const sorted = [...runs].sort((a, b) => a - b);
  const exact = sorted[Math.floor(sorted.length / 2)] ?? SCALE.least;
  const place = (Math.log(exact / SCALE.least) / SCALE.span) * SCALE.steps;
  const median = Math.min(SCALE.steps, Math.max(0, Math.round(place)));
  const kept = SCALE.least * Math.exp((median / SCALE.steps) * SCALE.span);
  const steps = carried(runs).map((run) => Math.round((run / kept - 1) / CARRIED_STEP));
  const cut = (step: number) => Math.max(-MOST_DEVIATION, Math.min(MOST_DEVIATION, step));
  return {
    median,
    deviations: steps.map(cut),
    isCut: steps.some((step) => cut(step) !== step),
  };
}

/** Five of the runs, spread evenly over them. */
const carried = (runs: readonly number[]): number[] =>
  Array.from(
    { length: RUNS_CARRIED },
    (_, at) => runs[Math.floor((at * runs.length) / RUNS_CARRIED)] ?? SCALE.least,
  );

const toFour = (value: number) => Number(value.toPrecision(4));

const bitsOf = (value: number, width: number): number[] =>
  Array.from({ length: width }, (_, at) => (value >> (width - 1 - at)) & 1);

function lettersOf(bits: readonly number[]): string {
  let letters = '';
  for (let at = 0; at < bits.length; at += 5)
    letters += ALPHABET[bits.slice(at, at + 5).reduce((sum, bit) => sum * 2 + bit, 0)] ?? '';
  return letters;
}

/** Top 20 bits of FNV-1a (32 bits) over the characters. */
function checksum(text: string): number[] {
  let hash = 0x811c9dc5;
  for (const letter of text)
    hash = Math.imul(hash ^ (letter.codePointAt(0) ?? 0), 0x01000193) >>> 0;
  return bitsOf(hash >>> 12, 20);
}
