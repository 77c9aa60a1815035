/** The steps of a job, in the order the work happens. Any step opens any time. */
export const STEPS = [
  'intake',
  'inspect',
  'need',
  'plan',
  'quote',
  'fit',
  'prove',
  'hand-over',
] as const;
/** See {@link STEPS}. */
export type Step = (typeof STEPS)[number];

/** What is on record for a job, as far as its next step depends on it. */
export interface JobFacts {
  readonly hasFound: boolean;
  readonly hasNeed: boolean;
  readonly hasBaseline: boolean;
  readonly hasPlan: boolean;
  /** The customer has said yes to a quote. */
  readonly hasYes: boolean;
  readonly hasFitted: boolean;
  readonly hasRunsAfter: boolean;
  readonly closed: boolean;
}

/** Where the work stands, and the one thing to do next in words. */
export interface NextStep {
  readonly step: Step;
  readonly action: string;
}

const ORDER: readonly (NextStep & { readonly isDone: (facts: JobFacts) => boolean })[] = [
  { step: 'inspect', action: 'Enter what is fitted', isDone: ({ hasFound }) => hasFound },
  {
    step: 'inspect',
    action: 'Measure before the change',
    // Once fitted it is too late for a baseline; asking for one would only nag.
    isDone: ({ hasBaseline, hasFitted }) => hasBaseline || hasFitted,
  },
  { step: 'need', action: 'State the need', isDone: ({ hasNeed, hasPlan }) => hasNeed || hasPlan },
  { step: 'plan', action: 'Choose a plan', isDone: ({ hasPlan }) => hasPlan },
  {
    step: 'quote',
    action: 'Quote the plan',
    // What is fitted already needs no yes any more.
    isDone: ({ hasYes, hasFitted }) => hasYes || hasFitted,
  },
  { step: 'fit', action: 'Fit the plan', isDone: ({ hasFitted }) => hasFitted },
  { step: 'prove', action: 'Measure after the change', isDone: ({ hasRunsAfter }) => hasRunsAfter },
  { step: 'hand-over', action: 'Hand over', isDone: ({ closed }) => closed },
];

/** What to do next on a job; a closed job has nothing left. */
export function nextStep(facts: JobFacts): NextStep | undefined {
  if (facts.closed) return undefined;
  const next = ORDER.find(({ isDone }) => !isDone(facts));
  return next && { step: next.step, action: next.action };
}

/** Steps with nothing left to do in them. */
export function doneSteps(facts: JobFacts): Step[] {
  if (facts.closed) return [...STEPS];
  const open = new Set(ORDER.filter(({ isDone }) => !isDone(facts)).map(({ step }) => step));
  return STEPS.filter((step) => !open.has(step));
}
