export { countDifferences } from './count.ts';
export type { CountResult, CountedPiece } from './count.ts';
export { LABEL_SHEETS, labelPlaces } from './labelSheets.ts';
export type { LabelPlace, LabelSheet } from './labelSheets.ts';
export {
  LIST_FIELDS,
  LIST_ROW_LIMIT,
  guessColumns,
  lackingColumns,
  readListAmount,
  readListCount,
  readPriceList,
} from './priceList.ts';
export type {
  CostJump,
  KnownOffer,
  ListColumns,
  ListFault,
  ListField,
  ListedModule,
  ListedPrice,
  PriceList,
} from './priceList.ts';
export { earnedOn, priceFromCost } from './pricing.ts';
export type { PricingRule } from './pricing.ts';
export { valueOf } from './value.ts';
export type { StockValue, ValuedPiece } from './value.ts';
