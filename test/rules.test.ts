import { describe, expect, test } from 'vitest';
import { gainRangeText, promiseText } from '#core/explaining';
import { cautionsFor, effectOf, expectStart, fitSheet, foldLog, judgeReading } from '#core/fitting';
import type { BenchEntry } from '#core/fitting';
import { findMachineFaults, nextSlots } from '#core/machine';
import type { Machine, Placement } from '#core/machine';
import { isModuleCapacity, readLabel } from '#core/memory';
import { workingSet } from '#core/need';
import { findTippingPoints, nameChoices, runToEnd } from '#core/planning';
import type { Offer, PlanQuery } from '#core/planning';
import { predict } from '#core/promising';
import { judgeGain, stepOf } from '#core/proving';
import { dataRate, gib } from '#core/units';
import { benchMinutes, modelOf, suggest } from '../core/diagnosing/index.ts';
import type { Situation } from '../core/diagnosing/index.ts';
import { cheapestBills, boughtBy } from '../core/planning/bills.ts';
import type { Source } from '../core/planning/supply.ts';
import { desktop, labelled, running } from './support/builders.ts';

// Rules that are one figure or one word in the code: each is held here by what it does at its edge.

const eight = labelled('8GB 1Rx8 PC4-2666V-UA2-11 OR-8');
const sixteen = labelled('16GB 2Rx8 PC4-2666V-UB1-11 PV-16');

describe('labels and sizes', () => {
  test('a registered or load-reduced label means ECC though it does not say so', () => {
    expect(readLabel('32GB DDR4-2666 registered').module?.ecc).toBe(true);
    expect(readLabel('64GB DDR4-2666 load-reduced').module?.ecc).toBe(true);
    expect(readLabel('32GB DDR4-2666 unbuffered').module?.ecc).toBe(false);
    expect(readLabel('32GB DDR4-2666').module?.ecc).toBe(false);
  });

  test.each([
    ['DDR4', 256, true],
    ['DDR5', 512, true],
    ['DDR5', 1024, false],
    ['DDR2', 0.25, true],
    ['DDR2', 0.125, false],
    ['DDR4', 24, false],
    ['DDR5', 24, true],
    ['LPDDR5', 12, true],
  ] as const)('%s modules of %d GB exist: %s', (generation, size, exists) => {
    expect(isModuleCapacity(generation, size)).toBe(exists);
    expect(isModuleCapacity(undefined, 24)).toBe(true);
  });
});

describe('slots and tables', () => {
  test('the manual’s next slots count what is filled already', () => {
    const fillOrder = [['a2'], ['a2', 'b2'], ['a2', 'b2', 'a1'], ['a2', 'b2', 'a1', 'b1']];
    expect(nextSlots(desktop({ fillOrder }), { a2: eight }, 1)).toEqual(['b2']);
    expect(nextSlots(desktop({ fillOrder }), { a2: eight, b2: eight }, 1)).toEqual(['a1']);
    expect(nextSlots(desktop({ fillOrder }), {}, 2)).toEqual(['a2', 'b2']);
  });

  test('a rate table may rise only where its ranks are fewer than its modules', () => {
    const rows = (ranks: number) => [
      { modulesPerChannel: 1, ranksPerChannel: 1, rate: dataRate(2400) },
      { modulesPerChannel: 2, ranksPerChannel: ranks, rate: dataRate(2666) },
    ];
    const faults = (ranks: number) =>
      findMachineFaults(desktop({ rateTable: rows(ranks) })).map(({ type }) => type);
    expect(faults(2)).toEqual(['rate-table-rises']);
    expect(faults(1)).toEqual([]);
  });

  test('the fit sheet seats in the manual’s order, not in the board’s', () => {
    const machine = desktop({ fillOrder: [['b2'], ['b2', 'a2']] });
    const agreed = { dataBackedUp: 'yes', openCase: 'yes', warrantySeal: 'yes' } as const;
    const entries: BenchEntry[] = [];
    const target = { placement: { a2: eight, b2: eight }, setting: 'standard' } as const;
    const seats: string[] = [];
    for (;;) {
      const state = foldLog(entries, { placement: {}, setting: 'standard' });
      const { next } = fitSheet({
        ...{ machine, map: undefined, found: {}, state, target, consents: agreed },
        pulledTo: 'customer',
      });
      if (!next) break;
      if (next.id.startsWith('seat')) seats.push(next.id.split(' ')[1] ?? '');
      const at = '2026-01-01T00:00:00Z';
      const note = { type: 'tick', stepId: next.id, effect: effectOf(next) } as const;
      entries.push({ id: `e${entries.length}`, by: 'one', at, note });
    }
    expect(seats).toEqual(['b2', 'a2']);
  });
});

