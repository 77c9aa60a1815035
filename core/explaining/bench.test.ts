import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { desktop, labelled } from '../../test/support/builders.ts';
import { SLIPS, expectSound } from '../../test/support/soundWords.ts';
import { SYMPTOMS, actionFor, diagnose, modelOf, narrowErrors } from '../diagnosing/index.ts';
import {
  CAUTIONS,
  PLAIN_STEPS,
  closingActs,
  expectStart,
  judgeReading,
  openingActs,
} from '../fitting/index.ts';
import type { CoverMap, Task } from '../fitting/index.ts';
import {
  CAUTION_WORDS,
  SYMPTOM_WORDS,
  causeText,
  checkHow,
  checkText,
  explainAction,
  explainCause,
  explainLikely,
  explainNarrowing,
  rulesOutText,
  outcomeText,
  ruledOutText,
  slotNames,
  startText,
  taskWords,
} from './index.ts';

const machine = desktop();
const nameOf = slotNames(machine);
const eight = labelled('8GB 1Rx8 PC4-2666V-UA1-11');
const placement = { a1: eight, a2: eight, b1: eight, b2: eight };

describe('words of the bench', () => {
  test('are whole for every step of every kind of machine', () => {
    const map: CoverMap = {
      ...{ width: 300, height: 200, note: '' },
      parts: [
        { kind: 'clip', id: 'c', x: 1, y: 1 },
        { kind: 'cable', id: 'k', x: 9, y: 9, what: 'fan lead' },
        ...([true, false] as const).map((captive, at) => ({
          ...({
            kind: 'fastener',
            id: `s${at}`,
            x: 20 * at,
            y: 20,
            drive: 'star',
            size: 'T5',
          } as const),
          ...({ length: at === 0 ? 'unknown' : 4, captive, under: 'foot' } as const),
        })),
      ],
    };
    const tasks: Task[] = [
      ...PLAIN_STEPS.map((step) => ({ type: 'plain', step }) as const),
      ...[...openingActs(map), ...closingActs(map)].map((act) => ({ type: 'cover', act }) as const),
      ...(['aside', 'drawer', 'customer'] as const).map(
        (to) => ({ type: 'pull', slotId: 'a1', module: eight, to }) as const,
      ),
      { type: 'seat', slotId: 'b1', module: eight },
      { type: 'reseat', slotId: 'b1', module: eight },
      ...(['standard', 'profile'] as const).map((setting) => ({ type: 'set', setting }) as const),
    ];
    for (const formFactor of ['DIMM', 'SODIMM', 'compression'] as const)
      for (const task of tasks) {
        const { title, how } = taskWords(task, { ...machine, formFactor }, nameOf);
        expect(`${title}. ${how}`).not.toMatch(SLIPS);
        // Read from two metres: a title is short.
        expect(title.length, title).toBeLessThan(48);
        expect(how, title).toMatch(/[.?!]$/);
      }
    for (const caution of CAUTIONS) expect(CAUTION_WORDS[caution].text).toMatch(/\.$/);
    expect(startText(expectStart(machine, placement))).not.toMatch(SLIPS);
  });

  test('are whole for every cause, check, answer and action', () => {
    for (const symptom of SYMPTOMS) {
      expect(SYMPTOM_WORDS[symptom]).not.toMatch(SLIPS);
      for (const moved of [true, false]) {
        const model = modelOf({ machine, placement, setting: 'profile', moved, symptom });
        for (const cause of model.causes) {
          expectSound(explainCause(cause, model.traits, nameOf));
          expectSound(explainAction(actionFor(cause), nameOf));
          expect(causeText(cause, nameOf)).not.toMatch(/“/);
        }
        for (const check of model.checks) {
          expect(checkText(check, nameOf)).not.toMatch(SLIPS);
          expect(checkHow(check)).toMatch(/[.?]$/);
          for (const outcome of check.outcomes)
            // A slot is named as the board prints it, never by its id.
            expect(outcomeText(check, outcome, nameOf)).not.toMatch(/\b[ab][12]\b|undefined|“/);
        }
        ruledOutText(model).forEach((text) => expect(text).not.toMatch(SLIPS));
        expect(diagnose(model, []).next).toBeDefined();
      }
    }
  });

  test('are whole for whatever is read after the first start or imported', () => {
    const expected = { machine, placement, setting: 'standard' } as const;
    fc.assert(
      fc.property(
        fc.constantFrom(
          'firmware total',
          'rate',
          'system total',
          'usable',
          'profile',
          'picture',
          'slots',
        ),
        fc.nat(9000),
        fc.uniqueArray(fc.constantFrom('a1', 'a2', 'b1', 'b2')),
        (kind, figure, slots) => {
          const value =
            kind === 'slots'
              ? slots
              : kind === 'profile' || kind === 'picture'
                ? figure % 2 === 0
                : figure / 100;
          const judged = judgeReading(kind, value, expected);
          if (judged?.likely) expectSound(explainLikely(judged.likely, nameOf));
          expect(judged?.isGood).toBe(judged?.likely === undefined);
          const errors = slots.map((_, at) => ({ address: figure * 2 ** (20 + at), bits: [3] }));
          const interleave = figure % 2 === 0 ? { granule: 256, order: ['A', 'B'] } : undefined;
          expectSound(
            explainNarrowing(narrowErrors(machine, placement, errors, interleave), nameOf),
          );
        },
      ),
    );
  });
});

test.each([
  [2, 75],
  [1, 50],
  [0.6, 35],
  [0.4, 25],
  [0.01, 5],
])('a check that is expected to tell %d bits rules out about %d %', (bits, share) => {
  expect(rulesOutText(bits)).toBe(`rules out about ${share} %`);
});
