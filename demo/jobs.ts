import { EARLY_JOBS } from './earlyJobs.ts';
import { FILM_CLUB_JOBS } from './filmClub.ts';
import type { DemoJob } from './job.ts';
import { LATER_JOBS } from './laterJobs.ts';

/** Jobs of the demo world. The oldest open one leads the bench list. */
export const JOBS: readonly DemoJob[] = [...EARLY_JOBS, ...LATER_JOBS, ...FILM_CLUB_JOBS];