describe('at the bench', () => {
  test('from 64 GB on, 64 itself included, training takes longer', () => {
    const start = (size: number) =>
      expectStart(desktop(), { a1: { ...eight, capacity: gib(size) } }).because;
    expect(start(63)).toEqual([]);
    expect(start(64)).toEqual(['much memory']);
  });

  test('a missing size that five slots could make up names none of them', () => {
    const machine = desktop({}, 5, 1);
    const five = Object.fromEntries(machine.slots.map(({ id }) => [id, eight]));
    const { e1: _one, ...four } = five;
    const likely = (placement: Placement, value: number) =>
      judgeReading('firmware total', value, { machine, placement, setting: 'standard' })?.likely;
    expect(likely(five, 32)).toEqual({ type: 'some not seen', missing: 8 });
    expect(likely(four, 24)).toMatchObject({ type: 'not seen', choices: { length: 4 } });
  });

  test('an all-in-one is warned of its display supply, a desktop of its own, a laptop of neither', () => {
    const cautions = (kind: Machine['kind']) => {
      const sheet = { opens: true } as Parameters<typeof cautionsFor>[1];
      return cautionsFor(desktop({ kind }), sheet, 'standard').filter((one) =>
        one.includes('supply'),
      );
    };
    expect(cautions('all-in-one')).toEqual(['display supply']);
    expect(cautions('desktop')).toEqual(['supply']);
    expect(cautions('laptop')).toEqual([]);
  });
});

describe('need', () => {
  const idle = { low: 2, high: 3 };
  const activities = [{ name: 'tabs', low: 9, high: 12 }];

  test('a peak seen while paging is raised to the estimate, its low end too', () => {
    const set = workingSet({
      ...{ idle, activities, peak: { gib: 8, paging: true } },
      ...{ drive: 'solid state', graphicsShort: false },
    });
    expect(set).toMatchObject({ low: 11, high: 15, need: 15, from: 'peak, paging' });
    const calm = workingSet({
      ...{ idle, activities, peak: { gib: 8, paging: false } },
      ...{ drive: 'solid state', graphicsShort: false },
    });
    expect(calm).toMatchObject({ low: 8, high: 8, need: 8 });
  });
});

describe('figures of a gain', () => {
  test('the change called detectable is found four times in five', () => {
    const level = { sd: 1e-6, degrees: Infinity, from: 'assumed' } as const;
    let seed = 7;
    const normal = () => {
      seed = (seed * 16_807) % 2_147_483_647;
      const one = seed / 2_147_483_647;
      seed = (seed * 16_807) % 2_147_483_647;
      return Math.sqrt(-2 * Math.log(one)) * Math.cos((2 * Math.PI * seed) / 2_147_483_647);
    };
    const runs = (centre: number) =>
      Array.from({ length: 12 }, () => centre * (1 + 0.02 * normal()));
    let [found, sum] = [0, 0];
    const trials = 300;
    for (let at = 0; at < trials; at++)
      sum += judgeGain(runs(20), runs(20), 'higher', at, level).detectable ?? 1;
    const detectable = sum / trials;
    for (let at = 0; at < trials; at++)
      if (judgeGain(runs(20), runs(20 * detectable), 'higher', at, level).verdict === 'gain')
        found++;
    expect(found / trials).toBeGreaterThan(0.7);
    expect(found / trials).toBeLessThan(0.9);
  });

  test('few runs on one side stretch the interval as if both had as few', () => {
    const level = { sd: 1e-6, degrees: Infinity, from: 'assumed' } as const;
    const few = [20, 20.31, 19.72];
    const many = Array.from({ length: 40 }, (_, at) => 20 + 0.3 * Math.sin(at * 2.1));
    const width = (a: number[], b: number[]) => {
      const { interval } = judgeGain(
        { sittings: [a], step: 1e-9 },
        { sittings: [b], step: 1e-9 },
        'higher',
        1,
        level,
      );
      return Math.log((interval?.high ?? 1) / (interval?.low ?? 1));
    };
    expect(width(few, many)).toBeGreaterThan(6.8 * width(many, many));
    expect(stepOf([20.31, 19.72])).toBe(0.01);
  });

  test.each([
    [{ low: -4.99, high: 4.99 }, 'no change to notice'],
    [{ low: -0.046, high: 1.6 }, 'no change to notice'],
    [{ low: 0, high: 5 }, 'up to +5 %'],
    [{ low: -5, high: 0.1 }, 'up to −5 %'],
    [{ low: 5.6, high: 6.4 }, 'about +6 %'],
  ])('a gain of %j reads “%s”', (range, text) => {
    expect(gainRangeText(range)).toBe(text);
  });
});

