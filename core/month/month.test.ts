import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { hoursText, shareText, smallText, spreadText } from '../explaining/index.ts';
import { STEPS } from '../walk/index.ts';
import { QUOTE_STANDS, monthOf, shareOf, spreadOf } from './index.ts';
import type { JobFact, ReturnFact, SoldModule } from './index.ts';

const HOUR = 3_600_000;
const DAY = 24 * HOUR;
const MAY = { from: Date.UTC(2026, 4, 1), to: Date.UTC(2026, 5, 1) };
const dayOf = (at: number) => new Date(at).toISOString().slice(0, 10);
const at = (day: number, hour = 0) => Date.UTC(2026, 4, day, hour);

let numbers = 0;
function fact(more: Partial<JobFact> = {}): JobFact {
  const number = ++numbers;
  return {
    ...{ id: `j${String(number)}`, number, customerName: 'Net loft', deadline: null, next: null },
    ...{ marks: { opened: at(2), closed: at(4) }, quotes: [], sold: [], money: null, ...more },
  };
}
const month = (jobs: readonly JobFact[], more: object = {}) =>
  monthOf({ period: MAY, now: at(20), dayOf, jobs, returns: [], soldInYear: [], ...more });

describe('turn-round', () => {
  test('goes from mark to mark, and over what was skipped', () => {
    const whole = fact({
      marks: {
        ...{ opened: at(2), found: at(2, 2), quoted: at(2, 5), accepted: at(3, 5) },
        ...{ received: at(6, 5), fitted: at(6, 6), closed: at(6, 9) },
      },
    });
    const fromDrawer = fact({
      marks: {
        opened: at(2),
        found: at(2, 1),
        accepted: at(2, 3),
        fitted: at(2, 4),
        closed: at(2, 5),
      },
    });
    const { turnRound } = month([whole, fromDrawer]);
    const hours = Object.fromEntries(
      turnRound.stretches.map(({ stretch, jobs }) => [stretch, jobs.map((job) => job.hours)]),
    );
    expect(hours).toEqual({
      ...{ inspect: [2, 1], plan: [3], customer: [24], parts: [72], fit: [1, 1], prove: [3, 1] },
    });
    expect(turnRound.whole.jobs.map((job) => job.hours)).toEqual([4 * 24 + 9, 5]);
  });

  test('a clock that was set back makes nothing negative', () => {
    const { turnRound } = month([fact({ marks: { opened: at(9), found: at(3), closed: at(5) } })]);
    for (const { jobs } of [turnRound.whole, ...turnRound.stretches])
      for (const { hours } of jobs) expect(hours).toBeGreaterThanOrEqual(0);
  });

  test('counts jobs handed over in the month: its first moment, and not the next one’s', () => {
    const closed = [MAY.from - 1, MAY.from, MAY.to - 1, MAY.to].map((moment) =>
      fact({ marks: { opened: MAY.from - 9 * DAY, closed: moment } }),
    );
    expect(month(closed).closed.map(({ id }) => id)).toEqual([closed[1]?.id, closed[2]?.id]);
  });

  test('the middle and the middle half are of the sorted hours', () => {
    expect(spreadOf([9, 1, 3])).toEqual({ jobs: 3, median: 3, low: 2, high: 6 });
    expect(spreadOf([])).toBeUndefined();
    fc.assert(
      fc.property(fc.array(fc.nat(5000), { minLength: 1 }), (hours) => {
        const { median, low, high } = spreadOf(hours) ?? { median: NaN, low: NaN, high: NaN };
        expect(low).toBeLessThanOrEqual(median);
        expect(median).toBeLessThanOrEqual(high);
        expect(low).toBeGreaterThanOrEqual(Math.min(...hours));
        expect(high).toBeLessThanOrEqual(Math.max(...hours));
        expect(hours.filter((one) => one <= median).length).toBeGreaterThanOrEqual(
          hours.length / 2,
        );
      }),
    );
  });
});

test('what waits is shown by its next step, the longest untouched first', () => {
  const open = (next: JobFact['next'], found: number) =>
    fact({ next, marks: { opened: at(2), found } });
  const jobs = [open('quote', at(18)), open('quote', at(10)), open('fit', at(19)), fact()];
  const { waiting } = month(jobs);
  expect(
    waiting.map(({ step, jobs: list }) => [step, list.map(({ hours }) => hours / 24)]),
  ).toEqual([
    ['quote', [10, 2]],
    ['fit', [1]],
  ]);
});

