import { describe, expect, test } from 'vitest';
import { labelled } from '../../test/support/builders.ts';
import { CHANGE_SUBJECTS, explainChange } from './changes.ts';

const change = (field: string, before: unknown, after: unknown, what = '') =>
  explainChange({ subject: 'job', what, field, before, after }, 'EUR');

describe('a change in words', () => {
  test.each([
    ['price', 4500, 5250, { title: 'Price, Kit A', from: '€45.00', to: '€52.50' }],
    ['price', null, 5250, { title: 'Price, Kit A', from: 'none', to: '€52.50' }],
    ['terms.taxPercent', 19, 7, { title: 'Tax, Kit A', from: '19 %', to: '7 %' }],
    [
      'terms.validDays',
      14,
      7,
      { title: 'Days a quote holds, Kit A', from: '14 days', to: '7 days' },
    ],
    [
      'consents.openCase',
      'not asked',
      'yes',
      { title: 'Consent: opening the case, Kit A', from: 'not asked', to: 'yes' },
    ],
    ['need', 24, 32.5, { title: 'Need, Kit A', from: '24 GB', to: '32.5 GB' }],
    ['margin', 0.25, 0.4, { title: 'Margin on the need, Kit A', from: '25 %', to: '40 %' }],
    ['is_active', true, false, { title: 'Account open, Kit A', from: 'yes', to: 'no' }],
    [
      'dead_slots',
      [],
      ['a1', 'b2'],
      { title: 'Slots not to be used, Kit A', from: 'none', to: 'a1 and b2' },
    ],
    [
      'result.headline',
      null,
      'Runs paired',
      { title: 'Verdict, Kit A', from: 'none', to: 'Runs paired' },
    ],
    ['unheard', 'a', 'b', { title: 'unheard, Kit A', from: 'a', to: 'b' }],
  ])('%s', (field, before, after, words) => {
    expect(change(field, before, after, 'Kit A')).toEqual(words);
  });

  test('a module put into a plan is said as one', () => {
    const module = labelled('8GB 1Rx8 PC4-2400T-UA1-11');
    const { title, from, to } = change('placement.a1', null, module);
    expect([title, from]).toEqual(['Planned in a1', 'none']);
    expect(to).toContain('8 GB');
  });

  test('of a password nothing is said but that it is new', () => {
    const words = change('password', null, null, 'Bram');
    expect(words).toEqual({ title: 'Password of Bram', from: '', to: 'set anew' });
  });

  test('of a quote it is said which', () => {
    const change = { subject: 'quote', what: '2', field: 'total', before: null, after: 9900 };
    expect(explainChange(change, 'EUR')).toMatchObject({ title: 'Total, quote 2', to: '€99.00' });
  });

  test('labour is said machine by machine', () => {
    const { from, to } = change('terms.labour', { laptop: 3000 }, { laptop: 3500, desktop: 2000 });
    expect([from, to]).toEqual(['laptop €30.00', 'laptop €35.00 and desktop €20.00']);
  });

  test('every subject has words', () => {
    for (const words of Object.values(CHANGE_SUBJECTS)) expect(words).toMatch(/^[A-Z]/);
  });
});
