import { quoteState, taxWithin } from '../quoting/index.ts';
import { compareNames, daysFrom } from '../units/index.ts';
import type { JobFact, JobRef, ReturnFact, SoldModule } from './facts.ts';
import { shareOf } from './rates.ts';
import type { Share } from './rates.ts';
import { turnRound, waiting } from './turnRound.ts';

/** A month of the shop: from its first moment to the first of the next, ms since 1970. */
export interface Period {
  readonly from: number;
  readonly to: number;
}

/** A job that was late. */
export interface LateJob extends JobRef {
  readonly days: number;
}

/** How quotes issued in the month stand. */
export const QUOTE_STANDS = [
  'accepted',
  'declined',
  'change asked',
  'open',
  'expired',
  'replaced',
] as const;
/** See {@link QUOTE_STANDS}. */
export type QuoteStand = (typeof QUOTE_STANDS)[number];

/** What returns are told by. */
export const RETURNS_BY = ['part', 'maker', 'supplier', 'machine', 'fault'] as const;
/** See {@link RETURNS_BY}. */
export type ReturnsBy = (typeof RETURNS_BY)[number];

/** What came back of a kind, against how many were sold. */
export interface ReturnRow {
  /** Empty = nobody knows. */
  readonly name: string;
  readonly back: number;
  /** Absent for faults: what was not faulty has none. */
  readonly sold: number | undefined;
  readonly share: Share | undefined;
  readonly jobs: readonly JobRef[];
}

const within = ({ from, to }: Period, at: number | undefined): boolean =>
  at !== undefined && at >= from && at < to;

const refOf = ({ id, number, customerName }: JobRef): JobRef => ({ id, number, customerName });
const unique = (jobs: readonly JobRef[]): JobRef[] => [
  ...new Map(jobs.map((job) => [job.id, refOf(job)])).values(),
];

/**
 * Quotes issued in the month, by how they stand on a day, with the reasons customers gave.
 *
 * @param today - YYYY-MM-DD
 */
export function quotesOf(jobs: readonly JobFact[], period: Period, today: string) {
  const issued = jobs.flatMap((job) =>
    job.quotes
      .filter(({ issuedAt }) => within(period, issuedAt))
      .map((quote) => ({
        job,
        quote,
        stand: quoteState({ ...quote, answer: quote.answer }, today),
      })),
  );
  const of = (stand: QuoteStand) =>
    issued.filter((one) => one.stand === stand).map(({ job }) => refOf(job));
  const stands = QUOTE_STANDS.map((stand) => ({ stand, jobs: of(stand) }));
  // A version a later one took the place of was never decided.
  const decided = of('accepted').length + of('declined').length;
  return {
    issued: issued.length,
    stands,
    acceptedShare: shareOf(of('accepted').length, decided),
    reasons: issued
      .filter(({ stand, quote }) => stand === 'declined' && quote.reason.trim() !== '')
      .map(({ job, quote }) => ({ reason: quote.reason.trim(), job: refOf(job) })),
  };
}

/**
 * Jobs handed over in the month that were promised for a day: in time, or late by days.
 *
 * @param dayOf - the day of a moment at the shop, YYYY-MM-DD
 */
export function promisesOf(closed: readonly JobFact[], dayOf: (at: number) => string) {
  const promised = closed.flatMap((job) => {
    const { deadline, marks } = job;
    if (deadline === null || marks.closed === undefined) return [];
    const days = daysFrom(deadline, dayOf(marks.closed));
    return [{ ...refOf(job), days: Math.max(0, days) }];
  });
  const missed: LateJob[] = promised
    .filter(({ days }) => days > 0)
    .sort((a, b) => b.days - a.days || a.number - b.number);
  return {
    kept: promised.filter(({ days }) => days === 0).map(refOf),
    missed,
    keptShare: shareOf(promised.length - missed.length, promised.length),
    withoutDay: closed.length - promised.length,
  };
}

