import { useState } from 'react';
import { useFieldArray } from 'react-hook-form';
import type { FieldPath, UseFormReturn } from 'react-hook-form';
import { SCHOOLS } from '#core/matching';
import { DRIVES } from '#core/need';
import { Button } from '../ui/Button.tsx';
import { SelectField, TextField } from '../ui/Field.tsx';
import { useUsualActivities } from '../ui/useUsualActivities.ts';
import { ProposedActivities } from './ProposedActivities.tsx';
import type { NeedForm } from './needForm.ts';

interface FieldsProps {
  readonly form: UseFormReturn<NeedForm>;
  readonly isClosed: boolean;
}

const errorAt = ({ formState: { errors } }: FieldsProps['form'], path: string) => {
  let at: unknown = errors;
  for (const key of path.split('.')) at = (at as Record<string, unknown> | undefined)?.[key];
  return (at as { message?: string } | undefined)?.message;
};

/** Two figures of a range in a row of the list, with what they belong to. */
function RangeCells({
  form,
  isClosed,
  path,
  name,
}: FieldsProps & { readonly path: string; readonly name: string }) {
  const error =
    errorAt(form, path) ?? errorAt(form, `${path}.low`) ?? errorAt(form, `${path}.high`);
  return (
    <>
      {(['low', 'high'] as const).map((end) => (
        <input
          key={end}
          aria-label={`${name}, ${end === 'low' ? 'least' : 'most'} GB`}
          aria-invalid={error !== undefined}
          inputMode="decimal"
          disabled={isClosed}
          className="input figure text-right"
          {...form.register(`${path}.${end}` as FieldPath<NeedForm>)}
        />
      ))}
      {error && <p className="col-span-full text-aside font-bold text-stop">✕ {error}</p>}
    </>
  );
}

const GRID = 'grid grid-cols-[minmax(0,1fr)_5rem_5rem_4.5rem] items-center gap-x-3 gap-y-1';

/** The idle system and each activity, with its range; usual ones are added with one press. */
export function ActivityFields({ form, isClosed, work }: FieldsProps & { readonly work: string }) {
  const { fields, append, remove } = useFieldArray({ control: form.control, name: 'activities' });
  const [own, setOwn] = useState('');
  const usual = useUsualActivities();
  const left = usual.filter(({ name }) => !fields.some((field) => field.name === name));
  const add = (name: string, low = 1, high = 2) =>
    append({ name, low: String(low), high: String(high) });
  return (
    <>
      {work && (
        <div className="mb-3">
          <p className="break-words">
            <span className="text-muted">They say:</span> {work}
          </p>
          {!isClosed && (
            <ProposedActivities
              words={work}
              accepted={fields.map(({ name }) => name)}
              onAccept={(more) => more.forEach(({ name, low, high }) => add(name, low, high))}
            />
          )}
        </div>
      )}
      <div className={GRID}>
        <span className="text-aside text-muted">in use</span>
        <span className="text-right text-aside text-muted">least, GB</span>
        <span className="text-right text-aside text-muted">most, GB</span>
        <span />
        <span>The idle system</span>
        <RangeCells form={form} isClosed={isClosed} path="idle" name="The idle system" />
        <span />
        {fields.map((field, at) => (
          <div key={field.id} className="contents">
            <span className="min-w-0 break-words">{field.name}</span>
            <RangeCells
              form={form}
              isClosed={isClosed}
              path={`activities.${at}`}
              name={field.name}
            />
            {isClosed ? (
              <span />
            ) : (
              <Button look="quiet" aria-label={`Remove ${field.name}`} onClick={() => remove(at)}>
                remove
              </Button>
            )}
          </div>
        ))}
      </div>
      {!isClosed && (
        <div
          className="mt-3 flex flex-wrap items-center gap-1.5"
          role="group"
          aria-label="Add an activity"
        >
          {left.map(({ name, low, high }) => (
            <button
              key={name}
              type="button"
              className="min-h-10 rounded-md border border-edge px-3 text-aside"
              onClick={() => add(name, low, high)}
            >
              + {name}
            </button>
          ))}
          <input
            aria-label="Another activity"
            placeholder="another …"
            maxLength={60}
            className="input w-44 text-aside"
            value={own}
            onChange={({ target }) => setOwn(target.value)}
            onKeyDown={(event) => {
              if (event.key !== 'Enter' || own.trim() === '') return;
              event.preventDefault();
              add(own.trim());
              setOwn('');
            }}
          />
        </div>
      )}
    </>
  );
}

/** What was measured, and what else may be in the way. */
export function PeakFields({ form, isClosed }: FieldsProps) {
  return (
    <div className="grid gap-3">
      <div className="grid gap-3 sm:grid-cols-2">
        <TextField
          label="Measured peak, GB"
          inputMode="decimal"
          disabled={isClosed}
          hint="Read off the machine at its busiest; outranks the estimate."
          error={errorAt(form, 'peak')}
          {...form.register('peak')}
        />
        <SelectField
          label="Drive"
          disabled={isClosed}
          hint="A short machine pages to it."
          options={DRIVES.map((drive) => [drive, drive === 'unknown' ? 'not known' : drive])}
          {...form.register('drive')}
        />
      </div>
      <Check form={form} isClosed={isClosed} name="paging">
        It was paging at that peak: the work wanted more than there was
      </Check>
      <Check form={form} isClosed={isClosed} name="graphicsShort">
        The work complains about graphics memory
      </Check>
    </div>
  );
}

/** How much to add, and how strictly modules must match. */
export function TermsFields({ form, isClosed }: FieldsProps) {
  return (
    <div className="grid gap-3">
      <div className="grid gap-3 sm:grid-cols-2">
        <TextField
          label="Margin, %"
          inputMode="decimal"
          disabled={isClosed}
          hint="25 is usual."
          error={errorAt(form, 'margin')}
          {...form.register('margin')}
        />
        <SelectField
          label="School"
          hint="How strictly modules must match. Every plan shows what each would say."
          disabled={isClosed}
          options={SCHOOLS.map((school) => [school, school])}
          {...form.register('school')}
        />
      </div>
      <Check form={form} isClosed={isClosed} name="capacityFirst">
        Capacity first: uneven channels are fine for this job
      </Check>
    </div>
  );
}

function Check({
  form,
  isClosed,
  name,
  children,
}: FieldsProps & {
  readonly name: 'paging' | 'graphicsShort' | 'capacityFirst';
  readonly children: string;
}) {
  return (
    <label className="flex min-h-10 items-center gap-3">
      <input type="checkbox" className="size-5" disabled={isClosed} {...form.register(name)} />
      {children}
    </label>
  );
}
