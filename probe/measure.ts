import { PROBE_BOUNDS, hasPlateau, rungsOf } from '../core/proving/probe.ts';
import type { PatternCheck, ProbeLength, ProbeMark, ProbeResult } from '../core/proving/probe.ts';
import { median } from '../core/proving/statistics.ts';
import { credible } from './credible.ts';
import { Crew, aborted } from './crew.ts';

/** How long, over how much, how often. Times in ms, sizes in MiB. */
interface Pace {
  readonly window: number;
  readonly repeats: number;
  readonly rampRepeats: number;
  readonly footprint: number;
  readonly largestChain: number;
  readonly chase: number;
}

const PACES: Readonly<Record<ProbeLength, Pace>> = {
  short: { window: 40, repeats: 5, rampRepeats: 3, footprint: 96, largestChain: 64, chase: 20 },
  // Every second line of a chain is walked: 256 MiB touch 128, more than any cache holds.
  quick: { window: 250, repeats: 9, rampRepeats: 3, footprint: 384, largestChain: 256, chase: 120 },
  thorough: {
    ...{ window: 450, repeats: 17, rampRepeats: 5, footprint: 512, largestChain: 256, chase: 300 },
  },
};

/** Windows farther apart than this (median deviation, as a share) are taken again, then marked. */
const NOISY = 0.04;
/** Reads at the end this much slower than at the start are marked. */
const SLOWING = 0.92;
/** Less than this in all is not surely above every cache, MiB. */
const SMALL = 90;
const CHAIN_SEED = 20_011;

/** Where a measurement stands, 0 to 1, and what it is doing, in words. */
export type Progress = (share: number, doing: string) => void;

/** What the page knows of the device and was asked for. */
export interface Wanted {
  readonly length: ProbeLength;
  readonly threads: number;
  /** GiB as the browser rounds it; not told on plain HTTP. */
  readonly deviceMemory: number | undefined;
  readonly isPlain: boolean;
  readonly isOnBattery: boolean;
  readonly withPattern: boolean;
  readonly signal: AbortSignal;
  readonly onProgress: Progress;
}

/**
 * Measures the machine: ramp of reads to the plateau, read, copy and multiply-add there, random lines,
 * and the time to a reply over growing footprints. Windows during which the page was out of sight
 * are taken again.
 *
 * @throws the signal's reason when cancelled; Error when no worker can start
 */
