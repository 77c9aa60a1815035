/** A share of a few or many, with what it may well be in truth. */
export interface Share {
  readonly of: number;
  readonly share: number;
  /** With 95 % certainty. */
  readonly low: number;
  readonly high: number;
}

/** 95 % of a normal distribution lie within this many standard deviations. */
const Z = 1.959964;

/**
 * A share with its 95 % interval by Wilson's score, which holds for small numbers too.
 *
 * Source: E. B. Wilson, Probable inference, the law of succession, and statistical inference (1927).
 *
 * @returns `undefined` of nothing
 */
export function shareOf(hits: number, of: number): Share | undefined {
  if (of === 0) return undefined;
  const share = hits / of;
  const spread = 1 + (Z * Z) / of;
  const middle = (share + (Z * Z) / (2 * of)) / spread;
  const half = (Z / spread) * Math.sqrt((share * (1 - share)) / of + (Z * Z) / (4 * of * of));
  return { of, share, low: Math.max(0, middle - half), high: Math.min(1, middle + half) };
}

/** Fewer than this tell nothing of a rate. */
export const TOO_FEW = 5;
/** Fewer than this tell a rate roughly. */
export const FEW = 20;

/** How much a number of cases tells. */
export const smallness = (of: number): 'too few' | 'few' | 'enough' =>
  of < TOO_FEW ? 'too few' : of < FEW ? 'few' : 'enough';
