import type { Brand } from './brand.ts';

/**
 * Data rate by its trade name, in MT/s: 2666 stands for 2666⅔. Names go across every boundary;
 * arithmetic goes through {@link exactRate}.
 */
export type DataRate = Brand<number, 'MT/s'>;

/** Peak or measured transfer in GB/s (10⁹ bytes a second). Never GiB. */
export type GigabytesPerSecond = Brand<number, 'GB/s'>;

/** Time in nanoseconds. */
export type Nanoseconds = Brand<number, 'ns'>;

/** Time in whole picoseconds, as SPD and the standards' tables give it. */
export type Picoseconds = Brand<number, 'ps'>;

/** Rates a memory part may carry at all; outside it is a typing slip. */
export const RATE_RANGE = { min: 100, max: 20_000 } as const;

/**
 * Casts a rate name.
 *
 * @param name - MT/s, within {@link RATE_RANGE}
 * @throws RangeError outside the range: a caller's bug, since input is checked at the door
 */
export function dataRate(name: number): DataRate {
  if (!(name >= RATE_RANGE.min && name <= RATE_RANGE.max))
    throw new RangeError(`expected a data rate of 100 to 20000 MT/s, received ${name}`);
  return name as DataRate;
}

const STEP = 200 / 3; // 66⅔ MT/s: the third of a 200 MHz reference, doubled

/**
 * The rate a name stands for, in MT/s. Names are rounded: a name within 1 MT/s of a multiple of
 * 66⅔ means that multiple, so 2666 → 2666⅔, 667 → 666⅔, 3733 → 3733⅓; others stand as they are.
 */
export function exactRate(rate: DataRate): number {
  const steps = Math.round(rate / STEP);
  // From the integer, not from STEP: 40 × 66.67 in floating point is not 2666⅔.
  const multiple = (steps * 200) / 3;
  return Math.abs(multiple - rate) <= 1 ? multiple : rate;
}

/** Compares two rates by what they stand for; 666 and 667 are the same rate. Sorts ascending. */
export function compareRates(a: DataRate, b: DataRate): number {
  return exactRate(a) - exactRate(b);
}

/** The lower of some rates; `undefined` for none. */
export function lowestRate(rates: readonly DataRate[]): DataRate | undefined {
  return rates.reduce<DataRate | undefined>(
    (low, rate) => (low === undefined || compareRates(rate, low) < 0 ? rate : low),
    undefined,
  );
}

/** Clock period tCK in ns: two transfers a clock, so 2000 / r. */
export function clockPeriodNs(rate: DataRate): Nanoseconds {
  return (2000 / exactRate(rate)) as Nanoseconds;
}

/**
 * Time from the read command to the first word, in ns: CL × 2000 / r.
 * Compare kits by this, never by bare CL.
 *
 * @param cl - CAS latency in clocks
 */
export function firstWordNs(cl: number, rate: DataRate): Nanoseconds {
  return ((cl * 2000) / exactRate(rate)) as Nanoseconds;
}

/**
 * Peak bandwidth of a bus in GB/s (decimal): transfers a second × bytes a transfer.
 *
 * @param bits - width of the bus; one DIMM channel is 64, ECC bits not counted
 * @example peakBandwidth(dataRate(3200), 64) // 25.6
 */
export function peakBandwidth(rate: DataRate, bits: number): GigabytesPerSecond {
  return ((exactRate(rate) * (bits / 8)) / 1000) as GigabytesPerSecond;
}

/** How a reading of a program or firmware screen was taken. */
export interface RateReading {
  /** The data rate the reading means. */
  readonly rate: DataRate;
  /** `clock`: the screen showed the I/O clock, half the data rate. */
  readonly readAs: 'clock' | 'data rate';
  /** The reading fits both ways; it was taken as the clock. */
  readonly ambiguous: boolean;
}

const RATE_TOLERANCE = 0.02; // screens measure clocks; a 100 MHz reference wanders by about a percent

/**
 * Takes a rate read off a screen as clock or data rate, and says which.
 *
 * Many screens call 1600 MHz what the label sells as 3200: half the rated figure is not "half
 * speed". A reading that is half the rated rate is the clock. One that fits both ways (1600 on a
 * kit rated 3600: a clock of 1600 → 3200, or a data rate of 1600) is taken as the clock and
 * marked ambiguous.
 *
 * @param reading - figure on the screen, MHz or MT/s
 * @param rated - the rate the modules should run at
 * @param standardRates - what the generation runs at when not at its rated rate
 */
export function readRate(
  reading: number,
  rated: DataRate,
  standardRates: readonly DataRate[],
): RateReading {
  const close = (a: number, b: number) => Math.abs(a - b) <= b * RATE_TOLERANCE;
  // A module can run at its rating or at any standard step below it, never above.
  const candidates = [rated, ...standardRates.filter((rate) => compareRates(rate, rated) < 0)];
  const asData = candidates.find((rate) => close(reading, exactRate(rate)));
  const asClock = candidates.find((rate) => close(reading * 2, exactRate(rate)));
  if (asClock === rated) return { rate: rated, readAs: 'clock', ambiguous: false };
  if (asData === rated) return { rate: rated, readAs: 'data rate', ambiguous: false };
  if (asClock !== undefined)
    return { rate: asClock, readAs: 'clock', ambiguous: asData !== undefined };
  return { rate: asData ?? dataRate(reading), readAs: 'data rate', ambiguous: false };
}
