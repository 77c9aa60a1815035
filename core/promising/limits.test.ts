import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { anySmallQuery } from '../../test/support/anyQuery.ts';
import { desktop, labelled } from '../../test/support/builders.ts';
import type { MemoryModule } from '../memory/index.ts';
import type { Offer, PlanQuery } from '../planning/index.ts';
import { compareSystems } from '../timing-simulation/index.ts';
import type { Memo } from '../timing-simulation/index.ts';
import { dataRate } from '../units/index.ts';
import { gainOfLimit, KINDS_OF_WORK, LEVERS, limitsOf, mostBound } from './index.ts';
import type { Lever } from './index.ts';

const eight = labelled('8GB 1Rx8 PC4-2666V-UA2-11');
const tight = labelled('8GB 1Rx8 PC4-2133P-UA1-11 profile 3200MT/s CL14-14-14-34 1.35V');
const fast = labelled('8GB 1Rx8 PC4-3200AA-UA2-11');
const offer = (id: string, module: MemoryModule, price: number, units = 1): Offer => ({
  ...{ id, module, price, units, stock: 'unknown', verified: false },
});
const query = (fitted: PlanQuery['fitted'], more: Partial<PlanQuery> = {}): PlanQuery => ({
  ...{ machine: desktop(), fitted, need: 6, budget: undefined, school: 'lenient' },
  ...{ capacityFirst: false, memoryTestPassed: false, settings: ['standard', 'profile'] },
  ...{ drawer: [], credit: {}, labour: 2000 },
  offers: [offer('like it', eight, 2300), offer('tight', tight, 9900), offer('fast', fast, 3500)],
  ...more,
});
const limitOf = (asked: PlanQuery, lever: Lever) => {
  const limit = limitsOf(asked, { placement: asked.fitted, setting: 'standard' })?.limits.find(
    (one) => one.lever === lever,
  );
  if (!limit) throw new Error(`expected ${lever}`);
  return limit;
};

