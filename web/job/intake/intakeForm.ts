import { CONSENTS, blankIntake, intakeTerms } from '#contract/records';
import type { Consents, IntakeTerms } from '#contract/records';
import { amountField, amountHint } from '#core/explaining';
import { readAmount } from '#core/quoting';

/** What intake asks besides who and what, as typed. */
export interface IntakeForm {
  work: string;
  /** In the shop's money, with decimals. */
  budget: string;
  deadline: string;
  consents: Consents;
  condition: string;
  swollenBattery: boolean;
}

/** The form of what a job was taken in with. */
export function intakeToForm(currency: string, terms: IntakeTerms = blankIntake): IntakeForm {
  const { work, budget, deadline, consents, condition, swollenBattery } = terms;
  return {
    ...{ work, consents, condition, swollenBattery },
    budget: budget === null ? '' : amountField(budget, currency),
    deadline: deadline ?? '',
  };
}

/** What the form says, or what is wrong with it by field. */
export function intakeFromForm(
  form: IntakeForm,
  currency: string,
): {
  terms?: IntakeTerms;
  errors: Partial<Record<keyof IntakeForm, string>>;
} {
  const errors: Partial<Record<keyof IntakeForm, string>> = {};
  const budget = readAmount(form.budget, currency);
  if (budget === undefined) errors.budget = amountHint(currency);
  const checked = intakeTerms.safeParse({
    ...form,
    budget: budget ?? null,
    deadline: form.deadline === '' ? null : form.deadline,
  });
  for (const { path, message } of checked.error?.issues ?? [])
    errors[path[0] as keyof IntakeForm] ??= message;
  return checked.success && Object.keys(errors).length === 0
    ? { terms: checked.data, errors }
    : { errors };
}

/** Consents as they are asked for. */
export const CONSENT_WORDS: Readonly<Record<(typeof CONSENTS)[number], string>> = {
  dataBackedUp: 'Data is backed up',
  openCase: 'The case may be opened',
  warrantySeal: 'A warranty seal may be broken',
};
export { CONSENTS };
