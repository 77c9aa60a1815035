import { GENERATIONS, generationTraits, isModuleCapacity } from '../generation.ts';
import type { Generation } from '../generation.ts';
import { TYPE_LETTERS } from '../labelTokens.ts';

/** What stands in the three fields of a label's line; everything else is none. */
export interface LabelWords {
  /** `16GB` */
  readonly sizes: readonly string[];
  /** `2RX8` */
  readonly organisations: readonly string[];
  /** `PC4-2666V-S`, up to the letter that says what kind of module it is. */
  readonly names: readonly string[];
}

const SIZES = [0.5, 1, 2, 4, 8, 12, 16, 24, 32, 48, 64, 96, 128, 256];
const RANKS = [1, 2, 4, 8];
const WIDTHS = [4, 8, 16];
/** A bin is printed for a rate when its latency is this near the common one, clocks. */
const NEAR_CL = 3;
/** CAS latencies beside the common one that third-generation labels print. */
const CL_SPREAD = [-2, -1, 0, 1, 2];

let words: LabelWords | undefined;

/** The words of all labels with the standard's line, made from the table of generations. */
export function labelWords(): LabelWords {
  words ??= {
    sizes: SIZES.filter((size) => GENERATIONS.some((one) => isModuleCapacity(one, size))).map(
      (size) => (size < 1 ? `${size * 1024}MB` : `${size}GB`),
    ),
    organisations: RANKS.flatMap((ranks) => WIDTHS.map((width) => `${ranks}RX${width}`)),
    names: GENERATIONS.flatMap(namesOf),
  };
  return words;
}

function namesOf(generation: Generation): string[] {
  const { label, standardRates, lowVoltage, binCl } = generationTraits(generation);
  if (!label) return [];
  const digit = generation.at(-1) ?? '';
  const kinds = Object.keys(TYPE_LETTERS);
  return standardRates.flatMap((rate) => {
    const cl = binCl[rate];
    if (label.figure === 'rate')
      return binsAt(generation, rate, cl).flatMap((bin) =>
        kinds.map((kind) => `PC${digit}-${rate}${bin}-${kind}`),
      );
    // 1333 is printed as 10600, the name the standard gives it.
    const bandwidth = Math.floor((rate * 8) / 100) * 100;
    const tails =
      label.timings === 'three digits'
        ? [3, 4, 5, 6, 7].map((one) => `${one}${one}${one}`)
        : cl === undefined
          ? []
          : CL_SPREAD.map((more) => String(cl + more));
    return ['', ...(lowVoltage ? ['L'] : [])].flatMap((low) =>
      kinds.flatMap((kind) => tails.map((tail) => `PC${digit}${low}-${bandwidth}${kind}-${tail}`)),
    );
  });
}

/** Letters of speed bins that are printed with a rate. */
function binsAt(generation: Generation, rate: number, cl: number | undefined): string[] {
  const found = Object.entries(generationTraits(generation).bins).flatMap(([name, [own]]) => {
    const [, stated, letters = ''] = /^(\d*)([A-Z]+)$/.exec(name) ?? [];
    if (stated) return Number(stated) === rate ? [letters] : [];
    return cl !== undefined && Math.abs(own - cl) <= NEAR_CL ? [letters] : [];
  });
  return [...new Set(found)];
}
