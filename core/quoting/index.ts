export { DEFAULT_TERMS, QUOTE_ANSWERS, quoteState, sumQuote, taxWithin } from './quote.ts';
export type { PricedPart, QuoteAnswer, QuoteLine, QuoteSum, ShopTerms } from './quote.ts';
