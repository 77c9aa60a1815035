import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { anySmallQuery } from '../../test/support/anyQuery.ts';
import { SLIPS, expectSound } from '../../test/support/soundWords.ts';
import {
  assess,
  explainEmpty,
  findTippingPoints,
  judgeSource,
  nameChoices,
  recogniseUnits,
  runToEnd,
  withVerified,
} from '../planning/index.ts';
import { promiseOf } from '../promising/index.ts';
import {
  explainChoice,
  explainBeaten,
  explainEmptyFront,
  explainExclusion,
  explainObjection,
  explainTipping,
  gainRangeText,
  money,
  partText,
  planText,
  promiseHeadline,
  promiseText,
} from './index.ts';
import { often } from '../../test/support/draws.ts';

const nameOffer = (id: string) => `offer ${id}`;

describe('words for plans', { timeout: 120_000 }, () => {
  test('state sizes that add up to what is added, however many modules there are', () => {
    let several = 0;
    fc.assert(
      fc.property(anySmallQuery, (asked) => {
        const query = { ...asked, machine: withVerified(asked.machine, asked.offers) };
        for (const plan of runToEnd(query).plans) {
          const text = planText(plan, query.machine);
          const added = plan.units
            .filter(({ source }) => source.type !== 'kept')
            .reduce((sum, { module }) => sum + module.capacity, 0);
          const inGib = (figure: string, unit: string) =>
            Number(figure) / (unit === 'MB' ? 1024 : 1);
          let said = 0;
          for (const [, number = '', size = '', unit = '', total = '', of = ''] of text.matchAll(
            /add (\d+) × ([\d.]+) (MB|GB)[^(]*\(([\d.]+) (MB|GB)\)/gi,
          )) {
            several++;
            said += Number(number) * inGib(size, unit);
            expect(inGib(total, of)).toBeCloseTo(Number(number) * inGib(size, unit), 3);
          }
          for (const [, size = '', unit = ''] of text.matchAll(/add ([\d.]+) (MB|GB)/gi))
            said += inGib(size, unit);
          expect(said).toBeCloseTo(added, 3);
        }
      }),
      { numRuns: often(80), seed: 8 },
    );
    expect(several).toBeGreaterThan(20);
  });

  test('are whole for whatever a search finds, leaves out or beats', () => {
    fc.assert(
      fc.property(anySmallQuery, (asked) => {
        const query = { ...asked, machine: withVerified(asked.machine, asked.offers) };
        const { plans, exclusions } = runToEnd(query);
        for (const one of exclusions) explainExclusion(one, query.machine).forEach(expectSound);
        for (const { plan, kinds } of nameChoices(plans, query)) {
          expect(planText(plan, query.machine)).not.toMatch(SLIPS);
          const told = kinds.map((kind) => explainChoice(kind, query.need !== undefined));
          told.forEach(expectSound);
          // What is not stated is not claimed to be met.
          if (query.need === undefined)
            expect(told.map(({ title }) => title).join()).not.toContain('meets');
          const { machine, fitted, need } = query;
          const change = {
            machine,
            before: { placement: fitted, setting: 'standard' },
            need,
          } as const;
          const drive = plan.units.length % 2 === 0 ? 'spinning' : 'unknown';
          const promise = promiseOf({ ...change, after: plan }, { drive });
          const { now, then, room, gains, not, basis } = promiseText(query, plan, promise);
          for (const line of [now, then, room, ...gains, ...not, basis])
            expect(line).not.toMatch(SLIPS);
          if (promise) expect(promiseHeadline(promise)).not.toMatch(SLIPS);
        }
        if (plans.length === 0) {
          expectSound(explainEmptyFront(explainEmpty(query), query, 'EUR'));
          return;
        }
        for (const { id } of query.offers) {
          const verdict = judgeSource(query, plans, id);
          if (verdict.type === 'beaten')
            for (const { plan, by } of verdict.best)
              expectSound(explainBeaten(plan, by, query.machine, 'EUR'));
          if (verdict.type === 'no-plan')
            for (const objection of verdict.nearest?.objections ?? [])
              explainObjection(objection, query, 'EUR', nameOffer).forEach(expectSound);
        }
      }),
      { numRuns: often(60), seed: 8 },
    );
  });

  test('name every tipping point, and an unknown trait among them', () => {
    fc.assert(
      fc.property(anySmallQuery, (asked) => {
        const machine = withVerified(asked.machine, asked.offers);
        const query = { ...asked, machine };
        const chosen = runToEnd(query).plans[0];
        fc.pre(chosen !== undefined);
        if (!chosen) return;
        const points = [...findTippingPoints(query, chosen)];
        expect(points.filter(({ type }) => type === 'need')).toHaveLength(1);
        for (const point of points) expectSound(explainTipping(point, query, 'EUR', nameOffer));
      }),
      { numRuns: 25, seed: 2 },
    );
  });

  test('a plan laid out by hand is recognised as the one the search found', () => {
    fc.assert(
      fc.property(anySmallQuery, (asked) => {
        const query = { ...asked, machine: withVerified(asked.machine, asked.offers) };
        for (const plan of runToEnd(query).plans) {
          const units = recogniseUnits(query, plan.placement);
          expect(units.map(({ slotId }) => slotId)).toEqual(plan.units.map(({ slotId }) => slotId));
          const again = assess(query, units, plan.setting).plan;
          // The same modules in the same slots run the same, wherever they are said to come from.
          expect(again.worth.usable).toBe(plan.worth.usable);
          expect(again.worth.bandwidth).toBe(plan.worth.bandwidth);
          // One that stays put is never taken for a new one.
          for (const { slotId, source } of plan.units)
            if (source.type === 'kept' && source.from === slotId)
              expect(units.find((unit) => unit.slotId === slotId)?.source).toEqual(source);
        }
      }),
      { numRuns: often(60), seed: 9 },
    );
  });

  test.each([
    [{ low: 25, high: 60 }, '+25 to +60 %'],
    [{ low: -12.4, high: -6.33 }, '−12 to −6 %'],
    [{ low: -12.4, high: -4.33 }, 'up to −12 %'],
    [{ low: 1, high: 8.2 }, 'up to +8 %'],
    [{ low: -6, high: 7 }, '−6 to +7 %'],
    [{ low: -0.4, high: 1.2 }, 'no change to notice'],
  ])('a gain of %o is said as %s', (gain, text) => {
    expect(gainRangeText(gain)).toBe(text);
  });

  test('amounts carry their currency, also one without minor units', () => {
    expect(money(4790, 'EUR')).toBe('€47.90');
    expect(money(4790, 'JPY')).toMatch(/4,790$/);
  });

  test('a part is named so that it can be ordered', () => {
    const [offer] = fc.sample(anySmallQuery, { numRuns: 1, seed: 5 })[0]?.offers ?? [];
    if (!offer) throw new Error('expected an offer');
    expect(partText(offer.module, 2)).toMatch(/GB DDR4-\d+ CL\d+.* DIMM.*, pack of 2$/);
  });
});