describe('fault-finding', () => {
  const machine = desktop({ requiredFirstSlot: 'a1' });
  const situation = (more: Partial<Situation> = {}): Situation => ({
    ...{ machine, placement: { a1: eight, b1: eight }, setting: 'standard', moved: true },
    symptom: 'another rate',
    ...more,
  });

  test('a planned profile doubles the weight of “profile off”; not in play, it is ruled out', () => {
    const symptom = 'another rate';
    const profile = { rate: dataRate(3200), timings: { cl: 16 }, voltageMv: 1350 };
    const placement = { a1: { ...eight, profile }, b1: { ...eight, profile } };
    const planned = { placement, setting: 'profile' } as const;
    const model = modelOf(situation({ symptom, placement, planned }));
    const prior = (kind: string) =>
      model.priors[model.causes.findIndex((one) => one.kind === kind)] ?? 0;
    // Weights of 8 and 6, the first doubled by the plan; shown so in 100 and 80 of 100 cases.
    expect(prior('profile off') / prior('reading mistaken')).toBeCloseTo(
      (8 * 2 * 100) / (6 * 80),
      2,
    );
    const idle = modelOf(situation({ symptom }));
    const at = idle.causes.findIndex(({ kind }) => kind === 'profile off');
    expect(at < 0 ? 0 : idle.priors[at]).toBe(0);
  });

  test('of two checks that tell as much per minute, looking comes before opening, and both before risk', () => {
    const causes = [
      { id: 'x', kind: 'bad module' },
      { id: 'y', kind: 'bad slot' },
    ];
    const check = (id: string, risk: string) => ({
      ...{ id, kind: 'reseat', slotIds: [], risk, hands: 10, waits: 0 },
      outcomes: ['yes', 'no'],
      chances: [
        [0.9, 0.1],
        [0.1, 0.9],
      ],
    });
    const model = {
      ...{ causes, priors: [0.5, 0.5], traits: [] },
      checks: [
        check('risky', 'can lose the board'),
        check('settings', 'changes settings'),
        check('opening', 'opens the machine'),
        check('looking', 'none'),
      ],
    } as never;
    const order = suggest(model, [0.5, 0.5], []);
    expect(order.map(({ check: { id } }) => id)).toEqual([
      'looking',
      'opening',
      'settings',
      'risky',
    ]);
    // Opening costs 1.3 times as much: a check 1.2 times as quick does not make up for it.
    const quicker = { ...check('opening', 'opens the machine'), hands: 7.5 };
    const slower = { ...check('opening', 'opens the machine'), hands: 5 };
    const ahead = (one: object) =>
      suggest(
        {
          causes,
          priors: [0.5, 0.5],
          traits: [],
          checks: [one, check('looking', 'none')],
        } as never,
        [0.5, 0.5],
        [],
      )[0]?.check.id;
    expect([ahead(quicker), ahead(slower)]).toEqual(['looking', 'opening']);
    // One that can lose the board costs five times as much.
    const quick = { ...check('risky', 'can lose the board'), hands: -1 };
    expect(ahead(quick)).toBe('looking');
    expect(benchMinutes({ hands: 10, waits: 4 })).toBe(16);
  });
});

