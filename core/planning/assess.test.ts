import { describe, expect, test } from 'vitest';
import { desktop, labelled, running } from '../../test/support/builders.ts';
import { dataRate, gib } from '../units/index.ts';
import { assess, bandwidthAtLoad, bandwidthAtNeed, isImpossible } from './assess.ts';
import type { Offer, PlanQuery, PlannedUnit, UnitSource } from './index.ts';

const eight = labelled('8GB 1Rx8 PC4-2666V-UA2-11', { partNumber: 'OR-8' });
const four = labelled('4GB 1Rx8 PC4-2133P-UA1-11', { partNumber: 'OR-4' });

const offer = (id: string, more: Partial<Offer> = {}): Offer => ({
  ...{ id, module: eight, units: 1, price: 2500, stock: 'unknown', verified: false },
  ...more,
});

const query = (more: Partial<PlanQuery> = {}): PlanQuery => ({
  machine: desktop(),
  fitted: { a1: four, a2: eight },
  need: 14,
  school: 'lenient',
  capacityFirst: false,
  memoryTestPassed: false,
  settings: ['standard'],
  offers: [offer('one'), offer('pair', { units: 2, price: 4400, stock: 1 })],
  drawer: [
    { id: 'other', module: four, state: 'tested', price: 9999 },
    { id: 'piece', module: eight, state: 'tested', price: 700 },
  ],
  credit: { a1: 160, a2: 400 },
  labour: 2000,
  ...more,
});

const unit = (slotId: string, source: UnitSource, module = eight): PlannedUnit => ({
  ...{ slotId, source, module },
});
const kept = (from: string) => ({ type: 'kept', from }) as const;
const bought = (offerId: string, copy = 0) => ({ type: 'offer', offerId, copy }) as const;
const drawer = (drawerId: string) => ({ type: 'drawer', drawerId }) as const;

const asFound = [unit('a1', kept('a1'), four), unit('a2', kept('a2'))];
const objections = (asked: PlanQuery, units: readonly PlannedUnit[], setting = 'standard') =>
  assess(asked, units, setting as 'standard').objections;

describe('what a plan costs', () => {
  test('left as found it costs nothing: nobody opens the machine', () => {
    const { plan } = assess(query({ need: undefined }), asFound, 'standard');
    expect(plan.cost).toEqual({ parts: 0, labour: 0, credit: 0, net: 0 });
    expect([plan.pulled, plan.moved, plan.purchases, plan.drawer]).toEqual([[], [], [], []]);
    expect(plan.worth).toMatchObject({ cost: 0, displaced: 0, freeSlots: 2 });
  });

  test.each([
    ['a module moved', [unit('a1', kept('a1'), four), unit('b2', kept('a2'))], ['a2'], []],
    ['a module pulled', [unit('a2', kept('a2'))], [], ['a1']],
    [
      'two that change places',
      [unit('a2', kept('a1'), four), unit('a1', kept('a2'))],
      ['a1', 'a2'],
      [],
    ],
  ] as const)('%s is labour', (_what, units, moved, pulled) => {
    const { plan } = assess(query(), units, 'standard');
    expect(plan.moved).toEqual(moved);
    expect(plan.pulled).toEqual(pulled);
    expect(plan.cost.labour).toBe(2000);
    expect(plan.cost.credit).toBe(pulled.length > 0 ? 160 : 0);
  });

  test('packs count once however many modules come out of them; two packs count twice', () => {
    const pair = [unit('a2', bought('pair')), unit('b2', bought('pair'))];
    const { plan } = assess(query(), pair, 'standard');
    expect(plan.purchases).toEqual([{ offerId: 'pair', packs: 1 }]);
    // 4400 parts + 2000 labour − 160 − 400 for what was pulled.
    expect(plan.cost).toEqual({ parts: 4400, labour: 2000, credit: 560, net: 5840 });
    expect(plan.worth.displaced).toBe(2);
    const apart = [unit('a2', bought('one')), unit('b2', bought('one', 1))];
    expect(assess(query(), apart, 'standard').plan.cost.parts).toBe(5000);
  });

  test('a piece of the drawer at its own price, beside something bought', () => {
    const { plan } = assess(
      query({ fitted: {} }),
      [unit('a2', bought('one')), unit('b2', drawer('piece'))],
      'standard',
    );
    expect(plan.drawer).toEqual(['piece']);
    expect(plan.cost).toEqual({ parts: 3200, labour: 2000, credit: 0, net: 5200 });
    const lost = assess(query({ drawer: [] }), [unit('b2', drawer('piece'))], 'standard');
    expect(lost.plan.cost.parts).toBe(0);
  });

  test('a plan is named by setting, slots and sources, in whatever order they are listed', () => {
    const units = [
      unit('b2', drawer('piece')),
      unit('a2', kept('a2')),
      unit('b1', bought('one', 1)),
    ];
    const { id } = assess(query(), units, 'standard').plan;
    expect(id).toBe(assess(query(), [...units].reverse(), 'standard').plan.id);
    expect(id).toMatch(/^standard a2=kept:a2 b1=\S*one\S* b2=drawer:piece$/);
    const names = [
      bought('one'),
      bought('one', 1),
      bought('pair'),
      kept('a1'),
      drawer('other'),
    ].map((source) => assess(query(), [unit('a2', source)], 'standard').plan.id);
    expect(new Set(names).size).toBe(names.length);
  });
});

