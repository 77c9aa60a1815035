export { deeds } from './deeds.ts';
export { decisions, evidence } from './evidence.ts';
export { customers, machines, makers, modules, shopTerms } from './library.ts';
export { jobEvents, jobs, ledger, measurements, snapshots } from './jobs.ts';
export { drawer, quotes } from './quotes.ts';
export { benchLog, coverPhotos, memoryTests, returns } from './bench.ts';
export { exercises, practiceRuns } from './practice.ts';
export { doorTerms, probeResults, tickets } from './measuring.ts';
