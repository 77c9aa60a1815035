import type { MemoryModule } from '../memory/index.ts';

/** Match grades, best first. */
export const GRADES = [
  'one kit',
  'same part',
  'same spec',
  'same size',
  'uneven',
  'no go',
] as const;
/** How well modules that must work together match. */
export type Grade = (typeof GRADES)[number];

/** Best first: negative when `a` is the better grade. */
export function compareGrades(a: Grade, b: Grade): number {
  return GRADES.indexOf(a) - GRADES.indexOf(b);
}

/** A module with whether it is soldered: soldered memory never counts for the kit question. */
export interface Graded {
  readonly module: MemoryModule;
  readonly soldered: boolean;
}

/**
 * Grade of modules that must work together.
 *
 * - one kit: out of the same sealed pack, or one module alone. Part of a larger pack keeps the grade.
 * - same part: identical part number and revision, bought apart. Two two-packs are no four-pack.
 * - same spec: capacity, rate, timings, voltage, ranks × width and ECC equal; the part differs.
 * - same size: generation and capacity equal.
 * - uneven: capacities differ. no go: generations or buffering differ.
 *
 * @param profiled - overclock profiles are used; then profiles are compared as well as bins
 */
export function matchGrade(parts: readonly Graded[], profiled: boolean): Grade {
  const [first, ...rest] = parts;
  if (!first || rest.length === 0) return 'one kit';
  const all = (test: (a: MemoryModule, b: MemoryModule) => boolean) =>
    rest.every(({ module }) => test(first.module, module));
  if (!all((a, b) => a.generation === b.generation && a.buffering === b.buffering)) return 'no go';
  if (!all((a, b) => a.capacity === b.capacity)) return 'uneven';
  const soldered = parts.some((part) => part.soldered);
  if (!soldered && all((a, b) => a.kitId !== undefined && a.kitId === b.kitId)) return 'one kit';
  if (!soldered && all(isSamePart)) return 'same part';
  return all((a, b) => isSameSpec(a, b, profiled)) ? 'same spec' : 'same size';
}

/** Identical part number and revision from the same maker. */
export function isSamePart(a: MemoryModule, b: MemoryModule): boolean {
  // A number without its maker still identifies; the same number from two makers does not.
  return a.partNumber !== undefined && a.partNumber === b.partNumber && a.maker === b.maker;
}

/** Whether two modules of equal size agree in all a controller sees. Unknown ranks agree with none. */
export function isSameSpec(a: MemoryModule, b: MemoryModule, profiled: boolean): boolean {
  const organised = a.ranks !== 'unknown' && a.ranks === b.ranks && a.chipWidth === b.chipWidth;
  return a.capacity === b.capacity && organised && a.ecc === b.ecc && isSameRating(a, b, profiled);
}

/** Generation, rate, timings and voltage alone: all that can be asked of modules of unlike size. */
export function isSameRating(a: MemoryModule, b: MemoryModule, profiled: boolean): boolean {
  return ratingKey(a, profiled) === ratingKey(b, profiled);
}

/** Equal for modules of the same rating, and only for them (see {@link isSameRating}). */
export function ratingKey(module: MemoryModule, profiled: boolean): string {
  const { generation, rate, timings: t, voltagesMv, profile: p } = module;
  const bin = [generation, rate, t.cl, t.trcd, t.trp, t.tras, voltagesMv];
  const { cl, trcd, trp, tras } = p?.timings ?? {};
  return JSON.stringify(profiled ? [bin, p && [p.rate, cl, trcd, trp, tras, p.voltageMv]] : bin);
}

/** Equal for modules of the same spec, and only for them; absent where ranks are unknown. */
export function specKey(module: MemoryModule, profiled: boolean): string | undefined {
  const { capacity, ranks, chipWidth, ecc } = module;
  if (ranks === 'unknown') return undefined;
  return JSON.stringify([capacity, ranks, chipWidth, ecc, ratingKey(module, profiled)]);
}

/** Equal for modules of the same part, and only for them; absent without a part number. */
export function partKey({ maker, partNumber }: MemoryModule): string | undefined {
  return partNumber === undefined ? undefined : JSON.stringify([maker, partNumber]);
}
