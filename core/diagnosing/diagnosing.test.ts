import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { plainMachine } from '../machine/index.ts';
import type { Machine, Placement } from '../machine/index.ts';
import { readLabel } from '../memory/index.ts';
import type { MemoryModule } from '../memory/index.ts';
import {
  CHECKS,
  SYMPTOMS,
  actionFor,
  byWeight,
  chancesAfter,
  diagnose,
  eachInTurn,
  errorsFromRows,
  minutesRatio,
  modelOf,
  narrowErrors,
  runCases,
  shareFound,
  suggest,
  traitsOf,
} from './index.ts';
import type { Model, Observation, Situation } from './index.ts';
import { often } from '../../test/support/draws.ts';

const moduleOf = (label: string): MemoryModule => {
  const { module } = readLabel(label);
  if (!module) throw new Error(`expected a module: ${label}`);
  return module;
};
const eight = { ...moduleOf('8GB 1Rx8 PC4-2666V-UA1-11'), maker: 'Orlo', partNumber: 'OR-8' };
const other = moduleOf('8GB 1Rx8 PC4-2400T-UA1-11');
const machine: Machine = {
  ...plainMachine({
    ...{ name: 'Test desktop', kind: 'desktop', generation: 'DDR4', formFactor: 'DIMM' },
    ...{ channels: 2, slotsPerChannel: 2 },
  }),
  controllerLimit: 3200 as never,
  unevenChannels: 'zone',
  requiredFirstSlot: 'a1',
};
const pair: Placement = { a1: eight, b1: eight };
const bench = { machine, placement: pair, setting: 'standard', moved: true } as const;
const inTrouble = (more: Partial<Situation> = {}): Situation => ({
  ...bench,
  symptom: 'less memory than fitted',
  ...more,
});

const anySituation = fc
  .record({
    symptom: fc.constantFrom(...SYMPTOMS),
    moved: fc.boolean(),
    setting: fc.constantFrom('standard' as const, 'profile' as const),
    filled: fc.uniqueArray(fc.constantFrom('a1', 'a2', 'b1', 'b2'), { minLength: 1 }),
  })
  .map(({ filled, ...rest }) => ({
    ...{ machine, ...rest },
    placement: Object.fromEntries(filled.map((id) => [id, eight])),
  }));

/** Any run through the checks of a model, unknown answers among them. */
const answersTo = (model: Model, picks: readonly number[]): Observation[] =>
  picks.flatMap((pick): Observation[] => {
    const check = model.checks[pick % model.checks.length];
    const outcomes = ['unknown', ...(check?.outcomes ?? [])];
    return check
      ? [{ checkId: check.id, outcome: outcomes[pick % outcomes.length] ?? 'unknown' }]
      : [];
  });

