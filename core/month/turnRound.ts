import type { Step } from '../walk/index.ts';
import { STEPS } from '../walk/index.ts';
import type { JobFact, JobRef, Marks } from './facts.ts';

/** Stretches of a job between its marks, in order. */
export const STRETCHES = ['inspect', 'plan', 'customer', 'parts', 'fit', 'prove'] as const;
/** See {@link STRETCHES}. */
export type Stretch = (typeof STRETCHES)[number];

/** How long something takes, hours: the middle one of all, and the middle half. */
export interface Spread {
  readonly jobs: number;
  readonly median: number;
  readonly low: number;
  readonly high: number;
}

/** A job with hours. */
export interface TimedJob extends JobRef {
  readonly hours: number;
}

const HOUR_MS = 3_600_000;

/** Hours from one moment to a later one; a clock that was set back makes no negative ones. */
const hoursBetween = (from: number, to: number): number => Math.max(0, to - from) / HOUR_MS;

/** Value at a share of sorted numbers, between neighbours in proportion (type 7 of Hyndman and Fan). */
function quantile(sorted: readonly number[], share: number): number {
  const at = (sorted.length - 1) * share;
  const low = sorted[Math.floor(at)] ?? 0;
  const high = sorted[Math.ceil(at)] ?? low;
  return low + (high - low) * (at - Math.floor(at));
}

/** The middle and the middle half; `undefined` of nothing. */
export function spreadOf(hours: readonly number[]): Spread | undefined {
  if (hours.length === 0) return undefined;
  const sorted = [...hours].sort((a, b) => a - b);
  return {
    jobs: sorted.length,
    median: quantile(sorted, 0.5),
    low: quantile(sorted, 0.25),
    high: quantile(sorted, 0.75),
  };
}

type Ends = readonly [from: number | undefined, to: number | undefined];

/** From and to of a stretch; where a job skipped a mark, the next earlier one counts. */
function endsOf(stretch: Stretch, marks: Marks): Ends {
  const { opened, found, quoted, accepted, received, fitted, closed } = marks;
  switch (stretch) {
    case 'inspect':
      return [opened, found];
    case 'plan':
      return [found, quoted];
    case 'customer':
      return [quoted, accepted];
    case 'parts':
      return [accepted, received];
    case 'fit':
      return [received ?? accepted ?? found, fitted];
    case 'prove':
      return [fitted, closed];
  }
}

/** A stretch of the jobs handed over, with each job's hours, the longest first. */
export interface TimedStretch {
  readonly stretch: Stretch;
  readonly spread: Spread | undefined;
  readonly jobs: readonly TimedJob[];
}

/** What took how long, of jobs handed over: all in all, and stretch by stretch. */
export function turnRound(closed: readonly JobFact[]): {
  readonly whole: Omit<TimedStretch, 'stretch'>;
  readonly stretches: readonly TimedStretch[];
} {
  const timed = (ends: (marks: Marks) => Ends) => {
    const jobs = closed.flatMap(({ id, number, customerName, marks }): TimedJob[] => {
      const [from, to] = ends(marks);
      if (from === undefined || to === undefined) return [];
      return [{ id, number, customerName, hours: hoursBetween(from, to) }];
    });
    jobs.sort((a, b) => b.hours - a.hours || a.number - b.number);
    return { spread: spreadOf(jobs.map(({ hours }) => hours)), jobs };
  };
  return {
    whole: timed(({ opened, closed: to }) => [opened, to]),
    stretches: STRETCHES.map((stretch) => ({
      stretch,
      ...timed((marks) => endsOf(stretch, marks)),
    })),
  };
}

/** Open jobs by what they wait for, each with how long nothing happened to it. */
export function waiting(
  open: readonly JobFact[],
  now: number,
): readonly { readonly step: Step; readonly jobs: readonly TimedJob[] }[] {
  return STEPS.flatMap((step) => {
    const jobs = open
      .filter(({ next }) => next === step)
      .map(({ id, number, customerName, marks }) => {
        const { closed: _closed, ...reached } = marks;
        const moments = Object.values(reached).filter((at) => at !== undefined && at <= now);
        const last = Math.max(marks.opened, ...(moments as number[]));
        return { id, number, customerName, hours: hoursBetween(last, now) };
      })
      .sort((a, b) => b.hours - a.hours || a.number - b.number);
    return jobs.length === 0 ? [] : [{ step, jobs }];
  });
}