describe('what limits a machine', () => {
  test('an empty second channel: the cheapest module that fills it, beside what a tighter kit costs', () => {
    const asked = query({ a1: eight });
    const channels = limitOf(asked, 'channels');
    expect(channels).toMatchObject({ state: 'to gain', from: 1, to: 2 });
    // 23.00 and 20.00 labour.
    expect(channels.means?.cost.net).toBe(4300);
    expect(channels.means?.placement['a1']).toEqual(eight);
    const timings = limitOf(asked, 'timings');
    expect(timings.means?.cost.net).toBe(11900);
    expect(timings.to).toBeCloseTo(8.75, 2);
  });

  test(
    'and simulated, the second channel gives many times what the tighter kit does',
    { timeout: 120_000 },
    () => {
      const asked = query({ a1: eight });
      const found = limitsOf(asked, { placement: asked.fitted, setting: 'standard' });
      const kind = mostBound(KINDS_OF_WORK.filter(({ id }) => id === 'games' || id === 'office'));
      if (!found || !kind) throw new Error('expected limits and games');
      const memo: Memo = new Map();
      const middle = (lever: Lever) => {
        const compared = found.limits.find((one) => one.lever === lever)?.compared;
        if (!compared) throw new Error(`expected ${lever} to be simulated`);
        const gain = gainOfLimit(
          found.point,
          kind,
          compareSystems(compared.before, compared.after, memo),
        );
        return gain ? (gain.low + gain.high) / 2 : NaN;
      };
      expect(kind.id).toBe('games');
      expect(middle('channels')).toBeGreaterThan(2 * middle('timings'));
      expect(middle('ranks')).toBeLessThan(middle('channels'));
    },
  );

  test('both channels in use are no limit; a tail that the need reaches is one', () => {
    expect(limitOf(query({ a1: eight, b1: eight }), 'channels').state).toBe('here');
    const sixteen = labelled('16GB 2Rx8 PC4-2666V-UB1-11');
    const uneven = { a1: eight, b1: sixteen };
    expect(limitOf(query(uneven, { need: 12 }), 'channels').state).toBe('here');
    expect(limitOf(query(uneven, { need: 20 }), 'channels')).toMatchObject({ from: 1, to: 2 });
  });

  test('a rate that the machine does not take is no limit of the memory', () => {
    const asked = (machine = desktop()) => query({ a1: eight }, { machine });
    expect(limitOf(asked(), 'rate')).toMatchObject({ state: 'to gain', from: 2666, to: 3200 });
    const capped = desktop({
      firmwareCap: dataRate(2666),
      profiles: { support: 'no', ceiling: 'none' },
    });
    expect(limitOf(asked(capped), 'rate').state).toBe('here');
  });

  test('ranks and chips nobody knows are not guessed', () => {
    const bare: MemoryModule = { ...eight, ranks: 'unknown', chipWidth: 'unknown' };
    expect(limitOf(query({ a1: bare }), 'ranks').state).toBe('not known');
    expect(limitOf(query({ a1: bare }), 'chips').state).toBe('not known');
    const wide: MemoryModule = { ...eight, chipWidth: 16 };
    expect(limitOf(query({ a1: wide }), 'chips')).toMatchObject({ from: 16, to: 8 });
    expect(limitOf(query({ a1: eight }), 'chips').state).toBe('here');
  });

  test('room is one where the need does not fit, and not known where nobody said', () => {
    const asked = (need: number | undefined) => limitOf(query({ a1: eight }, { need }), 'room');
    expect(asked(6).state).toBe('here');
    expect(asked(12)).toMatchObject({ state: 'to gain', from: 8, to: 12 });
    expect(asked(12).means?.cost.net).toBe(4300);
    expect(asked(undefined).state).toBe('not known');
  });

  test('with nothing on offer the board’s own limits still show, without a price', () => {
    const channels = limitOf(query({ a1: eight }, { offers: [] }), 'channels');
    expect(channels).toMatchObject({ state: 'to gain', from: 1, to: 2 });
    expect(channels.means).toBeUndefined();
    expect(channels.compared).toBeDefined();
  });

  test('a profile that is there and off costs nothing to switch on', () => {
    const rate = limitOf(query({ a1: tight }), 'rate');
    expect(rate).toMatchObject({ state: 'to gain', from: 2133, to: 3200 });
    expect(rate.means?.cost.net).toBe(0);
  });

  test('where offers are faster still, what the profile alone brings is said beside them', () => {
    const rapid = labelled('8GB 1Rx8 PC4-2133P-UA1-11 profile 3600MT/s CL18-22-22-42 1.35V');
    const offers = [offer('rapid', rapid, 5000)];
    const rate = limitOf(query({ a1: tight }, { offers }), 'rate');
    expect(rate).toMatchObject({ from: 2133, to: 3600, byProfile: { to: 3200 } });
    expect(rate.byProfile?.plan.cost.net).toBe(0);
    expect(limitOf(query({ a1: tight }), 'rate').byProfile).toBeUndefined();
  });

  test('of any machine and offers: all six, never for the worse, and what brings it can be had', () => {
    let gained = 0;
    fc.assert(
      fc.property(anySmallQuery, (asked) => {
        const found = limitsOf(asked, { placement: asked.fitted, setting: 'standard' });
        if (!found) return;
        expect(found.limits.map(({ lever }) => lever)).toEqual([...LEVERS]);
        for (const { lever, state, from, to, means } of found.limits) {
          const isLess = lever === 'timings' || lever === 'chips';
          if (state === 'to gain') expect(isLess ? to < from : to > from, lever).toBe(true);
          if (!means) continue;
          gained++;
          expect(means.worth.usable).toBeGreaterThanOrEqual(found.point.usable.low);
          for (const { offerId } of means.purchases)
            expect(asked.offers.find(({ id }) => id === offerId)?.price).not.toBe('unknown');
        }
      }),
      { numRuns: 200, seed: 4 },
    );
    expect(gained).toBeGreaterThan(50);
  });
});
