import type { EvidenceInput } from '#contract/evidence';
import { newJob } from '#contract/records';
import type { Customer, NewJob } from '#contract/records';
import type { Machine, Placement, Setting } from '#core/machine';
import { idleSystem } from '#core/need';
import type { Activity } from '#core/need';
import { DEFAULT_TERMS } from '#core/quoting';
import { intakeFromForm, intakeToForm } from './intakeForm.ts';
import type { IntakeForm } from './intakeForm.ts';

/** A new job as typed. */
export interface NewJobForm extends IntakeForm {
  name: string;
  contact: string;
  /** Of the library; empty for one that comes from its files. */
  machineId: string;
  /** What a machine that comes from its files is called. */
  machineName: string;
  complaint: string;
  count: string;
  /** Activities accepted from what they do with it, by name. */
  activities: string[];
}

/** A form nobody has typed into. */
export const blankJob = (): NewJobForm => ({
  ...{ name: '', contact: '', machineId: '', machineName: '', complaint: '', count: '1' },
  ...{ activities: [], ...intakeToForm(DEFAULT_TERMS.currency) },
});

/** What goes with the form: who was taken, and what the files give. */
export interface Accompanying {
  readonly taken?: Customer | undefined;
  /** The machine of the files, where it is new. */
  readonly newMachine?: Machine | undefined;
  /** The machine chosen from the library. */
  readonly known?: Machine | undefined;
  readonly knownAs?: string | undefined;
  readonly documents: readonly EvidenceInput[];
  /** What a budget is typed in. */
  readonly currency: string;
  /** The shop's usual activities: those that were accepted are among them. */
  readonly usual: readonly Activity[];
  readonly found?: { readonly placement: Placement; readonly setting: Setting } | undefined;
}

/** Errors by field of the form. */
export type FormErrors = Partial<Record<keyof NewJobForm, string>>;

const WORDS: Readonly<Record<string, readonly [keyof NewJobForm, string?]>> = {
  machineId: ['machineId', 'Choose the machine, or describe it first.'],
  newMachine: ['machineName'],
  complaint: ['complaint'],
};

/** What the form says as a new job, or what is wrong with it by field. */
export function newJobFromForm(
  typed: NewJobForm,
  { taken, newMachine, known, knownAs, documents, found, currency, usual }: Accompanying,
): { job?: NewJob; errors: FormErrors } {
  const { name, contact, machineId, machineName, complaint, count, activities, ...rest } = typed;
  const intake = intakeFromForm(rest, currency);
  const errors: FormErrors = { ...intake.errors };
  const machine = newMachine ?? known;
  const accepted = usual.filter((one) => activities.includes(one.name));
  const checked = newJob.safeParse({
    ...intake.terms,
    ...{ customer: taken ? { id: taken.id } : { name, contact }, complaint },
    ...(newMachine
      ? { newMachine: { ...newMachine, name: machineName.trim() } }
      : { machineId: machineId === '' ? undefined : machineId }),
    ...(accepted.length > 0 && machine
      ? {
          needInput: {
            ...{ idle: idleSystem(machine), activities: accepted, peak: null },
            ...{ drive: 'unknown', graphicsShort: false },
          },
        }
      : {}),
    ...{ knownAs, documents, found, count: Number(count) },
  });
  for (const { path, message } of checked.error?.issues ?? []) {
    const [at] = path;
    if (at === 'customer')
      errors.name ??= name.trim()
        ? 'Shorten the customer’s name: 120 characters at most.'
        : 'Enter the customer’s name.';
    else if (at === 'count')
      errors.count ??= message.startsWith('Invalid') ? 'Type a number, 1 to 50.' : message;
    else {
      const [field, words] = WORDS[String(at)] ?? ['machineId'];
      errors[field] ??= words ?? message;
    }
  }
  return checked.success && Object.keys(errors).length === 0
    ? { job: checked.data, errors }
    : { errors };
}
