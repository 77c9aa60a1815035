import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import type { KeptPlan } from '#contract/records';
import { nameChoices, runToEnd, withVerified } from '#core/planning';
import { anySmallQuery } from '../../../test/support/anyQuery.ts';
import { FIGURES, changeOf, comparedPlans } from './compared.ts';

/** Plans, the choices among them, and some put aside under names of their own. */
const anyContext = fc
  .tuple(anySmallQuery, fc.array(fc.nat(), { maxLength: 3 }))
  .map(([asked, picks]) => {
    const query = { ...asked, machine: withVerified(asked.machine, asked.offers) };
    const { plans } = runToEnd(query);
    const kept = picks.flatMap((at, nth): KeptPlan[] => {
      const plan = plans[at % Math.max(1, plans.length)];
      return plan
        ? [{ name: `kept ${nth}`, note: '', units: plan.units, setting: plan.setting }]
        : [];
    });
    return { query, kept, choices: nameChoices(plans, query) };
  });

describe('plans side by side', { timeout: 120_000 }, () => {
  test('start with what is there now; nothing is lost, and no choice stands twice', () => {
    fc.assert(
      fc.property(anyContext, (context) => {
        const shown = comparedPlans(context, 'standard');
        const [now, ...others] = shown;
        expect(now).toMatchObject({ title: 'Now', role: 'now' });
        expect(now?.assessment.plan.placement).toEqual(context.query.fitted);
        expect(now?.assessment.plan.cost.net).toBe(0);
        // Every plan put aside is there, in its order and with its place among them.
        expect(
          others.filter(({ role }) => role === 'kept').map(({ title, at }) => [title, at]),
        ).toEqual(context.kept.map(({ name }, at) => [name, at]));
        const ids = shown.map(({ assessment }) => assessment.plan.id);
        // Every named choice is there, once, be it as now, as kept or by its name.
        for (const { plan } of context.choices) expect(ids).toContain(plan.id);
        const named = others.filter(({ role }) => role === 'choice');
        for (const { assessment } of named)
          expect(ids.filter((id) => id === assessment.plan.id)).toHaveLength(1);
      }),
      { numRuns: 60 },
    );
  });

  test('with nothing kept, the named choices stand beside what is there now', () => {
    let several = 0;
    fc.assert(
      fc.property(anyContext, (context) => {
        const shown = comparedPlans({ ...context, kept: [] }, 'standard');
        if (shown.length > 2) several++;
        expect(shown.slice(1).every(({ role }) => role === 'choice')).toBe(true);
      }),
      { numRuns: 60 },
    );
    expect(several).toBeGreaterThan(5);
  });

  test('a figure is better one way, worse the other, and the same as itself', () => {
    fc.assert(
      fc.property(anyContext, (context) => {
        const [now, ...others] = comparedPlans(context, 'standard').map((one) => one.assessment);
        if (!now) throw new Error('expected what is there now');
        for (const row of FIGURES) {
          expect(changeOf(row, now, now)).toBe('same');
          for (const one of others) {
            const there = changeOf(row, one, now);
            const back = changeOf(row, now, one);
            const opposite = { better: 'worse', worse: 'better', same: 'same', other: 'other' };
            expect(back).toBe(opposite[there]);
            // What reads alike is alike: no mark beside two equal texts.
            if (row.text(one, 'EUR') !== row.text(now, 'EUR')) continue;
            expect([row.label, there]).toEqual([row.label, 'same']);
          }
        }
      }),
      { numRuns: 60 },
    );
  });

  test.each([
    ['Usable', 32, 16, 'better'],
    ['Usable', 8, 16, 'worse'],
    ['Match', 3, 0, 'worse'],
    ['Cost', 9000, 0, 'other'],
  ])('%s of %d beside %d is %s', (label, value, now, expected) => {
    const row = FIGURES.find((one) => one.label === label);
    if (!row) throw new Error(`expected ${label}`);
    const figure = { isBetter: row.isBetter, value: (one: unknown) => one as number };
    expect(changeOf(figure, value as never, now as never)).toBe(expected);
  });
});