describe('quotes', () => {
  const quote = (more: object = {}) => ({
    ...{ issuedAt: at(3), validUntil: '2026-05-17', isLatest: true, reason: '', ...more },
  });
  test('stand where their answer, their last day or a later version puts them', () => {
    const jobs = [
      fact({ quotes: [quote({ answer: 'accepted' })] }),
      fact({ quotes: [quote({ answer: 'declined', reason: 'bought elsewhere ' })] }),
      fact({ quotes: [quote({ isLatest: false }), quote({ validUntil: '2026-05-20' })] }),
      fact({ quotes: [quote()] }),
      fact({ quotes: [quote({ issuedAt: MAY.from - 1, answer: 'declined', reason: 'April' })] }),
    ];
    const { quotes } = month(jobs);
    const counts = Object.fromEntries(
      quotes.stands.map(({ stand, jobs: list }) => [stand, list.length]),
    );
    expect(counts).toEqual({
      ...{ accepted: 1, declined: 1, 'change asked': 0, open: 1, expired: 1, replaced: 1 },
    });
    expect(quotes.reasons.map(({ reason }) => reason)).toEqual(['bought elsewhere']);
    expect(quotes.acceptedShare).toMatchObject({ of: 2, share: 0.5 });
  });

  test('every quote of the month stands somewhere, once', () => {
    const anyQuote = fc.record({
      issuedAt: fc.integer({ min: MAY.from - 5 * DAY, max: MAY.to + 5 * DAY }),
      validUntil: fc.constantFrom('2026-05-10', '2026-05-30'),
      isLatest: fc.boolean(),
      answer: fc.constantFrom(undefined, 'accepted', 'declined', 'change asked'),
      reason: fc.string(),
    });
    fc.assert(
      fc.property(fc.array(fc.array(anyQuote, { maxLength: 4 }), { maxLength: 8 }), (lists) => {
        const { quotes } = month(lists.map((list) => fact({ quotes: list })));
        const stood = quotes.stands.reduce((sum, { jobs }) => sum + jobs.length, 0);
        expect(stood).toBe(quotes.issued);
        expect(quotes.stands.map(({ stand }) => stand)).toEqual(QUOTE_STANDS);
      }),
    );
  });
});

test('a promise is kept to the end of its day, and missed by whole days', () => {
  const closing = (moment: number, deadline: string | null) =>
    fact({ deadline, marks: { opened: at(1), closed: moment } });
  const { promises } = month([
    closing(at(8, 23), '2026-05-08'),
    closing(at(9), '2026-05-08'),
    closing(at(15), '2026-05-08'),
    closing(at(8), null),
  ]);
  expect(promises.kept).toHaveLength(1);
  expect(promises.missed.map(({ days }) => days)).toEqual([7, 1]);
  expect([promises.withoutDay, promises.keptShare?.of]).toEqual([1, 3]);
});

describe('returns', () => {
  const part = (name: string, more: object = {}): SoldModule => ({
    ...{ part: name, maker: 'Mill', supplier: 'Quay', machine: 'Desktop', ...more },
  });
  const back = (name: string, more: object = {}): ReturnFact => ({
    ...{ ...part(name), job: fact(), at: at(5), fault: 'errors', ...more },
  });
  test('stand against how many were sold, by what they were', () => {
    const sold = [part('A'), part('A'), part('B', { supplier: 'Barge' })];
    const { inYear, inMonth } = month([], {
      returns: [back('A'), back('C', { at: MAY.from - DAY })],
      soldInYear: sold,
    }).returns;
    expect(inMonth.map(({ part: name }) => name)).toEqual(['A']);
    expect(inYear.part.map(({ name, back: n, sold: of }) => [name, n, of])).toEqual([
      ['A', 1, 2],
      ['C', 1, 0],
    ]);
    // What was sold before there were records has no share.
    expect(inYear.part[1]?.share).toBeUndefined();
    expect(inYear.supplier).toMatchObject([{ name: 'Quay', back: 2, sold: 2 }]);
    expect(inYear.fault[0]?.sold).toBeUndefined();
  });

  test('every return is in one row of each telling', () => {
    const anyPart = fc.record({
      part: fc.constantFrom('A', 'B', ''),
      maker: fc.constantFrom('M', ''),
      supplier: fc.constantFrom('S', 'T'),
      machine: fc.constantFrom('D', 'L'),
    });
    fc.assert(
      fc.property(fc.array(anyPart), fc.array(anyPart), (returned, sold) => {
        const { inYear } = month([], {
          returns: returned.map((one) => back(one.part, one)),
          soldInYear: sold,
        }).returns;
        for (const rows of Object.values(inYear))
          expect(rows.reduce((sum, row) => sum + row.back, 0)).toBe(returned.length);
      }),
    );
  });
});

