import fc from 'fast-check';
import { beforeAll, describe, expect, test } from 'vitest';
import { desktop, labelled } from '../../test/support/builders.ts';
import { anyPlannable, anySmallQuery } from '../../test/support/anyQuery.ts';
import { allAdmitted } from '../../test/support/bruteForcePlans.ts';
import { nodeSolver } from '../../test/support/solver.ts';
import { dataRate, gib } from '../units/index.ts';
import {
  DEFAULT_WEIGHTS,
  assess,
  explainEmpty,
  findTippingPoints,
  judgePlan,
  judgeSource,
  nameChoices,
  planBatch,
  rank,
  runToEnd,
  withVerified,
} from './index.ts';
import type { Offer, PlanQuery, Solver } from './index.ts';
import { often } from '../../test/support/draws.ts';

const eight = labelled('8GB 1Rx8 PC4-2666V-UA2-11', { partNumber: 'OR-8' });
const sixteen = labelled('16GB 2Rx8 PC4-3200AA-UB1-11', { partNumber: 'PV-16' });
const sodimm = labelled('16GB 2Rx8 PC4-3200AA-SE1-11', { partNumber: 'PV-16S' });

const offer = (
  id: string,
  module: Offer['module'],
  price: Offer['price'],
  more: Partial<Offer> = {},
): Offer => ({
  ...{ id, module, price, units: 1, stock: 'unknown', verified: false },
  ...more,
});

const query = (more: Partial<PlanQuery> = {}): PlanQuery => ({
  machine: desktop({ maxPerSlot: gib(16) }),
  fitted: { a2: eight },
  need: 14,
  budget: undefined,
  school: 'balanced',
  capacityFirst: false,
  memoryTestPassed: false,
  settings: ['standard', 'profile'],
  offers: [
    offer('eight', eight, 2500),
    offer('pair', sixteen, 9000, { units: 2 }),
    offer('three', eight, 6000, { units: 3 }),
    offer('laptop', sodimm, 4000),
  ],
  drawer: [],
  credit: { a2: 400 },
  labour: 2000,
  ...more,
});

describe('choices', () => {
  test('adding the same part is the cheapest pair, a fresh pair the fastest', () => {
    const { plans } = runToEnd(query());
    const choices = nameChoices(plans, query());
    const kinds = Object.fromEntries(
      choices.flatMap(({ plan, kinds: all }) => all.map((kind) => [kind, plan])),
    );
    expect(kinds['cheapest']?.purchases).toEqual([{ offerId: 'eight', packs: 1 }]);
    expect(kinds['cheapest']?.worth).toMatchObject({ cost: 4500, usable: 16, grade: 'same part' });
    expect(kinds['cheapest']?.placement).toHaveProperty('a2');
    expect(kinds['fastest']?.worth.bandwidth).toBeCloseTo(51.2);
    expect(kinds['fastest']?.pulled).toEqual(['a2']);
    // 9000 parts + 2000 labour − 400 for the pulled module.
    expect(kinds['fastest']?.cost).toEqual({ parts: 9000, labour: 2000, credit: 400, net: 10_600 });
  });

  test('a weight on nothing but money puts the cheapest first, on nothing but speed the fastest', () => {
    const { plans } = runToEnd(query());
    const zero = { cost: 0, usable: 0, bandwidth: 0, grade: 0, displaced: 0, freeSlots: 0 };
    const cheapest = Math.min(...plans.map(({ worth }) => worth.cost));
    const fastest = Math.max(...plans.map(({ worth }) => worth.bandwidth));
    expect(rank(plans, { ...zero, cost: 1 })[0]?.plan.worth.cost).toBe(cheapest);
    expect(rank(plans, { ...zero, bandwidth: 1 })[0]?.plan.worth.bandwidth).toBe(fastest);
    for (const { score, shares } of rank(plans, DEFAULT_WEIGHTS))
      expect(Object.values(shares).reduce((a, b) => a + b)).toBeCloseTo(score);
  });

  test('a pack of three in two channels is planned with, its surplus left out', () => {
    const { plans } = runToEnd(
      query({ fitted: {}, offers: [offer('three', eight, 6000, { units: 3 })] }),
    );
    expect(
      plans.some(({ units, purchases }) => units.length === 2 && purchases[0]?.packs === 1),
    ).toBe(true);
  });

  test('only switching the profile on is a plan without labour, and beats doing nothing', () => {
    const profile = { rate: dataRate(3600), timings: { cl: 18 }, voltageMv: 1350 };
    const fitted = { a2: { ...sixteen, profile }, b2: { ...sixteen, profile } };
    const asked = query({ machine: desktop(), fitted, offers: [] });
    const { plans } = runToEnd(asked);
    expect(nameChoices(plans, asked).flatMap(({ kinds }) => kinds)).toContain('settings');
    expect(plans.map(({ cost, setting }) => [cost.net, setting])).toContainEqual([0, 'profile']);
    const asFound = plans[0]?.units ?? [];
    expect(judgePlan(asked, plans, asFound, 'standard').type).toBe('beaten');
  });
});

