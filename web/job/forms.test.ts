import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { needInput as needSchema } from '#contract/need';
import { jobTerms } from '#contract/records';
import type { IntakeTerms, Job } from '#contract/records';
import { plainMachine } from '#core/machine';
import { IDLE_SYSTEM } from '#core/need';
import { gib } from '#core/units';
import { desktop } from '../../test/support/builders.ts';
import { CONSENTS, intakeFromForm, intakeToForm } from './intake/intakeForm.ts';
import type { IntakeForm } from './intake/intakeForm.ts';
import { formFromJob, needFromForm } from './needForm.ts';
import type { NeedForm } from './needForm.ts';

const words = (most: number) => fc.string({ maxLength: most }).map((text) => text.trim());

describe('what a job is taken in with', () => {
  const consent = fc.constantFrom('yes' as const, 'no' as const, 'not asked' as const);
  const anyIntake: fc.Arbitrary<IntakeTerms> = fc.record({
    work: words(200),
    budget: fc.option(fc.nat(99_999_999)),
    deadline: fc.option(
      fc
        .date({ min: new Date('2020-01-01'), max: new Date('2090-01-01'), noInvalidDate: true })
        .map((day) => day.toISOString().slice(0, 10)),
    ),
    consents: fc.record(
      Object.fromEntries(CONSENTS.map((name) => [name, consent])) as Record<
        (typeof CONSENTS)[number],
        typeof consent
      >,
    ),
    condition: words(200),
    swollenBattery: fc.boolean(),
  });

  test('comes back from its form unchanged, to the last cent', () => {
    fc.assert(
      fc.property(anyIntake, fc.constantFrom('EUR', 'JPY', 'KWD'), (terms, currency) => {
        expect(intakeFromForm(intakeToForm(currency, terms), currency)).toEqual({
          terms,
          errors: {},
        });
      }),
    );
  });

  test.each([
    ['', null],
    ['120', 12_000],
    ['89,50', 8950],
    ['89.5', 8950],
    [' 0 ', 0],
    ['0.07', 7],
  ])('a budget typed as “%s” is %s in minor units', (budget, minor) => {
    expect(intakeFromForm({ ...intakeToForm('EUR'), budget }, 'EUR').terms?.budget).toBe(minor);
  });

  test.each([
    [{ budget: 'much' }, 'budget', /An amount such as/],
    [{ budget: '-5' }, 'budget', /An amount such as/],
    [{ budget: '1e3' }, 'budget', /An amount such as/],
    [{ budget: 'Infinity' }, 'budget', /An amount such as/],
    [{ budget: '2000000' }, 'budget', /An amount such as/],
    [{ deadline: 'soon' }, 'deadline', /Enter a date/],
    [{ deadline: '2026-02-30' }, 'deadline', /Enter a date/],
    [{ work: 'x'.repeat(501) }, 'work', /500 characters/],
    [{ condition: 'x'.repeat(1001) }, 'condition', /1000 characters/],
  ] satisfies [Partial<IntakeForm>, keyof IntakeForm, RegExp][])(
    '%o is refused at %s',
    (typed, field, message) => {
      const { terms, errors } = intakeFromForm({ ...intakeToForm('EUR'), ...typed }, 'EUR');
      expect(terms).toBeUndefined();
      expect(errors[field]).toMatch(message);
      expect(Object.keys(errors)).toEqual([field]);
    },
  );
});

