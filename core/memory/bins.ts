import { exactRate } from '../units/index.ts';
import type { DataRate } from '../units/index.ts';
import { generationTraits } from './generation.ts';
import type { Generation } from './generation.ts';
import type { TimingCycles } from './module.ts';

/** DDR4 speed-bin letters and the CL they stand for; tRCD and tRP equal it (JESD79-4, bin tables). */
const DDR4_LETTERS: Readonly<Record<string, number>> = {
  J: 10,
  K: 11,
  L: 12,
  M: 13,
  N: 14,
  P: 15,
  R: 16,
  T: 17,
  U: 18,
  V: 19,
  W: 20,
  Y: 21,
  AA: 22,
  AC: 24,
};

/** DDR5 bins as CL-tRCD-tRP by rate and letter (JESD79-5, bin tables). */
const DDR5_BINS: Readonly<Record<string, readonly [number, number, number]>> = {
  '4800B': [40, 39, 39],
  '5200B': [42, 42, 42],
  '5600B': [46, 45, 45],
  '6400B': [52, 52, 52],
};

const primary = (cl: number, trcd: number, trp: number): TimingCycles => ({ cl, trcd, trp });

/** Timings a bin name stands for (`2400` + `T`); `undefined` for a bin not in the tables. */
export function timingsOfBin(
  generation: Generation,
  rate: DataRate,
  letters: string,
): TimingCycles | undefined {
  if (generation === 'DDR4') {
    const cl = DDR4_LETTERS[letters];
    return cl === undefined ? undefined : primary(cl, cl, cl);
  }
  const bin = DDR5_BINS[`${rate}${letters}`];
  return generation === 'DDR5' && bin ? primary(...bin) : undefined;
}

/** The bin letters for some timings, the inverse of {@link timingsOfBin}. */
export function binOfTimings(
  generation: Generation,
  rate: DataRate,
  { cl, trcd, trp, tras }: TimingCycles,
): string | undefined {
  if (tras !== undefined) return undefined;
  const names = generation === 'DDR4' ? Object.keys(DDR4_LETTERS) : ['B'];
  return names.find((letters) => {
    const bin = timingsOfBin(generation, rate, letters);
    return bin?.cl === cl && bin.trcd === trcd && bin.trp === trp;
  });
}

/**
 * CL of the common bin at a rate, for when nothing states one. Rates without a listed bin take
 * 16⅔ ns, where the common DDR5 bins lie, rounded up to the even CL they use.
 */
export function commonCl(generation: Generation, rate: DataRate): number {
  const listed = generationTraits(generation).binCl[rate];
  return listed ?? 2 * Math.ceil((exactRate(rate) * (50 / 3)) / 2000 / 2 - 1e-9);
}