test('money is of what was handed over; what is earned, of known costs alone', () => {
  const money = { parts: 6000, labour: 3000, credit: 500, taxPercent: 20, cost: 4000 };
  const { money: sum } = month([
    fact({ money }),
    fact({ money: { ...money, cost: null } }),
    fact(),
    fact({ money, marks: { opened: at(1), closed: MAY.to } }),
  ]);
  expect(sum).toMatchObject({ parts: 12_000, labour: 6000, credit: 1000, earnedOnParts: 1000 });
  expect([sum.costUnknown.length, sum.withoutQuote.length]).toEqual([1, 1]);
  expect(sum.jobs.map(({ paid }) => paid)).toEqual([8500, 8500]);
});

describe('shares', () => {
  // By Wilson's formula, worked by hand.
  test.each([
    [0, 10, 0, 0.278],
    [5, 10, 0.237, 0.763],
    [10, 10, 0.722, 1],
    [1, 1, 0.207, 1],
    [50, 1000, 0.038, 0.065],
  ])('%i of %i lies from %f to %f', (hits, of, low, high) => {
    const share = shareOf(hits, of);
    expect(share?.low).toBeCloseTo(low, 3);
    expect(share?.high).toBeCloseTo(high, 3);
  });

  test('holds its share, narrows with more, and is none of nothing', () => {
    expect(shareOf(0, 0)).toBeUndefined();
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 500 }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (of, part) => {
          const hits = Math.round(part * of);
          const one = shareOf(hits, of);
          const many = shareOf(hits * 4, of * 4);
          if (!one || !many) throw new Error('expected two shares');
          expect(one.low - 1e-9).toBeLessThanOrEqual(one.share);
          expect(one.high + 1e-9).toBeGreaterThanOrEqual(one.share);
          expect(many.high - many.low).toBeLessThan(one.high - one.low);
        },
      ),
    );
  });
});

describe('words', () => {
  test.each([
    [0.5, '30 minutes'],
    [1, '1 hour'],
    [30, '30 hours'],
    [60, '2.5 days'],
    [480, '20 days'],
  ])('%f h is %s', (hours, words) => {
    expect(hoursText(hours)).toBe(words);
  });

  test('small numbers say that they are small', () => {
    expect([smallText(4), smallText(19), smallText(20)]).toEqual([
      'only 4: too few to tell',
      'only 19: a rough figure',
      '',
    ]);
    const text = (hits: number, of: number) => {
      const share = shareOf(hits, of);
      return share && shareText(share);
    };
    expect(text(1, 3)).toBe('1 of 3: too few to tell a rate');
    expect(text(3, 12)).toBe('3 of 12, 25 % (9 % to 53 %, a rough figure)');
    expect(text(10, 100)).toBe('10 of 100, 10 % (6 % to 17 %)');
    expect(spreadText({ jobs: 1, median: 5, low: 5, high: 5 })).toBe(
      '5 hours (only 1: too few to tell)',
    );
    expect(spreadText({ jobs: 30, median: 5, low: 2, high: 50 })).toBe(
      '5 hours, half of them 2 hours to 2.1 days',
    );
  });
});

test('any month of any jobs can be counted', () => {
  const moment = fc.option(fc.integer({ min: MAY.from - 40 * DAY, max: MAY.to + 40 * DAY }), {
    nil: undefined,
  });
  const anyJob = fc.record({
    next: fc.constantFrom(null, ...STEPS),
    deadline: fc.constantFrom(null, '2026-05-08'),
    marks: fc.record({
      opened: fc.integer({ min: MAY.from - 40 * DAY, max: MAY.to }),
      ...{
        found: moment,
        quoted: moment,
        accepted: moment,
        received: moment,
        fitted: moment,
        closed: moment,
      },
    }),
  });
  fc.assert(
    fc.property(fc.array(anyJob, { maxLength: 12 }), (list) => {
      const jobs = list.map((one) => fact(one as Partial<JobFact>));
      const counted = month(jobs);
      const { kept, missed, withoutDay } = counted.promises;
      expect(kept.length + missed.length + withoutDay).toBe(counted.closed.length);
      expect(counted.turnRound.whole.jobs).toHaveLength(counted.closed.length);
      expect(counted.money.withoutQuote).toHaveLength(counted.closed.length);
      expect(counted.waiting.flatMap((one) => one.jobs)).toHaveLength(
        jobs.filter(({ next }) => next !== null).length,
      );
    }),
  );
});