describe('the need', () => {
  const size = fc.integer({ min: 0, max: 40_000 }).map((hundredths) => hundredths / 100);
  const range = fc
    .tuple(size, size)
    .map(([a, b]) => ({ low: Math.min(a, b), high: Math.max(a, b) }));
  const anyNeed = fc.record({
    idle: range,
    activities: fc.array(
      fc.tuple(words(40).filter(Boolean), range).map(([name, used]) => ({ name, ...used })),
      { maxLength: 6 },
    ),
    peak: fc.option(fc.record({ gib: size, paging: fc.boolean() })),
    drive: fc.constantFrom('solid state' as const, 'spinning' as const, 'unknown' as const),
    graphicsShort: fc.boolean(),
  });
  const anyTerms = fc.record({
    needInput: anyNeed,
    margin: fc.integer({ min: 0, max: 300 }).map((percent) => percent / 100),
    school: fc.constantFrom('strict' as const, 'balanced' as const, 'lenient' as const),
    capacityFirst: fc.boolean(),
  });
  const jobWith = (more: Partial<Job>, machine = desktop()) =>
    ({
      ...{ needInput: null, need: null, margin: 0.25, school: 'balanced', capacityFirst: false },
      machine: { machine },
      ...more,
    }) as Job;
  const blank = formFromJob(jobWith({}));

  test('comes back from its form unchanged', () => {
    fc.assert(
      fc.property(anyTerms, (terms) => {
        fc.pre(needSchema.safeParse(terms.needInput).success);
        const { terms: back, errors } = needFromForm(formFromJob(jobWith(terms)));
        expect(errors).toEqual({});
        expect(back).toMatchObject({ ...terms, margin: expect.closeTo(terms.margin, 9) as number });
      }),
    );
  });

  test('a need once typed as one figure stands as a measured peak', () => {
    const form = formFromJob(jobWith({ need: 12.5 }));
    expect(form).toMatchObject({ peak: '12.5', paging: false, activities: [] });
    expect(needFromForm(form).terms?.needInput?.peak).toEqual({ gib: 12.5, paging: false });
  });

  test('a system of 32 bits is taken to keep less for itself', () => {
    const narrow = plainMachine({
      ...{ name: 'x', kind: 'desktop', generation: 'DDR2', formFactor: 'DIMM' },
      ...{ channels: 2, slotsPerChannel: 2 },
    });
    const limited = { ...narrow, osLimit: { low: gib(3), high: gib(3.5) } };
    const idleOf = (one: typeof narrow) => Number(formFromJob(jobWith({}, one)).idle.high);
    expect(idleOf(limited)).toBeLessThan(IDLE_SYSTEM.low);
    expect(idleOf({ ...narrow, osLimit: 'none' })).toBe(IDLE_SYSTEM.high);
  });

  test.each([
    [{ idle: { low: '', high: '3' } }, 'idle.low', /Type a figure/],
    [{ idle: { low: 'two', high: '3' } }, 'idle.low', /Type a figure/],
    [{ idle: { low: '4', high: '3' } }, 'idle', /./],
    [{ activities: [{ name: '', low: '1', high: '2' }] }, 'activities.0.name', /Enter/],
    [
      {
        activities: [
          { name: 'Mail', low: '1', high: '2' },
          { name: 'Maps', low: 'x', high: '2' },
        ],
      },
      'activities.1.low',
      /Type a figure/,
    ],
    [{ peak: 'all of it' }, 'peak', /Type a figure/],
    [{ peak: '-2' }, 'peak', /./],
    [{ margin: '301' }, 'margin', /300 % or less/],
    [{ margin: '-1' }, 'margin', /0 % or more/],
    [{ margin: '' }, 'margin', /Type a figure/],
  ] satisfies [Partial<NeedForm>, string, RegExp][])(
    '%o is refused at %s',
    (typed, field, message) => {
      const { terms, errors } = needFromForm({ ...blank, ...typed });
      expect(terms).toBeUndefined();
      expect(errors[field]).toMatch(message);
    },
  );

  test('a decimal comma is a decimal point', () => {
    const { terms } = needFromForm({
      ...blank,
      idle: { low: '2,5', high: '3,25' },
      margin: '12,5',
    });
    expect(terms).toMatchObject({ needInput: { idle: { low: 2.5, high: 3.25 } }, margin: 0.125 });
    expect(jobTerms.shape.margin.safeParse(terms?.margin).success).toBe(true);
  });
});