describe('the model', () => {
  test('is a proper one: chances sum to 1 before and after any answers, in any order', () => {
    fc.assert(
      fc.property(anySituation, fc.array(fc.nat(997), { maxLength: 6 }), (situation, picks) => {
        const model = modelOf(situation);
        const sum = (row: readonly number[]) => row.reduce((total, one) => total + one, 0);
        expect(sum(model.priors)).toBeCloseTo(1);
        const isChances = (row: readonly number[]) =>
          Math.abs(sum(row) - 1) < 0.005 && Math.min(...row) >= 0;
        const improper = model.checks.flatMap(({ chances, outcomes }) =>
          chances.filter((row) => row.length !== outcomes.length || !isChances(row)),
        );
        expect(improper).toEqual([]);
        const answers = answersTo(model, picks);
        const after = chancesAfter(model, answers);
        expect(sum(after)).toBeCloseTo(1);
        chancesAfter(model, answers.toReversed()).forEach((chance, at) => {
          if (Math.abs(chance - (after[at] ?? 0)) > 1e-6)
            expect([at, chance]).toEqual([at, after[at]]);
        });
        // No answer is expected to add doubt.
        const doubting = suggest(model, after, answers).filter(
          ({ bits, prospects }) => !(bits > 0) || !isChances(prospects.map(({ chance }) => chance)),
        );
        expect(doubting).toEqual([]);
      }),
      { numRuns: often(50) },
    );
  });

  test('shapes what is likely by what is known of machine and work', () => {
    const priorOf = (situation: Situation, kind: string) => {
      const { causes, priors } = modelOf(situation);
      return causes.reduce(
        (sum, cause, at) => sum + (cause.kind === kind ? (priors[at] ?? 0) : 0),
        0,
      );
    };
    // Nothing fitted yet rules out seating.
    expect(priorOf(inTrouble({ moved: false }), 'not seated')).toBe(0);
    expect(priorOf(inTrouble(), 'not seated')).toBeGreaterThan(0.3);
    const crashes = { symptom: 'crashes at times' } as const;
    const mixed = { ...pair, b1: other };
    expect(priorOf(inTrouble({ ...crashes, placement: mixed }), 'mixed timings')).toBeGreaterThan(
      2 * priorOf(inTrouble(crashes), 'mixed timings'),
    );
    const dark = { symptom: 'does not start' } as const;
    expect(priorOf(inTrouble(dark), 'first slot empty')).toBe(0);
    expect(
      priorOf(inTrouble({ ...dark, placement: { a2: eight, b2: eight } }), 'first slot empty'),
    ).toBeGreaterThan(0.2);
    expect(traitsOf(inTrouble({ placement: mixed }))).toContain('mixed set');
  });

  test('asks nothing dangerous first: a firmware update is never the opening check', () => {
    for (const symptom of SYMPTOMS) {
      const { next } = diagnose(modelOf(inTrouble({ symptom })), []);
      expect(next?.check.risk, symptom).not.toBe('can lose the board');
      expect(CHECKS[next?.check.kind ?? 'update firmware'].risk, symptom).not.toBe(
        'can lose the board',
      );
    }
  });
});

describe('fault-finding', () => {
  const model = modelOf(inTrouble());

  test('half the memory: the firmware names the slot, reseating mends it', () => {
    const seen: Observation[] = [{ checkId: 'firmware’s page', outcome: 'b1' }];
    const [top] = diagnose(model, seen).suspects;
    expect(top?.cause).toMatchObject({ kind: 'not seated', slotId: 'b1' });
    expect(actionFor(top?.cause ?? { id: '', kind: 'heat' })).toEqual({
      type: 'reseat',
      slotIds: ['b1'],
    });
    expect(diagnose(model, [...seen, { checkId: 'reseat and clean', outcome: 'gone' }]).state).toBe(
      'mended',
    );
    const looked = [...seen, { checkId: 'look it over', outcome: 'b1' }];
    expect(diagnose(model, looked)).toMatchObject({ state: 'found' });
  });

  test('the weekly crash of a mixed set: errors all over, gone with one kind alone', () => {
    const crash = modelOf(
      inTrouble({
        symptom: 'crashes at times',
        placement: { a1: eight, a2: eight, b1: other },
        moved: false,
      }),
    );
    const { suspects } = diagnose(crash, [
      { checkId: 'log and warmth', outcome: 'memory errors' },
      { checkId: 'test with addresses', outcome: 'all over' },
      { checkId: 'only this module@a1', outcome: 'works' },
    ]);
    expect(suspects[0]?.cause.kind).toBe('mixed timings');
    expect(suspects[0]?.chance).toBeGreaterThan(0.7);
  });

  test('“I don’t know” to everything ends, changes nothing, and says so', () => {
    const answers: Observation[] = [];
    for (let at = 0; at < 100; at++) {
      const { next } = diagnose(model, answers);
      if (!next) break;
      answers.push({ checkId: next.check.id, outcome: 'unknown' });
    }
    const end = diagnose(model, answers);
    expect(end.state).toBe('stuck');
    const chances = end.suspects.map(({ chance }) => chance.toFixed(9)).sort();
    expect(chances).toEqual(model.priors.map((chance) => chance.toFixed(9)).sort());
  });

  test('answers that hardly go together are found, with the one to make again', () => {
    const told: Observation[] = [
      { checkId: 'firmware’s page', outcome: 'b1' },
      { checkId: 'look it over', outcome: 'b1' },
      { checkId: 'change places@a1+b1', outcome: 'no change' },
      { checkId: 'reseat and clean', outcome: 'still there' },
    ];
    const { contradiction, state } = diagnose(model, told);
    expect(contradiction).toBeDefined();
    expect(contradiction?.chance).toBeLessThan(0.02);
    expect(state).not.toBe('found');
    expect(diagnose(model, told.slice(0, 2)).contradiction).toBeUndefined();
  });

  test('every single fault: found first or second within five checks, well before a fixed list', () => {
    const benches = [
      { ...bench },
      { ...bench, placement: { a1: eight } },
      { ...bench, placement: { a1: eight, a2: eight, b1: other, b2: other } },
      { ...bench, setting: 'profile' as const },
    ];
    for (const draw of [byWeight, eachInTurn]) {
      const cases = runCases(benches, 400, draw, 5, 11);
      expect(shareFound(cases)).toBeGreaterThan(0.92);
      expect(minutesRatio(cases)).toBeLessThan(0.7);
    }
  });
});

