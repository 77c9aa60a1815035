import { exactRate } from '../units/index.ts';
import type { DataRate } from '../units/index.ts';
import { generationTraits } from './generation.ts';
import type { Generation } from './generation.ts';
import type { TimingCycles } from './module.ts';

/** Timings a bin name stands for (`2400` + `T`); `undefined` for a bin not in the tables. */
export function timingsOfBin(
  generation: Generation,
  rate: DataRate,
  letters: string,
): TimingCycles | undefined {
  const { bins } = generationTraits(generation);
  const bin = bins[`${rate}${letters}`] ?? bins[letters];
  return bin && { cl: bin[0], trcd: bin[1], trp: bin[2] };
}

/** The bin letters for some timings, the inverse of {@link timingsOfBin}. */
export function binOfTimings(
  generation: Generation,
  rate: DataRate,
  { cl, trcd, trp, tras }: TimingCycles,
): string | undefined {
  if (tras !== undefined) return undefined;
  const names = Object.keys(generationTraits(generation).bins).map((name) =>
    name.replace(/^\d+/, ''),
  );
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
