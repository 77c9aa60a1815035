import { nanoid } from 'nanoid';
import { useFieldArray, useWatch } from 'react-hook-form';
import type { UseFormReturn } from 'react-hook-form';
import { ECC_TRAITS, MACHINE_KINDS, SLOT_LIMIT, UNEVEN_TRAITS } from '#core/machine';
import { FORM_FACTORS } from '#core/memory';
import { Button } from '../ui/Button.tsx';
import { Field, SelectField, TextField } from '../ui/Field.tsx';
import type { MachineForm } from './machineForm.ts';

interface FieldsProps {
  readonly form: UseFormReturn<MachineForm>;
}

type Name = Exclude<keyof MachineForm, 'slots' | 'soldered'>;

const same = <T extends string>(values: readonly T[]) =>
  values.map((value) => [value, value === 'unknown' ? 'not known' : value] as const);
const YES_NO = [
  ['unknown', 'not known'],
  ['yes', 'yes'],
  ['no', 'no'],
] as const;

const GRID = 'grid gap-3 sm:grid-cols-2 lg:grid-cols-4';

function Group({
  title,
  hint,
  children,
}: {
  title: string;
  hint?: string;
  children: React.ReactNode;
}) {
  return (
    <fieldset>
      <legend className="mb-2">
        <b>{title}</b> {hint && <span className="ml-2 text-aside text-muted">{hint}</span>}
      </legend>
      {children}
    </fieldset>
  );
}

const at = (form: FieldsProps['form'], name: Name) => ({
  ...form.register(name),
  error: (form.formState.errors[name] as { message?: string } | undefined)?.message,
});

/** What one sees at once. */
export function SeenFields({ form }: FieldsProps) {
  return (
    <Group title="What one sees at once">
      <div className={GRID}>
        <TextField label="Name" {...at(form, 'name')} />
        <SelectField label="Kind" options={same(MACHINE_KINDS)} {...at(form, 'kind')} />
        <TextField label="Takes" hint="DDR4, or DDR4, DDR5" {...at(form, 'generations')} />
        <SelectField label="Modules" options={same(FORM_FACTORS)} {...at(form, 'formFactor')} />
        <TextField label="Channels" hint="Letters, as in A B" {...at(form, 'channels')} />
        <TextField
          label="Bits of a channel"
          hint="64 for DIMMs"
          inputMode="numeric"
          {...at(form, 'channelBits')}
        />
        <TextField label="Voltages, V" hint="1.2, or 1.35 1.5" {...at(form, 'voltages')} />
        <TextField
          label="Buffering"
          hint="unbuffered, registered, load-reduced"
          {...at(form, 'bufferings')}
        />
      </div>
    </Group>
  );
}

/** Slots in physical order, and what is soldered. */
export function SlotFields({ form }: FieldsProps) {
  const slots = useFieldArray({ control: form.control, name: 'slots' });
  const soldered = useFieldArray({ control: form.control, name: 'soldered' });
  const { errors } = form.formState;
  return (
    <Group
      title="Slots and soldered memory"
      hint="in physical order, controller side first; names as printed"
    >
      <div className="grid gap-2">
        {slots.fields.map((field, index) => (
          <div key={field.id} className="grid items-end gap-3 sm:grid-cols-[1fr_1fr_8rem_auto]">
            <TextField
              label={`Slot ${index + 1}, printed name`}
              error={errors.slots?.[index]?.printedName?.message}
              {...form.register(`slots.${index}.printedName`)}
            />
            <TextField
              label={`Slot ${index + 1}, colour`}
              {...form.register(`slots.${index}.colour`)}
            />
            <TextField
              label={`Slot ${index + 1}, channel`}
              error={errors.slots?.[index]?.channels?.message}
              {...form.register(`slots.${index}.channels`)}
            />
            <Button
              look="quiet"
              aria-label={`Remove slot ${index + 1}`}
              onClick={() => slots.remove(index)}
            >
              remove
            </Button>
          </div>
        ))}
        {soldered.fields.map((field, index) => (
          <div key={field.id} className="grid items-end gap-3 sm:grid-cols-[1fr_8rem_auto]">
            <TextField
              label={`Soldered part ${index + 1}, as a label`}
              hint="12GB 1Rx16 DDR5-5600 CL46"
              error={errors.soldered?.[index]?.label?.message}
              {...form.register(`soldered.${index}.label`)}
            />
            <TextField
              label={`Soldered ${index + 1}, channel`}
              error={errors.soldered?.[index]?.channel?.message}
              {...form.register(`soldered.${index}.channel`)}
            />
            <Button
              look="quiet"
              aria-label={`Remove soldered part ${index + 1}`}
              onClick={() => soldered.remove(index)}
            >
              remove
            </Button>
          </div>
        ))}
        <div className="flex gap-3">
          <Button
            disabled={slots.fields.length >= SLOT_LIMIT + 1}
            onClick={() =>
              slots.append({ id: nanoid(6), printedName: '', colour: '', channels: 'A' })
            }
          >
            Add a slot
          </Button>
          <Button onClick={() => soldered.append({ channel: 'A', label: '' })}>
            Add a soldered part
          </Button>
        </div>
      </div>
    </Group>
  );
}

