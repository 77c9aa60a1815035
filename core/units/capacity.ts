import type { Brand } from './brand.ts';

/** Memory capacity in GiB (2³⁰ bytes). What the trade prints as "GB" on a module. */
export type Gibibytes = Brand<number, 'GiB'>;

/**
 * Casts a number of GiB.
 *
 * @param value - GiB, finite and not negative
 * @throws RangeError for anything else: a caller's bug, since input is checked at the door
 */
export function gib(value: number): Gibibytes {
  if (!Number.isFinite(value) || value < 0)
    throw new RangeError(`expected a capacity of 0 GiB or more, received ${value}`);
  return value as Gibibytes;
}

/** Sums capacities, in GiB. */
export function sumGib(values: Iterable<number>): Gibibytes {
  let total = 0;
  for (const value of values) total += value;
  return total as Gibibytes;
}

/**
 * Whether a capacity is "non-binary": not a whole power of two in MiB (12, 24, 48 GB modules).
 * Older controllers can address only the powers of two.
 */
export function isNonBinary(capacity: Gibibytes): boolean {
  const mebibytes = capacity * 1024;
  return !Number.isInteger(Math.log2(mebibytes));
}