/**
 * What came back in a period, against what was sold in it, by what it was. A module sold earlier can
 * come back later, so shares are of a long period or of nothing.
 */
export function returnsOf(
  returns: readonly ReturnFact[],
  sold: readonly SoldModule[],
): Readonly<Record<ReturnsBy, readonly ReturnRow[]>> {
  const rows = (by: ReturnsBy): ReturnRow[] => {
    const nameOf = (one: ReturnFact) => one[by];
    const names = [...new Set(returns.map(nameOf))];
    return names
      .map((name): ReturnRow => {
        const back = returns.filter((one) => nameOf(one) === name);
        const out = by === 'fault' ? undefined : sold.filter((one) => one[by] === name).length;
        return {
          ...{ name, back: back.length, sold: out },
          // More came back than was sold: it was sold before there were records, and has no share.
          share: out === undefined || out < back.length ? undefined : shareOf(back.length, out),
          jobs: unique(back.map(({ job }) => job)),
        };
      })
      .sort((a, b) => b.back - a.back || compareNames(a.name, b.name));
  };
  return Object.fromEntries(RETURNS_BY.map((by) => [by, rows(by)])) as Record<
    ReturnsBy,
    ReturnRow[]
  >;
}

/** Money of jobs handed over: what customers paid, and what is left of the parts. Minor units. */
export function moneyOf(closed: readonly JobFact[]) {
  const paid = closed.flatMap(({ money, ...job }) =>
    money ? [{ ...money, job: refOf(job) }] : [],
  );
  const sum = (pick: (one: (typeof paid)[number]) => number) =>
    paid.reduce((total, one) => total + pick(one), 0);
  const known = paid.filter(({ cost }) => cost !== null);
  return {
    parts: sum(({ parts }) => parts),
    labour: sum(({ labour }) => labour),
    credit: sum(({ credit }) => credit),
    /** Of jobs whose parts' costs are all known. */
    earnedOnParts: known.reduce(
      (total, { parts, taxPercent, cost }) =>
        total + parts - taxWithin(parts, taxPercent) - (cost ?? 0),
      0,
    ),
    costUnknown: paid.filter(({ cost }) => cost === null).map(({ job }) => job),
    jobs: paid
      .map(({ job, parts, labour, credit }) => ({ ...job, paid: parts + labour - credit }))
      .sort((a, b) => b.paid - a.paid || a.number - b.number),
    withoutQuote: closed.filter(({ money }) => money === null).map(refOf),
  };
}

/** What a month is made of. */
export interface MonthInput {
  readonly period: Period;
  readonly now: number;
  readonly dayOf: (at: number) => string;
  /** Every job that was open or quoted in the month, and every one open now. */
  readonly jobs: readonly JobFact[];
  /** Of the year that ends with the month. */
  readonly returns: readonly ReturnFact[];
  readonly soldInYear: readonly SoldModule[];
}

/** A month as its owner reads it. */
export function monthOf({ period, now, dayOf, jobs, returns, soldInYear }: MonthInput) {
  const closed = jobs.filter(({ marks }) => within(period, marks.closed));
  const open = jobs.filter(({ next }) => next !== null);
  return {
    opened: jobs.filter(({ marks }) => within(period, marks.opened)).map(refOf),
    closed: closed.map(refOf),
    turnRound: turnRound(closed),
    waiting: waiting(open, now),
    quotes: quotesOf(jobs, period, dayOf(now)),
    promises: promisesOf(closed, dayOf),
    returns: {
      inMonth: returns
        .filter(({ at }) => within(period, at))
        .map(({ job, part, fault }) => ({ ...refOf(job), part, fault })),
      soldInYear: soldInYear.length,
      inYear: returnsOf(returns, soldInYear),
    },
    money: moneyOf(closed),
  };
}

/** See {@link monthOf}. */
export type Month = ReturnType<typeof monthOf>;