describe('what it is worth', () => {
  test('usable memory, free slots and the peak at the need', () => {
    const pair = [unit('a2', kept('a2')), unit('b2', bought('one'))];
    const { worth } = assess(query(), pair, 'standard').plan;
    expect(worth).toMatchObject({ usable: 16, freeSlots: 2, displaced: 1, grade: 'same part' });
    expect(worth.bandwidth).toBeCloseTo(42.7, 1); // 2 × 8 B × 2666.7 MT/s
  });

  test('the built-in graphics’ share and the need together say which region is reached', () => {
    const carveOut = { graphicsCarveOut: { low: gib(1), high: gib(2) } };
    const uneven = { a2: eight, b2: labelled('16GB 2Rx8 PC4-2666V-UB1-11') };
    const point = running(desktop(carveOut), uneven);
    const asked = (need: number | undefined) =>
      bandwidthAtNeed(query({ machine: desktop(carveOut), need }), point);
    const [paired, tail] = [42.667, 21.333];
    expect(asked(14)).toBeCloseTo(paired, 1); // 14 + 2 of the 16 that are paired
    expect(asked(14.5)).toBeCloseTo(tail, 1);
    expect(asked(undefined)).toBeCloseTo(paired, 1);
    expect(bandwidthAtLoad(point, 16.5)).toBeCloseTo(tail, 1);
  });

  test('where the trait is unknown the worse of both readings counts', () => {
    const uneven = { a2: eight, b2: labelled('16GB 2Rx8 PC4-2666V-UB1-11') };
    const point = running(desktop({ unevenChannels: 'unknown' }), uneven);
    expect(point.layouts.length).toBeGreaterThan(1);
    expect(bandwidthAtLoad(point, 8)).toBeCloseTo(21.333, 1);
  });

  test('a plan that does not run has neither memory nor speed', () => {
    const wrong = labelled('8GB PC3-12800U-11');
    const { plan, match } = assess(query(), [unit('a2', bought('one'), wrong)], 'standard');
    expect(plan.worth).toMatchObject({ usable: 0, bandwidth: 0, grade: 'no go' });
    expect(match.schools).toEqual([]);
  });
});

