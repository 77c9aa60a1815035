import { needInput as needSchema } from '#contract/need';
import { jobTerms } from '#contract/records';
import type { Job, JobTerms } from '#contract/records';
import { idleSystem } from '#core/need';
import type { Drive } from '#core/need';
import type { School } from '#core/matching';

/** A range as typed. */
export interface TypedRange {
  low: string;
  high: string;
}

/** The need as it is typed: text throughout. */
export interface NeedForm {
  idle: TypedRange;
  activities: (TypedRange & { name: string })[];
  peak: string;
  paging: boolean;
  drive: Drive;
  graphicsShort: boolean;
  margin: string;
  school: School;
  capacityFirst: boolean;
}

const text = (value: number) => String(Number(value.toFixed(2)));
const rangeText = ({ low, high }: { low: number; high: number }): TypedRange => ({
  low: text(low),
  high: text(high),
});

/** The form of a job's need. A need typed as one figure before stands as a measured peak. */
export function formFromJob({ needInput, need, machine, ...terms }: Job): NeedForm {
  const idle = idleSystem(machine.machine);
  return {
    idle: rangeText(needInput?.idle ?? idle),
    activities: (needInput?.activities ?? []).map(({ name, ...range }) => ({
      name,
      ...rangeText(range),
    })),
    peak: needInput?.peak
      ? text(needInput.peak.gib)
      : !needInput && need !== null
        ? text(need)
        : '',
    paging: needInput?.peak?.paging ?? false,
    drive: needInput?.drive ?? 'unknown',
    graphicsShort: needInput?.graphicsShort ?? false,
    margin: text(terms.margin * 100),
    school: terms.school,
    capacityFirst: terms.capacityFirst,
  };
}

const number = (typed: string): number =>
  typed.trim() === '' ? NaN : Number(typed.trim().replace(',', '.'));

type Needed = Pick<JobTerms, 'needInput' | 'margin' | 'school' | 'capacityFirst'>;

/** What the form says, or what is wrong with it by field (`activities.1.low`). */
export function needFromForm(form: NeedForm): {
  terms?: Needed;
  errors: Readonly<Record<string, string>>;
} {
  const errors: Record<string, string> = {};
  const range = ({ low, high }: TypedRange) => ({ low: number(low), high: number(high) });
  const checked = needSchema.safeParse({
    idle: range(form.idle),
    activities: form.activities.map((one) => ({ name: one.name, ...range(one) })),
    peak: form.peak.trim() === '' ? null : { gib: number(form.peak), paging: form.paging },
    drive: form.drive,
    graphicsShort: form.graphicsShort,
  });
  const rest = jobTerms.pick({ margin: true, school: true, capacityFirst: true }).safeParse({
    ...{ school: form.school, capacityFirst: form.capacityFirst },
    margin: number(form.margin) / 100,
  });
  for (const result of [checked, rest])
    for (const { path, message } of result.error?.issues ?? [])
      errors[path.join('.').replace('peak.gib', 'peak')] ??= message.startsWith('Invalid input')
        ? 'Type a figure, such as 12.5.'
        : message;
  if (!checked.success || !rest.success) return { errors };
  return { terms: { needInput: checked.data, ...rest.data }, errors };
}
