export { LEDGER_MODES, ledgerEntry, provenParts } from './entry.ts';
export type { ClosedJob, LedgerEntry, LedgerRatios, LedgerGain, LedgerMode } from './entry.ts';
export { LEAST_JOBS, MOST_JOBS, refitShares } from './shares.ts';
export type { BandScore, RefittedClass } from './shares.ts';
