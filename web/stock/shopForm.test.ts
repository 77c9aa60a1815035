import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { LABEL_SHEETS } from '#core/stock';
import { MACHINE_KINDS } from '#core/machine';
import { SCHOOLS } from '#core/matching';
import { DEFAULT_TERMS, PAPERS } from '#core/quoting';
import type { ShopTerms } from '#core/quoting';
import { DATE_STYLES, NUMBER_STYLES } from '#core/units';
import { formFromTerms, termsFromForm } from './shopForm.ts';

const amount = fc.integer({ min: 0, max: 5_000_000 });
const anyTerms: fc.Arbitrary<ShopTerms> = fc.record({
  name: fc.stringMatching(/^[A-Za-z]{1,40}$/),
  address: fc.stringMatching(/^[A-Za-z]{0,20}\n?[A-Za-z]{0,20}$/).map((text) => text.trim()),
  currency: fc.constantFrom('EUR', 'JPY', 'KWD', 'CHF'),
  taxPercent: fc.integer({ min: 0, max: 600 }).map((tenths) => tenths / 10),
  labour: fc.record(
    Object.fromEntries(MACHINE_KINDS.map((kind) => [kind, amount])) as Record<
      (typeof MACHINE_KINDS)[number],
      typeof amount
    >,
  ),
  creditPerGb: amount,
  validDays: fc.integer({ min: 1, max: 365 }),
  warranty: fc.stringMatching(/^[a-z]{0,40}$/),
  paper: fc.constantFrom(...PAPERS),
  marginPercent: fc.option(fc.integer({ min: 0, max: 400 })),
  roundPricesTo: fc.integer({ min: 1, max: 100_000 }),
  labelSheet: fc.constantFrom(...LABEL_SHEETS.map(({ id }) => id)),
  school: fc.constantFrom(...SCHOOLS),
  needMargin: fc.integer({ min: 0, max: 300 }).map((percent) => percent / 100),
  activities: fc.constant(DEFAULT_TERMS.activities),
  dates: fc.constantFrom(...DATE_STYLES),
  numbers: fc.constantFrom(...NUMBER_STYLES),
});

const blank = formFromTerms(DEFAULT_TERMS);
const faults = (typed: Partial<typeof blank>) =>
  termsFromForm({ ...blank, ...typed }, DEFAULT_TERMS).errors;

describe('the shop’s terms as typed', () => {
  test('nothing typed changes nothing, in any currency and any writing', () => {
    fc.assert(
      fc.property(anyTerms, (terms) => {
        const read = termsFromForm(formFromTerms(terms), terms);
        expect(read.errors).toEqual({});
        expect(read.terms).toEqual(terms);
      }),
    );
  });

  test('a figure with a decimal comma is that figure, and a currency in small letters that currency', () => {
    const typed = { ...blank, taxPercent: '8,1', needMargin: '12,5', currency: 'chf' };
    const { terms } = termsFromForm(typed, DEFAULT_TERMS);
    expect(terms).toMatchObject({ taxPercent: 8.1, needMargin: 0.125, currency: 'CHF' });
  });

  test.each([
    ['an empty tax is no tax of 0 %', { taxPercent: '' }, 'taxPercent', 'Type a figure'],
    ['half a day', { validDays: '1.5' }, 'validDays', 'whole days'],
    ['a margin below nothing', { marginPercent: '-5' }, 'marginPercent', '0 % or more'],
    ['a margin of words', { needMargin: 'plenty' }, 'needMargin', 'Type a figure'],
    ['rounding to nothing', { roundPricesTo: '0' }, 'roundPricesTo', 'one or more'],
    ['cents of yen', { currency: 'JPY', creditPerGb: '1.50' }, 'creditPerGb', 'without decimals'],
    ['letters that are no currency', { currency: 'QQQ' }, 'currency', 'three letters'],
  ])('%s is said at its field', (_name, typed, field, said) => {
    const found = faults(typed);
    expect(Object.keys(found)).toContain(field);
    expect(found[field]).toContain(said);
  });

  test('labour is said by the kind of machine', () => {
    const labour = { ...blank.labour, laptop: 'a lot' };
    expect(Object.keys(faults({ labour }))).toEqual(['labour.laptop']);
  });
});