describe('why not', () => {
  const asked = query();
  const { plans } = runToEnd(asked);

  test('a module that does not fit names the trait; one that is never best names what beats it', () => {
    expect(judgeSource(asked, plans, 'laptop')).toMatchObject({
      type: 'excluded',
      exclusion: { type: 'does-not-fit', blockers: [{ type: 'wrong-form-factor' }] },
    });
    const dear = query({ offers: [...asked.offers, offer('dear', eight, 2900)] });
    const verdict = judgeSource(dear, runToEnd(dear).plans, 'dear');
    expect(verdict.type).toBe('beaten');
    expect(judgeSource(asked, plans, 'eight').type).toBe('used');
  });

  test('a hand-made plan learns what blocks it, what beats it, or that it stands', () => {
    const kept = { slotId: 'a2', module: eight, source: { type: 'kept', from: 'a2' } } as const;
    const bought = { module: eight, source: { type: 'offer', offerId: 'eight', copy: 0 } } as const;
    const paired = judgePlan(asked, plans, [kept, { ...bought, slotId: 'b2' }], 'standard');
    expect(paired.type).toBe('on the front');
    const stacked = judgePlan(asked, plans, [kept, { ...bought, slotId: 'a1' }], 'standard');
    expect(stacked.type === 'refused' && stacked.assessment.objections[0]).toMatchObject({
      type: 'refused',
      rows: [{ question: 'needless one channel' }],
    });
    const short = judgePlan(asked, plans, [kept], 'standard');
    expect(short.type === 'refused' && short.assessment.objections).toEqual([
      { type: 'short', usable: 8, need: 14 },
    ]);
  });

  test('an empty front names the demand that has to give', () => {
    expect(explainEmpty(query({ budget: 0 })).relax).toBe('budget');
    const tooMuch = explainEmpty(query({ need: 900 }));
    expect(tooMuch.relax).toBe('need');
    expect(tooMuch.plan?.worth.usable).toBe(64);
    expect(explainEmpty(query({ school: 'strict' })).relax).toBe('school');
    const priceless = query({ offers: [offer('eight', eight, 'unknown')] });
    expect(judgeSource(priceless, [], 'eight')).toMatchObject({ exclusion: { type: 'no-price' } });
  });
});

describe('tipping points', () => {
  test('just above the stated price another plan is the cheapest, just below it is not', () => {
    const asked = query();
    const chosen = runToEnd(asked).plans[0];
    if (!chosen) throw new Error('expected a plan');
    const points = [...findTippingPoints(asked, chosen)];
    const price = points.find(({ type }) => type === 'price');
    if (price?.type !== 'price' || price.upTo === undefined) throw new Error('expected a price');
    const at = (amount: number) =>
      runToEnd({
        ...asked,
        offers: asked.offers.map((one) =>
          one.id === price.offerId ? { ...one, price: amount } : one,
        ),
      }).plans[0]?.purchases[0]?.offerId;
    expect(at(price.upTo - 1)).toBe(price.offerId);
    expect(at(price.upTo + 1)).not.toBe(price.offerId);
    expect(points.find(({ type }) => type === 'need')).toMatchObject({ upTo: 16 });
  });
});

