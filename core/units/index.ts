export { exhausted } from './assert.ts';
export { dayOf, daysFrom, daysLater } from './days.ts';
export type { Brand } from './brand.ts';
export { gib, isNonBinary, sumGib } from './capacity.ts';
export type { Gibibytes } from './capacity.ts';
export { compareNames } from './naming.ts';
export {
  RATE_RANGE,
  clockPeriodNs,
  compareRates,
  dataRate,
  exactRate,
  firstWordNs,
  lowestRate,
  peakBandwidth,
  readRate,
} from './rate.ts';
export type {
  DataRate,
  GigabytesPerSecond,
  Nanoseconds,
  Picoseconds,
  RateReading,
} from './rate.ts';
export { err, ok } from './result.ts';
export type { Result } from './result.ts';
export { seededRandom } from './random.ts';
export {
  DATE_STYLES,
  DEFAULT_WRITING,
  NUMBER_STYLES,
  decimals,
  figuresTogether,
  numberSigns,
  wholeNumber,
  writeAs,
  writing,
} from './writing.ts';
export type { DateStyle, NumberStyle, Writing } from './writing.ts';
