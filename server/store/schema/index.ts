export { customers, machines, modules } from './library.ts';
export { jobEvents, jobs, measurements, snapshots } from './jobs.ts';
