import { mean, tPoint, variance } from './statistics.ts';

/** Runs on each side below which nothing can be said, and what the bench should take. */
export const RUNS = { least: 2, advised: 3, most: 200, settleLimit: 30 } as const;

/**
 * Runs of one side of a comparison. Runs of one sitting share its level – heat, what else ran, how
 * memory was handed out – and are not independent; sittings are.
 */
export interface RunSet {
  /** In the order taken; warm-up already dropped. */
  readonly sittings: readonly (readonly number[])[];
  /** What figures were rounded to, in their unit; found from their digits where absent. */
  readonly step?: number | undefined;
  /** Its page said that windows differed or that it slowed down: its level is trusted less. */
  readonly isDoubtful?: boolean | undefined;
}

/** How far the level wanders from sitting to sitting of one machine, as a share (log scale). */
export interface LevelSpread {
  readonly sd: number;
  /** How well it is known, as degrees of freedom; infinite for an assumption. */
  readonly degrees: number;
  readonly from: 'assumed' | 'shop';
}

/** Until the shop's own repeated sittings say better. */
export const ASSUMED_LEVEL: LevelSpread = { sd: 0.01, degrees: Infinity, from: 'assumed' };
/** Repeated sittings below which the shop's own figure is not used. */
const LEAST_DEGREES = 3;

/** Runs by sitting, from one row of runs and the sizes of its sittings; what is over is the last one's. */
export function sittingsOf(runs: readonly number[], sizes: readonly number[]): number[][] {
  const sittings: number[][] = [];
  let at = 0;
  for (const size of sizes) {
    if (size > 0 && at < runs.length) sittings.push(runs.slice(at, at + size));
    at += size;
  }
  if (at < runs.length) sittings.push(runs.slice(at));
  return sittings;
}

/**
 * What some figures were rounded to: the last decimal any of them shows, 1 for whole figures (zeros at
 * their end are taken as measured).
 */
export function stepOf(figures: readonly number[]): number {
  let decimals = 0;
  for (const figure of figures) {
    const text = String(figure);
    const [, exponent = '0'] = text.split('e');
    const [, fraction = ''] = (text.split('e')[0] ?? '').split('.');
    decimals = Math.max(decimals, fraction.length - Number(exponent));
  }
  return 10 ** -decimals;
}

/** A side reduced to what a comparison needs. Variances are shares of the mean, squared. */
export interface SideFigures {
  readonly mean: number;
  readonly runs: number;
  readonly sittings: number;
  /** Of a single run about its sitting's level, or about its drift there. */
  readonly within: number;
  readonly withinDegrees: number;
  /** Of sitting means about the side's mean, summed; 0 for one sitting. */
  readonly between: number;
  /** Of the mean for rounding: all runs may be off the same way, so more runs do not help. */
  readonly rounding: number;
  /** Change a run where the runs of a sitting drift, as a share of the mean. */
  readonly trend: number | undefined;
  readonly isDoubtful: boolean;
}

/** See {@link SideFigures}. */
export function figuresOf({ sittings, step, isDoubtful = false }: RunSet): SideFigures {
  const levels = sittings.map(mean);
  const centre = mean(levels);
  let squares = 0;
  let degrees = 0;
  const slopes: number[] = [];
  for (const sitting of sittings) {
    const { slope, residual, lost } = scatterOf(sitting);
    squares += residual;
    degrees += sitting.length - lost;
    if (slope !== undefined) slopes.push(slope / centre);
  }
  const all = sittings.flat();
  const within = degrees > 0 ? squares / degrees / centre ** 2 : 0;
  return {
    ...{ mean: centre, runs: all.length, sittings: sittings.length, isDoubtful },
    ...{ within, withinDegrees: degrees },
    between: levels.reduce((sum, level) => sum + (level / centre - 1) ** 2, 0),
    rounding: roundingVariance(all, step ?? stepOf(all)) / centre ** 2,
    trend: slopes.length > 0 ? mean(slopes) : undefined,
  };
}

/**
 * What rounding leaves unknown of a mean. Where runs scatter by less than the step they all round the
 * same way: d²/12, however many there are. Where they scatter by more, the errors even out and are
 * part of the scatter; between the two the error of a rounded normal figure fades as exp(−2π²s²/d²).
 */
function roundingVariance(runs: readonly number[], step: number): number {
  const uniform = step ** 2 / 12;
  const scatter = Math.max(0, variance(runs) - uniform);
  return uniform * Math.exp((-2 * Math.PI ** 2 * scatter) / step ** 2);
}

/** Runs in a sitting below which a drift cannot be told from scatter. */
const TREND = { leastRuns: 6, chance: 0.01 } as const;

/**
 * Squared deviations within one sitting. Where runs drift beyond doubt they are taken about the line
 * they drift along: the level of that sitting is its middle all the same.
 */
function scatterOf(runs: readonly number[]): {
  residual: number;
  lost: number;
  slope: number | undefined;
} {
  const centre = mean(runs);
  const total = runs.reduce((sum, run) => sum + (run - centre) ** 2, 0);
  const plain = { residual: total, lost: 1, slope: undefined };
  const n = runs.length;
  if (n < TREND.leastRuns) return plain;
  const middle = (n - 1) / 2;
  const spread = (n * (n * n - 1)) / 12;
  const slope = runs.reduce((sum, run, at) => sum + (at - middle) * (run - centre), 0) / spread;
  const residual = Math.max(0, total - slope ** 2 * spread);
  const t = Math.abs(slope) / Math.sqrt(residual / (n - 2) / spread);
  return t > tPoint(TREND.chance, n - 2) ? { residual, lost: 2, slope } : plain;
}

/**
 * The shop's own spread of levels, from sides with more than one sitting; `undefined` while there are
 * too few.
 */
export function levelSpread(sets: readonly RunSet[]): LevelSpread | undefined {
  let squares = 0;
  let degrees = 0;
  for (const set of sets) {
    if (set.sittings.length < 2) continue;
    const { between, within, runs, sittings } = figuresOf(set);
    const more = sittings - 1;
    // Means of sittings scatter by what is within them as well.
    squares += Math.max(0, between - more * within * (sittings / runs));
    degrees += more;
  }
  if (degrees < LEAST_DEGREES) return undefined;
  return { sd: Math.sqrt(squares / degrees), degrees, from: 'shop' };
}
