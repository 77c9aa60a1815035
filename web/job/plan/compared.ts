import { explainChoice, figure, gb, money, rateText, widthText } from '#core/explaining';
import { GRADES } from '#core/matching';
import { assess, recogniseUnits } from '#core/planning';
import type { Assessment } from '#core/planning';
import type { Setting } from '#core/machine';
import type { PlanContext } from './planContext.ts';

/** Columns that can be held in mind, with what is there now. */
export const MOST = 5;

/** One plan beside the others. */
export interface Compared {
  /** `now` for what was found, the name of a choice, or the name a kept plan was given. */
  readonly title: string;
  readonly role: 'now' | 'choice' | 'kept';
  /** Its place among the kept plans; −1 for the others. */
  readonly at: number;
  readonly assessment: Assessment;
}

/**
 * What is there now, the plans put aside, and the named choices, each placement once: whoever keeps
 * nothing still has something to compare.
 *
 * @param found - how the firmware was set when the machine came in
 */
export function comparedPlans(
  { query, kept, choices }: Pick<PlanContext, 'query' | 'kept' | 'choices'>,
  found: Setting,
): Compared[] {
  const now = assess(query, recogniseUnits(query, query.fitted), found);
  const all: Compared[] = [
    { title: 'Now', role: 'now', at: -1, assessment: now },
    ...kept.map(({ name, units, setting }, at): Compared => ({
      ...{ title: name, role: 'kept', at },
      assessment: assess(query, units, setting),
    })),
    ...choices.map(({ plan, kinds }): Compared => ({
      title: kinds.map((kind) => explainChoice(kind, query.need !== undefined).title).join(', '),
      ...{ role: 'choice', at: -1 },
      assessment: assess(query, plan.units, plan.setting),
    })),
  ];
  const seen = new Set<string>();
  return all.filter(({ role, assessment: { plan } }) => {
    // Two plans somebody kept under two names stay two.
    const isNew = !seen.has(plan.id) || role === 'kept';
    seen.add(plan.id);
    return isNew;
  });
}

/** One line of the comparison. */
interface Figure {
  readonly label: string;
  readonly text: (one: Assessment, currency: string) => string;
  /** What two plans differ by. */
  readonly value: (one: Assessment) => number;
  readonly isBetter: 'higher' | 'lower' | 'neither';
}

const rateOf = ({ point }: Assessment) => (point.type === 'runs' ? point.rate : 0);

/** The lines of the comparison, top to bottom. */
export const FIGURES: readonly Figure[] = [
  {
    label: 'Cost',
    text: ({ plan }, currency) => money(plan.cost.net, currency),
    value: ({ plan }) => plan.cost.net,
    isBetter: 'neither',
  },
  {
    label: 'of it parts',
    text: ({ plan }, currency) => money(plan.cost.parts, currency),
    value: ({ plan }) => plan.cost.parts,
    isBetter: 'neither',
  },
  {
    label: 'Usable',
    text: ({ plan }) => gb(plan.worth.usable),
    value: ({ plan }) => plan.worth.usable,
    isBetter: 'higher',
  },
  {
    label: 'Runs at',
    text: ({ point }) => (point.type === 'runs' ? rateText(point) : 'does not run'),
    value: rateOf,
    isBetter: 'higher',
  },
  {
    label: 'Side by side',
    text: ({ point }) => (point.type === 'runs' ? widthText(point) : '–'),
    value: ({ point }) => (point.type === 'runs' ? point.paired : 0),
    isBetter: 'higher',
  },
  {
    label: 'Bandwidth at the need',
    text: ({ plan, point }) =>
      point.type === 'runs' ? `${figure(plan.worth.bandwidth)} GB/s` : '–',
    value: ({ plan, point }) => (point.type === 'runs' ? plan.worth.bandwidth : 0),
    isBetter: 'higher',
  },
  {
    label: 'Match',
    text: ({ plan }) => plan.worth.grade,
    // The best grade stands first.
    value: ({ plan }) => GRADES.indexOf(plan.worth.grade),
    isBetter: 'lower',
  },
  {
    label: 'Modules pulled',
    text: ({ plan }) => String(plan.worth.displaced),
    value: ({ plan }) => plan.worth.displaced,
    isBetter: 'neither',
  },
  {
    label: 'Free slots',
    text: ({ plan }) => String(plan.worth.freeSlots),
    value: ({ plan }) => plan.worth.freeSlots,
    isBetter: 'neither',
  },
];

/** How a figure of a plan stands to the same figure of what is there now. */
export function changeOf(
  { value, isBetter }: Pick<Figure, 'value' | 'isBetter'>,
  one: Assessment,
  now: Assessment,
): 'same' | 'better' | 'worse' | 'other' {
  const difference = value(one) - value(now);
  if (difference === 0) return 'same';
  if (isBetter === 'neither') return 'other';
  return difference > 0 === (isBetter === 'higher') ? 'better' : 'worse';
}
