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
  const modules = parts.map(({ module }) => module);
  // Every two of them: a module whose label leaves a timing out agrees with two that differ in it.
  const all = (test: (a: MemoryModule, b: MemoryModule) => boolean) =>
    modules.every((a, at) => modules.slice(at + 1).every((b) => test(a, b)));
  if (modules.length < 2) return 'one kit';
  if (!all((a, b) => a.generation === b.generation && a.buffering === b.buffering)) return 'no go';
  if (!all((a, b) => a.capacity === b.capacity)) return 'uneven';
  const soldered = parts.some((part) => part.soldered);
  if (!soldered && all(isSameKit)) return 'one kit';
  if (!soldered && all(isSamePart)) return 'same part';
  return all((a, b) => isSameSpec(a, b, profiled)) ? 'same spec' : 'same size';
}

const isSameKit = (a: MemoryModule, b: MemoryModule): boolean =>
  a.kitId !== undefined && a.kitId === b.kitId;

/** Identical part number and revision from the same maker. */
export function isSamePart(a: MemoryModule, b: MemoryModule): boolean {
  // A number without its maker still identifies; the same number from two makers does not.
  return a.partNumber !== undefined && a.partNumber === b.partNumber && a.maker === b.maker;
}

/** Whether two modules of equal size agree in all a controller sees. Unknown ranks agree with none. */
export function isSameSpec(a: MemoryModule, b: MemoryModule, profiled: boolean): boolean {
  return specsAgree(specOf(a, profiled), specOf(b, profiled));
}

/** Generation, rate, timings and voltage alone: all that can be asked of modules of unlike size. */
export function isSameRating(a: MemoryModule, b: MemoryModule, profiled: boolean): boolean {
  return ratingsAgree(ratingOf(a, profiled), ratingOf(b, profiled));
}

/** What modules of a rating have in common: figures that are stated or not, beside those that must be. */
export interface Rating {
  /** Equal for modules that agree, whatever their timings. */
  readonly base: string;
  /** tRCD, tRP and tRAS of the bin, then of the profile; one that is not stated is unknown. */
  readonly timings: readonly (number | undefined)[];
  /** Equal for ratings that are the same in all, unstated timings included. */
  readonly key: string;
}

/** See {@link isSameRating}, for comparing one module with many. */
export function ratingOf(module: MemoryModule, profiled: boolean): Rating {
  const { generation, rate, timings: t, voltagesMv } = module;
  const p = profiled ? module.profile : undefined;
  const base = JSON.stringify([
    ...[generation, rate, t.cl, voltagesMv],
    p && [p.rate, p.timings.cl, p.voltageMv],
  ]);
  const timings = [t.trcd, t.trp, t.tras, p?.timings.trcd, p?.timings.trp, p?.timings.tras];
  return { base, timings, key: `${base} ${timings.join()}` };
}

/** Whether two ratings may be the same: a timing that one label does not state is no difference. */
export function ratingsAgree(a: Rating, b: Rating): boolean {
  if (a.key === b.key) return true;
  if (a.base !== b.base) return false;
  return a.timings.every((one, at) => {
    const other = b.timings[at];
    return one === undefined || other === undefined || one === other;
  });
}

/** A spec: size, organisation, ECC and rating; `known` is false where ranks are not. */
export interface Spec {
  readonly known: boolean;
  readonly body: string;
  readonly rating: Rating;
}

/** See {@link isSameSpec}, for comparing one module with many. */
export function specOf(module: MemoryModule, profiled: boolean): Spec {
  const { capacity, ranks, chipWidth, ecc } = module;
  return {
    known: ranks !== 'unknown',
    body: JSON.stringify([capacity, ranks, chipWidth, ecc]),
    rating: ratingOf(module, profiled),
  };
}

/** Whether two specs may be the same; unknown ranks agree with none. */
export function specsAgree(a: Spec, b: Spec): boolean {
  return a.known && b.known && a.body === b.body && ratingsAgree(a.rating, b.rating);
}

/** Equal for modules of the same part, and only for them; absent without a part number. */
export function partKey({ maker, partNumber }: MemoryModule): string | undefined {
  return partNumber === undefined ? undefined : JSON.stringify([maker, partNumber]);
}
