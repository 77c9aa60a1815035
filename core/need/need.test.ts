import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { desktop, labelled, running } from '../../test/support/builders.ts';
import { needSentence, workingSetText } from '../explaining/index.ts';
import type { Machine, Placement } from '../machine/index.ts';
import { gib } from '../units/index.ts';
import { needWithMargin, adviseNeed, findNeedFaults, workingSet } from './index.ts';
import type { NeedInput } from './index.ts';

const input = (more: Partial<NeedInput> = {}): NeedInput => ({
  idle: { low: 2, high: 4 },
  activities: [{ name: 'Drawings', low: 6, high: 10 }],
  ...{ peak: null, drive: 'solid state', graphicsShort: false, ...more },
});
const module = labelled('8GB 1Rx8 PC4-2400T-UA1-11');

describe('the working set', () => {
  test.each([
    [
      'activities are summed with the idle system',
      {},
      { low: 8, high: 14, need: 14, from: 'estimate' },
    ],
    [
      'a measured peak outranks them',
      { peak: { gib: 9, paging: false } },
      { low: 9, high: 9, need: 9, from: 'peak' },
    ],
    [
      'a peak while paging bounds from below only',
      { peak: { gib: 12, paging: true } },
      { low: 12, high: 14, need: 14, from: 'peak, paging' },
    ],
    [
      'also above every estimate',
      { peak: { gib: 20, paging: true } },
      { low: 20, high: 20, need: 20, from: 'peak, paging' },
    ],
    ['nothing known is no need', { activities: [] }, undefined],
  ])('%s', (_name, more, expected) => {
    expect(workingSet(input(more as Partial<NeedInput>))).toEqual(expected);
  });

  test('opening more never needs less, and the need lies in its range', () => {
    const range = fc
      .tuple(
        fc.double({ min: 0, max: 64, noNaN: true }),
        fc.double({ min: 0, max: 64, noNaN: true }),
      )
      .map(([a, b]) => ({ name: 'x', low: Math.min(a, b), high: Math.max(a, b) }));
    const peak = fc.option(
      fc.record({ gib: fc.double({ min: 0, max: 64, noNaN: true }), paging: fc.boolean() }),
    );
    fc.assert(
      fc.property(fc.array(range, { minLength: 1 }), range, peak, (activities, more, measured) => {
        const less = workingSet(input({ activities, peak: measured }));
        const all = workingSet(input({ activities: [...activities, more], peak: measured }));
        if (!less || !all) throw new Error('expected a working set');
        expect(all.need).toBeGreaterThanOrEqual(less.need);
        expect(all.low).toBeLessThanOrEqual(all.high);
        expect(all.need).toBe(all.high);
      }),
      { seed: 7 },
    );
  });

  test.each([
    [{ idle: { low: -1, high: 2 } }, { type: 'negative', path: 'idle' }],
    [{ activities: [{ name: 'x', low: 3, high: 2 }] }, { type: 'reversed', path: 'activities.0' }],
    [{ peak: { gib: 9000, paging: false } }, { type: 'too-large', path: 'peak' }],
  ])('%j is a slip', (more, fault) => {
    expect(findNeedFaults(input(more as Partial<NeedInput>))).toEqual([fault]);
  });
});

describe('the honest answers', () => {
  const answers = (
    more: Partial<NeedInput>,
    placement: Placement,
    traits: Partial<Machine> = {},
  ): string[] => {
    const machine = desktop(traits);
    const stated = input(more);
    const work = workingSet(stated);
    if (!work) throw new Error('expected a working set');
    return adviseNeed(machine, stated, work, 0.25, running(machine, placement)).map(
      ({ type }) => type,
    );
  };
  const two = { a1: module, b1: module };
  const four = { a1: module, a2: module, b1: module, b2: module };
  test.each([
    ['short', {}, { a1: module }, {}, ['short', 'measure-peak']],
    ['fits, without its margin', {}, two, {}, ['tight', 'measure-peak']],
    ['enough already', {}, four, {}, ['enough', 'measure-peak']],
    ['the drive first', { drive: 'spinning' }, four, {}, ['enough', 'drive-first', 'measure-peak']],
    [
      'a drive that makes paging worse',
      { drive: 'spinning' },
      { a1: module },
      {},
      ['short', 'drive-hurts', 'measure-peak'],
    ],
    [
      'paging proves a shortage the estimate does not see',
      { peak: { gib: 14, paging: true } },
      four,
      {},
      ['short'],
    ],
    [
      'graphics memory instead',
      { graphicsShort: true, peak: { gib: 9, paging: false } },
      two,
      {},
      ['enough', 'graphics-memory'],
    ],
    [
      'the 32-bit system first',
      { peak: { gib: 3.2, paging: true } },
      { a1: module },
      { osLimit: { low: gib(3), high: gib(3.5) } },
      ['system-first', 'short'],
    ],
    [
      'more than the machine can hold',
      {},
      { a1: module },
      { maxTotal: gib(16) },
      ['beyond-machine', 'short', 'measure-peak'],
    ],
  ])('%s', (_name, more, placement, traits, expected) => {
    expect(answers(more as Partial<NeedInput>, placement as Placement, traits)).toEqual(expected);
  });

  test('a customer is told in plain words', () => {
    const work = workingSet(input({ activities: [{ name: 'x', low: 12, high: 18 }] }));
    if (!work) throw new Error('expected a working set');
    expect(workingSetText(work)).toBe('14 to 22 GB');
    expect(needSentence(work, 12)).toBe(
      'With everything open you need about 22 GB; you have 12 GB. The drive is standing in for memory, and that is what you wait for.',
    );
    expect(needSentence(work, 32)).toContain('Memory is not what you wait for.');
  });
});

test.each([
  [{ need: 16, margin: 0.25 }, 20],
  [{ need: 16, margin: 0 }, 16],
  [{ need: 0, margin: 3 }, 0],
  [{ need: null, margin: 0.25 }, undefined],
])('with its margin %j is %s GB', (terms, wanted) => {
  expect(needWithMargin(terms)).toBe(wanted);
});