export async function measure(wanted: Wanted): Promise<ProbeResult> {
  const { length, threads, signal, onProgress } = wanted;
  const pace = PACES[length];
  const marks = new Set<ProbeMark>();
  // An eighth of a small device's memory, so that it does not start to page.
  const most = wanted.deviceMemory === undefined ? Infinity : wanted.deviceMemory * 128;
  onProgress(0, 'taking memory');
  const footprint = Math.min(pace.footprint, most);
  const crew = await Crew.gather(threads, footprint, wanted.isPlain, signal);
  const cancelled = aborted(signal);
  cancelled.catch(() => undefined);
  try {
    const steady = <T>(work: () => Promise<T>) => Promise.race([inSight(work, marks), cancelled]);
    const window = (kernel: 'read' | 'copy' | 'multiplyAdd', workers: number) =>
      steady(() =>
        credible(() => crew.window(kernel, workers, pace.window), PROBE_BOUNDS.rate, marks),
      );
    const chase = (chains: 1 | 4 | 8, ms: number) =>
      steady(() => credible(() => crew.chase(chains, ms), PROBE_BOUNDS.reply, marks));
    const rungs = rungsOf(threads);
    const footprints = chainSizes(Math.min(pace.largestChain, crew.chainRoom) * 1024);
    const total = rungs.length * pace.rampRepeats + 3 * (pace.repeats + 1) + footprints.length * 3;
    let done = 0;
    const tick = (doing: string) => onProgress(Math.min(0.99, ++done / (total + 8)), doing);

    const ramp: { threads: number; rate: number }[] = [];
    for (const rung of rungs) {
      const rates: number[] = [];
      for (let at = 0; at < pace.rampRepeats; at++) {
        tick(`reading on ${rung} of ${threads} threads`);
        rates.push(await window('read', rung));
      }
      ramp.push({ threads: rung, rate: median(rates) });
    }
    const best = ramp.reduce((a, b) => (b.rate > a.rate ? b : a)).threads;
    const repeated = async (name: string, once: () => Promise<number>) => {
      const take = async () => {
        await once(); // warm-up
        const runs: number[] = [];
        for (let at = 0; at < pace.repeats; at++) {
          tick(name);
          runs.push(await once());
        }
        return runs;
      };
      const first = await take();
      if (unrest(first) <= NOISY) return first;
      done -= pace.repeats;
      const second = await take();
      const calmer = unrest(second) < unrest(first) ? second : first;
      if (unrest(calmer) > NOISY) marks.add('noisy');
      return calmer;
    };
    const kernel = (name: 'read' | 'copy' | 'multiplyAdd') =>
      repeated(`${name === 'multiplyAdd' ? 'multiply-add' : name} on ${best} threads`, () =>
        window(name, best),
      );
    const [read, copy, multiplyAdd] = [
      await kernel('read'),
      await kernel('copy'),
      await kernel('multiplyAdd'),
    ];

    const steps: { kib: number; ns: number }[] = [];
    const random: { chains: number; rate: number }[] = [];
    let reply: number[] = [];
    for (const kib of footprints) {
      tick(`asking over ${kib < 1024 ? `${kib} KB` : `${kib / 1024} MB`}`);
      await steady(() => crew.chain(kib, CHAIN_SEED));
      const isLast = kib === footprints.at(-1);
      if (isLast) reply = await repeated('asking over the largest', () => chase(1, pace.chase));
      const some = isLast ? reply : await times(3, () => chase(1, pace.chase / 2));
      steps.push({ kib, ns: median(some) });
    }
    for (const chains of [1, 4, 8] as const) {
      tick(`random lines, ${chains} parallel`);
      const ns = median(await times(3, () => chase(chains, pace.chase)));
      random.push({ chains, rate: (chains * 64) / ns });
    }
    const again = await times(3, () => window('read', best));
    if (median(again) < median(read) * SLOWING) marks.add('slowing');
    if (!hasPlateau(ramp)) marks.add('no plateau');
    const walked = crew.footprint(best);
    if (walked < SMALL) marks.add('small');
    if (wanted.isOnBattery) marks.add('battery');
    const pattern = wanted.withPattern
      ? await patternCheck(crew, length, steady, onProgress)
      : null;
    onProgress(1, 'done');
    return {
      ...{ id: newId(), length, engine: crew.engine, threads, footprint: walked },
      isolated: globalThis.crossOriginIsolated === true,
      marks: [...marks],
      ramp: ramp.map(({ threads: rung, rate }) => ({ threads: rung, rate: toFour(rate) })),
      ...{ read: read.map(toFour), copy: copy.map(toFour), multiplyAdd: multiplyAdd.map(toFour) },
      random: random.map(({ chains, rate }) => ({ chains, rate: toFour(rate) })),
      steps: steps.map(({ kib, ns }) => ({ kib, ns: toFour(ns) })),
      reply: reply.map(toFour),
      pattern,
    };
  } finally {
    crew.dismiss();
  }
}

async function patternCheck(
  crew: Crew,
  length: ProbeLength,
  steady: <T>(work: () => Promise<T>) => Promise<T>,
  onProgress: Progress,
): Promise<PatternCheck> {
  onProgress(0.99, 'writing and checking patterns');
  const from = performance.now();
  const found = await steady(() =>
    crew.pattern({ short: 200, quick: 8000, thorough: 30_000 }[length]),
  );
  const seconds = Math.round((performance.now() - from) / 100) / 10;
  return { ...found, mib: Math.floor(found.mib), seconds };
}

/** Does the work while the page is in sight; if it went out of sight meanwhile, once more. */
async function inSight<T>(work: () => Promise<T>, marks: Set<ProbeMark>): Promise<T> {
  for (;;) {
    if (document.hidden) {
      marks.add('hidden');
      await new Promise((seen) =>
        document.addEventListener('visibilitychange', seen, { once: true }),
      );
      continue;
    }
    let wasHidden = false;
    const note = () => (wasHidden = true);
    document.addEventListener('visibilitychange', note);
    const value = await work().finally(() =>
      document.removeEventListener('visibilitychange', note),
    );
    if (!wasHidden) return value;
    marks.add('hidden');
  }
}

/** From 16 KiB up by fours to the largest. */
function chainSizes(largest: number): number[] {
  const sizes: number[] = [];
  for (let kib = 16; kib < largest; kib *= 4) sizes.push(kib);
  return [...sizes, largest];
}

async function times<T>(count: number, work: () => Promise<T>): Promise<T[]> {
  const values: T[] = [];
  for (let at = 0; at < count; at++) values.push(await work());
  return values;
}

/** Median distance from the median, as a share of it. */
function unrest(values: readonly number[]): number {
  const centre = median(values);
  return median(values.map((value) => Math.abs(value - centre))) / centre;
}

const toFour = (value: number) => Number(value.toPrecision(4));

function newId(): string {
  return Array.from(crypto.getRandomValues(new Uint8Array(16)), (byte) =>
    byte.toString(16).padStart(2, '0'),
  ).join('');
}
