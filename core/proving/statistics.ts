/** Arithmetic mean; NaN for none. */
export function mean(values: readonly number[]): number {
  return values.reduce((sum, value) => sum + value, 0) / values.length;
}

/** Sample variance (n − 1); 0 for fewer than two. */
export function variance(values: readonly number[]): number {
  if (values.length < 2) return 0;
  const centre = mean(values);
  return values.reduce((sum, value) => sum + (value - centre) ** 2, 0) / (values.length - 1);
}

/** Two-sided 95 % points of Student's t for 1 to 20 degrees of freedom. */
const T_95 = [
  12.706, 4.303, 3.182, 2.776, 2.571, 2.447, 2.365, 2.306, 2.262, 2.228, 2.201, 2.179, 2.16, 2.145,
  2.131, 2.12, 2.11, 2.101, 2.093, 2.086,
];

/** Two-sided 95 % point of the normal distribution. */
export const Z_95 = 1.96;

/** Two-sided 95 % point of Student's t; fractions of a degree round down, the cautious way. */
export function t95(degrees: number): number {
  const whole = Math.max(1, Math.floor(degrees));
  return T_95[whole - 1] ?? Z_95 + 2.4 / whole;
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
