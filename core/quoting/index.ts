export { amountText, isCurrency, minorDigits, readAmount, sharesOf } from './amounts.ts';
export { CATALOGUE_ROW_LIMIT, catalogueFromRows, catalogueToRows } from './catalogueTable.ts';
export type { CatalogueFault, Contradiction, TabledEntry } from './catalogueTable.ts';
export {
  DEFAULT_TERMS,
  PAPERS,
  QUOTE_ANSWERS,
  quoteState,
  sumQuote,
  taxWithin,
  wholeLines,
} from './quote.ts';
export type { Paper, PricedPart, QuoteAnswer, QuoteLine, QuoteSum, ShopTerms } from './quote.ts';
