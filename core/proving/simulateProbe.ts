import type { Machine } from '../machine/index.ts';
import type { Running } from '../operating-point/index.ts';
import { peakBandwidth, seededRandom } from '../units/index.ts';
import { hasPlateau, rungsOf } from './probe.ts';
import type { ProbeMark, ProbeResult } from './probe.ts';

/** What a simulated machine may do other than the record says. */
export type SimulatedFault = 'none' | 'one channel' | 'still rising';

const STEPS_KIB = [16, 64, 256, 1024, 4096, 16_384, 65_536, 131_072];
const RUNS = 9;

/**
 * A result such as the measuring page would bring from a machine running at this point: the same
 * machine keeps its own efficiency and reply time from one result to the next, windows scatter by
 * about a per cent. Always marked `simulated`.
 *
 * @param seed - any integer; another seed is another visit to the same machine
 * @param drawn - GB/s the memory itself gives to what streams, where that was simulated; its peak else
 */
export function simulateProbe(
  machine: Machine,
  point: Running,
  fault: SimulatedFault,
  seed: number,
  drawn: number = point.peak,
): ProbeResult {
  const own = seededRandom(textSeed(machine.name));
  const visit = seededRandom(seed);
  const efficiency = 0.72 + own() * 0.14;
  const threads = [4, 6, 8, 12, 16][Math.floor(own() * 5)] ?? 4;
  const base = 38 + own() * 20;
  const channel = peakBandwidth(point.rate, machine.channelBits);
  const peak = fault === 'one channel' ? Math.min(drawn, channel) : drawn;
  const sitting = 1 + normal(visit) * 0.012;
  const plateau = peak * efficiency * sitting * (fault === 'still rising' ? 0.6 : 1);
  const around = (centre: number) => toFour(centre * (1 + normal(visit) * 0.009));
  const series = (centre: number) => Array.from({ length: RUNS }, () => around(centre));
  // One thread reaches what its outstanding reads allow; further threads fill up to the plateau.
  const single = fault === 'still rising' ? plateau / threads : Math.min(plateau * 0.7, 14);
  const ramp = rungsOf(threads).map((rung) => ({
    threads: rung,
    rate: around(Math.min(plateau, single * rung)),
  }));
  const replyTime = base + 3.2 * point.timings.firstWord * (point.clocks === 'halved' ? 1.1 : 1);
  const marks: ProbeMark[] = ['simulated', ...(hasPlateau(ramp) ? [] : ['no plateau' as const])];
  return {
    ...{ id: hexId(visit), length: 'quick', engine: 'simd kernels', threads, marks },
    ...{ isolated: false, footprint: 384, ramp },
    ...{ read: series(plateau), copy: series(plateau * 0.93), multiplyAdd: series(plateau * 0.96) },
    random: [1, 4, 8].map((chains) => ({
      chains,
      rate: around(((64 * chains) / replyTime) * 0.95 ** (chains - 1)),
    })),
    steps: STEPS_KIB.map((kib) => ({
      kib,
      ns: around(kib <= 32 ? 1.3 : kib <= 512 ? 3.8 : kib <= 8192 ? 13 : replyTime),
    })),
    reply: series(replyTime),
    pattern: null,
  };
}

/** Roughly normal, from twelve draws. */
function normal(random: () => number): number {
  let sum = -6;
  for (let at = 0; at < 12; at++) sum += random();
  return sum;
}

const textSeed = (text: string): number =>
  [...text].reduce((seed, letter) => (Math.imul(seed, 31) + (letter.codePointAt(0) ?? 0)) | 0, 7);

const hexId = (random: () => number): string =>
  Array.from({ length: 32 }, () => Math.floor(random() * 16).toString(16)).join('');

const toFour = (value: number) => Number(value.toPrecision(4));