describe('a batch', () => {
  let solve: Solver;
  beforeAll(async () => {
    solve = await nodeSolver();
  });
  const small = desktop({}, 2, 1);
  const {
    offers: _,
    drawer: __,
    ...common
  } = query({ machine: small, fitted: { a1: eight }, credit: {} });

  test('shares a four-pack and the drawer over like machines, and nothing twice', () => {
    const machines = Array.from({ length: 5 }, (_unused, at) => ({
      id: `m${at}`,
      query: { ...common, fitted: { a1: { ...eight } } },
    }));
    const offers = [offer('four', eight, 8000, { units: 4 }), offer('one', eight, 2500)];
    const drawer = [{ id: 'd1', module: eight, state: 'tested', price: 0 } as const];
    const result = planBatch({ machines, offers, drawer, rules: { paired: true } }, solve);
    // One out of the drawer, four out of one pack; five visits.
    expect(result).toMatchObject({
      isOptimal: true,
      unserved: [],
      total: 8000 + 5 * 2000,
      bound: 18_000,
    });
    expect(result.purchases).toEqual([{ offerId: 'four', packs: 1 }]);
    expect(result.drawer).toEqual(['d1']);
    for (const { plan } of result.plans) expect(plan.worth.usable).toBe(16);
  });

  test('says which machine cannot be served and plans the others', () => {
    const machines = [
      { id: 'modest', query: common },
      { id: 'greedy', query: { ...common, need: 500 } },
    ];
    const result = planBatch(
      { machines, offers: [offer('one', eight, 2500)], drawer: [], rules: { paired: false } },
      solve,
    );
    expect(result.unserved).toEqual(['greedy']);
    expect(result.plans.map(({ machineId }) => machineId)).toEqual(['modest']);
  });

  test('costs what trying every pair of plans for two machines costs', { timeout: 300_000 }, () => {
    const two = fc.tuple(
      anySmallQuery,
      anySmallQuery,
      fc.array(anyPlannable, { minLength: 1, maxLength: 2 }),
      fc.array(anyPlannable, { maxLength: 2 }),
    );
    fc.assert(
      fc.property(two, ([first, second, onOffer, used]) => {
        const offers = onOffer.map((module, at) =>
          offer(`o${at}`, module, (at + 1) * 1000, { stock: 2 }),
        );
        const drawer = used.map((module, at) => ({
          id: `d${at}`,
          module,
          state: 'tested' as const,
          price: 100,
        }));
        const machines = [first, second].map((one, at) => {
          const { offers: _o, drawer: _d, ...rest } = one;
          const shape = desktop({
            ...one.machine,
            channels: ['A', 'B'],
            slots: small.slots,
            requiredFirstSlot: 'none',
          });
          const fitted = Object.fromEntries(
            Object.entries(one.fitted).filter(([id]) => id === 'a1' || id === 'b1'),
          );
          return { id: `m${at}`, query: { ...rest, machine: shape, fitted, budget: undefined } };
        });
        const result = planBatch({ machines, offers, drawer, rules: { paired: false } }, solve);
        const [left = [], right = []] = machines.map((one) =>
          allAdmitted({ ...one.query, offers, drawer }),
        );
        fc.pre(left.length > 0 && right.length > 0);
        let best = Infinity;
        const isInStock = (plans: readonly { offerId: string; packs: number }[]) =>
          offers.every(
            ({ id }) =>
              plans.reduce((sum, one) => sum + (one.offerId === id ? one.packs : 0), 0) <= 2,
          );
        for (const { plan: a } of left)
          for (const { plan: b } of right)
            if (
              !a.drawer.some((id) => b.drawer.includes(id)) &&
              isInStock([...a.purchases, ...b.purchases])
            )
              best = Math.min(best, a.cost.net + b.cost.net);
        if (best === Infinity) return;
        // Each plan of the batch holds for its machine by itself, whatever the others take.
        for (const { machineId, plan } of result.plans) {
          const one = machines.find(({ id }) => id === machineId);
          if (!one) throw new Error('expected a machine of the batch');
          const machine = withVerified(one.query.machine, offers);
          const alone = { ...one.query, machine, offers, drawer };
          expect(assess(alone, plan.units, plan.setting).objections).toEqual([]);
        }
        expect(result.total).toBe(best);
      }),
      { numRuns: often(40), seed: 4 },
    );
  });
});
