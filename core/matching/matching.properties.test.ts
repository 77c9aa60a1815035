import fc from 'fast-check';
import { expect, test } from 'vitest';
import { anyDdr4, anyFourChannelMachine, anyPlacement } from '../../test/support/arbitraries.ts';
import { GRADES, JUDGEMENTS, compareGrades, judgeMatch, matchGrade } from './index.ts';
import type { Graded, JobStance, Judgement } from './index.ts';

const kitted = fc
  .tuple(anyDdr4, fc.option(fc.constantFrom('pack 1', 'pack 2'), { nil: undefined }))
  .map(([module, kitId]) => ({ ...module, ...(kitId ? { kitId } : {}) }));
const anyParts = fc.array(
  fc.record({ module: kitted, soldered: fc.boolean() }) satisfies fc.Arbitrary<Graded>,
  { minLength: 1, maxLength: 6 },
);
const anyStance: fc.Arbitrary<JobStance> = fc.record({
  need: fc.option(fc.integer({ min: 1, max: 128 }), { nil: undefined }),
  capacityFirst: fc.boolean(),
  memoryTestPassed: fc.boolean(),
});

test('a grade does not depend on the order of the modules', () => {
  fc.assert(
    fc.property(anyParts, fc.boolean(), (parts, profiled) => {
      expect(matchGrade([...parts].reverse(), profiled)).toBe(matchGrade(parts, profiled));
    }),
  );
});

test('a further module never betters a grade, one alike in all never worsens one below one kit', () => {
  fc.assert(
    fc.property(anyParts, kitted, fc.boolean(), (parts, module, profiled) => {
      const grade = matchGrade(parts, profiled);
      const more = matchGrade([...parts, { module, soldered: false }], profiled);
      expect(compareGrades(more, grade)).toBeGreaterThanOrEqual(0);
      const [first] = parts;
      if (!first || parts.length < 2) return;
      const again = matchGrade([...parts, first], profiled);
      expect(again).toBe(grade);
    }),
  );
});

test('asking for equal profiles as well never betters a grade', () => {
  fc.assert(
    fc.property(anyParts, (parts) => {
      expect(
        compareGrades(matchGrade(parts, true), matchGrade(parts, false)),
      ).toBeGreaterThanOrEqual(0);
    }),
  );
});

const rank = (judgement: Judgement | undefined) => JUDGEMENTS.indexOf(judgement ?? 'accept');

test('strict is never milder than balanced on any row, and the worst row is the verdict', () => {
  fc.assert(
    fc.property(
      anyFourChannelMachine,
      anyPlacement(kitted),
      anyStance,
      (machine, placement, stance) => {
        const { grade, schools } = judgeMatch(machine, placement, 'standard', stance);
        expect(GRADES).toContain(grade);
        const [strict, balanced] = schools;
        strict?.rows.forEach(({ question, judgement }) => {
          const other = balanced?.rows.find((row) => row.question === question);
          expect(rank(judgement), question).toBeGreaterThanOrEqual(rank(other?.judgement));
        });
        for (const { judgement, rows } of schools)
          expect(rank(judgement)).toBe(Math.max(...rows.map((row) => rank(row.judgement))));
      },
    ),
    { numRuns: 300 },
  );
});

test('the lenient school never refuses what runs', () => {
  fc.assert(
    fc.property(
      anyFourChannelMachine,
      anyPlacement(kitted),
      anyStance,
      (machine, placement, stance) => {
        const { schools } = judgeMatch(machine, placement, 'profile', stance);
        expect(schools.find(({ school }) => school === 'lenient')?.judgement).not.toBe('refuse');
      },
    ),
    { numRuns: 200 },
  );
});

test('a larger need is never judged more mildly', () => {
  fc.assert(
    fc.property(
      anyFourChannelMachine,
      anyPlacement(kitted),
      fc.integer({ min: 1, max: 64 }),
      fc.integer({ min: 0, max: 64 }),
      (machine, placement, need, more) => {
        const judge = (wanted: number) =>
          judgeMatch(machine, placement, 'standard', {
            need: wanted,
            capacityFirst: false,
            memoryTestPassed: false,
          }).schools.map(({ judgement }) => rank(judgement));
        const [small, large] = [judge(need), judge(need + more)];
        large.forEach((judgement, at) => expect(judgement).toBeGreaterThanOrEqual(small[at] ?? 0));
      },
    ),
    { numRuns: 200 },
  );
});
