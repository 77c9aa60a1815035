export { decisions, evidence } from './evidence.ts';
export { customers, machines, makers, modules } from './library.ts';
export { jobEvents, jobs, measurements, snapshots } from './jobs.ts';
