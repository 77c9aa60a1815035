import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { anySmallQuery } from '../../test/support/anyQuery.ts';
import { bruteForceFront } from '../../test/support/bruteForcePlans.ts';
import { PlanSearch, assess, covers, vectorOf, withVerified } from './index.ts';
import type { PlanQuery, SearchResult } from './index.ts';
import { often } from '../../test/support/draws.ts';

function searched(query: PlanQuery): SearchResult {
  const run = new PlanSearch(query).run();
  for (;;) {
    const step = run.next();
    if (step.done) return step.value;
  }
}

const front = (query: PlanQuery) => searched(query).plans.map(({ worth }) => vectorOf(worth));
type Vectors = ReturnType<typeof front>;
const isNoWorse = (better: Vectors, worse: Vectors) =>
  worse.every((one) => better.some((other) => covers(other, one)));

const thorough = { numRuns: often(100, 800) };
const brief = { numRuns: often(40) };

describe('the search for plans', { timeout: 900_000 }, () => {
  test('finds exactly the front that trying everything finds', () => {
    fc.assert(
      fc.property(anySmallQuery, (query) => {
        const found = front(query).map((vector) => vector.join(' '));
        expect(found.sort()).toEqual(bruteForceFront(query));
      }),
      thorough,
    );
  });

  test('reports plans that hold when looked at from outside, each once', () => {
    fc.assert(
      fc.property(anySmallQuery, (query) => {
        const { plans, complete } = searched(query);
        const machine = withVerified(query.machine, query.offers);
        expect(complete).toBe(true);
        expect(new Set(plans.map(({ id }) => id)).size).toBe(plans.length);
        for (const plan of plans) {
          const again = assess({ ...query, machine }, plan.units, plan.setting);
          expect(again.objections).toEqual([]);
          expect(again.plan.worth).toEqual(plan.worth);
        }
      }),
      brief,
    );
  });

  test('never gets worse by more money or another offer, nor better by one less', () => {
    fc.assert(
      fc.property(anySmallQuery, fc.nat(), (query, nat) => {
        const now = front(query);
        if (query.budget !== undefined)
          expect(isNoWorse(front({ ...query, budget: query.budget * 2 }), now)).toBe(true);
        const without = query.offers.filter((_, at) => at !== nat % query.offers.length);
        // A verified offer also vouches for the same part bought elsewhere, so keep its word.
        const machine = withVerified(query.machine, query.offers);
        expect(isNoWorse(now, front({ ...query, machine, offers: without }))).toBe(true);
      }),
      brief,
    );
  });

  test('offers under the lenient school whatever the strict one admits', () => {
    fc.assert(
      fc.property(anySmallQuery, (query) => {
        const strict = front({ ...query, school: 'strict' });
        expect(isNoWorse(front({ ...query, school: 'lenient' }), strict)).toBe(true);
      }),
      brief,
    );
  });

  test('stopped early, it says so and reports only plans that hold', () => {
    fc.assert(
      fc.property(anySmallQuery, fc.nat(6), (query, steps) => {
        let asked = 0;
        const run = new PlanSearch(query).run(() => ++asked > steps);
        let step = run.next();
        while (!step.done) step = run.next();
        const machine = withVerified(query.machine, query.offers);
        for (const plan of step.value.plans)
          expect(assess({ ...query, machine }, plan.units, plan.setting).objections).toEqual([]);
        if (!step.value.complete) expect(asked).toBeGreaterThan(steps);
      }),
      brief,
    );
  });
});