/** Limits as figures; blank means not known. */
export function LimitFields({ form }: FieldsProps) {
  return (
    <Group title="Limits" hint="blank = not known; “none” where there is no limit">
      <div className={GRID}>
        <TextField label="Most per slot, GB" inputMode="decimal" {...at(form, 'maxPerSlot')} />
        <TextField label="Most altogether, GB" inputMode="decimal" {...at(form, 'maxTotal')} />
        <TextField
          label="Most ranks per module"
          inputMode="numeric"
          {...at(form, 'maxRanksPerModule')}
        />
        <TextField
          label="Most ranks per channel"
          inputMode="numeric"
          {...at(form, 'maxRanksPerChannel')}
        />
        <TextField
          label="Controller limit, MT/s"
          inputMode="numeric"
          {...at(form, 'controllerLimit')}
        />
        <TextField label="Firmware cap, MT/s" {...at(form, 'firmwareCap')} />
        <TextField label="Ceiling for profiles, MT/s" {...at(form, 'profileCeiling')} />
        <TextField label="Clocks in step to, MT/s" {...at(form, 'syncLimit')} />
        <TextField
          label="Built-in graphics takes, GB"
          hint="0, or 0.25 - 2"
          {...at(form, 'graphics')}
        />
        <TextField
          label="Operating system uses at most, GB"
          hint="none, or 3 - 3.5"
          {...at(form, 'osLimit')}
        />
      </div>
      <div className="mt-3 grid gap-3 sm:grid-cols-2">
        <AreaField
          form={form}
          name="rateTable"
          label="Rate table"
          hint="A line each: modules in the channel, ranks in all, MT/s. 2 4 2666"
        />
        <AreaField
          form={form}
          name="verifiedParts"
          label="Verified parts"
          hint="Part numbers the maker lists, one a line."
        />
      </div>
    </Group>
  );
}

function AreaField({
  form,
  name,
  label,
  hint,
}: FieldsProps & { name: Name; label: string; hint: string }) {
  const { error, ...registered } = at(form, name);
  return (
    <Field label={label} hint={hint} error={error}>
      {(props) => <textarea rows={3} {...registered} {...props} className="input figure" />}
    </Field>
  );
}

/** Traits that are chosen; unknown is a choice. */
export function TraitFields({ form }: FieldsProps) {
  const slots = useWatch({ control: form.control, name: 'slots' });
  return (
    <Group title="Traits">
      <div className={GRID}>
        <SelectField
          label="Uneven channels"
          hint="zone: side by side as far as they reach"
          options={same(UNEVEN_TRAITS)}
          {...at(form, 'unevenChannels')}
        />
        <SelectField label="12, 24, 48 GB modules" options={YES_NO} {...at(form, 'nonBinary')} />
        <SelectField label="ECC modules" options={same(ECC_TRAITS)} {...at(form, 'ecc')} />
        <SelectField label="Overclock profiles" options={YES_NO} {...at(form, 'profileSupport')} />
        <SelectField
          label="Fabric clock takes part"
          options={YES_NO}
          {...at(form, 'fabricClock')}
        />
        <SelectField
          label="Slot that must be filled first"
          options={[
            ['unknown', 'not known'],
            ['none', 'none'],
            ...slots.map(({ id, printedName }) => [id, printedName] as const),
          ]}
          {...at(form, 'requiredFirstSlot')}
        />
        <div className="sm:col-span-2">
          <TextField
            label="Fill order"
            hint="For 1, 2, 3 … modules: A2; A2 B2. From the manual."
            {...at(form, 'fillOrder')}
          />
        </div>
      </div>
    </Group>
  );
}
