import fc from 'fast-check';
import { expect, test } from 'vitest';
import { STEPS, doneSteps, nextStep } from './index.ts';
import type { JobFacts } from './index.ts';

const nothing: JobFacts = {
  hasFound: false,
  hasNeed: false,
  hasBaseline: false,
  hasPlan: false,
  hasYes: false,
  hasFitted: false,
  hasRunsAfter: false,
  closed: false,
};

test.each([
  [{}, 'inspect', 'Enter what is fitted'],
  [{ hasFound: true }, 'inspect', 'Measure before the change'],
  [{ hasFound: true, hasBaseline: true }, 'need', 'State the need'],
  [{ hasFound: true, hasBaseline: true, hasNeed: true }, 'plan', 'Choose a plan'],
  // A plan was taken without a stated need: asking for it now would only nag.
  [{ hasFound: true, hasBaseline: true, hasPlan: true }, 'quote', 'Quote the plan'],
  [{ hasFound: true, hasBaseline: true, hasPlan: true, hasYes: true }, 'fit', 'Fit the plan'],
  // Fitted without a baseline: it is too late for one.
  [{ hasFound: true, hasPlan: true, hasFitted: true }, 'prove', 'Measure after the change'],
  [
    {
      hasFound: true,
      hasBaseline: true,
      hasNeed: true,
      hasPlan: true,
      hasFitted: true,
      hasRunsAfter: true,
    },
    'hand-over',
    'Hand over',
  ],
] as const)('with %o the next step is %s: %s', (facts, step, action) => {
  expect(nextStep({ ...nothing, ...facts })).toEqual({ step, action });
});

const anyFacts: fc.Arbitrary<JobFacts> = fc.record({
  hasFound: fc.boolean(),
  hasNeed: fc.boolean(),
  hasBaseline: fc.boolean(),
  hasPlan: fc.boolean(),
  hasYes: fc.boolean(),
  hasFitted: fc.boolean(),
  hasRunsAfter: fc.boolean(),
  closed: fc.boolean(),
});

test('the next step is never one that is done, and a closed job has all of them done', () => {
  fc.assert(
    fc.property(anyFacts, (facts) => {
      const next = nextStep(facts);
      const done = doneSteps(facts);
      if (facts.closed) {
        expect(next).toBeUndefined();
        expect(done).toEqual([...STEPS]);
      } else {
        expect(next && done.includes(next.step)).toBe(false);
      }
    }),
  );
});

test('doing more never takes a step back', () => {
  const keys = Object.keys(nothing) as (keyof JobFacts)[];
  const place = (facts: JobFacts) => {
    const next = nextStep(facts);
    return next ? STEPS.indexOf(next.step) : STEPS.length;
  };
  fc.assert(
    fc.property(anyFacts, fc.constantFrom(...keys), (facts, key) => {
      expect(place({ ...facts, [key]: true })).toBeGreaterThanOrEqual(place(facts));
    }),
  );
});