describe('failing addresses', () => {
  const GIB = 2 ** 30;
  const errors = (...addresses: number[]) => addresses.map((address) => ({ address, bits: [] }));
  const interleave = { granule: 256, order: ['A', 'B'] };

  test('name the module where the interleave is known, and say so where it is not', () => {
    const onB = errors(256, 256 + 512, 3 * GIB + 256);
    expect(narrowErrors(machine, pair, onB, interleave).verdict).toEqual({
      type: 'one module',
      slotId: 'b1',
    });
    expect(narrowErrors(machine, pair, onB, undefined).verdict).toEqual({ type: 'map unknown' });
    expect(narrowErrors(machine, pair, errors(0, 256, 512, 768), interleave).verdict.type).toBe(
      'all over',
    );
    expect(narrowErrors(machine, { a1: eight }, errors(5), undefined).verdict).toEqual({
      type: 'one module',
      slotId: 'a1',
    });
    const single = { ...machine, unevenChannels: 'single' } as const;
    const three = { ...pair, a2: eight };
    expect(narrowErrors(single, three, onB, interleave).verdict.type).toBe('map unknown');
    expect(narrowErrors(machine, pair, [], interleave).verdict.type).toBe('no errors');
    expect(narrowErrors(machine, pair, errors(99 * GIB), interleave).beyond).toBe(1);
    // Three modules: above the paired zone only one channel is left, known interleave or not.
    const tail = errors(17 * GIB, 18 * GIB);
    expect(narrowErrors(machine, { ...pair, a2: eight }, tail, undefined).verdict).toEqual({
      ...{ type: 'one of', slotIds: ['a1', 'a2'] },
    });
  });

  test('are read from any table with an address column; bad rows are named', () => {
    const { errors: read, faults } = errorsFromRows([
      ['Pass', 'Failing address', 'Expected', 'Actual'],
      ['1', '0x00000100', 'ffffffff', 'fffffffe'],
      ['1', 'nonsense', '', ''],
      ['2', '300', '00000000', '00000001'],
    ]);
    expect(read).toEqual([
      { address: 0x100, bits: [0] },
      { address: 0x300, bits: [0] },
    ]);
    expect(faults).toEqual([{ type: 'no address', row: 3, text: 'nonsense' }]);
    expect(narrowErrors(machine, pair, read, interleave).bit).toBe(0);
    expect(errorsFromRows([['a', 'b']]).faults[0]?.type).toBe('no address column');
    expect(errorsFromRows([['address'], ['1024']]).errors[0]?.address).toBe(1024);
  });
});