describe('plans', () => {
  const offer = (id: string, module: Offer['module'], price: number, more = {}): Offer => ({
    ...{ id, module, price, units: 1, stock: 'unknown', verified: false },
    ...more,
  });
  const query = (more: Partial<PlanQuery> = {}): PlanQuery => ({
    ...{ machine: desktop(), fitted: {}, need: 14, budget: undefined, school: 'lenient' },
    ...{ capacityFirst: false, memoryTestPassed: false, settings: ['standard'], drawer: [] },
    ...{ credit: {}, labour: 2000 },
    offers: [offer('pack', eight, 5000, { units: 2 }), offer('other', sixteen, 9000)],
    ...more,
  });

  test('a set from no one pack is promised as that, a kit is not', () => {
    const unlike = { ...eight, partNumber: 'QL-8' };
    const both = query({ offers: [offer('one', eight, 2000), offer('two', unlike, 2100)] });
    const plan = runToEnd({
      ...both,
      offers: [offer('one', eight, 2000, { stock: 1 }), offer('two', unlike, 2100, { stock: 1 })],
    }).plans.find(({ units }) => units.length === 2);
    if (!plan) throw new Error('expected a plan of two unlike modules');
    expect(promiseText(both, plan, undefined).not.join(' ')).toContain(
      'Modules from one sealed pack',
    );
    const [kit] = runToEnd(query()).plans.filter(({ worth }) => worth.grade === 'one kit');
    if (!kit) throw new Error('expected a kit');
    expect(promiseText(query(), kit, undefined).not.join(' ')).not.toContain('sealed pack');
  });

  test('the best pair is a kit or one part: a cheaper pair of one spec is none', () => {
    const unlike = { ...eight, partNumber: 'QL-8' };
    const asked = query({
      offers: [
        offer('one', eight, 1000, { stock: 1 }),
        offer('two', unlike, 1000, { stock: 1 }),
        offer('pack', sixteen, 30_000, { units: 2 }),
      ],
    });
    const pair = nameChoices(runToEnd(asked).plans, asked).find(({ kinds }) =>
      kinds.includes('pair'),
    );
    expect(pair?.plan.worth.grade).toBe('one kit');
  });

  test('a tipping price is per pack', () => {
    const asked = query({
      need: 28,
      offers: [offer('pack', eight, 5000, { units: 2 }), offer('other', sixteen, 7000)],
    });
    const { plans } = runToEnd(asked);
    const chosen = plans[0];
    if (!chosen) throw new Error('expected a plan');
    const [bought] = chosen.purchases;
    expect(bought).toEqual({ offerId: 'pack', packs: 2 });
    const [tip] = findTippingPoints(asked, chosen);
    // Two packs of 5000 or two modules of 7000: a pack may cost up to 7000.
    expect(tip).toMatchObject({ type: 'price', now: 5000, upTo: 7000 });
  });

  test('a halved controller clock costs a tenth of latency', () => {
    const plain = running(desktop(), { a1: eight });
    const halved = running(desktop({ sync: { limit: dataRate(2400), fabricClock: false } }), {
      a1: eight,
    });
    const { latencyRatio } = predict(
      { point: plain, bandwidth: 20 },
      { point: halved, bandwidth: 20 },
    );
    expect(latencyRatio).toBeCloseTo(1.1, 9);
  });

  test('of equally cheap ways to as many modules the larger packs win', () => {
    const source = (id: string, units: number, price: number): Source => ({
      ...{ type: 'offer', id, module: eight, units, price, copies: 4 },
    });
    const bills = cheapestBills([source('single', 1, 1000), source('pack', 2, 2000)], 4);
    expect(new Set(boughtBy(bills, 4).map(({ source: { id } }) => id))).toEqual(new Set(['pack']));
  });
});