describe('what is against it', () => {
  const pair = [unit('a2', kept('a2')), unit('b2', bought('one'))];

  test('nothing, where all is well; a need met to the letter is met', () => {
    expect(objections(query(), pair)).toEqual([]);
    expect(objections(query({ need: 16 }), pair)).toEqual([]);
    expect(objections(query({ need: 16.5 }), pair)).toEqual([
      { type: 'short', usable: 16, need: 16.5 },
    ]);
    expect(objections(query({ need: undefined }), [unit('a2', kept('a2'))])).toEqual([]);
  });

  test('a budget, to the last cent', () => {
    // 2500 + 2000 − 160 for the one that goes.
    expect(objections(query({ budget: 4340 }), pair)).toEqual([]);
    expect(objections(query({ budget: 4339 }), pair)).toEqual([
      { type: 'over-budget', cost: 4340, budget: 4339 },
    ]);
  });

  test('stock, and offers without a price', () => {
    const two = (copy: number) => [unit('a2', bought('pair')), unit('b2', bought('pair', copy))];
    expect(objections(query(), two(0))).toEqual([]);
    expect(objections(query(), two(1))).toEqual([
      { type: 'stock', offerId: 'pair', packs: 2, stock: 1 },
    ]);
    const unpriced = query({ offers: [offer('one', { price: 'unknown', stock: 5 })] });
    expect(objections(unpriced, pair)).toEqual([{ type: 'no-price', offerId: 'one' }]);
    expect(assess(unpriced, pair, 'standard').plan.cost.parts).toBe(0);
    expect(objections(query({ offers: [] }), pair)).toEqual([{ type: 'no-price', offerId: 'one' }]);
    const many = query({ offers: [offer('one', { stock: 'unknown' })] });
    expect(objections(many, [unit('a2', bought('one')), unit('b2', bought('one', 1))])).toEqual([]);
  });

  test('a setting the job does not allow', () => {
    expect(objections(query(), pair, 'profile')).toEqual([{ type: 'setting', setting: 'profile' }]);
    expect(objections(query({ settings: ['standard', 'profile'] }), pair, 'profile')).toEqual([]);
  });

  test('what blocks it, and nothing that would only be said of a plan that runs', () => {
    const wrong = labelled('8GB PC3-12800U-11');
    const found = objections(query({ offers: [offer('one')] }), [unit('a2', bought('one'), wrong)]);
    expect(found.map(({ type }) => type)).toEqual(['blocked']);
    const [blocked] = found;
    expect(blocked?.type === 'blocked' && blocked.blockers.map(({ type }) => type)).toContain(
      'wrong-generation',
    );
  });

  test('the school’s own rows, and no other’s', () => {
    const stacked = [unit('a1', kept('a1'), four), unit('a2', kept('a2'))];
    const refused = (school: PlanQuery['school']) =>
      objections(query({ need: 1, school }), stacked).flatMap((one) =>
        one.type === 'refused' ? one.rows.map(({ question }) => question) : [],
      );
    expect(refused('lenient')).toEqual([]);
    expect(refused('balanced')).toContain('needless one channel');
    expect(refused('strict')).toContain('verified list');
    expect(refused('balanced')).not.toContain('verified list');
  });

  test('what the job says reaches the school: capacity first, and a memory test passed', () => {
    const uneven = [
      unit('a1', kept('a1'), four),
      unit('a2', kept('a2')),
      unit('b2', bought('one')),
    ];
    const like = { need: 18, school: 'balanced' as const, fitted: { a1: eight, a2: eight } };
    const three = uneven.map((one) => ({ ...one, module: eight }));
    expect(objections(query(like), three)).toMatchObject([{ type: 'refused' }]);
    expect(objections(query({ ...like, capacityFirst: true }), three)).toEqual([]);
    const profile = { rate: dataRate(3600), timings: { cl: 18 }, voltageMv: 1350 };
    const fast = pair.map((one) => ({ ...one, module: { ...eight, profile } }));
    const passed = (memoryTestPassed: boolean) =>
      assess(
        query({ settings: ['profile'], school: 'balanced', memoryTestPassed }),
        fast,
        'profile',
      ).match.schools[1]?.rows.find(({ question }) => question === 'profile beyond limit')?.because;
    expect(passed(false)).toBe('beyond a limit');
    expect(passed(true)).toBe('memory test passed');
  });

  test.each([
    ['blocked', { type: 'blocked', blockers: [] }, true],
    ['out of stock', { type: 'stock', offerId: 'a', packs: 2, stock: 1 }, true],
    ['without a price', { type: 'no-price', offerId: 'a' }, true],
    ['not allowed', { type: 'setting', setting: 'profile' }, true],
    ['too small', { type: 'short', usable: 1, need: 2 }, false],
    ['too dear', { type: 'over-budget', cost: 2, budget: 1 }, false],
    ['frowned upon', { type: 'refused', rows: [] }, false],
  ] as const)('a plan that is %s is impossible: %3$s', (_what, objection, isOut) => {
    expect(isImpossible(objection)).toBe(isOut);
  });
});
