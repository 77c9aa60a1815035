import type { ReactNode } from 'react';
import { useWatch } from 'react-hook-form';
import type { FieldPath, FieldValues, UseFormReturn } from 'react-hook-form';
import { Field, SelectField, TextField } from '../../ui/Field.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { CONSENTS, CONSENT_WORDS } from './intakeForm.ts';
import type { IntakeForm } from './intakeForm.ts';

interface IntakeFieldsProps<Form extends FieldValues> {
  readonly form: UseFormReturn<Form>;
  readonly isClosed?: boolean;
  /** What follows from the words about their work. */
  readonly belowWork?: ReactNode;
}

/** What to do with a swollen pack; shown wherever work on the machine would go on. */
export function SwollenNotice() {
  return (
    <Notice
      alert
      kind="stop"
      title="Stop: the battery is swollen"
      why="A swollen lithium pack can burn. Do not open, charge, press, pry or puncture it, and do not go on with this machine."
      mend="Switch the machine off and unplug it, set it apart on a surface that does not burn, tell the customer, and hand the pack over as the local rules for batteries and their transport ask. The machine’s service manual and a licensed workshop decide about its removal."
    />
  );
}

/** What the customer does, may spend and agrees to, and what the machine looks like. */
export function IntakeFields<Form extends IntakeForm>({
  form: outer,
  isClosed = false,
  belowWork,
}: IntakeFieldsProps<Form>) {
  // Both forms that hold these fields hold them under the same names.
  const form = outer as unknown as UseFormReturn<IntakeForm>;
  const { errors } = form.formState;
  const isSwollen = useWatch({ control: form.control, name: 'swollenBattery' });
  const at = (name: FieldPath<IntakeForm>) => ({ disabled: isClosed, ...form.register(name) });
  return (
    <>
      <div>
        <TextField
          label="What they do with it"
          hint="Programs that are open together; the need is made of it."
          error={errors.work?.message}
          {...at('work')}
        />
        {belowWork}
      </div>
      <div className="grid gap-3 sm:grid-cols-2">
        <TextField
          label="Budget"
          inputMode="decimal"
          hint="In the shop’s money; empty = not said."
          error={errors.budget?.message}
          {...at('budget')}
        />
        <TextField
          label="Ready by"
          type="date"
          error={errors.deadline?.message}
          {...at('deadline')}
        />
      </div>
      <fieldset className="grid gap-3 sm:grid-cols-3">
        <legend className="mb-1 font-bold">Consent</legend>
        {CONSENTS.map((one) => (
          <SelectField
            key={one}
            label={CONSENT_WORDS[one]}
            options={[
              ['not asked', 'not asked'],
              ['yes', 'yes'],
              ['no', 'no'],
            ]}
            {...at(`consents.${one}`)}
          />
        ))}
      </fieldset>
      <Field
        label="Condition"
        hint="Scratches, missing screws, smells, liquid: what was there before."
        error={errors.condition?.message}
      >
        {(props) => <textarea rows={2} {...at('condition')} {...props} />}
      </Field>
      <label className="flex min-h-10 items-center gap-3">
        <input type="checkbox" className="size-5" {...at('swollenBattery')} />
        The battery is swollen
      </label>
      {isSwollen && <SwollenNotice />}
    </>
  );
}
