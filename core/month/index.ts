export type {
  JobFact,
  JobRef,
  Marks,
  MoneyFact,
  QuoteFact,
  ReturnFact,
  SoldModule,
} from './facts.ts';
export { QUOTE_STANDS, RETURNS_BY, monthOf } from './month.ts';
export type { Month, MonthInput, Period, QuoteStand, ReturnRow, ReturnsBy } from './month.ts';
export { FEW, TOO_FEW, shareOf, smallness } from './rates.ts';
export type { Share } from './rates.ts';
export { STRETCHES, spreadOf } from './turnRound.ts';
export type { Spread, Stretch, TimedJob } from './turnRound.ts';
