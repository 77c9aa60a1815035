/** Arithmetic mean; NaN for none. */
export function mean(values: readonly number[]): number {
  return values.reduce((sum, value) => sum + value, 0) / values.length;
}

/** Middle value, the upper of two; NaN for none. */
export function median(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.floor(sorted.length / 2)] ?? NaN;
}

/** Sample variance (n − 1); 0 for fewer than two. */
export function variance(values: readonly number[]): number {
  if (values.length < 2) return 0;
  const centre = mean(values);
  return values.reduce((sum, value) => sum + (value - centre) ** 2, 0) / (values.length - 1);
}

/** Two-sided 95 % point of the normal distribution. */
export const Z_95 = 1.96;

/**
 * Chance that Student's t lies farther from 0 than this, both tails together: the regularised
 * incomplete beta function I(df/2, ½) at df/(df + t²).
 *
 * @param degrees - of freedom, more than 0; fractions are fine, infinity is the normal distribution
 */
export function tailChance(t: number, degrees: number): number {
  if (degrees > 1e6) return tailChance(t, 1e6);
  return incompleteBeta(degrees / (degrees + t * t), degrees / 2, 0.5);
}

/** The t beyond which both tails together hold this chance: `tPoint(0.05, 10)` is 2.228. */
export function tPoint(chance: number, degrees: number): number {
  let [low, high] = [0, 2];
  while (tailChance(high, degrees) > chance && high < 1e6) [low, high] = [high, high * 2];
  for (let round = 0; round < 40; round++) {
    const middle = (low + high) / 2;
    if (tailChance(middle, degrees) > chance) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}

/** Two-sided 95 % point of Student's t. */
export function t95(degrees: number): number {
  return tPoint(0.05, Math.max(1, degrees));
}

/** Welch–Satterthwaite degrees of freedom for the difference of two means. */
export function welchDegrees(
  a: { error: number; n: number },
  b: { error: number; n: number },
): number {
  // `error` is the squared standard error of each mean.
  const spread = a.error ** 2 / (a.n - 1) + b.error ** 2 / (b.n - 1);
  return spread === 0 ? Infinity : (a.error + b.error) ** 2 / spread;
}

/** I(x; a, b), by the continued fraction of Lentz; good to about 1e-12. */
function incompleteBeta(x: number, a: number, b: number): number {
  if (x <= 0) return 0;
  if (x >= 1) return 1;
  const front = Math.exp(
    logGamma(a + b) - logGamma(a) - logGamma(b) + a * Math.log(x) + b * Math.log1p(-x),
  );
  // The fraction converges fast only on this side of the mean; the other side mirrors.
  return x < (a + 1) / (a + b + 2)
    ? (front * betaFraction(x, a, b)) / a
    : 1 - (front * betaFraction(1 - x, b, a)) / b;
}

function betaFraction(x: number, a: number, b: number): number {
  const TINY = 1e-300;
  const whole = (value: number) => (Math.abs(value) < TINY ? TINY : value);
  let c = 1;
  let d = 1 / whole(1 - ((a + b) * x) / (a + 1));
  let sum = d;
  for (let m = 1; m < 300; m++) {
    const even = (m * (b - m) * x) / ((a + 2 * m - 1) * (a + 2 * m));
    d = 1 / whole(1 + even * d);
    c = whole(1 + even / c);
    sum *= d * c;
    const odd = (-(a + m) * (a + b + m) * x) / ((a + 2 * m) * (a + 2 * m + 1));
    d = 1 / whole(1 + odd * d);
    c = whole(1 + odd / c);
    sum *= d * c;
    if (Math.abs(d * c - 1) < 1e-14) break;
  }
  return sum;
}

/** ln Γ by Stirling's series, after shifting small arguments up. */
function logGamma(x: number): number {
  let shift = 0;
  let z = x;
  for (; z < 10; z++) shift += Math.log(z);
  const inverse = 1 / (z * z);
  const series = (1 / 12 - inverse * (1 / 360 - inverse * (1 / 1260 - inverse / 1680))) / z;
  return (z - 0.5) * Math.log(z) - z + 0.5 * Math.log(2 * Math.PI) + series - shift;
}
