import { useWatch } from 'react-hook-form';
import type { UseFormReturn } from 'react-hook-form';
import {
  BATTERIES,
  COVERS,
  ECC_TRAITS,
  MACHINE_KINDS,
  MAXIMA_SOURCES,
  UNEVEN_TRAITS,
} from '#core/machine';
import { FORM_FACTORS } from '#core/memory';
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

const GRID = 'grid gap-3 sm:grid-cols-2 lg:grid-cols-3 xl:grid-cols-4';

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

/** Basics. */
export function SeenFields({ form }: FieldsProps) {
  return (
    <Group title="Basics">
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

/** Limits as figures; blank means not known. */
export function LimitFields({ form }: FieldsProps) {
  return (
    <Group title="Limits" hint="blank = not known; “none” where there is no limit">
      <div className={GRID}>
        <TextField label="Maximum per slot, GB" inputMode="decimal" {...at(form, 'maxPerSlot')} />
        <TextField label="Maximum total, GB" inputMode="decimal" {...at(form, 'maxTotal')} />
        <TextField
          label="Maximum ranks per module"
          inputMode="numeric"
          {...at(form, 'maxRanksPerModule')}
        />
        <TextField
          label="Maximum ranks per channel"
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
        <TextField label="Synchronous (1:1) up to, MT/s" {...at(form, 'syncLimit')} />
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
            hint="For 1, 2, 3 … modules: A2; A2, B2. Tap it on the board, or type it from the manual."
            {...at(form, 'fillOrder')}
          />
        </div>
      </div>
    </Group>
  );
}

/** How one gets to the memory, for the one who opens the next. */
export function AccessFields({ form }: FieldsProps) {
  return (
    <Group title="Cover, battery and place" hint="noted when one was open">
      <div className={GRID}>
        <SelectField label="Cover is held by" options={same(COVERS)} {...at(form, 'cover')} />
        <TextField label="Screws" inputMode="numeric" {...at(form, 'screws')} />
        <SelectField
          label="Hidden under feet or caps"
          options={YES_NO}
          {...at(form, 'hiddenFasteners')}
        />
        <SelectField label="Battery" options={same(BATTERIES)} {...at(form, 'battery')} />
        <div className="sm:col-span-2">
          <TextField
            label="The memory sits"
            hint="under the keyboard, right of the fan"
            {...at(form, 'memoryAt')}
          />
        </div>
        <SelectField
          label="The maxima are from"
          options={same(MAXIMA_SOURCES)}
          {...at(form, 'maximaFrom')}
        />
      </div>
    </Group>
  );
}
